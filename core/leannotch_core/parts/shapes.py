"""The shapes that a maker draws, as loops of lines and arcs in mm; each is centred or based as it says."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from ..document import Side
from ..geometry.biarc import arcs_along, bezier, bezier_bounds, smooth_through
from ..geometry.biarc import ellipse as ellipse_curve
from ..geometry.chords import as_line
from ..geometry.loop import Loop, circle, polygon
from ..geometry.segment import Arc, Line, Point, Segment, Source, arc_from_bulge

#: Corner names in counter-clockwise order, and the side that runs from each to the next.
CORNERS = ("bottom left", "bottom right", "top right", "top left")
SIDES: tuple[Side, ...] = ("bottom", "right", "top", "left")


#: An outline whose two ways are stretched so nearly alike that no point is off by this much (mm) keeps its arcs.
ALIKE = 0.0005


@dataclass(frozen=True, slots=True)
class CornerSize:
    """A corner taken off: ``size`` is the radius of a round, or the leg of a chamfer.

    A chamfer with another leg ``up`` takes ``size`` of the side that lies and ``up`` of the one that stands.
    """

    kind: Literal["round", "chamfer"]
    size: float
    up: float | None = None

    def leg(self, side: int) -> float:
        """What is taken of a side, by its place in `SIDES`."""
        return self.size if side % 2 == 0 or self.up is None else self.up


class TooLarge(ValueError):  # noqa: N818 - the corner is too large
    """A corner larger than the part takes."""

    def __init__(self, corner: str, size: float, largest: float) -> None:
        super().__init__(f"the {corner} corner of {size:g} mm is too large; the largest that fits is {largest:g} mm")
        self.corner, self.largest = corner, largest


def rectangle(
    shape: str, width: float, height: float, corners: Mapping[str, CornerSize] | None = None, base: Point = 0
) -> Loop:
    """A rectangle with its lower left corner at ``base``; sides are sources ``bottom``, ``right``, ``top``, ``left``.

    Raises `TooLarge` where two corners need more than the side between them has.
    """
    corners = corners or {}
    vertices = [base, base + width, base + width + 1j * height, base + 1j * height]
    if not corners:
        return polygon(vertices, [Source(shape, side) for side in SIDES])
    _check_corners(corners, width, height)
    segments: list[Segment] = []
    for index, (corner, vertex) in enumerate(zip(CORNERS, vertices, strict=True)):
        cut = corners.get(corner)
        if cut:
            segments.append(_corner(cut, vertex, index, Source(shape, f"{corner} corner")))
        end = vertices[(index + 1) % 4]
        following = corners.get(CORNERS[(index + 1) % 4])
        along = 1j**index
        start = vertex + along * (cut.leg(index) if cut else 0)
        stop = end - along * (following.leg(index) if following else 0)
        if abs(stop - start) > 1e-9:
            segments.append(Line(start, stop, Source(shape, SIDES[index])))
    return Loop(_joined_ends(segments))


def _corner(cut: CornerSize, vertex: Point, side: int, source: Source) -> Segment:
    """The corner between ``side`` and the one before it, by their place in `SIDES`."""
    along = 1j**side
    start, end = vertex + along * 1j * cut.leg(side + 1), vertex + along * cut.leg(side)
    if cut.kind == "chamfer":
        return Line(start, end, source)
    return Arc(start, end, vertex + along * (1 + 1j) * cut.size, True, source)


def _joined_ends(segments: list[Segment]) -> tuple[Segment, ...]:
    return tuple(s.between(segments[i - 1].end, s.end) for i, s in enumerate(segments))


def _check_corners(corners: Mapping[str, CornerSize], width: float, height: float) -> None:
    for index in range(4):
        side = width if index % 2 == 0 else height
        here, onward = CORNERS[index], CORNERS[(index + 1) % 4]
        legs = {corner: cut.leg(index) for corner in (here, onward) if (cut := corners.get(corner))}
        if sum(legs.values()) <= side + 1e-9:
            continue
        larger = max(legs, key=lambda corner: legs[corner])
        other = sum(legs.values()) - legs[larger]
        raise TooLarge(larger, legs[larger], side / 2 if other >= side / 2 else side - other)


def round_hole(shape: str, diameter: float) -> Loop:
    """A circle about the origin."""
    return circle(0, diameter / 2, Source(shape, "wall"))


def rectangular_hole(shape: str, width: float, height: float, radius: float) -> Loop:
    """A rectangle about the origin with all corners rounded by ``radius``. Raises `TooLarge`."""
    corners = {corner: CornerSize("round", radius) for corner in CORNERS} if radius > 0 else {}
    return rectangle(shape, width, height, corners, base=complex(-width / 2, -height / 2))


def obround(shape: str, width: float, height: float) -> Loop:
    """A slot about the origin with round ends on its short sides; a circle when both sizes are equal."""
    if abs(width - height) < 1e-9:
        return round_hole(shape, width)
    return rectangular_hole(shape, width, height, min(width, height) / 2)


def ellipse(shape: str, width: float, height: float) -> Loop:
    """An ellipse about the origin, in arcs; a circle when both sizes are equal."""
    if abs(width - height) < 1e-9:
        return round_hole(shape, width)
    curve = ellipse_curve(0, width / 2, 1j * height / 2)
    quarters = [math.tau * quarter / 4 for quarter in range(5)]
    source = Source(shape, "wall")
    arcs = [arc for begin, end in pairwise(quarters) for arc in arcs_along(curve, begin, end, source)]
    return Loop(_joined_ends(arcs))


class Crossing(ValueError):  # noqa: N818 - the outline is crossing itself
    """A drawn outline that crosses itself; the message tells where, in mm from its middle."""


def closed_curve(shape: str, width: float, height: float, knots: Sequence[tuple[Point, bool]]) -> Loop:
    """A closed curve through ``knots`` about the origin, stretched to fill ``width`` x ``height`` mm.

    Knots are points in shares of width and height, with whether they are corners. Raises `Crossing`.
    """
    pieces, placed = _stretched(width, height, knots)
    source = Source(shape, "wall")
    segments: list[Segment] = []
    for piece, (_, corner), (_, onward_corner) in zip(pieces, knots, [*knots[1:], knots[0]], strict=True):
        a, b, c, d = map(placed, piece)
        straight = corner and onward_corner
        segments += [Line(a, d, source)] if straight else arcs_along(bezier(a, b, c, d), 0.0, 1.0, source)
    loop = Loop(_joined_ends(segments))
    _check_simple(loop)
    return loop if loop.area > 0 else loop.reversed()


def knot_places(width: float, height: float, knots: Sequence[tuple[Point, bool]]) -> list[Point]:
    """Where the knots of a `closed_curve` come to lie about the origin. Raises `Crossing`."""
    _, placed = _stretched(width, height, knots)
    return [placed(complex(knot.real * width, knot.imag * height)) for knot, _ in knots]


def _stretched(
    width: float, height: float, knots: Sequence[tuple[Point, bool]]
) -> tuple[list[tuple[Point, Point, Point, Point]], Callable[[Point], Point]]:
    """Bezier pieces through the knots at about their true size, and the stretch that makes them fill it exactly."""
    pieces = smooth_through([(complex(p.real * width, p.imag * height), corner) for p, corner in knots])
    left, bottom, right, top = bezier_bounds(pieces)
    if right - left < 1e-9 or top - bottom < 1e-9:
        raise Crossing("all its points lie on one line")
    middle = complex(left + right, bottom + top) / 2
    x, y = width / (right - left), height / (top - bottom)
    return pieces, lambda point: complex((point - middle).real * x, (point - middle).imag * y)


def brought(shape: str, width: float, height: float, rings: Sequence[Sequence[tuple[Point, float]]]) -> list[Loop]:
    """An outline that was drawn elsewhere, about the origin and stretched to fill ``width`` x ``height`` mm.

    Rings are vertices with the bulge of the segment that begins there; the first is the outer one and comes out
    counter-clockwise. Arcs stay arcs where both ways are stretched alike. Raises `Crossing`.
    """
    source = Source(shape, "wall")
    drawn = [_ring(ring, source) for ring in rings]
    left, bottom, right, top = drawn[0].bounds
    if right - left < 1e-6 or top - bottom < 1e-6:
        raise Crossing("all its points lie on one line")
    middle, x, y = complex(left + right, bottom + top) / 2, width / (right - left), height / (top - bottom)
    if abs(x - y) * max(right - left, top - bottom) < ALIKE:
        x = y = (x + y) / 2
    loops = [Loop(_joined_ends([s for segment in loop for s in _stretch(segment, middle, x, y)])) for loop in drawn]
    for loop in loops:
        _check_simple(loop)
    return [loop if loop.area > 0 else loop.reversed() for loop in loops]


def _ring(ring: Sequence[tuple[Point, float]], source: Source) -> Loop:
    ends = [point for point, _ in (*ring[1:], ring[0])]
    pairs = [(start, end, bulge) for (start, bulge), end in zip(ring, ends, strict=True) if abs(end - start) > 1e-9]
    if not pairs:
        raise Crossing("all its points lie on one another")
    return Loop(tuple(arc_from_bulge(start, end, bulge, source) for start, end, bulge in pairs))


def _stretch(segment: Segment, middle: Point, x: float, y: float) -> list[Segment]:
    """A segment stretched about ``middle``, which goes to the origin."""

    def placed(point: Point) -> Point:
        return complex((point - middle).real * x, (point - middle).imag * y)

    start, end = placed(segment.start), placed(segment.end)
    if isinstance(segment, Line):
        return [Line(start, end, segment.source)]
    centre = placed(segment.centre)
    if x == y:
        return [Arc(start, end, centre, segment.ccw, segment.source)]
    curve = ellipse_curve(centre, segment.radius * x, 1j * segment.radius * y)
    begin = cmath.phase(segment.start - segment.centre)
    return arcs_along(curve, begin, begin + segment.sweep, segment.source)


def _check_simple(loop: Loop) -> None:
    line = as_line(loop.segments, 0.01)
    if not line.is_simple:
        raise Crossing("its outline crosses itself; move a point so that it runs round once")
