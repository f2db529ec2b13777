"""A round beam or cutter: how it is drawn with chords, and what it passes over along a line."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LinearRing, LineString, MultiLineString, MultiPolygon, Point, Polygon

#: Chords of the sweep leave the true curve by at most this (mm).
TOLERANCE = 0.0002


#: The edge of what a tool passed over lies no nearer to its line than this share of its radius; what is nearer is no
#: edge. Chords take less than a hundredth; ours.
_EDGE = 0.98


def quarter(radius: float) -> int:
    """Chords for a quarter of a round beam of ``radius`` mm, within the tolerance."""
    return 4 if radius <= TOLERANCE else max(4, math.ceil(math.pi / 4 / math.acos(1 - TOLERANCE / radius)))


def passed_over(
    drawn: Sequence[LineString | Point] | npt.NDArray[Any], radius: float, chords: int
) -> npt.NDArray[np.object_]:
    """What a round tool of a radius (mm) passes over along each line or at each spot, with so many chords a quarter.

    Along a line that goes round itself more than once shapely's buffer now and then leaves a hole where the tool
    went: it is filled again. A true hole ends a radius away from the line.
    """
    found = np.array(shapely.buffer(np.array(drawn, dtype=object), radius, quad_segs=chords))
    near = _EDGE * radius
    for at in np.flatnonzero(_holes(found)).tolist():
        parts = [_filled(part, drawn[at], near) for part in shapely.get_parts(found[at]).tolist()]
        found[at] = parts[0] if len(parts) == 1 else MultiPolygon(parts)
    return found


def _holes(shapes: npt.NDArray[np.object_]) -> npt.NDArray[np.int64]:
    parts, own = shapely.get_parts(shapes, return_index=True)
    found: npt.NDArray[np.int64] = np.bincount(own, shapely.get_num_interior_rings(parts), len(shapes)).astype(np.int64)
    return found


def _filled(shape: Polygon, line: LineString | MultiLineString, near: float) -> Polygon:
    """The shape without the holes whose whole edge is nearer than that to the line."""

    def true(hole: LinearRing) -> bool:
        return bool(np.any(shapely.distance(shapely.points(shapely.get_coordinates(hole)), line) >= near))

    return Polygon(shape.exterior, [hole for hole in shape.interiors if true(hole)])
