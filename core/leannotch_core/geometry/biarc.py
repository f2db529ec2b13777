"""Curves that are neither lines nor arcs become arcs: biarcs within a stated tolerance."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Sequence

from .segment import Arc, Line, Point, Segment, Source, cross, dot

#: A curve and its arcs differ by at most this (mm) unless told otherwise.
TOLERANCE = 0.005

#: A point and a direction of travel for a parameter.
Curve = Callable[[float], tuple[Point, complex]]


#: Points at which a pair of arcs is held against its curve, how often the longest reach of a pair is halved, and the
#: share of a curve below which it is a point: about a cusp a pair may have to be as short as the tolerance.
_CHECKS, _STEPS, _SHORTEST = 12, 6, 2.0**-40


def arcs_along(curve: Curve, begin: float, end: float, source: Source, tolerance: float = TOLERANCE) -> list[Segment]:
    """Tangent-continuous arcs within ``tolerance`` mm of ``curve`` between two parameters.

    Each pair of arcs reaches as far as the tolerance lets it, so that few are needed. ``curve`` gives a point (mm)
    and any vector along the direction in which its parameter grows; it may be followed backwards.
    """
    found: list[Segment] = []
    here = begin
    # A pair never spans the whole: over a closed curve it would have no chord.
    longest = (end - begin) / 2
    while abs(end - here) > 1e-12 * abs(end - begin):
        step, pair = _longest(curve, here, min(longest, end - here, key=abs), source, tolerance)
        found.extend(pair)
        here = end if abs(end - here - step) < 1e-9 * abs(end - begin) else here + step
    return found


def _longest(
    curve: Curve, here: float, longest: float, source: Source, tolerance: float
) -> tuple[float, list[Segment]]:
    """The longest step from ``here``, at most ``longest``, that one pair of arcs follows, and that pair."""

    def tried(share: float) -> list[Segment] | None:
        pair = pair_of_arcs(curve, here, here + longest * share, source)
        return pair if follows(pair, curve, here, here + longest * share, tolerance) else None

    good = 1.0
    while (pair := tried(good)) is None and good > _SHORTEST:
        good /= 2
    bad = 2 * good
    for _ in range(_STEPS if good < 1 else 0):
        share = (good + bad) / 2
        if (longer := tried(share)) is None:
            bad = share
        else:
            good, pair = share, longer
    return longest * good, pair if pair is not None else pair_of_arcs(curve, here, here + longest * good, source)


def pair_of_arcs(curve: Curve, begin: float, end: float, source: Source) -> list[Segment]:
    """The two arcs that run as ``curve`` does at both ends of a stretch of it; none where it has no length."""
    (a, out), (b, into) = curve(begin), curve(end)
    if abs(b - a) < 1e-9:
        return []
    if end < begin:
        out, into = -out, -into
    return biarc(a, _unit(out, b - a), b, _unit(into, b - a), source)


def _unit(vector: complex, fallback: complex) -> complex:
    """Control points may lie on one another; then the chord is the direction."""
    vector = vector if abs(vector) > 1e-12 else fallback
    return vector / abs(vector) if abs(vector) > 1e-12 else 1


def biarc(a: Point, out: complex, b: Point, into: complex, source: Source) -> list[Segment]:
    """Two arcs from ``a`` in direction ``out`` to ``b`` in direction ``into`` that share a tangent.

    The joint is chosen so that both tangent lengths are equal (Bolton, "Biarc curves", Computer-Aided Design 7,
    1975; formula from memory).

    >>> first, second = biarc(0j, 1j, 20 + 0j, -1j, Source("arch", "side"))
    >>> round(first.radius, 6), second.end
    (10.0, (20+0j))
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


def follows(pair: Sequence[Segment], curve: Curve, begin: float, end: float, tolerance: float) -> bool:
    """Whether a pair of arcs stays within ``tolerance`` mm of the stretch of ``curve`` that it stands for.

    No arcs stand for a stretch that hardly leaves the place where it begins.
    """
    points = (curve(begin + (end - begin) * step / _CHECKS)[0] for step in range(1, _CHECKS))
    here = curve(begin)[0]
    return all(min((_distance(s, point) for s in pair), default=abs(point - here)) <= tolerance for point in points)


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


def smooth_through(knots: Sequence[tuple[Point, bool]]) -> list[tuple[Point, Point, Point, Point]]:
    """Cubic Bezier pieces of a closed curve through ``knots``; those marked True are corners.

    At a smooth knot the tangent runs along its neighbours' chord (cubic Hermite with Catmull and Rom's tangents,
    1974; from memory), scaled by the distance to each neighbour, so that uneven knots do not overshoot.
    """
    count = len(knots)
    pieces = []
    for index, (here, corner) in enumerate(knots):
        onward, onward_corner = knots[(index + 1) % count]
        length = abs(onward - here)
        leave = _chord(here, onward) if corner else _chord(knots[index - 1][0], onward)
        arrive = _chord(here, onward) if onward_corner else _chord(here, knots[(index + 2) % count][0])
        pieces.append((here, here + leave * length / 3, onward - arrive * length / 3, onward))
    return pieces


def open_through(knots: Sequence[tuple[Point, bool]]) -> list[tuple[Point, Point, Point, Point]]:
    """As `smooth_through`, of an open curve from the first knot to the last."""
    ends = {0, len(knots) - 1}
    return smooth_through([(point, corner or at in ends) for at, (point, corner) in enumerate(knots)])[:-1]


def _chord(a: Point, b: Point) -> complex:
    return (b - a) / abs(b - a) if abs(b - a) > 1e-12 else 1


def bezier_bounds(pieces: Sequence[tuple[Point, Point, Point, Point]]) -> tuple[float, float, float, float]:
    """Exact ``(left, bottom, right, top)`` of cubic Bezier pieces: their ends, and where a slope is zero."""
    xs = [x for piece in pieces for x in _extremes(*(p.real for p in piece))]
    ys = [y for piece in pieces for y in _extremes(*(p.imag for p in piece))]
    return min(xs), min(ys), max(xs), max(ys)


def _extremes(a: float, b: float, c: float, d: float) -> list[float]:
    square, linear, constant = -a + 3 * b - 3 * c + d, 2 * (a - 2 * b + c), b - a
    if abs(square) < 1e-12:
        roots = [-constant / linear] if abs(linear) > 1e-12 else []
    else:
        under = linear**2 - 4 * square * constant
        roots = [(-linear + sign * math.sqrt(under)) / (2 * square) for sign in (1, -1)] if under >= 0 else []
    inner = [t for t in roots if 0 < t < 1]
    return [a, d, *((1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t**3 * d for t in inner)]


def ellipse(centre: Point, axis: complex, other: complex) -> Curve:
    """An ellipse by its two half axes, over an angle in radians."""

    def curve(t: float) -> tuple[Point, complex]:
        spoke = cmath.rect(1, t)
        return centre + axis * spoke.real + other * spoke.imag, other * spoke.real - axis * spoke.imag

    return curve
