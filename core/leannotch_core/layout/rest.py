"""What is left whole of a sheet: its largest rectangle that nothing lies in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon, STRtree

from ..compiled import compiled
from ..remembered import remembered

Shapes = npt.NDArray[Any]
Boxes = npt.NDArray[np.int64]

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
    x, y, cells = _cells(width, height)
    shapely.prepare(taken)
    free = np.ones((len(y) - 1, len(x) - 1), dtype=bool)
    free.ravel()[cells.query(taken, "intersects")[1]] = False
    found = _large(free, np.diff(x)[0], np.diff(y)[0])
    boxes = [_grown((x[first], y[low], x[last], y[high]), width, height, taken) for first, low, last, high in found]
    return max(boxes, key=lambda box: box.width * box.height, default=None)


@remembered(most=8)
def _cells(width: float, height: float) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64], STRtree]:
    """The sides (mm) of a sheet's cells, and the cells row by row: ten thousand are made once for a size of sheet."""
    cell = max(width, height) / _CELLS
    across, up = max(1, int(width / cell)), max(1, int(height / cell))
    x, y = np.linspace(0, width, across + 1), np.linspace(0, height, up + 1)
    return x, y, STRtree(shapely.box(x[None, :-1], y[:-1, None], x[None, 1:], y[1:, None]).ravel())


def _large(free: npt.NDArray[np.bool_], cell_x: float, cell_y: float) -> list[tuple[int, int, int, int]]:
    """Columns and rows where the largest rectangles of free cells begin and end."""
    found = rectangles(free)
    sizes = (found[:, 2] - found[:, 0]) * cell_x * (found[:, 3] - found[:, 1]) * cell_y
    largest = np.lexsort((*found.T[::-1], sizes))[::-1][:_TRIED]
    return [(int(a), int(b), int(c), int(d)) for a, b, c, d in found[largest]]


@compiled
def rectangles(free: npt.NDArray[np.bool_]) -> Boxes:
    """All rectangles of free cells that cannot be made wider or higher upwards, by the heights below each row.

    Rows of first column, first row, and the column and row past the last, after the way of the largest rectangle in
    a histogram: a column is open until a lower one comes.
    """
    rows, columns = free.shape
    heights = np.zeros(columns + 1, dtype=np.int64)
    found = np.empty((rows * (columns + 1), 4), dtype=np.int64)
    starts, talls = np.empty(columns + 2, dtype=np.int64), np.empty(columns + 2, dtype=np.int64)
    count = 0
    for row in range(rows):
        for column in range(columns):
            heights[column] = heights[column] + 1 if free[row, column] else 0
        still_open = 0
        for column in range(columns + 1):
            start = column
            while still_open and talls[still_open - 1] >= heights[column]:
                still_open -= 1
                start, tall = starts[still_open], talls[still_open]
                if tall > 0 and column > start:
                    found[count] = start, row + 1 - tall, column, row + 1
                    count += 1
            starts[still_open], talls[still_open] = start, heights[column]
            still_open += 1
    return found[:count]


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
