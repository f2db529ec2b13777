"""A piece that was proved against the outline that was meant, as regions, over their whole edges.

What is round cannot follow a sharp inside corner. What it leaves is known beforehand: all places that no disc of its
width reaches from outside, which is the outline closed by that disc (a morphological closing; Serra 1982, from memory).
"""

from __future__ import annotations

from collections.abc import Hashable
from typing import NamedTuple, Protocol

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree
from shapely import Polygon, STRtree
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from ...remembered import remembered
from ..chords import Point, RingedShape, as_lines
from ..oval import ROUND, SweptOval
from ..round_beam import TOLERANCE, quarter

Ends = npt.NDArray[np.float64]

#: A point reaches no further than so many radii: what is sharper is cut off.
_LIMIT = 4.0


class Off(NamedTuple):
    """How far (mm) two edges are apart at most, and where."""

    distance: float
    at: Point


class Outlined(RingedShape, Hashable, Protocol):
    """An outline that can be looked up again."""


class Beam(NamedTuple):
    """What cuts: its radius (mm), those diameters (mm) that it drills, whether its middle follows the outer or the
    inner edges themselves, and whether it goes round outer corners to a point. Those points keep it further out of what
    is narrow beside them. One that is ``oval`` has its mean radius, and its way in the frame of the outline.
    """

    radius: float
    drilled: tuple[tuple[Point, float], ...] = ()
    on_outer: bool = False
    on_inner: bool = False
    sharp: bool = False
    oval: SweptOval = ROUND


@remembered(most=1024)
def left_by(shape: Outlined, beam: Beam) -> BaseGeometry:
    """What a round beam or cutter leaves of an outline, in its own frame."""
    rings = [Polygon(ring.coords) for ring in as_lines([r.segments for r in (shape.outer, *shape.cutouts)], TOLERANCE)]
    outer, *holes = beam.oval.stretched(np.array(rings, dtype=object), 2 * beam.radius)
    whole = _grown(outer, -beam.radius, beam) if beam.on_outer else _closed(outer, beam)
    taken = [_grown(hole, beam.radius, beam) if beam.on_inner else _opened(hole, beam) for hole in holes]
    drilled = [
        shapely.Point(at.real, at.imag).buffer(width / 2, quad_segs=quarter(width / 2)) for at, width in beam.drilled
    ]
    left = whole.difference(shapely.union_all([*taken, *drilled])) if taken or drilled else whole
    return beam.oval.drawn_back(left, 2 * beam.radius)


def _grown(shape: BaseGeometry, by: float, beam: Beam) -> BaseGeometry:
    return shape.buffer(by, quad_segs=quarter(beam.radius)) if by else shape


def _closed(shape: BaseGeometry, beam: Beam) -> BaseGeometry:
    return _grown(_followed(shape, beam.radius, beam), -beam.radius, beam)


def _opened(shape: BaseGeometry, beam: Beam) -> BaseGeometry:
    return _grown(_followed(shape, -beam.radius, beam), beam.radius, beam)


def _followed(shape: BaseGeometry, by: float, beam: Beam) -> BaseGeometry:
    """What the line encloses that its middle follows."""
    if beam.sharp and by:
        return shape.buffer(by, join_style="mitre", mitre_limit=_LIMIT)
    return _grown(shape, by, beam)


def apart(meant: BaseGeometry, proved: BaseGeometry) -> Off:
    """The largest distance (mm) between the edges of two regions, whichever of them it is seen from."""
    if meant.is_empty or proved.is_empty:
        return Off(0.0, 0j) if meant.is_empty and proved.is_empty else Off(float("inf"), 0j)
    one, other = _edges(meant), _edges(proved)
    return max(_seen_from(one, other), _seen_from(other, one), key=lambda off: off.distance)


def _edges(shape: BaseGeometry) -> Ends:
    """Both ends of each straight piece of the edges, rows of x, y, x, y."""
    rings = shapely.get_rings(shapely.get_parts(shape))
    points, own = shapely.get_coordinates(rings, return_index=True)
    follow = own[:-1] == own[1:]
    return np.column_stack([points[:-1][follow], points[1:][follow]])


#: Straight pieces are looked at by stretches of at most so many mm, so many of which near a place; and so many places
#: at a time are held against all of them.
_STRETCH, _NEAR, _AT_ONCE = 1.0, 3, 128


def _seen_from(one: Ends, other: Ends) -> Off:
    """The largest distance of the corners of one edge from another: exact where it may be the largest.

    What the stretches near by say is no less than the distance; so all places that say less than what is found already
    are left alone.
    """
    at_most = _at_most(one[:, 0] + 1j * one[:, 1], other)
    tree = STRtree(shapely.linestrings(other.reshape(-1, 2, 2)))
    found = Off(-1.0, 0j)
    order = np.argsort(-at_most)
    for begin in range(0, len(order), _AT_ONCE):
        some = order[begin : begin + _AT_ONCE]
        if at_most[some[0]] <= found.distance:
            break
        (which, _), distance = tree.query_nearest(
            shapely.points(one[some, :2]), all_matches=False, return_distance=True
        )
        at = int(np.argmax(distance))
        x, y = one[some[which[at]], :2]
        found = max(found, Off(float(distance[at]), complex(x, y)), key=lambda off: off.distance)
    return found


def _at_most(places: npt.NDArray[np.complex128], edge: Ends) -> npt.NDArray[np.float64]:
    """For each place a distance (mm) that its own from an edge does not exceed."""
    begin, end = edge[:, 0] + 1j * edge[:, 1], edge[:, 2] + 1j * edge[:, 3]
    count = np.maximum(1, np.ceil(np.abs(end - begin) / _STRETCH)).astype(np.intp)
    own = np.repeat(np.arange(len(edge)), count)
    step = np.arange(len(own)) - np.repeat(np.cumsum(count) - count, count)
    middle = begin[own] + (end - begin)[own] * (step + 0.5) / count[own]
    tree = cKDTree(np.column_stack([middle.real, middle.imag]))
    near = tree.query(np.column_stack([places.real, places.imag]), k=min(_NEAR, len(middle)))[1]
    pieces = own[near.reshape(len(places), -1)]
    along = (end - begin)[pieces]
    spoke = places[:, None] - begin[pieces]
    share = np.clip((spoke * along.conjugate()).real / np.maximum(np.abs(along) ** 2, 1e-300), 0.0, 1.0)
    found: npt.NDArray[np.float64] = np.abs(spoke - along * share).min(axis=1)
    return found


@remembered(most=1024)
def uncut(shape: Outlined, beam: Beam) -> tuple[Polygon, ...]:
    """What stays of notches and cut-outs that a beam does not get into; corners alone are none.

    A piece that stays is a corner where one inside corner of the outline lies in it, and a notch where two do, or where
    none does and it is deep.
    """
    rings = as_lines([ring.segments for ring in (shape.outer, *shape.cutouts)], TOLERANCE)
    meant = Polygon(rings[0].coords, [ring.coords for ring in rings[1:]])
    radius = beam.radius
    left = shapely.get_parts(left_by(shape, beam).difference(meant.buffer(TOLERANCE)))
    pieces = [piece for piece in left if piece.area > radius**2 / 50]
    if not pieces:
        return ()
    corners = STRtree(_inside_corners(meant))
    near = corners.query(np.asarray(pieces, dtype=object), predicate="dwithin", distance=10 * TOLERANCE)[0]
    count = np.bincount(near, minlength=len(pieces)).tolist()
    cut = [piece.boundary.difference(meant.boundary.buffer(10 * TOLERANCE)) for piece in pieces]
    return tuple(
        piece
        for piece, corners_in_it, reached in zip(pieces, count, cut, strict=True)
        if corners_in_it > 1
        or (not corners_in_it and (reached.is_empty or shapely.hausdorff_distance(piece, reached) > radius / 2))
    )


def _inside_corners(shape: Polygon) -> list[shapely.Point]:
    """Where the edge of a region turns into it by more than twenty degrees."""
    found = []
    for ring in shapely.get_rings(orient(shape)):
        points = shapely.get_coordinates(ring)[:-1]
        z = points[:, 0] + 1j * points[:, 1]
        along = np.roll(z, -1) - z
        turn = np.angle(along / np.roll(along, 1))
        found += [shapely.Point(*point) for point in points[turn < -0.35]]
    return found
