"""What is known of a stock: thickness from caliper readings, kerf, clearances."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ..document.keep_out import Barring, KeepOut
from ..document.model import Fit
from ..document.sizes import Size, length
from ..document.stock import Clearances, Sheet, Stock
from .bending import BendingFacts, bending_facts
from .heat import HeatFacts, heat_facts
from .kerf import STRAIGHT, CutFacts, Reckoned, Walls, cut_of
from .moisture import WoodFacts, wood_facts
from .unknown import UnknownFact, field_mm

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
    """A stock in numbers, all in mm. ``clearance`` is by fit class. Where it is ``routed`` the kerf is the cutter's.

    ``kerf`` is what files make up for, ``oval`` by how much more along y of the machine than along x; readings of both
    that are too near to tell are ``even``. On the faces of its sheets the ``walls`` of a cut are beside the kerf.
    """

    thickness: float
    spread: float
    thickest: float
    readings: int
    kerf: float
    smallest_web: float
    clearance: Mapping[Fit, float]
    sheets: tuple[SheetFacts, ...]
    bending: BendingFacts
    heat: HeatFacts
    routed: bool = False
    walls: Walls = STRAIGHT
    reckoned: Reckoned | None = None
    oval: float = 0.0
    even: tuple[float, float] | None = None
    wood: WoodFacts | None = None


def facts(stock: Stock, machine: str = "", cutter: float | None = None) -> StockFacts:
    """The stock in numbers, as it is cut on a machine, or by a cutter of a diameter (mm). Raises `UnknownFact`."""
    readings = _readings(stock)
    thickness = sum(readings) / len(readings)
    known = stock.known(machine)
    cut = cut_of(known) if cutter is None else CutFacts(cutter, STRAIGHT)
    return StockFacts(
        thickness=thickness,
        spread=max(readings) - min(readings),
        thickest=max(readings),
        readings=len(stock.readings),
        kerf=cut.kerf,
        smallest_web=field_mm("smallest web", stock.smallest_web),
        clearance=_clearances(known.clearances, thickness),
        sheets=_sheets(stock.sheets),
        bending=bending_facts(stock.bending, thickness, stock.material),
        routed=cutter is not None,
        walls=cut.walls,
        reckoned=cut.reckoned,
        oval=cut.oval,
        even=cut.even,
        wood=wood_facts(stock.wood) if stock.wood and stock.material == "solid wood" else None,
        heat=heat_facts(stock.heat),
    )


def of_part(stock: Stock, found: StockFacts, thickness: Size) -> StockFacts:
    """A stock in numbers for a part with a thickness of its own. Raises `UnknownFact`."""
    own = field_mm("thickness of the part", thickness)
    bending = bending_facts(stock.bending, own, stock.material)
    return replace(found, thickness=own, thickest=own, spread=0.0, readings=1, bending=bending)


def thickness_of(stock: Stock) -> float:
    """The mean of the caliper readings, mm. Raises `UnknownFact`."""
    readings = _readings(stock)
    return sum(readings) / len(readings)


def _readings(stock: Stock) -> list[float]:
    """The caliper readings (mm); without any, the nominal thickness."""
    nominal = field_mm("nominal thickness", stock.nominal)
    return [field_mm("caliper reading", reading) for reading in stock.readings] or [nominal]


def _sheets(sheets: Sequence[Sheet]) -> tuple[SheetFacts, ...]:
    """Sizes at hand in numbers. Where one has a price, those that have none cost as much by their area."""
    sizes = [(field_mm("sheet width", s.width), field_mm("sheet height", s.height)) for s in sheets]
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
    left, bottom = (field_mm("keep-out", size, length) for size in (keep_out.left, keep_out.bottom))
    width, height = field_mm("keep-out width", keep_out.width), field_mm("keep-out height", keep_out.height)
    corner = complex(left, bottom)
    if keep_out.shape == "circle":
        # By a polygon round it, so that none of it is let free.
        middle, reach = corner + width / 2 * (1 + 1j), width / 2 / math.cos(math.pi / _ROUND)
        return tuple(middle + cmath.rect(reach, math.tau * at / _ROUND) for at in range(_ROUND))
    return corner, corner + width, corner + complex(width, height), corner + 1j * height


def _clearances(clearances: Clearances, thickness: float) -> dict[Fit, float]:
    typed: dict[Fit, Size] = {
        "loose": clearances.loose,
        "sliding": clearances.sliding,
        "glue": clearances.glue,
        "press": clearances.press,
    }
    found = {fit: field_mm(f"{fit} clearance", size, length) for fit, size in typed.items()}
    for fit, clearance in found.items():
        if abs(clearance) >= thickness:
            raise UnknownFact(
                f"{fit} clearance", f"{clearance:g} mm is not less than the thickness of {thickness:.2f} mm"
            )
    return found
