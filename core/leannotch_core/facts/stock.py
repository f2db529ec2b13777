"""What is known of a stock: thickness from caliper readings, kerf, clearances."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..bends.allowance import NoSuchBend, k_from_deduction, k_from_strip, k_from_table
from ..document.bend import Bending, DeductionMeasured, KAt, KTyped, Neutral, StripBent
from ..document.keep_out import Barring, KeepOut
from ..document.model import Fit
from ..document.sizes import Size, length, number, positive
from ..document.stock import Clearances, Kerf, Known, MadeFor, Material, PlugKerf, Sheet, Stock, StripKerf, TypedKerf
from ..document.sums import SizeError

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
class BendingFacts:
    """How a stock is bent, mm. ``k`` holds for all radii; without it K goes by the ``rows``.

    ``least_radius`` and ``least_flange`` are what it takes; ``assumed`` is whether no die was typed. ``breaks`` is
    what it is made of where that breaks along a bend.
    """

    radius: float
    least_radius: float
    die: float
    least_flange: float
    rows: tuple[KAt, ...]
    k: float | None
    assumed: bool
    breaks: str

    def k_at(self, radius: float, thickness: float) -> float:
        return k_from_table(self.rows, radius / thickness) if self.k is None else self.k


@dataclass(frozen=True, slots=True)
class Walls:
    """By how much (mm) a cut is wider on the upper and the lower face of a sheet than its file makes up for."""

    above: float = 0.0
    below: float = 0.0

    @property
    def leaning(self) -> bool:
        return self.above != self.below

    @property
    def faces(self) -> tuple[float, float]:
        return self.above, self.below

    def lean(self, thickness: float) -> float:
        """By how many degrees each wall of a cut leans in a sheet so thick (mm).

        >>> round(Walls(-0.05, 0.05).lean(3.0), 2)
        0.95
        """
        return math.degrees(math.atan2(abs(self.below - self.above) / 2, thickness))


STRAIGHT = Walls()


@dataclass(frozen=True, slots=True)
class StockFacts:
    """A stock in numbers, all in mm. ``clearance`` is by fit class. Where it is ``routed`` the kerf is the cutter's.

    ``kerf`` is what files make up for; on the faces of its sheets the ``walls`` of a cut are beside that.
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
    routed: bool = False
    walls: Walls = STRAIGHT


class UnknownFact(SizeError):  # noqa: N818 - it is a statement, and read as one
    """A size of a stock that cannot be read; ``field`` names it."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(f"{field}: {why}")
        self.field = field


def facts(stock: Stock, machine: str = "", cutter: float | None = None) -> StockFacts:
    """The stock in numbers, as it is cut on a machine, or by a cutter of a diameter (mm). Raises `UnknownFact`."""
    readings = _readings(stock)
    thickness = sum(readings) / len(readings)
    known = stock.known(machine)
    kerf, walls = _cut(known) if cutter is None else (cutter, STRAIGHT)
    return StockFacts(
        thickness=thickness,
        spread=max(readings) - min(readings),
        thickest=max(readings),
        readings=len(stock.readings),
        kerf=kerf,
        smallest_web=_field("smallest web", stock.smallest_web),
        clearance=_clearances(known.clearances, thickness),
        sheets=_sheets(stock.sheets),
        bending=_bending(stock.bending, thickness, stock.material),
        routed=cutter is not None,
        walls=walls,
    )


#: How far from the upper face to the lower one parts are made for (common practice: the middle).
_DOWN: Mapping[MadeFor, float] = {"the upper face": 0.0, "the middle": 0.5, "the lower face": 1.0}


def _cut(known: Known) -> tuple[float, Walls]:
    """The kerf that files make up for (mm), and how the walls of a cut lie beside it. Raises `UnknownFact`."""
    above = kerf_width(known.kerf)
    if known.below is None:
        return above, STRAIGHT
    below = kerf_width(known.below, "kerf on the lower face")
    kerf = above + _DOWN[known.made_for] * (below - above)
    return kerf, Walls(above - kerf, below - kerf)


def thickness_of(stock: Stock) -> float:
    """The mean of the caliper readings, mm. Raises `UnknownFact`."""
    readings = _readings(stock)
    return sum(readings) / len(readings)


#: The opening of a die in thicknesses, and the share of it that a flange must reach over: common practice, no source.
_DIE, _REACH = 8.0, 0.7


#: Boards that break along a bend at a press: common practice, no source.
_BREAKS = ("plywood", "solid wood", "MDF")


def _bending(bending: Bending, thickness: float, material: Material) -> BendingFacts:
    def read(what: str, size: Size | None, otherwise: float) -> float:
        return otherwise if size is None else _field(what, size)

    die = read("die opening", bending.die, _DIE * thickness)
    neutral = bending.neutral
    return BendingFacts(
        radius=read("bend radius", bending.radius, thickness),
        least_radius=read("least bend radius", bending.least_radius, 0.0),
        die=die,
        least_flange=read("least flange", bending.least_flange, _REACH * die),
        rows=() if isinstance(neutral, KTyped | DeductionMeasured | StripBent) else tuple(neutral.rows),
        k=_k(neutral, thickness),
        assumed=bending.die is None and bending.least_flange is None,
        breaks=material if material in _BREAKS else "",
    )


def _k(neutral: Neutral, thickness: float) -> float | None:
    """The K that was typed or measured; None where it goes by a table. Raises `UnknownFact`."""
    if isinstance(neutral, KTyped):
        return neutral.k
    try:
        if isinstance(neutral, DeductionMeasured):
            taken = _field("bend deduction", neutral.deduction, length)
            angle, radius = number(neutral.angle), _field("bend radius", neutral.radius)
            return k_from_deduction(taken, angle, radius, thickness)
        if isinstance(neutral, StripBent):
            legs = _field("leg of the strip", neutral.legs[0]), _field("leg of the strip", neutral.legs[1])
            angle, radius = number(neutral.angle), _field("bend radius", neutral.radius)
            return k_from_strip(_field("flat strip", neutral.flat), legs, angle, radius, thickness)
    except NoSuchBend as error:
        raise UnknownFact("K factor", str(error)) from error
    return None


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


def kerf_width(kerf: Kerf, called: str = "kerf") -> float:
    """Full width of the cut in mm. Raises `UnknownFact` when it is not more than zero."""
    if isinstance(kerf, TypedKerf):
        return _field(called, kerf.width)
    width = kerf_from_strip(kerf) if isinstance(kerf, StripKerf) else kerf_from_plug(kerf)
    if width <= 0:
        raise UnknownFact(called, f"the measured pieces leave {width:.3f} mm for it; measure them again")
    return width


def kerf_from_strip(kerf: StripKerf) -> float:
    """``(L - sum of pieces) / N``: N pieces between N + 1 cuts, of which the outer two give half each."""
    pieces = [_field("measured piece", piece) for piece in kerf.pieces]
    return (_field("strip length", kerf.strip) - sum(pieces)) / len(pieces)


def kerf_from_plug(kerf: PlugKerf) -> float:
    """``(H - P) / 2``: the hole gains half a kerf on each side, the plug loses as much."""
    return (_field("hole", kerf.hole) - _field("plug", kerf.plug)) / 2
