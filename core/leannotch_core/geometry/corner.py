"""Corners of loops rounded and chamfered, between lines and arcs alike."""

from __future__ import annotations

import math

from ..said import Said
from .loop import Loop
from .measure import nearest
from .meet import carriers_meet
from .segment import TOUCH, Arc, Line, Point, Segment, Source, cross

#: Tangents closer than this (sine of the angle) run on smoothly: there is no corner to take off.
SMOOTH = 1e-4


class CornerTooLarge(Said):
    """A round or chamfer that the sides beside a corner have no room for; ``largest`` (mm) is what fits."""

    def __init__(self, size: float, largest: float) -> None:
        super().__init__(f"{size:g} mm is too large; the largest that fits is {largest:g} mm")
        self.largest = largest


def is_corner(loop: Loop, at: int) -> bool:
    """Whether the loop turns sharply where its segment ``at`` begins."""
    before, after = loop.segments[at - 1], loop.segments[at]
    into, out = before.end_tangent, after.start_tangent
    return abs(cross(into, out)) > SMOOTH or (into * out.conjugate()).real < 0


def rounded(loop: Loop, at: int, radius: float, source: Source) -> Loop:
    """The loop with the corner where its segment ``at`` begins rounded by an arc that is tangent to both sides.

    Raises `CornerTooLarge`.
    """
    before, after = loop.segments[at - 1], loop.segments[at]
    found = _tangent_arc(before, after, radius, source)
    if found is None:
        raise CornerTooLarge(radius, _largest(before, after, radius))
    return _with(loop, at, found)


def chamfered(loop: Loop, at: int, before_leg: float, after_leg: float, source: Source) -> Loop:
    """The loop with the corner where its segment ``at`` begins cut off, ``leg`` mm along either side.

    Raises `CornerTooLarge`.
    """
    before, after = loop.segments[at - 1], loop.segments[at]
    for leg, side in ((before_leg, before), (after_leg, after)):
        if leg > side.length + TOUCH:
            raise CornerTooLarge(leg, _floor(side.length))
    start, end = before.at(1 - before_leg / before.length), after.at(after_leg / after.length)
    return _with(loop, at, Line(start, end, source))


def _with(loop: Loop, at: int, corner: Segment) -> Loop:
    """The loop with a segment in place of a corner; sides that it takes whole go."""
    segments = list(loop.segments)
    before, after = at - 1 if at else len(segments) - 1, at
    segments[before] = segments[before].between(segments[before].start, corner.start)
    segments[after] = segments[after].between(corner.end, segments[after].end)
    segments.insert(at if at else len(segments), corner)
    kept = [s for s in segments if abs(s.end - s.start) > TOUCH]
    return Loop(tuple(s.between(kept[i - 1].end, s.end) for i, s in enumerate(kept)))


def _tangent_arc(before: Segment, after: Segment, radius: float, source: Source) -> Arc | None:
    left = cross(before.end_tangent, after.start_tangent) > 0
    vertex = before.end
    first, second = _beside(before, radius, left), _beside(after, radius, left)
    if first is None or second is None:
        return None
    for centre in sorted(_met(first, second), key=lambda point: abs(point - vertex)):
        start, end = nearest(before, centre), nearest(after, centre)
        fits = all(
            abs(abs(foot - centre) - radius) < 1e-7 and abs(_off(side, foot, centre)) < 1e-6
            for side, foot in ((before, start), (after, end))
        )
        if fits and abs(end - start) > TOUCH:
            return Arc(start, end, centre, left, source)
    return None


def _off(side: Segment, foot: Point, centre: Point) -> float:
    """How far from square to a side the way from its point ``foot`` to ``centre`` runs, as a cosine."""
    share = min(1.0, max(0.0, side.share_of(foot)))
    tangent = side.start_tangent if share < 1e-9 else side.between(side.start, side.at(share)).end_tangent
    spoke = (centre - foot) / abs(centre - foot)
    return (tangent.conjugate() * spoke).real


#: What lies beside a side at a distance: a line by two points, or a circle by centre and radius.
_Beside = tuple[Point, Point] | tuple[Point, float]


def _beside(side: Segment, radius: float, left: bool) -> _Beside | None:
    if isinstance(side, Line):
        by = side.start_tangent * (1j if left else -1j) * radius
        return side.start + by, side.end + by
    reach = side.radius - radius if side.ccw == left else side.radius + radius
    return (side.centre, reach) if reach > TOUCH else None


def _met(a: _Beside, b: _Beside) -> list[Point]:
    source = Source("corner", "beside")
    one, other = (
        Line(complex(x[0]), x[1], source)
        if isinstance(x[1], complex)
        else Arc(x[0] + x[1], x[0] - x[1], x[0], True, source)
        for x in (a, b)
    )
    return carriers_meet(one, other)


def _largest(before: Segment, after: Segment, too_large: float) -> float:
    low, high = 0.0, too_large
    for _ in range(40):
        middle = (low + high) / 2
        fits = _tangent_arc(before, after, middle, before.source) is not None
        low, high = (middle, high) if fits else (low, middle)
    return _floor(low + 1e-6)


def _floor(size: float) -> float:
    """A size that fits, to a hundredth: what is less than a millionth short of one is that."""
    return max(0.0, math.floor((size + 1e-6) * 100) / 100)
