"""What is known of a stock: thickness from caliper readings, kerf, clearances."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from .document.model import Fit
from .document.sizes import Size, SizeError, length, positive
from .document.stock import Clearances, Kerf, PlugKerf, Stock, StripKerf, TypedKerf


@dataclass(frozen=True, slots=True)
class StockFacts:
    """A stock in numbers, all in mm. ``clearance`` is by fit class."""

    thickness: float
    spread: float
    thickest: float
    readings: int
    kerf: float
    smallest_web: float
    clearance: Mapping[Fit, float]
    sheets: tuple[tuple[float, float], ...]


class UnknownFact(SizeError):  # noqa: N818 - it is a statement, and read as one
    """A size of a stock that cannot be read; ``field`` names it."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(f"{field}: {why}")
        self.field = field


def facts(stock: Stock) -> StockFacts:
    """The stock in numbers. Raises `UnknownFact`."""
    nominal = _field("nominal thickness", stock.nominal)
    readings = [_field("caliper reading", reading) for reading in stock.readings] or [nominal]
    thickness = sum(readings) / len(readings)
    return StockFacts(
        thickness=thickness,
        spread=max(readings) - min(readings),
        thickest=max(readings),
        readings=len(stock.readings),
        kerf=kerf_width(stock.kerf),
        smallest_web=_field("smallest web", stock.smallest_web),
        clearance=_clearances(stock.clearances, thickness),
        sheets=tuple((_field("sheet width", s.width), _field("sheet height", s.height)) for s in stock.sheets),
    )


def _field(what: str, size: Size, reader: Callable[[Size, Mapping[str, float]], float] = positive) -> float:
    try:
        return reader(size, {})
    except SizeError as error:
        raise UnknownFact(what, str(error)) from error


def _clearances(clearances: Clearances, thickness: float) -> dict[Fit, float]:
    typed: dict[Fit, Size] = {
        "loose": clearances.loose,
        "sliding": clearances.sliding,
        "glue": clearances.glue,
        "press": clearances.press,
    }
    found = {fit: _field(f"{fit} clearance", size, length) for fit, size in typed.items()}
    for fit, clearance in found.items():
        if abs(clearance) >= thickness:
            raise UnknownFact(
                f"{fit} clearance", f"{clearance:g} mm is not less than the thickness of {thickness:.2f} mm"
            )
    return found


def kerf_width(kerf: Kerf) -> float:
    """Full width of the cut in mm. Raises `UnknownFact` when it is not more than zero."""
    if isinstance(kerf, TypedKerf):
        return _field("kerf", kerf.width)
    width = kerf_from_strip(kerf) if isinstance(kerf, StripKerf) else kerf_from_plug(kerf)
    if width <= 0:
        raise UnknownFact("kerf", f"the measured pieces leave {width:.3f} mm for it; measure them again")
    return width


def kerf_from_strip(kerf: StripKerf) -> float:
    """``(L - sum of pieces) / N``: N pieces between N + 1 cuts, of which the outer two give half each."""
    pieces = [_field("measured piece", piece) for piece in kerf.pieces]
    return (_field("strip length", kerf.strip) - sum(pieces)) / len(pieces)


def kerf_from_plug(kerf: PlugKerf) -> float:
    """``(H - P) / 2``: the hole gains half a kerf on each side, the plug loses as much."""
    return (_field("hole", kerf.hole) - _field("plug", kerf.plug)) / 2
