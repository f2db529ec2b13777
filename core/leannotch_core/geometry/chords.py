"""Outlines as chords for a polygon library: for measuring and checking only, never for a file.

Layout checks and the proof use shapely, so that they do not share the code they judge.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, Polygon

from .loop import Loop, Outline
from .segment import Line, Point, Segment

#: An array of shapely lines.
Lines = npt.NDArray[Any]


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
    return Polygon(_corners(outline.outer, tolerance), [_corners(loop, tolerance) for loop in outline.cutouts])


def _corners(loop: Loop, tolerance: float) -> list[tuple[float, float]]:
    """At least three: of a circle that is no larger than the tolerance more are taken."""
    found = ring(loop, tolerance)
    return found if len(found) > 2 or tolerance < 1e-9 else _corners(loop, tolerance / 10)


def as_line(segments: Sequence[Segment], tolerance: float = 0.0005) -> LineString:
    """A chain of segments, open or closed, as a shapely line."""
    line: LineString = as_lines([segments], tolerance)[0]
    return line


def as_lines(chains: Sequence[Sequence[Segment]], tolerance: float) -> Lines:
    """Each chain of segments, open or closed, as a shapely line, worked out all at once."""
    segments = [segment for chain in chains for segment in chain]
    start = np.array([segment.start for segment in segments])
    centre = np.array([segment.start if isinstance(segment, Line) else segment.centre for segment in segments])
    sweep = np.array([0.0 if isinstance(segment, Line) else segment.sweep for segment in segments])
    spoke = start - centre
    with np.errstate(divide="ignore", invalid="ignore"):
        step = 2 * np.arccos(np.maximum(0.0, 1 - tolerance / np.abs(spoke)))
    step = np.where(np.abs(spoke) > tolerance, step, np.pi)
    count = np.maximum(1, np.ceil(np.abs(sweep) / step)).astype(np.intp)
    own = np.repeat(np.arange(len(segments)), count)
    place = np.arange(len(own)) - np.repeat(np.cumsum(count) - count, count)
    along = centre[own] + spoke[own] * np.exp(1j * sweep[own] * place / count[own])
    # Starts and ends are taken as they are: neighbours meet in them to the last bit.
    along = np.where(place == 0, start[own], along)
    sizes = [len(chain) for chain in chains]
    last = np.cumsum(sizes)
    stops = np.cumsum(count)[last - 1]
    points = np.insert(along, stops, [segments[end - 1].end for end in last])
    indices = np.repeat(np.arange(len(chains)), np.diff(stops, prepend=0) + 1)
    lines: Lines = shapely.linestrings(np.column_stack([points.real, points.imag]), indices=indices)
    return lines
