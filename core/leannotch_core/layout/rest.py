"""What is left whole of a sheet: its largest rectangle that nothing lies in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon

Shapes = npt.NDArray[Any]

#: A sheet is first looked at in so many cells along its longer side.
_CELLS = 100
#: Of the rectangles of whole cells so many are moved out: which is largest then is not known before.
_TRIED = 24


@dataclass(frozen=True, slots=True)
class Rest:
    """A rectangle of a sheet, in mm from its lower left corner."""

    left: float
    bottom: float
    width: float
    height: float


def largest_rest(width: float, height: float, lying: Sequence[Polygon], gap: float) -> Rest | None:
    """The largest rectangle of a sheet that is ``gap`` mm or more from all that lies there; None if there is none.

    The largest of whole cells are found, and each of their sides is then moved out as far as it goes.
    """
    if not lying:
        return Rest(0.0, 0.0, width, height)
    taken = shapely.buffer(np.array(lying), gap, quad_segs=8)
    cell = max(width, height) / _CELLS
    across, up = max(1, int(width / cell)), max(1, int(height / cell))
    x, y = np.linspace(0, width, across + 1), np.linspace(0, height, up + 1)
    shapely.prepare(taken)
    cells = shapely.box(x[None, :-1], y[:-1, None], x[None, 1:], y[1:, None])
    free = np.ones(cells.size, dtype=bool)
    free[shapely.STRtree(cells.ravel()).query(taken, "intersects")[1]] = False
    found = _large(free.reshape(cells.shape), np.diff(x)[0], np.diff(y)[0])
    boxes = [_grown((x[first], y[low], x[last], y[high]), width, height, taken) for first, low, last, high in found]
    return max(boxes, key=lambda box: box.width * box.height, default=None)


def _large(free: npt.NDArray[np.bool_], cell_x: float, cell_y: float) -> list[tuple[int, int, int, int]]:
    """Columns and rows where the largest rectangles of free cells begin and end, by the heights above each row."""
    heights = np.zeros(free.shape[1] + 1, dtype=int)
    found: list[tuple[float, tuple[int, int, int, int]]] = []
    for row in range(free.shape[0]):
        heights[:-1] = np.where(free[row], heights[:-1] + 1, 0)
        open_at: list[tuple[int, int]] = []
        for column, tall in enumerate(heights.tolist()):
            start = column
            while open_at and open_at[-1][1] >= tall:
                start, was = open_at.pop()
                size = (column - start) * cell_x * was * cell_y
                if size > 0:
                    found.append((size, (start, row + 1 - was, column, row + 1)))
            open_at.append((start, tall))
    return [box for _, box in sorted(found, reverse=True)[:_TRIED]]


def _grown(box: tuple[float, float, float, float], width: float, height: float, taken: Shapes) -> Rest:
    left, bottom, right, top = (float(side) for side in box)
    left = float(_reach(taken, (0, bottom, left, top))[:, 2].max(initial=0.0))
    right = float(_reach(taken, (right, bottom, width, top))[:, 0].min(initial=width))
    bottom = float(_reach(taken, (left, 0, right, bottom))[:, 3].max(initial=0.0))
    top = float(_reach(taken, (left, top, right, height))[:, 1].min(initial=height))
    return Rest(left, bottom, right - left, top - bottom)


def _reach(taken: Shapes, box: tuple[float, float, float, float]) -> npt.NDArray[np.float64]:
    """Bounds of all that lies in a box, shape (n, 4)."""
    if box[2] <= box[0] or box[3] <= box[1]:
        return np.empty((0, 4))
    bounds = shapely.bounds(shapely.clip_by_rect(taken, *box))
    return np.asarray(bounds[~np.isnan(bounds[:, 0])])
