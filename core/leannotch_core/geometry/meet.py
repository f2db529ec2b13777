"""Where two segments meet: exact meeting points of lines and arcs."""

from __future__ import annotations

import cmath
import math

from .segment import TOUCH, Arc, Line, Point, Segment, cross, dot


def meeting_points(a: Segment, b: Segment) -> list[Point]:
    """Every point where ``a`` and ``b`` cross or touch; the ends of a shared stretch where they overlap."""
    if isinstance(a, Line) and isinstance(b, Line):
        return _two_lines(a, b)
    points = [end for end in (b.start, b.end) if _on(a, end)]
    points += [end for end in (a.start, a.end) if _on(b, end)]
    points += [p for p in _carriers_meet(a, b) if _on(a, p) and _on(b, p)]
    return points


def _two_lines(a: Line, b: Line) -> list[Point]:
    """As `meeting_points`, for the pair that nearly always occurs."""
    da, db = a.end - a.start, b.end - b.start
    turn = cross(da, db)
    if abs(turn) <= 1e-9 * abs(da) * abs(db):
        shared = [end for end in (b.start, b.end) if _on(a, end)]
        return shared + [end for end in (a.start, a.end) if _on(b, end)]
    apart = b.start - a.start
    share_a, share_b = cross(apart, db) / turn, cross(apart, da) / turn
    # Lines that cross at a flat angle touch over a longer stretch of each.
    slack = TOUCH * abs(da) * abs(db) / abs(turn)
    reach_a, reach_b = slack / abs(da), slack / abs(db)
    if -reach_a <= share_a <= 1 + reach_a and -reach_b <= share_b <= 1 + reach_b:
        return [a.start + da * share_a]
    return []


def _on(segment: Segment, point: Point) -> bool:
    if isinstance(segment, Line):
        along = segment.end - segment.start
        length = abs(along)
        offset = point - segment.start
        return abs(cross(along, offset)) <= TOUCH * length and (
            -TOUCH * length <= dot(along, offset) <= (length + TOUCH) * length
        )
    if abs(abs(point - segment.centre) - segment.radius) > TOUCH:
        return False
    if abs(point - segment.start) <= TOUCH or abs(point - segment.end) <= TOUCH:
        return True
    return 0 <= segment.share_of(point) <= 1


def _carriers_meet(a: Segment, b: Segment) -> list[Point]:
    """Where the infinite line or full circle that carries one meets that of the other."""
    if isinstance(a, Line):
        return [] if isinstance(b, Line) else _line_meets_circle(a, b)
    return _line_meets_circle(b, a) if isinstance(b, Line) else _circles_meet(a, b)


def _line_meets_circle(line: Line, arc: Arc) -> list[Point]:
    direction = line.start_tangent
    foot = line.start + direction * dot(direction, arc.centre - line.start)
    return _either_side(foot, direction, arc.radius, abs(arc.centre - foot))


def _circles_meet(a: Arc, b: Arc) -> list[Point]:
    apart = b.centre - a.centre
    distance = abs(apart)
    if distance <= TOUCH:
        return []
    along = (distance**2 + a.radius**2 - b.radius**2) / (2 * distance)
    unit = apart / distance
    return _either_side(a.centre + unit * along, unit * 1j, a.radius, abs(along))


def _either_side(foot: Point, direction: complex, radius: float, height: float) -> list[Point]:
    """The two points of a circle at ``height`` from its centre, or the one where it is only touched."""
    if height > radius + TOUCH:
        return []
    if height > radius - TOUCH:
        return [foot]
    half = math.sqrt((radius - height) * (radius + height))
    return [foot + direction * half, foot - direction * half]


def heading(tangent: complex) -> float:
    """Direction of travel in radians, 0 to 2 pi."""
    return cmath.phase(tangent) % math.tau
