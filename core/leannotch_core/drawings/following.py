"""Slots and tabs that were drawn for a sheet's thickness, found in outlines so that they can follow the sheet."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import shapely

from ..geometry.chords import as_lines
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Line, Point, Segment, cross, dot

#: A length is the thickness where it differs by no more than this (mm) from it; a slot may be drawn with clearance.
WITHIN, CLEARANCE = 0.06, 0.2

#: Sides that lean by no more than this (a sine) from square are square.
SQUARE = 0.01

#: Sheets that slots are drawn for, in mm.
_THINNEST, _THICKEST = 0.4, 30.0

# In thicknesses of the sheet: what lies between the flanks of a slot, or between a tab and its root, is no longer than
# this way; a slot that is closed is at least so long, one that is open so deep; what is beside a slot is more than
# this wide, for a stroke of a letter is as wide as its gaps; a tab that stands alone is at least so wide.
_WAY, _CLOSED, _DEEP, _BESIDE, _ALONE = 4.5, 1.3, 0.5, 1.15, 1.2


@dataclass(frozen=True, slots=True)
class RingPlace:
    """A place of a ring: a ``slot`` or notch by its two flanks, a ``tab`` by its end twice; indices of segments.

    ``drawn`` (mm) is how wide the slot or how long the tab is in the drawing.
    """

    kind: Literal["slot", "tab"]
    ring: int
    first: int
    second: int
    drawn: float

    def at(self, outline: Outline) -> Point:
        """The middle between a slot's flanks, or of a tab's end."""
        segments = outline.loops[self.ring].segments
        return (segments[self.first].at(0.5) + segments[self.second].at(0.5)) / 2


@dataclass(frozen=True, slots=True)
class Follow:
    """The thickness (mm) that places were ``drawn_for``, and where some are that do not follow the sheet."""

    drawn_for: float
    left_out: tuple[Point, ...] = ()

    def places(self, outline: Outline) -> list[tuple[RingPlace, bool]]:
        """The places of an outline, and whether each follows."""
        return [
            (place, not any(abs(place.at(outline) - at) < WITHIN for at in self.left_out))
            for place in places_of(outline, self.drawn_for)
        ]


def places_of(outline: Outline, thickness: float) -> list[RingPlace]:
    """The slots, notches and tabs of an outline that were drawn for a thickness (mm)."""
    lines = as_lines([loop.segments for loop in outline.loops], WITHIN / 10)
    edge = shapely.union_all(lines)
    return [
        place
        for number, loop in enumerate(outline.loops)
        for place in (*_slots(loop, number, thickness, edge), *_tabs(loop, number, thickness))
    ]


def _slots(loop: Loop, number: int, thickness: float, edge: Any) -> Iterator[RingPlace]:
    """Two sides that run back along each other, with a ground square to them, reliefs or not, between."""
    segments, seen = loop.segments, set[frozenset[int]]()
    for first, flank in enumerate(segments):
        second = _across(segments, first, thickness)
        if second is None or frozenset((first, second)) in seen:
            continue
        other = segments[second]
        closed = _across(segments, second, thickness) == first
        along = flank.start_tangent
        begin, end = sorted((dot(along, other.start - flank.start), dot(along, other.end - flank.start)))
        shared = min(flank.length, end) - max(0.0, begin)
        if shared <= thickness * (_CLOSED if closed else _DEEP):
            continue
        if all(_is_thick(one, thickness * _BESIDE, edge) for one in (flank, other)):
            seen.add(frozenset((first, second)))
            yield RingPlace("slot", number, first, second, -cross(along, other.start - flank.start))


def _across(segments: Sequence[Segment], first: int, thickness: float) -> int | None:
    """The other flank of a slot, after its ground; None where there is none as far off as a sheet is thick."""
    flank, count = segments[first], len(segments)
    if not isinstance(flank, Line):
        return None
    along, way, grounds = flank.start_tangent, 0.0, 0.0
    for step in range(1, count):
        one = segments[(first + step) % count]
        back = isinstance(one, Line) and abs(cross(along, one.start_tangent)) <= SQUARE
        if back and dot(along, one.start_tangent) < 0:
            # Material lies on the left, so a slot does on the right.
            apart = -cross(along, one.start - flank.start)
            fits = -WITHIN <= apart - thickness <= CLEARANCE
            return (first + step) % count if fits and grounds > 0.3 * thickness else None
        way += one.length
        if way > _WAY * thickness:
            return None
        if isinstance(one, Line) and abs(dot(along, one.start_tangent)) <= SQUARE:
            grounds = max(grounds, -cross(along, one.end - one.start))
    return None


def _is_thick(flank: Segment, least: float, edge: Any) -> bool:
    """Whether what is beside a flank is more than so wide (mm), at a quarter, a half and three quarters of it."""
    into = flank.start_tangent * 1j
    for share in (0.25, 0.5, 0.75):
        at = flank.at(share)
        near, far = at + into * 1e-3, at + into * least
        if shapely.LineString([(near.real, near.imag), (far.real, far.imag)]).intersects(edge):
            return False
    return True


def _tabs(loop: Loop, number: int, thickness: float) -> Iterator[RingPlace]:
    """Ends that stand out by the thickness: between two roots, or at a corner where others stand beside them."""
    segments = loop.segments
    whole: dict[int, float] = {}
    corner: dict[int, float] = {}
    for at, end in enumerate(segments):
        if not isinstance(end, Line):
            continue
        sides = [_stands_out(segments, at, step, thickness) for step in (-1, 1)]
        out = next((side for side in sides if side is not None), None)
        if out is None:
            continue
        if None not in sides:
            whole[at] = out
        elif _ends_at_corner(segments, at, 1 if sides[1] is None else -1, thickness):
            corner[at] = out
    both = {**whole, **corner}
    for at, out in both.items():
        beside = any(_in_line(segments[at], segments[other]) for other in both if other != at)
        if beside or (at in whole and segments[at].length > _ALONE * thickness):
            yield RingPlace("tab", number, at, at, out)


def _stands_out(segments: Sequence[Segment], at: int, step: int, thickness: float) -> float | None:
    """How far (mm) an end stands out from the side next to it, where that is the thickness."""
    end, count, way = segments[at], len(segments), 0.0
    along = end.start_tangent
    for far in range(1, count):
        one = segments[(at + step * far) % count]
        if isinstance(one, Line) and abs(cross(along, one.start_tangent)) <= SQUARE:
            if dot(along, one.start_tangent) < 0 or not way:
                return None
            # Material lies on the left: so does the side that it stands out from.
            out = cross(along, one.start - end.start)
            return out if abs(out - thickness) <= WITHIN else None
        way += one.length
        if way > _WAY * thickness:
            return None
    return None


def _ends_at_corner(segments: Sequence[Segment], at: int, step: int, thickness: float) -> bool:
    """Whether a side of the part runs on from an end, square to it and away from what stands out."""
    one = segments[(at + step) % len(segments)]
    square = isinstance(one, Line) and abs(dot(segments[at].start_tangent, one.start_tangent)) <= SQUARE
    inwards = cross(segments[at].start_tangent, one.end - one.start) * step
    return square and inwards > 0 and one.length > thickness * (1 - SQUARE)


def _in_line(a: Segment, b: Segment) -> bool:
    """Whether two ends lie on one line, and look the same way."""
    along = a.start_tangent
    same = abs(cross(along, b.start_tangent)) <= SQUARE and dot(along, b.start_tangent) > 0
    return same and abs(cross(along, b.start - a.start)) <= WITHIN


def _bend(before: Segment, base: Segment, after: Segment) -> int | None:
    """Which way three lines turn twice at right angles: 1 left, -1 right; None where they do not."""
    if not all(isinstance(segment, Line) for segment in (before, base, after)):
        return None
    if any(abs(dot(a.end_tangent, b.start_tangent)) > SQUARE for a, b in ((before, base), (base, after))):
        return None
    first, second = (cross(a.end_tangent, b.start_tangent) for a, b in ((before, base), (base, after)))
    return None if (first > 0) != (second > 0) else 1 if first > 0 else -1


def widths_of_slots(outlines: Iterable[Outline]) -> Iterator[float]:
    """How wide (mm) each slot and notch is: two sides along each other, longer than the ground between them."""
    for outline in outlines:
        yield from (base.length for loop in outline.loops for base in _grounds(loop))


def _grounds(loop: Loop) -> Iterator[Segment]:
    """The grounds of slots and notches, one of each that is closed."""
    segments, flanks = loop.segments, set[frozenset[int]]()
    for at, base in enumerate(segments):
        pair = frozenset(((at - 1) % len(segments), (at + 1) % len(segments)))
        before, after = segments[at - 1], segments[(at + 1) % len(segments)]
        deep = min(before.length, after.length)
        if pair not in flanks and deep > base.length and _bend(before, base, after) == -1:
            flanks.add(pair)
            yield base


#: What is nearly as wide as the sheet, within so much (mm), and does not follow it, is told.
_NEARLY = 0.6


def nearly(outline: Outline, thickness: float) -> list[tuple[float, Point]]:
    """Slots and notches that are nearly as wide as a thickness (mm) and do not follow: how wide, and where."""
    flanks = [
        outline.loops[place.ring].segments[at]
        for place in places_of(outline, thickness)
        for at in (place.first, place.second)
    ]
    return [
        (base.length, base.at(0.5))
        for loop in outline.loops
        for base in _grounds(loop)
        if abs(base.length - thickness) <= _NEARLY
        and not any(min(abs(base.start - flank.end), abs(base.end - flank.start)) <= WITHIN for flank in flanks)
    ]


def likely_thickness(outlines: Sequence[Outline], named: float | None) -> float | None:
    """The thickness that a drawing was made for: the one it names, else the width that most of its slots share."""
    widths = Counter(round(width, 2) for width in widths_of_slots(outlines) if _THINNEST <= width <= _THICKEST)
    if named is not None and any(abs(width - named) <= WITHIN for width in widths):
        return named
    best = max(widths, key=lambda width: (widths[width], -width), default=None)
    return best if best is not None and widths[best] > 1 else None
