"""Which unit the numbers of a drawing are likely in, weighed by what each would mean for its maker."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from ..document.sizes import shown
from ..document.units import CALLED, INCH, MM
from ..geometry.loop import Outline
from ..parts.standards.threads import SCREWS
from .following import widths_of_slots
from .way_in import Unit, WayIn

#: A slot is as wide as a sheet is thick where it is at most so much (mm) narrower or wider: common practice, no source.
_NARROWER, _WIDER = 0.15, 0.35

#: A hole is of a standard size where it differs by no more than this (mm).
_NEAR = 0.03

#: Holes of whole mm, and of sixteenths of an inch, up to so many mm.
_LARGEST_HOLE = 13.0

#: A whole that is smaller than this (mm) is hardly cut.
_SMALLEST = 12.0

#: Another unit is offered where it is this much likelier than the one that was assumed.
_LIKELIER = 1.0


#: What flat drawings are in, and what meshes are.
_FLAT: tuple[Unit, ...] = ("mm", "cm", "in", "px", "pt")
_IN_SPACE: tuple[Unit, ...] = ("mm", "cm", "in", "m")


@dataclass(frozen=True, slots=True)
class Likely:
    """A unit that the numbers of a drawing are likely in, how large all is then (mm), and a sentence on why."""

    unit: Unit
    called: str
    width: float
    height: float
    because: str


@dataclass(frozen=True, slots=True)
class _Weighed:
    unit: Unit
    score: float
    said: tuple[str, ...]
    telling: bool


def likely_unit(way: WayIn, sheets: Mapping[str, float], beds: Sequence[complex]) -> Likely | None:
    """The likeliest unit of a drawing that states none, by the ``sheets`` at hand (thickness in mm by name) and the
    sizes of ``beds`` (mm); None where the one that was assumed is as likely.
    """
    if way.drawing.unit_stated:
        return None
    per_number = way.scale * way.drawing.per_unit
    outlines = [part.outline for part in way.parts for _ in part.places]
    slots = Counter(round(width / per_number, 6) for width in widths_of_slots(outlines))
    holes = Counter(round(2 * radius / per_number, 6) for radius in _radii(outlines))
    size = complex(way.width, way.height) / per_number
    plates = Counter(round(stand.thick / way.drawing.per_unit, 6) for stand in way.drawing.stands)
    units = _IN_SPACE if plates else _FLAT
    weighed = [_weighed(unit, _Features(slots, holes, plates), size, sheets, beds) for unit in units]
    assumed = min(weighed, key=lambda one: abs(MM[one.unit] - per_number))
    best = max(weighed, key=lambda one: one.score)
    if best.score < assumed.score + _LIKELIER or best.unit == assumed.unit or not best.telling:
        return None
    sized = size * MM[best.unit]
    *more, last = best.said
    because = f"{', '.join(more)}, and {last}" if more else last
    return Likely(best.unit, CALLED[best.unit], sized.real, sized.imag, f"As {CALLED[best.unit]} {because}.")


def _radii(outlines: Iterable[Outline]) -> list[float]:
    return [found[1] for outline in outlines for loop in outline.cutouts if (found := loop.circle())]


class _Features(NamedTuple):
    """Widths of slots and holes and thicknesses of plates in the numbers of a drawing, and how often there is each."""

    slots: Counter[float]
    holes: Counter[float]
    plates: Counter[float]


def _weighed(
    unit: Unit, features: _Features, size: complex, sheets: Mapping[str, float], beds: Sequence[complex]
) -> _Weighed:
    """How likely a unit is: a slot that takes a sheet says most, then holes, then whether all of it can be cut."""
    mm = MM[unit]
    found = [
        _by_sheet(features.plates, mm, sheets, _PLATES),
        _by_sheet(features.slots, mm, sheets, _SLOTS),
        _by_holes(features.holes, mm),
        _by_size(size * mm, beds),
    ]
    telling = any(score > 0 for score, _ in found[:3])
    return _Weighed(unit, sum(score for score, _ in found), tuple(said for _, said in found if said), telling)


def _by_sheet(sizes: Counter[float], mm: float, sheets: Mapping[str, float], says: _Says) -> tuple[float, str]:
    """How much speaks for a unit in which sizes are those of a sheet at hand, and how that is said."""
    best = max(sheets, key=lambda name: _fitting(sizes, mm, sheets[name]), default=None)
    if best is None or not (fitting := _fitting(sizes, mm, sheets[best])):
        return 0.0, ""
    size = next(size * mm for size, _ in sizes.most_common() if _takes(size * mm, sheets[best]))
    sized = f"{says.one if fitting == 1 else says.many.format(fitting)} {shown(size)} {says.way}"
    return says.least + min(fitting, 6) / 3, f"{sized}, as your {best} measures {shown(sheets[best])}"


class _Says(NamedTuple):
    """What one and several things of a kind are called, in which way they are measured, and what one of them weighs."""

    one: str
    many: str
    way: str
    least: float


_PLATES = _Says("its plate is", "{} of its plates are", "thick", 3.0)
_SLOTS = _Says("its slot is", "its {} slots are", "wide", 2.0)


def _by_holes(holes: Counter[float], mm: float) -> tuple[float, str]:
    standard = sum(number for width, number in holes.items() if _is_standard(width * mm))
    if not standard or standard < holes.total() / 2:
        return 0.0, ""
    width = next(width * mm for width, _ in holes.most_common() if _is_standard(width * mm))
    many = "its hole is" if standard == 1 else f"{standard} of its holes are"
    return 1 + min(standard, 6) / 6, f"{many} of a usual size, {shown(width)}"


def _by_size(size: complex, beds: Sequence[complex]) -> tuple[float, str]:
    fits = any(_lies_on(size, bed) for bed in beds)
    if (beds and not fits) or max(size.real, size.imag) < _SMALLEST:
        return -2.0, ""
    return (0.5, f"all of it is {shown(size.real)} wide and fits the bed") if fits else (0.0, "")


def _fitting(slots: Counter[float], mm: float, thickness: float) -> int:
    return sum(number for width, number in slots.items() if _takes(width * mm, thickness))


def _takes(width: float, thickness: float) -> bool:
    return -_NARROWER <= width - thickness <= _WIDER


def _is_standard(width: float) -> bool:
    """Holes for screws by ISO 273 and of their diameters, whole mm, and sixteenths of an inch."""
    if not 0.9 < width < _LARGEST_HOLE:
        return False
    steps = (1.0, INCH / 16)
    return any(abs(width - round(width / step) * step) < _NEAR for step in steps) or any(
        abs(width - size) < _NEAR for screw in SCREWS.values() for size in (screw.hole, screw.diameter)
    )


def _lies_on(size: complex, bed: complex) -> bool:
    long, short = max(size.real, size.imag), min(size.real, size.imag)
    return long <= max(bed.real, bed.imag) and short <= min(bed.real, bed.imag)
