"""Outlines as chords for a polygon library: for measuring and checking only, never for a file.

Layout checks and the proof use shapely, so that they do not share the code they judge.
"""

from __future__ import annotations

import cmath
import math

from shapely import LineString, Polygon

from .loop import Loop, Outline
from .segment import Line, Point, Segment


def points(segment: Segment, tolerance: float) -> list[Point]:
    """Points along a segment without its end, chords within ``tolerance`` mm of the arc."""
    if isinstance(segment, Line):
        return [segment.start]
    sweep = segment.sweep
    step = 2 * math.acos(max(0.0, 1 - tolerance / segment.radius)) if segment.radius > tolerance else math.pi
    count = max(1, math.ceil(abs(sweep) / step))
    spoke = segment.start - segment.centre
    inner = [segment.centre + spoke * cmath.rect(1.0, sweep * i / count) for i in range(1, count)]
    # The start itself, not as it comes out by way of the centre: neighbours meet in it to the last bit.
    return [segment.start, *inner]


def ring(loop: Loop, tolerance: float) -> list[tuple[float, float]]:
    """``(x, y)`` of the loop's chord points, in mm, not closed."""
    return [(p.real, p.imag) for segment in loop for p in points(segment, tolerance)]


def as_polygon(outline: Outline, tolerance: float = 0.001) -> Polygon:
    """The outline as a shapely polygon whose chords leave the arcs by at most ``tolerance`` mm."""
    return Polygon(ring(outline.outer, tolerance), [ring(loop, tolerance) for loop in outline.cutouts])


def as_line(segments: tuple[Segment, ...], tolerance: float = 0.0005) -> LineString:
    """A chain of segments, open or closed, as a shapely line."""
    chain = [p for segment in segments for p in points(segment, tolerance)]
    chain.append(segments[-1].end)
    return LineString([(p.real, p.imag) for p in chain])
