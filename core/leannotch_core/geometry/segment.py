"""The two segments that every outline is made of: the straight line and the circular arc.

Points are complex numbers in millimetres. ``abs(b - a)`` is a distance, ``p * 1j`` a left turn.
"""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from typing import NamedTuple

Point = complex

#: Two points closer than this (mm) are one point.
TOUCH = 1e-7


class Source(NamedTuple):
    """Where a segment came from: the shape that was drawn, and which side of it."""

    shape: str
    side: str


@dataclass(frozen=True, slots=True)
class Motion:
    """A rigid move, with an optional mirror first: ``z -> turn * z + shift`` (``turn`` has length 1)."""

    turn: complex = 1
    shift: complex = 0
    mirrored: bool = False

    def __call__(self, point: Point) -> Point:
        return self.turn * (point.conjugate() if self.mirrored else point) + self.shift

    def then(self, after: Motion) -> Motion:
        """This move, and another one after it."""
        turn = after.turn * (self.turn.conjugate() if after.mirrored else self.turn)
        return Motion(turn, after(self.shift), self.mirrored != after.mirrored)

    @property
    def back(self) -> Motion:
        """The move that undoes this one."""
        turn = self.turn if self.mirrored else self.turn.conjugate()
        return Motion(turn, -turn * (self.shift.conjugate() if self.mirrored else self.shift), self.mirrored)


def move(angle: float = 0.0, shift: complex = 0) -> Motion:
    """Turn counter-clockwise about the origin by ``angle`` degrees, then shift.

    Quarter turns are exact, so that a part turned by 90 degrees keeps its numbers.

    >>> move(90, shift=10 + 0j)(5 + 0j)
    (10+5j)
    >>> move(90).then(move(-90))(3 + 4j)
    (3+4j)
    """
    quarters, rest = divmod(angle, 90.0)
    turn = 1j ** (int(quarters) % 4) * (cmath.rect(1.0, math.radians(rest)) if rest else 1)
    return Motion(turn=turn, shift=shift)


@dataclass(frozen=True, slots=True)
class Line:
    """A straight segment from ``start`` to ``end``."""

    start: Point
    end: Point
    source: Source

    @property
    def length(self) -> float:
        return abs(self.end - self.start)

    @property
    def start_tangent(self) -> complex:
        """Unit direction of travel at the start."""
        return (self.end - self.start) / self.length

    @property
    def end_tangent(self) -> complex:
        return self.start_tangent

    def at(self, share: float) -> Point:
        """The point at ``share`` (0 to 1) of the length."""
        return self.start + (self.end - self.start) * share

    def share_of(self, point: Point) -> float:
        """How far along the segment the nearest point of its infinite line lies: 0 start, 1 end."""
        along = self.end - self.start
        return ((point - self.start) * along.conjugate()).real / abs(along) ** 2

    def between(self, start: Point, end: Point) -> Line:
        """The same line with other ends."""
        return Line(start, end, self.source)

    def reversed(self) -> Line:
        return Line(self.end, self.start, self.source)

    def moved(self, motion: Motion) -> Line:
        return Line(motion(self.start), motion(self.end), self.source)

    def bounds(self) -> tuple[float, float, float, float]:
        """``(left, bottom, right, top)`` in mm."""
        a, b = self.start, self.end
        return min(a.real, b.real), min(a.imag, b.imag), max(a.real, b.real), max(a.imag, b.imag)

    def green(self) -> float:
        """The segment's share of its loop's area (Green's theorem), mm²."""
        return (self.start.conjugate() * self.end).imag / 2


@dataclass(frozen=True, slots=True)
class Arc:
    """A circular arc about ``centre``, counter-clockwise or clockwise; always less than a full turn."""

    start: Point
    end: Point
    centre: Point
    ccw: bool
    source: Source

    @property
    def radius(self) -> float:
        return abs(self.start - self.centre)

    @property
    def sweep(self) -> float:
        """Signed angle in radians, positive counter-clockwise, never zero."""
        angle = cmath.phase((self.end - self.centre) / (self.start - self.centre))
        if self.ccw:
            return angle if angle > 0 else angle + math.tau
        return angle if angle < 0 else angle - math.tau

    @property
    def length(self) -> float:
        return abs(self.sweep) * self.radius

    @property
    def bulge(self) -> float:
        """Tangent of a quarter of the sweep, as the DXF reference defines it for LWPOLYLINE."""
        return math.tan(self.sweep / 4)

    def _tangent(self, point: Point) -> complex:
        spoke = (point - self.centre) * (1j if self.ccw else -1j)
        return spoke / abs(spoke)

    @property
    def start_tangent(self) -> complex:
        return self._tangent(self.start)

    @property
    def end_tangent(self) -> complex:
        return self._tangent(self.end)

    def at(self, share: float) -> Point:
        return self.centre + (self.start - self.centre) * cmath.rect(1.0, self.sweep * share)

    def share_of(self, point: Point) -> float:
        """How far round the arc the ray from the centre to ``point`` lies; past the end it is over 1."""
        angle = cmath.phase((point - self.centre) / (self.start - self.centre))
        sweep = self.sweep
        if sweep > 0 and angle < -1e-12:
            angle += math.tau
        elif sweep < 0 and angle > 1e-12:
            angle -= math.tau
        return angle / sweep

    def between(self, start: Point, end: Point) -> Arc:
        """The same circle with other ends."""
        return Arc(start, end, self.centre, self.ccw, self.source)

    def reversed(self) -> Arc:
        return Arc(self.end, self.start, self.centre, not self.ccw, self.source)

    def moved(self, motion: Motion) -> Arc:
        ccw = self.ccw != motion.mirrored
        return Arc(motion(self.start), motion(self.end), motion(self.centre), ccw, self.source)

    def bounds(self) -> tuple[float, float, float, float]:
        points = [self.start, self.end]
        first = self.start if self.ccw else self.end
        begin, sweep, radius = cmath.phase(first - self.centre), abs(self.sweep), self.radius
        for quarter, spoke in ((0.0, 1), (math.pi / 2, 1j), (math.pi, -1), (-math.pi / 2, -1j)):
            if 0 < (quarter - begin) % math.tau < sweep:
                points.append(self.centre + radius * spoke)
        xs, ys = [p.real for p in points], [p.imag for p in points]
        return min(xs), min(ys), max(xs), max(ys)

    def green(self) -> float:
        chord = (self.start.conjugate() * self.end).imag / 2
        sweep = self.sweep
        return chord + self.radius**2 * (sweep - math.sin(sweep)) / 2


Segment = Line | Arc


def cross(a: complex, b: complex) -> float:
    """Area of the parallelogram of two vectors; positive where ``b`` lies to the left of ``a``."""
    return (a.conjugate() * b).imag


def dot(a: complex, b: complex) -> float:
    """The dot product of two vectors."""
    return (a.conjugate() * b).real


def arc_from_bulge(start: Point, end: Point, bulge: float, source: Source) -> Segment:
    """The segment between two polyline vertices of a DXF file; a bulge of 0 is a straight line."""
    if abs(bulge) < 1e-9:
        return Line(start, end, source)
    centre = (start + end) / 2 + (end - start) * 1j * (1 - bulge * bulge) / (4 * bulge)
    return Arc(start, end, centre, bulge > 0, source)
