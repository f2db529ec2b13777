"""What is known of a stock: thickness from caliper readings, kerf, clearances."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from .document.keep_out import Barring, KeepOut
from .document.model import Fit
from .document.sizes import Size, SizeError, length, positive
from .document.stock import Clearances, Kerf, PlugKerf, Sheet, Stock, StripKerf, TypedKerf

#: So many corners stand for a round keep-out.
_ROUND = 48


@dataclass(frozen=True, slots=True)
class SheetFacts:
    """A size of sheet in numbers, mm. ``worth`` is its area in mm² where nothing else is said for any size."""

    width: float
    height: float
    worth: float
    at_hand: int | None = None
    outline: tuple[complex, ...] = ()
    barred: tuple[tuple[Barring, tuple[complex, ...]], ...] = ()


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
    sheets: tuple[SheetFacts, ...]


class UnknownFact(SizeError):  # noqa: N818 - it is a statement, and read as one
    """A size of a stock that cannot be read; ``field`` names it."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(f"{field}: {why}")
        self.field = field


def facts(stock: Stock, machine: str = "") -> StockFacts:
    """The stock in numbers, as it is cut on a machine. Raises `UnknownFact`."""
    readings = _readings(stock)
    thickness = sum(readings) / len(readings)
    known = stock.known(machine)
    return StockFacts(
        thickness=thickness,
        spread=max(readings) - min(readings),
        thickest=max(readings),
        readings=len(stock.readings),
        kerf=kerf_width(known.kerf),
        smallest_web=_field("smallest web", stock.smallest_web),
        clearance=_clearances(known.clearances, thickness),
        sheets=_sheets(stock.sheets),
    )


def thickness_of(stock: Stock) -> float:
    """The mean of the caliper readings, mm. Raises `UnknownFact`."""
    readings = _readings(stock)
    return sum(readings) / len(readings)


def _readings(stock: Stock) -> list[float]:
    """The caliper readings (mm); without any, the nominal thickness."""
    nominal = _field("nominal thickness", stock.nominal)
    return [_field("caliper reading", reading) for reading in stock.readings] or [nominal]


def _sheets(sheets: Sequence[Sheet]) -> tuple[SheetFacts, ...]:
    """Sizes at hand in numbers. Where one has a price, those that have none cost as much by their area."""
    sizes = [(_field("sheet width", s.width), _field("sheet height", s.height)) for s in sheets]
    dear = [s.worth / (w * h) for s, (w, h) in zip(sheets, sizes, strict=True) if s.worth]
    rate = max(dear, default=1.0)
    return tuple(
        SheetFacts(
            width,
            height,
            width * height * rate if sheet.worth is None else sheet.worth,
            sheet.at_hand,
            tuple(complex(corner.x, corner.y) for corner in sheet.outline),
            tuple((keep_out.what, corners_of(keep_out)) for keep_out in sheet.keep_outs),
        )
        for sheet, (width, height) in zip(sheets, sizes, strict=True)
    )


def corners_of(keep_out: KeepOut) -> tuple[complex, ...]:
    """The corners of a keep-out (mm), from where it is measured. Raises `UnknownFact`."""
    if keep_out.shape == "drawn":
        if len(keep_out.corners) < 3:
            raise UnknownFact("keep-out", f"{len(keep_out.corners)} corners enclose nothing; draw at least 3")
        return tuple(complex(corner.x, corner.y) for corner in keep_out.corners)
    left, bottom = (_field("keep-out", size, length) for size in (keep_out.left, keep_out.bottom))
    width, height = _field("keep-out width", keep_out.width), _field("keep-out height", keep_out.height)
    corner = complex(left, bottom)
    if keep_out.shape == "circle":
        # By a polygon round it, so that none of it is let free.
        middle, reach = corner + width / 2 * (1 + 1j), width / 2 / math.cos(math.pi / _ROUND)
        return tuple(middle + cmath.rect(reach, math.tau * at / _ROUND) for at in range(_ROUND))
    return corner, corner + width, corner + complex(width, height), corner + 1j * height


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
