"""Lines and curves through points, open or closed."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal, Self

from pydantic import Field

from ...document.model import Model
from ...document.sizes import Size, typed_in
from ...document.sums import Unit
from ...geometry.biarc import bezier, open_through, pair_of_arcs, smooth_through
from ...geometry.loop import Loop, Outline
from ...geometry.segment import TOUCH, Line, Motion, Point, Segment, Source
from ...geometry.stroke import Knot
from .outline import Crossing, check_simple, joined_ends
from .shape import BaseHole, Pen

#: A stretch from one point to the next as a cubic Bezier curve.
Piece = tuple[Point, Point, Point, Point]


class PointAt(Model):
    """A point, from the zero of its shape; smooth where the line runs through it in a curve."""

    x: Size
    y: Size
    smooth: bool = False


class Points(BaseHole):
    """A line through points, straight where both ends of a stretch are corners; ``closed``, or open.

    ``half``: the points are one side of it, mirrored in the upright or level line through its zero.
    """

    kind: Literal["points"] = "points"
    points: list[PointAt] = Field(min_length=2, max_length=300)
    closed: bool = True
    half: Literal["whole", "right half", "upper half"] = "whole"

    @property
    def title(self) -> str:
        return "shape" if self.closed else "line"

    @property
    def lines(self) -> int:
        return sum(8 if point.smooth else 1 for point in self.points) * (1 if self.half == "whole" else 2)

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        places = ((-15, -10), (15, -10), (15, 10), (-15, 10))
        return cls(points=[PointAt(x=typed_in(unit, x), y=typed_in(unit, y)) for x, y in places])

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        knots = self._knots(pen)
        if knots is None or not self.closed:
            return None if knots is None else ()
        if len(knots) < 3:
            pen.error("crosses-itself", f"{len(knots)} points enclose nothing; add a third, or leave it open", "points")
            return None
        try:
            return (Outline(closed_line(self._segments(pen, knots, smooth_through(knots)))),)
        except Crossing as error:
            pen.error("crosses-itself", str(error), "points")
            return None

    def open_lines(self, pen: Pen) -> tuple[tuple[Segment, ...], ...] | None:
        if self.closed:
            return ()
        knots = self._knots(pen)
        if knots is None:
            return None
        if len(knots) < 2:
            pen.error("crosses-itself", "all its points lie on one another; move one", "points")
            return None
        return (tuple(self._segments(pen, knots, open_through(knots))),)

    def through(self, pen: Pen) -> list[Knot]:
        return self._read(pen) or []

    def _knots(self, pen: Pen) -> list[Knot] | None:
        """The points with whether they are corners, the mirrored ones included, none on the one before it."""
        read = self._read(pen)
        if read is None:
            return None
        if self.half != "whole":
            read += [(self._over(point), corner) for point, corner in reversed(read)]
        kept = [knot for at, knot in enumerate(read) if at == 0 or abs(knot[0] - read[at - 1][0]) > TOUCH]
        return kept[:-1] if self.closed and len(kept) > 1 and abs(kept[0][0] - kept[-1][0]) <= TOUCH else kept

    def _read(self, pen: Pen) -> list[Knot] | None:
        read: list[Knot] = []
        for at, point in enumerate(self.points):
            x = pen.read(f"points/{at}/x", point.x, called=f"point {at + 1} across")
            y = pen.read(f"points/{at}/y", point.y, called=f"point {at + 1} up")
            if x is None or y is None:
                return None
            read.append((complex(x, y), not point.smooth))
        return read

    @property
    def _mirror(self) -> Motion:
        return Motion(-1 if self.half == "right half" else 1, 0, mirrored=True)

    def _over(self, point: Point) -> Point:
        return self._mirror(point)

    def _segments(self, pen: Pen, knots: list[Knot], pieces: list[Piece]) -> list[Segment]:
        """The stretches from knot to knot; of two that are each other's mirror image, one is that of the other."""
        ends = [*knots[1:], knots[0]][: len(pieces)]
        drawn: list[list[Segment]] = []
        known: dict[tuple[Point, Point], list[Segment]] = {}
        for number, (begin, end, piece) in enumerate(zip(knots, ends, pieces, strict=False), 1):
            source = Source(pen.name, f"side {number}")
            other = known.get((self._over(end[0]), self._over(begin[0]))) if self.half != "whole" else None
            if other:
                stretch = [_named(segment.moved(self._mirror).reversed(), source) for segment in reversed(other)]
            else:
                stretch = _stretch(piece, begin[1] and end[1], source)
            known[begin[0], end[0]] = stretch
            drawn.append(stretch)
        return [segment for stretch in drawn for segment in stretch]


def drawn_through(shape: str, knots: list[Knot], closed: bool) -> tuple[Segment, ...]:
    """The line through points (mm) as lines and arcs, whether or not it crosses itself."""
    pieces = smooth_through(knots) if closed else open_through(knots)
    ends = [*knots[1:], knots[0]][: len(pieces)]
    source = Source(shape, "line")
    stretches = (_stretch(p, a[1] and b[1], source) for p, a, b in zip(pieces, knots, ends, strict=False))
    return tuple(segment for stretch in stretches for segment in stretch)


def _stretch(piece: Piece, straight: bool, source: Source) -> list[Segment]:
    if straight:
        return [Line(piece[0], piece[3], source)]
    # Two arcs from point to point: few lines for the machine, and smooth all the same.
    return pair_of_arcs(bezier(*piece), 0.0, 1.0, source)


def _named(segment: Segment, source: Source) -> Segment:
    return replace(segment, source=source)


def closed_line(segments: list[Segment]) -> Loop:
    """Stretches that follow one another as a loop, counter-clockwise. Raises `Crossing`."""
    loop = Loop(joined_ends(segments))
    check_simple(loop)
    return loop if loop.area > 0 else loop.reversed()
