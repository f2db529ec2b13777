"""How near the cuts of a part come to one another and to its edge, and to the border that is drawn inside it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
import shapely

from ..geometry.chords import Lines, as_lines
from ..geometry.loop import Loop, Outline
from ..geometry.measure import closest, near_segments, nearest
from ..geometry.segment import Point, Segment
from ..remembered import remembered

#: Chords stand for arcs within this (mm) where it is looked for what is near; what is near is measured exactly.
_COARSE = 0.01


@dataclass(frozen=True, slots=True)
class NarrowPlace:
    """A place where two cuts leave less than they should: how much (mm), and the point midway."""

    distance: float
    at: Point


def narrowest(outline: Outline) -> tuple[float | None, Point]:
    """The narrowest material between two cut-outs, or a cut-out and the edge (mm), and where; None without any."""
    if not outline.cutouts:
        return None, 0
    lines = _lines(outline.loops)
    holes = lines[1:]
    shapely.prepare(lines[0])
    to_edge = shapely.distance(lines[0], holes)
    at = int(np.argmin(to_edge))
    least, pair = float(to_edge[at]), (0, at + 1)
    if len(holes) > 1:
        # Those whose middles are nearest give a bound, so that few pairs have to be looked at.
        middles = shapely.centroid(shapely.envelope(holes))
        one, other = shapely.STRtree(middles).query_nearest(middles, exclusive=True, all_matches=False)
        bound = min(least, float(shapely.distance(holes[one], holes[other]).min()))
        first, second = shapely.STRtree(holes).query(holes, predicate="dwithin", distance=bound + _COARSE)
        once = first < second
        first, second = first[once], second[once]
        apart = shapely.distance(holes[first], holes[second])
        if apart.size and float(apart.min()) < least:
            nearest_pair = int(np.argmin(apart))
            least, pair = float(apart[nearest_pair]), (int(first[nearest_pair]) + 1, int(second[nearest_pair]) + 1)
    return closest(near_segments(outline.loops[pair[0]], outline.loops[pair[1]], least + 3 * _COARSE))


@remembered(most=1024)
def narrow_places(outline: Outline, least: float) -> tuple[NarrowPlace, ...]:
    """Every two loops of an outline that come nearer than ``least`` mm, the nearest first."""
    loops = outline.loops
    return tuple(
        sorted(
            (NarrowPlace(distance, at) for _, _, distance, at in near(loops, loops, least)),
            key=lambda place: (place.distance, place.at.real, place.at.imag),
        )
    )


def near(ones: Sequence[Loop], others: Sequence[Loop], least: float) -> list[tuple[int, int, float, Point]]:
    """Pairs of loops nearer than ``least`` mm, by their places in the lists, with how near (mm) and the point midway.

    Of loops against themselves each pair is told once.
    """
    same = ones is others
    lines = _lines(ones)
    against = lines if same else _lines(others)
    first, second = shapely.STRtree(against).query(lines, predicate="dwithin", distance=least + 2 * _COARSE)
    if same:
        once = first < second
        first, second = first[once], second[once]
    found = []
    ends = shapely.get_coordinates(shapely.shortest_line(lines[first], against[second])).reshape(-1, 4)
    for a, b, (ax, ay, bx, by) in zip(first.tolist(), second.tolist(), ends.tolist(), strict=True):
        pairs = product(_at(ones[a], complex(ax, ay)), _at(others[b], complex(bx, by)))
        distance, at = closest(pairs)
        if distance < least - 1e-6:
            found.append((a, b, distance, at))
    return sorted(found, key=lambda one: one[:2])


def _at(loop: Loop, point: Point) -> list[Segment]:
    """The segments of a loop that pass by a point of its chords."""
    off = [abs(nearest(segment, point) - point) for segment in loop]
    within = min(off) + 2 * _COARSE
    return [segment for segment, far in zip(loop, off, strict=True) if far <= within]


def _lines(loops: Sequence[Loop]) -> Lines:
    return as_lines([loop.segments for loop in loops], _COARSE)
