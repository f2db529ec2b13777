"""How far the sides of a piece that was proved lie from those that were meant."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon, STRtree

from .chords import Shape, Side, boxes, centres, is_arc, lengths, places, sweeps

Points = NDArray[np.complex128]
Numbers = NDArray[np.float64]
#: The same points as shapely knows them, to be looked up in its trees.
Shapes = NDArray[np.object_]

#: Sides further from a point than this (mm) are looked at only where none is nearer.
NEAR = 0.05


def deviation(outline: Shape, shape: Polygon, kerf: float) -> float:
    """Largest distance (mm) between intended and proved sides, both ways.

    Round the corners only a kerf's width is left out: there no round beam can follow.
    """
    segments = [side for ring in (outline.outer, *outline.cutouts) for side in ring.segments]
    long = lengths(segments)
    clear_of_corners = long > 2 * kerf
    clear = [side for side, is_clear in zip(segments, clear_of_corners, strict=True) if is_clear]
    share = kerf / long[clear_of_corners]
    intended = np.concatenate([places(clear, at) for at in (share, np.full(len(clear), 0.5), 1 - share)])
    edge = shape.boundary
    outward = shapely.distance(_shapes(intended), edge)
    x, y = shapely.get_coordinates(edge).T
    proved: Points = x + 1j * y
    spots = _shapes(proved)
    apart = ~_at_corners(proved, spots, segments, kerf)
    inward = _distances(proved[apart], spots[apart], segments)
    return float(max(outward.max(initial=0.0), inward.max(initial=0.0)))


def _shapes(points: Points) -> Shapes:
    return np.asarray(shapely.points(points.real, points.imag))


def _at_corners(points: Points, spots: Shapes, segments: Sequence[Side], kerf: float) -> NDArray[np.bool_]:
    """Which points lie within a kerf of where two sides meet."""
    corners = np.array([segment.start for segment in segments])
    who, which = _pairs(spots, np.array([[c.real, c.imag, c.real, c.imag] for c in corners]), kerf)
    close = np.abs(points[who] - corners[which]) <= kerf
    found = np.zeros(len(points), dtype=bool)
    found[who[close]] = True
    return found


def _distances(points: Points, spots: Shapes, segments: Sequence[Side]) -> Numbers:
    """How far each point is from the nearest of the lines and arcs."""
    nearest = np.full(len(points), np.inf)
    who, which = _pairs(spots, boxes(segments), NEAR)
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
    nearest: Numbers, points: Points, who: NDArray[np.intp], which: NDArray[np.intp], segments: Sequence[Side]
) -> None:
    """Lowers the distances of some points by what they are from some of the segments."""
    start = np.array([segment.start for segment in segments])[which]
    end = np.array([segment.end for segment in segments])[which]
    here = points[who]
    found = np.minimum(np.abs(here - start), np.abs(here - end))
    beside = _beside(here, start, end, which, segments)
    np.minimum.at(nearest, who, np.minimum(found, beside))


def _beside(here: Points, start: Points, end: Points, which: NDArray[np.intp], segments: Sequence[Side]) -> Numbers:
    """Distances square to the segments; infinite where a point lies beside none of it."""
    arcs, sweep = is_arc(segments)[which], sweeps(segments)[which]
    # Of a line only what is beside it counts; any centre will do that is not its start.
    centre = np.where(arcs, centres(segments)[which], start - 1)
    sweep = np.where(arcs, sweep, 1.0)
    along = end - start
    share = (here - start) / along
    line = np.where((share.real >= 0) & (share.real <= 1), np.abs(share.imag * along), np.inf)
    spoke = start - centre
    turned = np.mod(np.angle((here - centre) / spoke) * np.sign(sweep), math.tau)
    arc = np.where(turned <= np.abs(sweep), np.abs(np.abs(here - centre) - np.abs(spoke)), np.inf)
    return np.where(arcs, arc, line)
