"""A beam that is wider one way, swept as if it were round: all is stretched until it is, and drawn back afterwards."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from .chords import Point

#: A shape, or an array of shapes.
S = TypeVar("S", BaseGeometry, npt.NDArray[np.object_])

Matrix = npt.NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True)
class SweptOval:
    """By how much (mm) a beam is wider across than along a way that lies ``turned`` degrees from x; by nothing where it
    is round.
    """

    wider: float = 0.0
    turned: float = 0.0

    def stretched(self, shapes: S, kerf: float) -> S:
        """Shapes in a plane in which the beam is round, and as wide as its ``kerf`` (mm), the mean of both ways."""
        return self._put(shapes, self._matrix(kerf)) if self.wider and kerf else shapes

    def drawn_back(self, shapes: S, kerf: float) -> S:
        """Shapes of that plane as they are."""
        return self._put(shapes, np.linalg.inv(self._matrix(kerf))) if self.wider and kerf else shapes

    def turned_by(self, turn: Point, mirrored: bool) -> SweptOval:
        """The same in the frame of what lies turned (a direction of length 1), and on its face before that."""
        way = turn.conjugate() * cmath.rect(1.0, math.radians(self.turned))
        return SweptOval(self.wider, math.degrees(cmath.phase(way.conjugate() if mirrored else way)))

    def _matrix(self, kerf: float) -> Matrix:
        way = cmath.rect(1.0, math.radians(self.turned))
        turned = np.array([[way.real, -way.imag], [way.imag, way.real]])
        along, across = kerf - self.wider / 2, kerf + self.wider / 2
        stretched: Matrix = turned @ np.diag([kerf / along, kerf / across]) @ turned.T
        return stretched

    def _put(self, shapes: S, matrix: Matrix) -> S:
        put: S = shapely.transform(shapes, lambda points: points @ matrix.T)
        return put


ROUND = SweptOval()
