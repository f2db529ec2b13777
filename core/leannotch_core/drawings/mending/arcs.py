"""Chords that stood for an arc become that arc again.

The rule: at least four chords in a row, whose corners lie within the tolerance of one circle, each of which turns by
no more than 40 degrees on from the one before and all the same way. So a regular octagon stays one, and what a
program wrote for an arc, in nine chords or more to the full turn, is an arc.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...geometry.segment import Arc, Line, Point, Segment, cross
from ..chains import Chain

#: Corners lie this close (mm) to the circle of the arc that they stood for, unless told otherwise.
WITHIN = 0.01

FEWEST = 4

#: Corners that lie this close (mm) to the straight line past them are none.
STRAIGHT = 2e-4

#: Radians by which a chord may turn on from the one before.
MOST_TURN = math.radians(40) + 1e-9


@dataclass(frozen=True, slots=True)
class Curved:
    """A chain with its arcs found: how many chords became how many arcs."""

    chain: Chain
    chords: int
    arcs: int


def with_arcs(chain: Chain, within: float = WITHIN) -> Curved:
    """The chain with chords that stood for arcs as arcs."""
    segments = straightened(list(chain.segments), chain.closed)
    if chain.closed:
        segments = _from_a_corner(segments)
    found: list[Segment] = []
    chords = arcs = at = 0
    while at < len(segments):
        count, circle = _longest(segments, at, within)
        if circle is None:
            found.append(segments[at])
            at += 1
            continue
        run = segments[at : at + count]
        made = _arcs(run, circle)
        found += made
        chords, arcs, at = chords + count, arcs + 1, at + count
    return Curved(Chain(tuple(found), chain.closed), chords, arcs)


def straightened(segments: list[Segment], closed: bool) -> list[Segment]:
    """Lines that go straight on from one another as one line: a cut through a mesh divides them at every triangle."""
    if closed:
        corner = next((i for i, s in enumerate(segments) if not _straight_on(segments[i - 1], s)), 0)
        segments = segments[corner:] + segments[:corner]
    found: list[Segment] = []
    over: list[Point] = []
    for segment in segments:
        before = found[-1] if found else None
        if before is not None and isinstance(before, Line) and _straight_on(before, segment):
            whole = before.between(before.start, segment.end)
            passed = [*over, segment.start]
            if all(abs(cross(whole.start_tangent, point - whole.start)) < STRAIGHT for point in passed):
                found[-1], over = whole, passed
                continue
        found.append(segment)
        over = []
    return found


def _straight_on(before: Segment, after: Segment) -> bool:
    both = isinstance(before, Line) and isinstance(after, Line)
    return both and abs(_turn(before, after)) * min(before.length, after.length) < STRAIGHT


def _from_a_corner(segments: list[Segment]) -> list[Segment]:
    """A closed run, begun where no arc can go on over its beginning, if there is such a place."""
    for index, segment in enumerate(segments):
        if not _goes_on(segments[index - 1], segment):
            return segments[index:] + segments[:index]
    # It turns evenly all the way round, but chords of one length end where they begin to be of another.
    for index, segment in enumerate(segments):
        if abs(segment.length - segments[index - 1].length) > 0.02 * segment.length:
            return segments[index:] + segments[:index]
    return segments


def _turn(before: Segment, after: Segment) -> float:
    return cmath.phase(after.start_tangent / before.end_tangent)


def _goes_on(before: Segment, after: Segment) -> bool:
    return isinstance(before, Line) and isinstance(after, Line) and 1e-9 < abs(_turn(before, after)) <= MOST_TURN


def _longest(segments: Sequence[Segment], at: int, within: float) -> tuple[int, tuple[Point, float] | None]:
    """How many chords from one on stand for one arc, with its centre and radius; None for none."""
    end = at + 1
    if not isinstance(segments[at], Line):
        return 0, None
    while end < len(segments) and _goes_on(segments[end - 1], segments[end]):
        if end > at + 1 and (_turn(segments[end - 1], segments[end]) > 0) != (
            _turn(segments[at], segments[at + 1]) > 0
        ):
            break
        end += 1
    while end - at >= FEWEST:
        circle = _circle(segments[at:end], within)
        if circle is not None:
            return end - at, circle
        # Fewer, until one circle holds them: by halves first, then one by one.
        end = at + _reach(segments, at, end, within)
    return 0, None


def _reach(segments: Sequence[Segment], at: int, end: int, within: float) -> int:
    """The longest run shorter than to ``end`` that lies on one circle, or less than `FEWEST`."""
    good, bad = FEWEST - 1, end - at
    while bad - good > 1:
        middle = (good + bad) // 2
        if _circle(segments[at : at + middle], within) is not None:
            good = middle
        else:
            bad = middle
    return good


def _circle(run: Sequence[Segment], within: float) -> tuple[Point, float] | None:
    """The circle on which the corners of a run lie, None where there is none, or where its chords say otherwise."""
    corners = [run[0].start, *(segment.end for segment in run)]
    third = len(corners) // 3
    a, b, c = (
        corners[0],
        corners[len(corners) // 2],
        corners[-1 if abs(corners[-1] - corners[0]) > within else -1 - third],
    )
    bend = cross(b - a, c - a)
    if abs(bend) < 1e-12:
        return None
    centre = a + 1j * ((c - a) * abs(b - a) ** 2 - (b - a) * abs(c - a) ** 2) / (-2 * bend)
    radius = abs(a - centre)
    if radius > 1e5 or any(abs(abs(corner - centre) - radius) > within for corner in corners):
        return None
    inner = [segment.length for segment in run[1:-1]]
    # Chords of an arc are all of one length but for the first and the last; the sides of a drawn polygon need not be.
    if (
        max(inner) > 1.25 * min(inner) + 4 * within
        or max(run[0].length, run[-1].length) > 1.25 * max(inner) + 4 * within
    ):
        return None
    # An arc that leaves its chords by more than a tenth of its radius was hardly meant.
    sagitta = radius - math.sqrt(max(0.0, radius**2 - (max(inner) / 2) ** 2))
    return (centre, radius) if sagitta <= radius / 10 else None


def _arcs(run: Sequence[Segment], circle: tuple[Point, float]) -> list[Segment]:
    """The arc of a run of chords, in halves where it is more than half a turn."""
    centre, radius = circle
    source, ccw = run[0].source, _turn(run[0], run[1]) > 0
    start, end = run[0].start, run[-1].end
    if abs(end - start) > 1e-9:
        whole = _arc(start, end, centre, ccw, run)
        if abs(whole.sweep) <= math.pi:
            return [whole]
    if abs(end - start) <= 1e-9:
        # All the way round: a circle, exactly.
        start = centre + radius * (start - centre) / abs(start - centre)
        opposite = 2 * centre - start
        return [Arc(start, opposite, centre, ccw, source), Arc(opposite, start, centre, ccw, source)]
    middle = run[len(run) // 2].start
    return [Arc(start, middle, centre, ccw, source), Arc(middle, end, centre, ccw, source)]


def _arc(start: Point, end: Point, centre: Point, ccw: bool, run: Sequence[Segment]) -> Arc:
    """The arc between two corners whose centre is as far from both: that of the circle, brought onto their bisector."""
    chord = end - start
    middle, normal = (start + end) / 2, 1j * chord / abs(chord)
    on = middle + normal * ((centre - middle) * normal.conjugate()).real
    return Arc(start, end, on, ccw, run[0].source)
