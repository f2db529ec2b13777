"""Groups of copies laid beside one another in space."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol, TypeVar

import numpy as np

from ..evaluate import EvaluatedPart
from .space import Matrix, box, extent_of

#: Room between groups and the first of them, as a share of its size.
BESIDE = 0.15


class OfPart(Protocol):
    """A copy of a part, by the part's id."""

    @property
    def part(self) -> str: ...

    def __hash__(self) -> int: ...


C = TypeVar("C", bound=OfPart)


def lay_beside(groups: list[list[C]], poses: dict[C, Matrix], parts: Mapping[str, EvaluatedPart]) -> None:
    """The largest group first, on z = 0 with its middle over the origin; the others to its right, in rows."""
    groups.sort(key=lambda group: (len(group), sum(parts[c.part].outline.area for c in group)), reverse=True)
    corners = {part_id: box(part) for part_id, part in parts.items()}
    corner, row, depth = np.zeros(3), 0.0, 0.0
    widest = 0.0
    for number, group in enumerate(groups):
        boxes = [extent_of(corners[copy.part], poses[copy]) for copy in group]
        low, high = np.min([b[0] for b in boxes], axis=0), np.max([b[1] for b in boxes], axis=0)
        size = high - low
        if number == 0:
            shift = -np.array([(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, low[2]])
            room = BESIDE * float(max(size[0], size[1]))
            corner = np.array([size[0] / 2 + room, -size[1] / 2, 0.0])
            widest = max(float(size[0]), 200.0)
        else:
            if row > 0 and row + size[0] > widest:
                corner, row, depth = corner + np.array([0, depth + 10, 0]), 0.0, 0.0
            shift = corner + np.array([row, 0, 0]) - low
            row, depth = row + float(size[0]) + 10, max(depth, float(size[1]))
        for copy in group:
            poses[copy] = _shifted(poses[copy], shift)


def _shifted(pose: Matrix, shift: Matrix) -> Matrix:
    moved = pose.copy()
    moved[:3, 3] += shift
    return moved
