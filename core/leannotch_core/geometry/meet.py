"""Where two segments meet: exact meeting points of lines and arcs."""

from __future__ import annotations

import cmath
import math

from .segment import TOUCH, Arc, Line, Point, Segment, cross, dot


def meeting_points(a: Segment, b: Segment) -> list[Point]:
    """Every point where ``a`` and ``b`` cross or touch; the ends of a shared stretch where they overlap."""
    points = [end for end in (b.start, b.end) if _on(a, end)]
    points += [end for end in (a.start, a.end) if _on(b, end)]
    points += [p for p in carriers_meet(a, b) if _on(a, p) and _on(b, p)]
    return points


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


def carriers_meet(a: Segment, b: Segment) -> list[Point]:
    """Where the infinite line or full circle that carries one meets that of the other."""
    if isinstance(a, Line):
        return _lines_meet(a, b) if isinstance(b, Line) else _line_meets_circle(a, b)
    return _line_meets_circle(b, a) if isinstance(b, Line) else _circles_meet(a, b)


def _lines_meet(a: Line, b: Line) -> list[Point]:
    along_a, along_b = a.end - a.start, b.end - b.start
    turn = cross(along_a, along_b)
    if abs(turn) <= 1e-9 * abs(along_a) * abs(along_b):
        return []
    return [a.start + along_a * (cross(b.start - a.start, along_b) / turn)]


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
