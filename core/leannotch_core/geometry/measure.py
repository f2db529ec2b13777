"""Exact measures of outlines: centroid, and the distance between segments, arcs included."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from functools import partial
from itertools import product

from ..remembered import Remembered
from .loop import Loop, Outline
from .meet import meeting_points
from .segment import Arc, Line, Point, Segment


def centroid(outline: Outline) -> Point:
    """The point (mm) at which a part of even thickness balances.

    The polygon of the ends by its moments; each arc adds its circular segment, whose centroid lies
    ``4 r sin^3(a/2) / (3 (a - sin a))`` from the centre (handbook formula, from memory).
    """
    moments = [_MOMENTS.of(loop, (), partial(_moments, loop)) for loop in outline.loops]
    return sum(moment for _, moment in moments) / sum(area for area, _ in moments)


#: Most loops of a part stay as they are from one edit to the next.
_MOMENTS = Remembered[tuple[float, Point]]()


def _moments(loop: Loop) -> tuple[float, Point]:
    """The area (mm²) of a loop, and its first moment (mm³)."""
    area, moment = 0.0, 0j
    for segment in loop:
        cross = (segment.start.conjugate() * segment.end).imag
        area += cross / 2
        moment += (segment.start + segment.end) * cross / 6
        if isinstance(segment, Arc):
            bow, middle = _circular_segment(segment)
            area += bow
            moment += middle * bow
    return area, moment


def _circular_segment(arc: Arc) -> tuple[float, Point]:
    """Signed area between an arc and its chord, and its centroid."""
    sweep = arc.sweep
    angle, sign = abs(sweep), math.copysign(1.0, sweep)
    whole = angle - math.sin(angle)
    if whole < 1e-12:
        return 0.0, arc.at(0.5)
    out = (arc.at(0.5) - arc.centre) / arc.radius
    reach = 4 * arc.radius * math.sin(angle / 2) ** 3 / (3 * whole)
    return sign * arc.radius**2 / 2 * whole, arc.centre + out * reach


def gap(a: Segment, b: Segment) -> tuple[float, Point, Point]:
    """Shortest distance (mm) between two segments, with the nearest point of each; 0 where they meet."""
    met = meeting_points(a, b)
    if met:
        return 0.0, met[0], met[0]
    pairs = [(end, nearest(b, end)) for end in (a.start, a.end)]
    pairs += [(nearest(a, end), end) for end in (b.start, b.end)]
    pairs += _square_to_both(a, b)
    first, second = min(pairs, key=lambda pair: abs(pair[1] - pair[0]))
    return abs(second - first), first, second


def distance(a: Outline, b: Outline) -> float:
    """Shortest distance (mm) between the edges of two outlines."""
    return min(gap(s, t)[0] for one, other in product(a.loops, b.loops) for s, t in near_segments(one, other, math.inf))


def near_segments(a: Loop, b: Loop, within: float) -> Iterator[tuple[Segment, Segment]]:
    """Pairs of segments whose boxes lie at most ``within`` mm apart."""
    boxes = [(segment, segment.bounds()) for segment in b]
    for segment in a:
        left, bottom, right, top = segment.bounds()
        for other, (low_x, low_y, high_x, high_y) in boxes:
            across = left - high_x <= within and low_x - right <= within
            if across and bottom - high_y <= within and low_y - top <= within:
                yield segment, other


def closest(pairs: Iterable[tuple[Segment, Segment]]) -> tuple[float, Point]:
    """The shortest distance among ``pairs`` and the point midway."""
    distance, a, b = min((gap(s, t) for s, t in pairs), key=lambda found: found[0])
    return distance, (a + b) / 2


def nearest(segment: Segment, point: Point) -> Point:
    """The point of a segment that is nearest to ``point``."""
    if isinstance(segment, Line):
        return segment.at(min(1.0, max(0.0, segment.share_of(point))))
    if abs(point - segment.centre) < 1e-12 or 0 <= segment.share_of(point) <= 1:
        return _on_circle(segment, point)
    return min((segment.start, segment.end), key=lambda end: abs(end - point))


def _on_circle(arc: Arc, towards: Point) -> Point:
    spoke = towards - arc.centre
    return arc.centre + spoke / abs(spoke) * arc.radius if abs(spoke) > 1e-12 else arc.start


def _square_to_both(a: Segment, b: Segment) -> list[tuple[Point, Point]]:
    """Nearest points away from all ends: on the line through a centre that is square to both."""
    if isinstance(a, Line) and isinstance(b, Line):
        return []
    if isinstance(a, Line):
        return [(second, first) for first, second in _square_to_both(b, a)]
    other = b.centre if isinstance(b, Arc) else b.at(b.share_of(a.centre))
    spoke = other - a.centre
    if abs(spoke) < 1e-12:
        return []
    found = []
    for first in (a.centre + spoke / abs(spoke) * a.radius, a.centre - spoke / abs(spoke) * a.radius):
        if 0 <= a.share_of(first) <= 1:
            found.append((first, nearest(b, first)))
    return found
