"""Slots and tabs that were drawn for a sheet's thickness, found in outlines so that they can follow the sheet."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from ..geometry.loop import Loop, Outline
from ..geometry.segment import Line, Point, Segment, cross, dot

#: A width or a length is the thickness where it differs by no more than this (mm) from it.
WITHIN = 0.06

#: Sides that lean by no more than this (a sine) from square are square.
SQUARE = 0.01

#: Sheets that slots are drawn for, in mm.
_THINNEST, _THICKEST = 0.4, 30.0


@dataclass(frozen=True, slots=True)
class Place:
    """A place of a ring: a ``slot`` or notch by its two flanks, a ``tab`` by its end twice; indices of segments."""

    kind: Literal["slot", "tab"]
    ring: int
    first: int
    second: int

    def at(self, outline: Outline) -> Point:
        """The middle of a slot's ground or of a tab's end."""
        segments = outline.loops[self.ring].segments
        return segments[(self.first + (self.kind == "slot")) % len(segments)].at(0.5)


@dataclass(frozen=True, slots=True)
class Follow:
    """The thickness (mm) that places were ``drawn_for``, and where some are that do not follow the sheet."""

    drawn_for: float
    left_out: tuple[Point, ...] = ()

    def places(self, outline: Outline) -> list[tuple[Place, bool]]:
        """The places of an outline, and whether each follows."""
        return [
            (place, not any(abs(place.at(outline) - at) < WITHIN for at in self.left_out))
            for place in places_of(outline, self.drawn_for)
        ]


def places_of(outline: Outline, thickness: float) -> list[Place]:
    """The slots, notches and tabs of an outline that were drawn for a thickness (mm)."""
    found: list[Place] = []
    for number, loop in enumerate(outline.loops):
        flanks: set[frozenset[int]] = set()
        for place in _places(loop, number, thickness):
            pair = frozenset((place.first, place.second))
            if pair not in flanks:
                flanks.add(pair)
                found.append(place)
    return found


def _places(loop: Loop, number: int, thickness: float) -> Iterable[Place]:
    segments = loop.segments
    count = len(segments)
    for at in range(count):
        before, base, after = (segments[(at + step) % count] for step in (-1, 0, 1))
        turn = _bend(before, base, after)
        if turn is None:
            continue
        is_wide = abs(base.length - thickness) <= WITHIN
        as_long = all(abs(flank.length - thickness) <= WITHIN for flank in (before, after))
        # Material lies on the left: a slot turns to the right twice round its ground, a tab to the left round its end.
        if turn < 0 and is_wide and min(before.length, after.length) > thickness * 0.5:
            yield Place("slot", number, (at - 1) % count, (at + 1) % count)
        elif turn > 0 and as_long and count > 4:
            yield Place("tab", number, at, at)


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
        for loop in outline.loops:
            segments, flanks = loop.segments, set[frozenset[int]]()
            for at, base in enumerate(segments):
                pair = frozenset(((at - 1) % len(segments), (at + 1) % len(segments)))
                before, after = segments[at - 1], segments[(at + 1) % len(segments)]
                deep = min(before.length, after.length)
                if pair not in flanks and deep > base.length and _bend(before, base, after) == -1:
                    flanks.add(pair)
                    yield base.length


def likely_thickness(outlines: Sequence[Outline], named: float | None) -> float | None:
    """The thickness that a drawing was made for: the one it names, else the width that most of its slots share."""
    widths = Counter(round(width, 2) for width in widths_of_slots(outlines) if _THINNEST <= width <= _THICKEST)
    if named is not None and any(abs(width - named) <= WITHIN for width in widths):
        return named
    best = max(widths, key=lambda width: (widths[width], -width), default=None)
    return best if best is not None and widths[best] > 1 else None
