"""Shapes on a part pushed apart, and made smaller where that is not enough, until every gap is wide enough."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely.affinity import affine_transform
from shapely.geometry.base import BaseGeometry

#: Pushes between two looks at whether it is enough; how much smaller shapes then become, and the least they become.
_PUSHES, _SMALLER, _SMALLEST = 60, 0.96, 0.5
#: What is asked for beyond the least (mm), so that measured exactly it is not a hair under it.
_OVER = 0.02

Vectors = npt.NDArray[np.complex128]


@dataclass(frozen=True, slots=True)
class Spread:
    """How far each shape goes (mm), how much smaller it becomes about its middle, and which are still too near."""

    ways: list[complex]
    factors: list[float]
    left: list[int]


def spread(
    shapes: Sequence[BaseGeometry], edge: BaseGeometry, movable: Sequence[bool], least: float, from_edge: float
) -> Spread:
    """Shapes (polygons, mm) moved and shrunk so that they are ``least`` mm from each other, and ``from_edge`` mm from
    the edge of the polygon that they lie in. Those that are not ``movable`` stay as they are.
    """
    state = _State(shapes, edge, np.array(movable, dtype=bool), least + _OVER, from_edge + _OVER)
    while state.too_near() and state.smaller():
        pass
    return Spread([complex(way) for way in state.ways], [float(f) for f in state.factors], state.left)


class _State:
    def __init__(
        self,
        shapes: Sequence[BaseGeometry],
        edge: BaseGeometry,
        movable: npt.NDArray[np.bool_],
        least: float,
        from_edge: float,
    ) -> None:
        self._first, self._edge, self._movable = list(shapes), edge, movable
        self._least, self._from = least, from_edge
        self._middles = np.array([_middle(shape) for shape in shapes])
        self.ways: Vectors = np.zeros(len(shapes), dtype=np.complex128)
        self.factors = np.ones(len(shapes))
        self.left: list[int] = []
        self._rim = edge.boundary

    def too_near(self) -> bool:
        """Pushes apart what is too near, many times; whether something still is."""
        for _ in range(_PUSHES):
            push, near = self._push()
            self.left = sorted(near)
            if not near:
                return False
            self.ways = self.ways + np.where(self._movable, push, 0)
        self.left = sorted(self._push()[1])
        return bool(self.left)

    def smaller(self) -> bool:
        """Makes those that are still too near a little smaller; whether one could be."""
        can = [at for at in self.left if self._movable[at] and self.factors[at] * _SMALLER >= _SMALLEST]
        for at in can:
            self.factors[at] *= _SMALLER
        return bool(can)

    def _now(self) -> npt.NDArray[Any]:
        moved = []
        for shape, middle, way, factor in zip(self._first, self._middles, self.ways, self.factors, strict=True):
            shift = middle + way - middle * factor
            moved.append(affine_transform(shape, [factor, 0, 0, factor, shift.real, shift.imag]))
        return np.array(moved)

    def _push(self) -> tuple[Vectors, set[int]]:
        """How each should be pushed, and which are too near to something."""
        shapes = self._now()
        push: Vectors = np.zeros(len(shapes), dtype=np.complex128)
        near: set[int] = set()
        pairs = shapely.STRtree(shapes).query(shapes, predicate="dwithin", distance=self._least - _OVER / 2)
        a, b = pairs[:, pairs[0] < pairs[1]]
        for one, other, (start, end) in zip(a, b, _shortest(shapes[a], shapes[b]), strict=True):
            near |= {int(one), int(other)}
            way, far = end - start, abs(end - start)
            if far < 1e-9:
                way = self._middles[other] + self.ways[other] - self._middles[one] - self.ways[one]
            unit = way / abs(way) if abs(way) > 1e-9 else 1
            missing = (self._least - far) * unit
            both = self._movable[one] and self._movable[other]
            push[one] -= missing * (0.5 if both else 1.0)
            push[other] += missing * (0.5 if both else 1.0)
        return push + self._from_edge(shapes, near), near

    def _from_edge(self, shapes: npt.NDArray[Any], near: set[int]) -> Vectors:
        push: Vectors = np.zeros(len(shapes), dtype=np.complex128)
        inside = shapely.contains_properly(self._edge, shapes)
        close = shapely.dwithin(shapes, self._rim, self._from - _OVER / 2)
        heart = _middle(self._edge)
        at = np.flatnonzero(close | ~inside)
        for index, (start, end) in zip(at, _shortest(shapes[at], self._rim), strict=True):
            near.add(int(index))
            way = start - end
            if not inside[index] or abs(way) < 1e-9:
                way = heart - self._middles[index] - self.ways[index]
                push[index] = way / (abs(way) or 1) * max(self._from, 0.5)
            else:
                push[index] = way / abs(way) * (self._from - abs(way))
        return push


def _shortest(a: npt.NDArray[Any], b: Any) -> list[tuple[complex, complex]]:
    """The ends of the shortest lines between shapes, one by one."""
    lines = shapely.shortest_line(a, b)
    return [tuple(complex(x, y) for x, y in line.coords) for line in lines]  # type: ignore[misc]


def _middle(shape: BaseGeometry) -> complex:
    left, bottom, right, top = shape.bounds
    return complex(left + right, bottom + top) / 2
