"""Which parts a drawing has: outermost outlines with their openings, equal ones once with a count."""

from __future__ import annotations

from bisect import bisect_left, insort
from collections import Counter, defaultdict
from collections.abc import Hashable, Sequence
from dataclasses import dataclass, field
from typing import Literal, NamedTuple, TypeVar

import numpy as np
from shapely import STRtree
from shapely import points as shapely_points

from ..document.model import Align
from ..geometry.chords import as_polygon, ring
from ..geometry.loop import Bounds, Loop, Outline
from ..geometry.segment import Line, Motion, Point
from ..parts.shapes.text import Lettering
from ..parts.standing import Standing
from .alike import SAME, apart, motion_between, reach
from .chains import Chain


@dataclass(frozen=True, slots=True)
class PartLine:
    """A line that goes with a part: filled, scored, engraved, bent, only shown, or the edge of a pocket.

    A pocket has its depth (mm), and ``islands`` that are left standing in it. Of a bend that a mesh has, ``fold`` is
    how far (degrees) and how round (mm) it is bent.
    """

    operation: Literal["fill", "score", "engrave", "pocket", "bend up", "bend down", "reference"]
    chain: Chain
    depth: float | None = None
    islands: tuple[Loop, ...] = ()
    fold: tuple[float, float] | None = None

    @property
    def at(self) -> Point:
        """A point of it."""
        return self.chain.segments[len(self.chain.segments) // 2].at(0.5)


@dataclass(frozen=True, slots=True)
class PartText:
    """Words that go with a part: aligned ``at`` half the height (mm) of their capitals, turned by degrees."""

    words: str
    at: Point
    height: float
    turn: float
    align: Align
    font: Lettering
    operation: Literal["score", "engrave"]


@dataclass(slots=True)
class FoundPart:
    """A part of a drawing. ``places`` take its outline onto each of its copies; what is on it is that of the first.

    ``stands`` are where its copies stood in a mesh.
    """

    outline: Outline
    name: str = ""
    lines: list[PartLine] = field(default_factory=list)
    texts: list[PartText] = field(default_factory=list)
    places: list[Motion] = field(default_factory=lambda: [Motion()])
    stands: list[Standing] = field(default_factory=list)

    @property
    def count(self) -> int:
        return len(self.places)


@dataclass(frozen=True, slots=True)
class Frame:
    """A rectangle round everything else: the sheet or a border, and why it is taken for one."""

    outline: Outline
    reason: str

    @property
    def size(self) -> complex:
        left, bottom, right, top = self.outline.bounds
        return complex(right - left, top - bottom)


def outlines_of(loops: Sequence[Loop]) -> list[Outline]:
    """Outlines by how deep loops lie in one another: every second one is an opening of the one round it."""
    # What is thinner than its chords encloses nothing.
    loops = [loop if loop.area > 0 else loop.reversed() for loop in loops if len(ring(loop, 0.01)) > 2]
    if not loops:
        return []
    round_it = _round(loops)
    depths = [len(outer) for outer in round_it]
    holes: dict[int, list[Loop]] = {i: [] for i, depth in enumerate(depths) if depth % 2 == 0}
    for i, outer in enumerate(round_it):
        if depths[i] % 2:
            holes[max(outer, key=lambda j: depths[j])].append(loops[i].reversed())
    found = [Outline(loops[i], tuple(cutouts)) for i, cutouts in holes.items()]
    return sorted(found, key=lambda outline: (-round(outline.bounds[3], 3), outline.bounds[0]))


def _round(loops: Sequence[Loop]) -> list[list[int]]:
    """For each loop the others that it lies in."""
    shapes = [as_polygon(Outline(loop), 0.01) for loop in loops]
    tree = STRtree(shapes)
    inside: list[list[int]] = [[] for _ in loops]
    at = [shape.representative_point() for shape in shapes]
    areas = np.array([shape.area for shape in shapes])
    own, others = tree.query(at, predicate="within")
    for i, j in zip(own.tolist(), others.tolist(), strict=True):
        # Of two that lie in one another, the larger one is outside.
        if (
            i != j
            and areas[j] > areas[i]
            and shapes[j].contains_properly(shapes[i].buffer(-0.02) if shapes[i].area > 1 else at[i])
        ):
            inside[i].append(j)
    return inside


def frame_of(outlines: Sequence[Outline], page: complex | None) -> Frame | None:
    """The rectangle round everything, if there is one that is hardly a part; ``page`` is the size of the drawing."""
    largest = max(outlines, key=lambda outline: outline.outer.area, default=None)
    if largest is None or not largest.cutouts or not _is_rectangle(largest.outer):
        return None
    if any(outline is not largest and not _within(outline.bounds, largest.bounds) for outline in outlines):
        return None
    reason = _reason(largest, len(outlines) > 2, page)
    return Frame(largest, reason) if reason else None


def _reason(round_all: Outline, parts_inside: bool, page: complex | None) -> str:
    left, bottom, right, top = round_all.bounds
    several = len(round_all.cutouts) > 1
    filled = sum(-loop.area for loop in round_all.cutouts) / round_all.outer.area
    if several and parts_inside:
        return "several outlines with openings of their own lie in it"
    if several and page is not None and abs(complex(right - left, top - bottom) - page) < 0.01 * abs(page):
        return "it is as large as the page"
    if several and filled > _CROWDED:
        return f"what lies in it fills {filled:.0%} of it, more than openings do"
    return ""


#: A rectangle of which more than this share would be openings is a sheet with parts on it.
_CROWDED = 0.35


def _is_rectangle(loop: Loop) -> bool:
    left, bottom, right, top = loop.bounds
    lines = all(isinstance(segment, Line) for segment in loop)
    return lines and abs(loop.area - (right - left) * (top - bottom)) < 1e-3 * loop.area


def _within(inner: Bounds, outer: Bounds) -> bool:
    return inner[0] >= outer[0] and inner[1] >= outer[1] and inner[2] <= outer[2] and inner[3] <= outer[3]


def without_frame(outlines: Sequence[Outline], frame: Frame) -> list[Outline]:
    """The outlines with what were openings of the frame as parts of their own, and what lay in those as openings."""
    inner = [loop for outline in outlines for loop in outline.loops if loop is not frame.outline.outer]
    return outlines_of(inner)


def parts_of(
    outlines: Sequence[Outline],
    lines: Sequence[Sequence[PartLine]],
    texts: Sequence[Sequence[PartText]],
    *,
    mirrored: bool = False,
    within: float = SAME,
) -> Recognised:
    """Each distinct part once, with the places of all that are equal to it; with what lies on each outline.

    Equal ones have as many lines of each kind and the same words on them, and corners ``within`` so many mm; they bear
    those of the first.
    """
    found = _Known(mirrored, max(within, SAME))
    for outline, own, said in zip(outlines, lines, texts, strict=True):
        found.add(outline, list(own), list(said))
    return Recognised(found.parts, found.unequal)


class Recognised(NamedTuple):
    """Distinct parts, and by how much (mm) some differ that were taken as equal, where that is more than rounding."""

    parts: list[FoundPart]
    unequal: float


class _Known:
    """Distinct parts by what equal ones share, each kind in the order of its areas: none is held against all."""

    def __init__(self, mirrored: bool, within: float) -> None:
        self.parts: list[FoundPart] = []
        self.unequal = 0.0
        self._mirrored, self._within = mirrored, within
        self._alike: dict[Hashable, list[tuple[float, int]]] = defaultdict(list)

    def add(self, outline: Outline, lines: list[PartLine], texts: list[PartText]) -> None:
        key = _shape(outline), frozenset(_kinds(lines).items()), frozenset(_words(texts).items())
        alike, area = self._alike[key], outline.area
        slack = 2 * reach(outline, self._within)
        for at in range(bisect_left(alike, (area - slack, 0)), len(alike)):
            if alike[at][0] > area + slack:
                break
            if self._joins(self.parts[alike[at][1]], outline, lines):
                return
        insort(alike, (area, len(self.parts)))
        self.parts.append(FoundPart(outline, lines=lines, texts=texts))

    def _joins(self, part: FoundPart, outline: Outline, lines: list[PartLine]) -> bool:
        bent = any(line.fold for line in lines)
        for within in sorted({SAME, self._within}):
            # What is turned over is bent the other way.
            motion = motion_between(part.outline, outline, mirrored=self._mirrored and not bent, within=within)
            if motion is not None and (not bent or _bent_alike(part.lines, lines, motion)):
                if within > SAME:
                    self.unequal = max(self.unequal, apart(part.outline.moved(motion), outline))
                part.places.append(motion)
                return True
        return False


def _shape(outline: Outline) -> tuple[int, ...]:
    """How many lines and arcs the loops of an outline have; of a circle, that it is one."""
    return tuple(sorted(0 if loop.circle() else len(loop.segments) for loop in outline.loops))


def _kinds(lines: Sequence[PartLine]) -> Counter[Hashable]:
    return Counter((line.operation, line.depth, line.fold) for line in lines)


#: Bends in the same places of equal sheets lie within this (mm).
BEND = 0.05


def _bent_alike(lines: Sequence[PartLine], others: Sequence[PartLine], motion: Motion) -> bool:
    """Whether every bend is moved onto one that is bent as it is."""
    bends, onto = ([line for line in one if line.fold] for one in (lines, others))
    return all(
        any(
            abs(motion(line.at) - other.at) < BEND and (line.operation, line.fold) == (other.operation, other.fold)
            for other in onto
        )
        for line in bends
    )


def _words(texts: Sequence[PartText]) -> Counter[str]:
    return Counter(text.words for text in texts)


On = TypeVar("On", PartLine, PartText)


def lying_on(outlines: Sequence[Outline], things: Sequence[On]) -> tuple[list[list[On]], list[Point]]:
    """The lines or texts that lie on each outline, the smallest one round them; and where the others lie."""
    found: list[list[On]] = [[] for _ in outlines]
    if not outlines or not things:
        return found, [thing.at for thing in things]
    bodies = [as_polygon(Outline(outline.outer), 0.05) for outline in outlines]
    tree = STRtree(bodies)
    beside = []
    for thing in things:
        inside = tree.query(shapely_points(thing.at.real, thing.at.imag), predicate="within")
        if inside.size:
            found[min(inside.tolist(), key=lambda i: bodies[i].area)].append(thing)
        else:
            beside.append(thing.at)
    return found, beside
