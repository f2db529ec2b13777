"""What goes along a boundary to make another beside it: something round, or an oval that is wider one way."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass

from .biarc import arcs_along
from .segment import TOUCH, Arc, Line, Point, Segment, Source, dot

#: What an oval leaves and the arcs that stand for it differ by at most this (mm).
FINE = 0.0005


@dataclass(frozen=True, slots=True)
class Round:
    """Something round of a radius (mm); a negative one goes along the inside."""

    radius: float

    @property
    def outside(self) -> bool:
        return self.radius > 0

    @property
    def least(self) -> float:
        """How far (mm) its edge is from its middle where that is nearest."""
        return abs(self.radius) - 1e-6

    def reach(self, normal: Point) -> Point:
        """From its middle to where its edge is furthest along a direction of length 1."""
        return self.radius * normal

    def tip(self, out: Point, into: Point) -> Point:
        """From a corner to where the edges beside its two sides meet: on its bisector."""
        return -1j * self.radius * (out + into) / (1 + dot(out, into))

    def turns(self, arc: Arc) -> bool:
        """Whether what it leaves beside an arc is turned inside out."""
        return arc.radius + (self.radius if arc.ccw else -self.radius) < 0

    def beside(self, arc: Arc) -> list[Segment]:
        """What it leaves beside an arc. Past its own centre that is turned inside out; its winding is negative there,
        and it falls away.
        """
        radius = arc.radius + (self.radius if arc.ccw else -self.radius)
        if abs(radius) <= TOUCH:
            return []
        start, end = (point - 1j * self.radius * way for point, way in _ends(arc))
        return [Arc(start, end, arc.centre, arc.ccw, arc.source)]

    def about(self, vertex: Point, out: Point, into: Point, source: Source) -> list[Segment]:
        """What it leaves as it rolls round a corner."""
        start, end = (vertex + self.reach(-1j * way) for way in (out, into))
        return [Arc(start, end, vertex, self.outside, source)]


@dataclass(frozen=True, slots=True)
class Oval:
    """An oval (an ellipse) with its half axes (mm), the first of them ``turn`` degrees from x."""

    x: float
    y: float
    turn: float = 0.0

    outside = True

    @property
    def least(self) -> float:
        """How far (mm) its edge is from its middle where that is nearest."""
        return min(self.x, self.y) - FINE

    @property
    def axis(self) -> Point:
        return cmath.rect(1.0, math.radians(self.turn))

    def reach(self, normal: Point) -> Point:
        """From its middle to where its edge is furthest along a direction of length 1.

        >>> round(abs(Oval(0.1, 0.2).reach(1j)), 6)
        0.2
        """
        own = normal * self.axis.conjugate()
        far = math.hypot(self.x * own.real, self.y * own.imag)
        return complex(self.x**2 * own.real, self.y**2 * own.imag) / far * self.axis

    def tip(self, out: Point, into: Point) -> Point:
        """From a corner to where the edges beside its two sides meet."""
        normal, start = -1j * into, self.reach(-1j * out)
        return start + out * dot(self.reach(normal) - start, normal) / dot(out, normal)

    def turns(self, arc: Arc) -> bool:
        """Whether what it leaves beside an arc is, anywhere, turned inside out: where it is rounder than the oval."""
        return not arc.ccw and arc.radius < max(self.x**2 / self.y, self.y**2 / self.x)

    def beside(self, arc: Arc) -> list[Segment]:
        """What it leaves beside an arc, as arcs; straight across where that turns inside out, so that it falls away."""
        if self.turns(arc):
            start, end = (point + self.reach(-1j * way) for point, way in _ends(arc))
            return [Line(start, end, arc.source)] if abs(end - start) > TOUCH else []
        begin = cmath.phase(arc.start - arc.centre)
        return self._along(arc.centre, arc.radius, 1 if arc.ccw else -1, begin, begin + arc.sweep, arc.source)

    def about(self, vertex: Point, out: Point, into: Point, source: Source) -> list[Segment]:
        """What it leaves as it rolls round a corner."""
        begin = cmath.phase(-1j * out)
        return self._along(vertex, 0.0, 1, begin, begin + cmath.phase(into / out) % math.tau, source)

    def _along(
        self, centre: Point, radius: float, side: int, begin: float, end: float, source: Source
    ) -> list[Segment]:
        def left(angle: float) -> tuple[Point, complex]:
            out = cmath.rect(1.0, angle)
            return centre + radius * out + self.reach(side * out), 1j * out

        return arcs_along(left, begin, end, source, FINE)


def _ends(arc: Arc) -> tuple[tuple[Point, Point], tuple[Point, Point]]:
    return (arc.start, arc.start_tangent), (arc.end, arc.end_tangent)
