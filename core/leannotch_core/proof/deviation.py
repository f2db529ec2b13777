"""How far the sides of a piece that was proved lie from those that were meant."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon, STRtree

from ..geometry.loop import Outline
from ..geometry.segment import Arc, Segment

Points = NDArray[np.complex128]
Numbers = NDArray[np.float64]
#: The same points as shapely knows them, to be looked up in its trees.
Shapes = NDArray[np.object_]

#: Sides further from a point than this (mm) are looked at only where none is nearer.
NEAR = 0.05


def deviation(outline: Outline, shape: Polygon, kerf: float) -> float:
    """Largest distance (mm) between intended and proved sides, both ways.

    Round the corners only a kerf's width is left out: there no round beam can follow.
    """
    segments = [segment for loop in outline.loops for segment in loop]
    clear_of_corners = [segment for segment in segments if segment.length > 2 * kerf]
    intended = [
        segment.at(share)
        for segment in clear_of_corners
        for share in (kerf / segment.length, 0.5, 1 - kerf / segment.length)
    ]
    edge = shape.boundary
    outward = shapely.distance(_shapes(np.array(intended, dtype=complex)), edge)
    x, y = shapely.get_coordinates(edge).T
    proved: Points = x + 1j * y
    spots = _shapes(proved)
    clear = ~_at_corners(proved, spots, segments, kerf)
    inward = _distances(proved[clear], spots[clear], segments)
    return float(max(outward.max(initial=0.0), inward.max(initial=0.0)))


def _shapes(points: Points) -> Shapes:
    return np.asarray(shapely.points(points.real, points.imag))


def _at_corners(points: Points, spots: Shapes, segments: Sequence[Segment], kerf: float) -> NDArray[np.bool_]:
    """Which points lie within a kerf of where two sides meet."""
    corners = np.array([segment.start for segment in segments])
    who, which = _pairs(spots, np.array([[c.real, c.imag, c.real, c.imag] for c in corners]), kerf)
    close = np.abs(points[who] - corners[which]) <= kerf
    found = np.zeros(len(points), dtype=bool)
    found[who[close]] = True
    return found


def _distances(points: Points, spots: Shapes, segments: Sequence[Segment]) -> Numbers:
    """How far each point is from the nearest of the lines and arcs."""
    nearest = np.full(len(points), np.inf)
    who, which = _pairs(spots, np.array([segment.bounds() for segment in segments]), NEAR)
    _take(nearest, points, who, which, segments)
    far = np.flatnonzero(nearest > NEAR)
    for index in range(len(segments) if far.size else 0):
        _take(nearest, points, far, np.full(len(far), index), segments)
    return nearest


def _pairs(spots: Shapes, bounds: Numbers, room: float) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Numbers of points and of the boxes that they lie in, once these are grown by ``room``."""
    left, bottom, right, top = bounds.T
    boxes = shapely.box(left - room, bottom - room, right + room, top + room)
    who, which = STRtree(boxes).query(spots)
    return who, which


def _take(
    nearest: Numbers, points: Points, who: NDArray[np.intp], which: NDArray[np.intp], segments: Sequence[Segment]
) -> None:
    """Lowers the distances of some points by what they are from some of the segments."""
    start = np.array([segment.start for segment in segments])[which]
    end = np.array([segment.end for segment in segments])[which]
    here = points[who]
    found = np.minimum(np.abs(here - start), np.abs(here - end))
    beside = _beside(here, start, end, which, segments)
    np.minimum.at(nearest, who, np.minimum(found, beside))


def _beside(here: Points, start: Points, end: Points, which: NDArray[np.intp], segments: Sequence[Segment]) -> Numbers:
    """Distances square to the segments; infinite where a point lies beside none of it."""
    is_arc = np.array([isinstance(segment, Arc) for segment in segments])[which]
    centre = np.array([segment.centre if isinstance(segment, Arc) else segment.start - 1 for segment in segments])[
        which
    ]
    sweep = np.array([segment.sweep if isinstance(segment, Arc) else 1.0 for segment in segments])[which]
    along = end - start
    share = (here - start) / along
    line = np.where((share.real >= 0) & (share.real <= 1), np.abs(share.imag * along), np.inf)
    spoke = start - centre
    turned = np.mod(np.angle((here - centre) / spoke) * np.sign(sweep), math.tau)
    arc = np.where(turned <= np.abs(sweep), np.abs(np.abs(here - centre) - np.abs(spoke)), np.inf)
    return np.where(is_arc, arc, line)
