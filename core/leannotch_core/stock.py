"""What is known of a stock: thickness from caliper readings, kerf, clearances."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from .document import Clearances, Fit, Kerf, PlugKerf, Stock, StripKerf, TypedKerf
from .sizes import Size, SizeError, length, positive


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


def facts(stock: Stock) -> StockFacts:
    """The stock in numbers. Raises `SizeError` that names the field."""
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


def _field(what: str, size: Size) -> float:
    try:
        return positive(size, {})
    except SizeError as error:
        raise SizeError(f"{what}: {error}") from error


def _clearances(clearances: Clearances, thickness: float) -> dict[Fit, float]:
    found: dict[Fit, float] = {
        "loose": length(clearances.loose, {}),
        "sliding": length(clearances.sliding, {}),
        "glue": length(clearances.glue, {}),
        "press": length(clearances.press, {}),
    }
    for fit, clearance in found.items():
        if abs(clearance) >= thickness:
            raise SizeError(f"{fit} clearance: {clearance:g} mm is not less than the thickness of {thickness:.2f} mm")
    return found


def kerf_width(kerf: Kerf) -> float:
    """Full width of the cut in mm. Raises `SizeError` when it is not more than zero."""
    if isinstance(kerf, TypedKerf):
        return _field("kerf", kerf.width)
    width = kerf_from_strip(kerf) if isinstance(kerf, StripKerf) else kerf_from_plug(kerf)
    if width <= 0:
        raise SizeError(f"kerf: the measured pieces leave {width:.3f} mm for it; measure them again")
    return width


def kerf_from_strip(kerf: StripKerf) -> float:
    """``(L - sum of pieces) / N``: N pieces between N + 1 cuts, of which the outer two give half each."""
    pieces = [_field("measured piece", piece) for piece in kerf.pieces]
    return (_field("strip length", kerf.strip) - sum(pieces)) / len(pieces)


def kerf_from_plug(kerf: PlugKerf) -> float:
    """``(H - P) / 2``: the hole gains half a kerf on each side, the plug loses as much."""
    return (_field("hole", kerf.hole) - _field("plug", kerf.plug)) / 2
