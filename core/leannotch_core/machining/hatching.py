"""Filled engraving: the lines by which a beam goes over all of an area, to and fro at a gap."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import reduce

import numpy as np
import shapely
from shapely import Polygon

from ..geometry.chords import as_polygon
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Line, Segment, Source
from ..said import Said

#: Areas are taken within so much (mm) of their arcs: a tenth of the finest line gap.
TOLERANCE = 0.005

#: The beam is as wide as the gap, more or less, and its lines are drawn as lines.
_SOURCE = Source("fill", "line")

#: More lines than these are more than can be told, shown or sent.
MOST = 100_000


class TooManyLines(Said):
    """A gap that is too small for what is to be filled; the message is a sentence to show."""


def hatched(loops: Iterable[Sequence[Segment]], gap: float) -> list[list[Line]]:
    """Rows of lines (mm) over what lies in an odd number of loops, from below, every other one from right to left.

    There are height / gap rows, half a gap from the edge. Raises `TooManyLines`.
    """
    shapes = [as_polygon(Outline(_counter_clockwise(loop)), TOLERANCE) for loop in loops]
    area = reduce(lambda a, b: a.symmetric_difference(b), shapes, Polygon())
    if area.is_empty:
        return []
    left, bottom, right, top = area.bounds
    count = max(1, round((top - bottom) / gap))
    if count > MOST:
        raise TooManyLines(f"A line gap of {gap:g} mm makes {count} lines; at most {MOST} are taken. Make it wider.")
    heights = bottom + (np.arange(count) + 0.5) * (top - bottom) / count
    ends = np.empty((count, 2, 2))
    ends[:, 0, 0], ends[:, 1, 0], ends[:, :, 1] = left - 1, right + 1, heights[:, None]
    shapely.prepare(area)
    pieces, own = shapely.get_parts(shapely.intersection(shapely.linestrings(ends), area), return_index=True)
    rows: list[list[Line]] = [[] for _ in range(count)]
    for piece, row in zip(pieces, own, strict=True):
        if piece.length > 1e-6:
            (x1, y), (x2, _) = piece.coords[0], piece.coords[-1]
            rows[row].append(Line(complex(min(x1, x2), y), complex(max(x1, x2), y), _SOURCE))
    found = [sorted(row, key=lambda line: line.start.real) for row in rows if row]
    return [row if at % 2 == 0 else [line.reversed() for line in reversed(row)] for at, row in enumerate(found)]


def _counter_clockwise(segments: Sequence[Segment]) -> Loop:
    loop = Loop(tuple(segments))
    return loop if loop.area > 0 else loop.reversed()
