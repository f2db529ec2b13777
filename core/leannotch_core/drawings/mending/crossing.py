"""Outlines that cross themselves or one another: little loops are untied, for the rest no mend is sure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely

from ...geometry.chords import as_lines, as_polygon
from ...geometry.loop import Loop, Outline, joined_bounds
from ...geometry.pieces import meetings
from ...geometry.rows import SegmentRows
from ...geometry.segment import Point, Segment
from .ends import LITTLE
from .outlines import NOTHING

#: Chords leave the arcs that they stand for by at most this (mm), or this share of how large all is.
_CHORD, _SHARE = 0.01, 1e-5

#: An outline has at most so many little loops of its own that are untied.
_MOST = 100


@dataclass(slots=True)
class Crossed:
    """The outlines that run ``round`` once, and those that were ``crossed`` or ``empty``, each with a place of it.

    ``untied`` are where little loops were taken out, ``overlaps`` where two outlines cross one another.
    """

    round: list[Loop] = field(default_factory=list)
    crossed: list[tuple[Loop, Point]] = field(default_factory=list)
    empty: list[tuple[Loop, Point]] = field(default_factory=list)
    untied: list[Point] = field(default_factory=list)
    overlaps: list[Point] = field(default_factory=list)


def crossing(closed: Sequence[Loop], within: float = 0.0) -> Crossed:
    """Tells outlines apart by how they cross; loops of ``within`` mm, or of less than a kerf, are taken out."""
    found = Crossed()
    if not closed:
        return found
    left, bottom, right, top = joined_bounds(loop.bounds for loop in closed)
    chord = max(_CHORD, _SHARE * max(right - left, top - bottom))
    lines = as_lines([loop.segments for loop in closed], chord)
    for loop, line, simple in zip(closed, lines, shapely.is_simple(lines).tolist(), strict=True):
        if simple:
            _sort(found, loop, line)
            continue
        untied, places = _untied(loop, max(within, LITTLE))
        clean = as_lines([untied.segments], chord)[0]
        if shapely.is_simple(clean):
            _sort(found, untied, clean)
            found.untied += places
        else:
            found.crossed.append((loop, _point(loop)))
    found.overlaps = _overlaps(found.round)
    return found


def _sort(found: Crossed, loop: Loop, line: shapely.LineString) -> None:
    if abs(loop.area) > NOTHING and shapely.get_num_coordinates(line) > 3:
        found.round.append(loop)
    else:
        found.empty.append((loop, loop.segments[0].start))


def _untied(loop: Loop, within: float) -> tuple[Loop, list[Point]]:
    """A loop without the little ones in it, none of which reaches further than ``within`` mm from where it crosses."""
    segments, places = list(loop.segments), list[Point]()
    while len(places) < _MOST and (found := _without_little_loop(segments, within)):
        segments = found[0]
        places.append(found[1])
    return Loop(tuple(segments)), places


def _without_little_loop(segments: list[Segment], within: float) -> tuple[list[Segment], Point] | None:
    """The segments without those between two that cross, where all of them lie near by; and where those two do."""
    count, rows = len(segments), SegmentRows.of(segments)
    for a, b, where in meetings(segments, rows):
        # The little loop may lie about the place where the outline begins: it is looked for from either of the two.
        for first, second in ((a, b), (b, a)):
            near = (np.abs(rows.end[first] - where) <= within) & (np.abs(rows.start[second] - where) <= within)
            for i, j, at in zip(first[near].tolist(), second[near].tolist(), where[near].tolist(), strict=True):
                little = _little(segments, i, j, at, within)
                if 1 < little < count - 1:
                    kept = [segments[(j + step) % count] for step in range(count - little + 1)]
                    kept[0] = kept[0].between(at, kept[0].end)
                    kept[-1] = kept[-1].between(kept[-1].start, at)
                    return [segment for segment in kept if segment.length > 0], at
    return None


def _little(segments: Sequence[Segment], first: int, second: int, at: Point, within: float) -> int:
    """How many segments lead from one to another without leaving a place; 0 where they leave it."""
    count = len(segments)
    many = (second - first) % count
    return many if all(abs(segments[(first + step) % count].end - at) <= within for step in range(many)) else 0


def _point(loop: Loop) -> Point:
    """A place where a loop crosses itself; else any corner, where it turns back."""
    segments = loop.segments
    for firsts, seconds, where in meetings(segments, SegmentRows.of(segments)):
        for a, b, at in zip(firsts.tolist(), seconds.tolist(), where.tolist(), strict=True):
            beside = abs(a - b) in (1, len(segments) - 1)
            ends = (segments[a].start, segments[a].end)
            if not (beside and min(abs(at - end) for end in ends) <= LITTLE / 10):
                return complex(at)
    return segments[0].start


def _overlaps(loops: Sequence[Loop]) -> list[Point]:
    """Where outlines cross one another by more than what is drawn by mistake."""
    if not loops:
        return []
    shapes = np.array([as_polygon(Outline(loop), _CHORD) for loop in loops])
    first, second = shapely.STRtree(shapes).query(shapes, predicate="overlaps")
    once = first < second
    places = []
    for a, b in zip(shapes[first[once]], shapes[second[once]], strict=True):
        both = shapely.intersection(a, b).buffer(-LITTLE / 2)
        if not both.is_empty:
            at = both.representative_point()
            places.append(complex(at.x, at.y))
    return places
