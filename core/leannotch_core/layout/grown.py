"""Shapes as the nesting sees them: straight edges that leave no material out, grown by half the gap.

What such shapes keep apart is apart by the whole gap on the exact outlines, arcs included.
"""

from __future__ import annotations

import cmath
import math

import numpy as np
import shapely
from shapely import Polygon

from ..geometry.loop import Loop, Outline
from ..geometry.segment import Arc, Line, Point
from ..remembered import remembered
from .innermost.contact import Numbers

#: Straight edges leave an arc by at most this (mm), to the side of the air.
TOLERANCE = 0.02
#: Shapes are this much (mm) smaller all round, so that what touches does not meet.
SLACK = 2e-7
#: A corner is grown to at most so many times the distance: a round would reach to once.
_MITRE = 1.1
#: So many poles at most, and what share of a shape's area they are to cover.
_POLES, _COVERED = 12, 0.85


def around(outline: Outline) -> Polygon:
    """The material and a little more: no arc of it reaches beyond the straight edges."""
    return Polygon(_ring(outline.outer), [_ring(loop) for loop in outline.cutouts])


def _ring(loop: Loop) -> list[tuple[float, float]]:
    return [(p.real, p.imag) for segment in loop for p in _points(segment)]


def _points(segment: Line | Arc) -> list[Point]:
    """Points of a segment without its end. Loops have the material on their left."""
    if isinstance(segment, Line):
        return [segment.start]
    sweep, radius = segment.sweep, segment.radius
    # Tangents leave an arc by r / cos(half a step) - r, chords by r - r * cos(half a step).
    step = 2 * math.acos(radius / (radius + TOLERANCE))
    count = max(2, math.ceil(abs(sweep) / step))
    spoke = segment.start - segment.centre
    if not segment.ccw:
        inner = [segment.centre + spoke * cmath.rect(1.0, sweep * i / count) for i in range(1, count)]
        return [segment.start, *inner]
    out = 1 / math.cos(sweep / count / 2)
    return [
        segment.start,
        *(segment.centre + spoke * cmath.rect(out, sweep * (i + 0.5) / count) for i in range(count)),
    ]


@remembered(most=2048)
def grown(outline: Outline, by: float) -> Polygon:
    """The material grown by ``by`` mm all round: straight sides exactly, corners to no less than that."""
    return grown_polygon(around(outline), by)


def grown_polygon(shape: Polygon, by: float) -> Polygon:
    """A polygon grown by so many mm, less a hair, so that what touches does not overlap."""
    found = shape.buffer(by - SLACK, join_style="mitre", mitre_limit=_MITRE)
    if found.geom_type != "Polygon":
        found = max(found.geoms, key=lambda piece: float(piece.area))
    return found


@remembered(most=2048)
def one_pole(shape: Polygon) -> Numbers:
    """A circle in the material as `poles` has them, found at once."""
    middle = shape.centroid
    if not shape.contains(middle):
        middle = shape.representative_point()
    return np.array([[middle.x, middle.y, shape.boundary.distance(middle)]])


@remembered(most=2048)
def poles(shape: Polygon) -> Numbers:
    """Rows of x, y and radius: circles in the material, each where the last ones left most room."""
    left, bottom, right, top = shape.bounds
    step = max(math.sqrt((right - left) * (top - bottom) / 1500), 1e-3)
    across = np.arange(left + step / 2, right, step) if right - left > step else np.array([(left + right) / 2])
    up = np.arange(bottom + step / 2, top, step) if top - bottom > step else np.array([(bottom + top) / 2])
    places = np.stack(np.meshgrid(across, up), axis=-1).reshape(-1, 2)
    middle = shapely.maximum_inscribed_circle(shape, tolerance=step / 4)
    places = np.vstack([shapely.get_coordinates(middle)[:1], places])
    shapely.prepare(shape)
    points = shapely.points(places)
    inside = shapely.contains(shape, points)
    places = places[inside]
    room = shapely.distance(points[inside], shape.boundary)
    found: list[tuple[float, float, float]] = []
    covered = np.zeros(len(places), dtype=bool)
    while len(found) < _POLES and len(places) and covered.mean() < _COVERED:
        at = int(np.argmax(room))
        x, y = places[at]
        radius = float(room[at])
        found.append((float(x), float(y), radius))
        apart = np.hypot(places[:, 0] - x, places[:, 1] - y)
        covered |= apart < radius
        # What is left to a next pole: not much of this one.
        room = np.where(apart < radius, 0.0, np.minimum(room, np.maximum(apart - 0.6 * radius, 0.0)))
        if room.max() <= 0.0:
            break
    return np.array(found).reshape(-1, 3)
