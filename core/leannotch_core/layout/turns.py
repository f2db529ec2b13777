"""The turns in which a shape fits a sheet."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import Polygon

from ..remembered import remembered
from .innermost.contact import Numbers, turn_of

#: Left, bottom, right and top of the room on a sheet, in mm.
Frame = tuple[float, float, float, float]


def is_square(shape: Polygon) -> bool:
    """Whether a shape fills its box but for a little, as a grown rectangle does: what meets the box meets it."""
    left, bottom, right, top = shape.bounds
    return not shape.interiors and shape.area > 0.99 * (right - left) * (top - bottom)


def extent(corners: Numbers, turn: float) -> tuple[float, float]:
    """Width and height of points, shape (n, 2), turned by ``turn`` degrees."""
    c, s = turn_of(turn)
    return float(np.ptp(corners @ (c, -s))), float(np.ptp(corners @ (s, c)))


@remembered(most=4096)
def turns_that_fit(shape: Polygon, turns: tuple[float, ...], frame: Frame) -> tuple[float, ...]:
    """Turns in degrees to try first, of those allowed (any, where there are none), in which a shape fits a frame.

    Of those that may be any: along the frame, a long side along it, and else what fits, such as along a diagonal.
    """
    corners = shapely.get_coordinates(shape.convex_hull)[:-1]
    room = frame[2] - frame[0] + 1e-9, frame[3] - frame[1] + 1e-9

    def fits(turn: float) -> bool:
        width, height = extent(corners, turn)
        return width <= room[0] and height <= room[1]

    if turns:
        return tuple(turn for turn in _different(shape, turns) if fits(turn))
    sides = np.roll(corners, -1, axis=0) - corners
    along = sides[np.argmax(np.hypot(*sides.T))]
    level = -float(np.degrees(np.arctan2(along[1], along[0]))) % 90
    straight = sorted({0.0, 90.0, round(level, 9), round(level + 90, 9)})
    found = [turn for turn in straight if fits(turn)]
    return tuple(found or [step / 4 for step in range(720) if fits(step / 4)][::4])


def _different(shape: Polygon, turns: tuple[float, ...]) -> list[float]:
    """Those of the turns in which a shape looks different."""
    looks: dict[tuple[object, ...], float] = {}
    corners = shapely.get_coordinates(shape)
    for turn in turns:
        c, s = turn_of(turn)
        seen = corners @ ((c, s), (-s, c))
        seen = np.round(seen - seen.min(axis=0), 4) + 0.0
        looks.setdefault(tuple(map(tuple, np.unique(seen, axis=0).tolist())), turn)
    return list(looks.values())
