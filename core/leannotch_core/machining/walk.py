"""The walk-round: the head goes round what will be cut, without cutting, so that one sees where it will be."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import shapely

from ..geometry.chords import as_lines
from ..geometry.segment import Point, Segment

WalkWay = Literal["box", "hull"]


def walk_round(worked: Sequence[Segment], how: WalkWay) -> list[Point]:
    """The corners (mm) of the box, or of the true hull, round all that is worked; none where nothing is."""
    if not worked:
        return []
    lines = as_lines([[segment] for segment in worked], 0.1)
    if how == "box":
        left, bottom, right, top = (float(value) for value in shapely.total_bounds(lines))
        return [complex(left, bottom), complex(right, bottom), complex(right, top), complex(left, top)]
    hull = shapely.convex_hull(shapely.multilinestrings(lines))
    x, y = shapely.get_coordinates(hull)[: None if hull.geom_type == "LineString" else -1].T
    return [complex(a, b) for a, b in zip(x, y, strict=True)]
