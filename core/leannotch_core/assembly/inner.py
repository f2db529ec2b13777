"""Inner sizes of an assembly: the free widths between parts that stand face to face, such as compartments."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..evaluate import Result
from .poses import Assembly, Copy
from .space import Matrix, extent

#: A free width below this (mm) is a gap of a joint, not a compartment.
LEAST = 2.0


@dataclass(frozen=True, slots=True)
class Span:
    """A free width along an ``axis`` of space (0 to 2), between two points in mm; ``low`` and ``high`` bound it."""

    axis: int
    start: tuple[float, float, float]
    end: tuple[float, float, float]
    low: Copy
    high: Copy

    @property
    def length(self) -> float:
        return self.end[self.axis] - self.start[self.axis]


def inner_spans(result: Result, assembly: Assembly) -> list[Span]:
    """Free widths along x and y between neighbouring parts of the largest group, each stretch once."""
    if not assembly.groups:
        return []
    boxes = {copy: extent(result.parts[copy.part], assembly.poses[copy]) for copy in assembly.groups[0]}
    found: dict[tuple[int, float, float], Span] = {}
    for axis in (0, 1):
        walls = {copy: box for copy, box in boxes.items() if _stands_across(assembly.poses[copy], axis)}
        for span in _between(walls, axis):
            found.setdefault((axis, round(span.start[axis], 3), round(span.end[axis], 3)), span)
    return list(found.values())


def _stands_across(pose: Matrix, axis: int) -> bool:
    """Whether a part's faces look along the axis."""
    return bool(abs(abs(pose[axis, 2]) - 1) < 1e-6)


def _between(walls: Mapping[Copy, tuple[Matrix, Matrix]], axis: int) -> list[Span]:
    others = [i for i in range(3) if i != axis]
    spans = []
    for wall, (low_a, high_a) in walls.items():
        ahead = []
        for copy, (low_b, high_b) in walls.items():
            low, high = np.maximum(low_a, low_b)[others], np.minimum(high_a, high_b)[others]
            if copy != wall and low_b[axis] - high_a[axis] > -LEAST and (high - low > LEAST).all():
                ahead.append((float(low_b[axis]), low, high, copy))
        if not ahead:
            continue
        end, low, high, next_wall = min(ahead, key=lambda item: item[0])
        if end - high_a[axis] <= LEAST:
            continue
        start_point, end_point = np.zeros(3), np.zeros(3)
        # Across the middle of what both have in common, at its upper edge.
        start_point[others] = end_point[others] = [(low[0] + high[0]) / 2, high[1]]
        start_point[axis], end_point[axis] = high_a[axis], end
        spans.append(Span(axis, _point(start_point), _point(end_point), wall, next_wall))
    return spans


def _point(values: Matrix) -> tuple[float, float, float]:
    x, y, z = values.tolist()
    return x, y, z
