"""Curves that are neither lines nor arcs become arcs: biarcs within a stated tolerance."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable

from .segment import Arc, Line, Point, Segment, Source, cross, dot

#: A curve and its arcs differ by at most this (mm) unless told otherwise.
TOLERANCE = 0.005

#: A point and a direction of travel for a parameter.
Curve = Callable[[float], tuple[Point, complex]]


def arcs_along(curve: Curve, begin: float, end: float, source: Source, tolerance: float = TOLERANCE) -> list[Segment]:
    """Tangent-continuous arcs within ``tolerance`` mm of ``curve`` between two parameters.

    ``curve`` gives a point (mm) and any vector along the direction of travel there.
    """
    found: list[Segment] = []
    _divide(curve, begin, end, source, tolerance, found, depth=0)
    return found


def _divide(
    curve: Curve, begin: float, end: float, source: Source, tolerance: float, found: list[Segment], depth: int
) -> None:
    (a, out), (b, into) = curve(begin), curve(end)
    if abs(b - a) < 1e-9 and depth > 2:
        return
    pair = biarc(a, _unit(out, b - a), b, _unit(into, b - a), source)
    if depth >= 16 or (depth > 0 and _within(curve, begin, end, pair, tolerance)):
        found.extend(pair)
        return
    middle = (begin + end) / 2
    _divide(curve, begin, middle, source, tolerance, found, depth + 1)
    _divide(curve, middle, end, source, tolerance, found, depth + 1)


def _unit(vector: complex, fallback: complex) -> complex:
    """Control points may lie on one another; then the chord is the direction."""
    vector = vector if abs(vector) > 1e-12 else fallback
    return vector / abs(vector) if abs(vector) > 1e-12 else 1


def biarc(a: Point, out: complex, b: Point, into: complex, source: Source) -> list[Segment]:
    """Two arcs from ``a`` in direction ``out`` to ``b`` in direction ``into`` that share a tangent.

    The joint is chosen so that both tangent lengths are equal (Bolton, "Biarc curves", Computer-Aided Design 7,
    1975; formula from memory).
    """
    chord = b - a
    total = out + into
    bend = 2 * (1 - dot(out, into))
    if bend < 1e-12:
        along = dot(chord, into)
        if abs(cross(out, chord)) < 1e-9 or abs(along) < 1e-12:
            return [Line(a, b, source)]
        reach = abs(chord) ** 2 / (4 * along)
    else:
        half = dot(chord, total)
        reach = (-half + math.sqrt(half**2 + bend * abs(chord) ** 2)) / bend
    joint = (a + out * reach + b - into * reach) / 2
    first = _arc(a, out, joint, source)
    second = _arc(b, -into, joint, source).reversed()
    return [segment for segment in (first, second) if abs(segment.end - segment.start) > 1e-9]


def _arc(start: Point, tangent: complex, end: Point, source: Source) -> Segment:
    """The arc (or line) that leaves ``start`` along ``tangent`` and ends at ``end``."""
    chord = end - start
    height = cross(tangent, chord)
    if abs(height) < 1e-9 * max(1.0, abs(chord)):
        return Line(start, end, source)
    radius = abs(chord) ** 2 / (2 * height)
    return Arc(start, end, start + tangent * 1j * radius, radius > 0, source)


def _within(curve: Curve, begin: float, end: float, pair: list[Segment], tolerance: float) -> bool:
    return all(
        min(_distance(segment, curve(begin + (end - begin) * step / 8)[0]) for segment in pair) <= tolerance
        for step in range(1, 8)
    )


def _distance(segment: Segment, point: Point) -> float:
    share = segment.share_of(point)
    if 0 <= share <= 1:
        if isinstance(segment, Arc):
            return abs(abs(point - segment.centre) - segment.radius)
        return abs(point - segment.at(share))
    return min(abs(point - segment.start), abs(point - segment.end))


def bezier(a: Point, b: Point, c: Point, d: Point) -> Curve:
    """A cubic Bezier curve over 0 to 1."""

    def curve(t: float) -> tuple[Point, complex]:
        s = 1 - t
        point = s**3 * a + 3 * s * s * t * b + 3 * s * t * t * c + t**3 * d
        slope = s * s * (b - a) + 2 * s * t * (c - b) + t * t * (d - c)
        if abs(slope) < 1e-9:
            slope = (c - a) if t < 0.5 else (d - b)
        return point, slope

    return curve


def ellipse(centre: Point, axis: complex, other: complex) -> Curve:
    """An ellipse by its two half axes, over an angle in radians."""

    def curve(t: float) -> tuple[Point, complex]:
        spoke = cmath.rect(1, t)
        return centre + axis * spoke.real + other * spoke.imag, other * spoke.real - axis * spoke.imag

    return curve
