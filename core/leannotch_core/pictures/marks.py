"""Marks of known places in a picture: what takes its pixels to the bed.

Four marks on a flat bed determine the one projective map between picture and bed (a homography): the solution of
eight linear equations in its eight coefficients. Two marks of known distance set a scale alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
import numpy.typing as npt

from ..geometry.segment import Point, cross
from ..said import Said

Matrix = npt.NDArray[np.float64]

#: Three marks lie on a line where their triangle is flatter than this, by its height over its longest side.
_FLAT = 0.02


class BadMarks(Said):
    """Marks that say nothing of how the picture lies; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Mark:
    """A place in the picture (pixels, y down), and where that is on the bed (mm, y up)."""

    seen: Point
    lies: Point


def laid_flat(marks: Sequence[Mark]) -> Matrix:
    """The 3 x 3 map from pixels to mm that four marks determine. Raises `BadMarks`."""
    if len(marks) != 4:
        raise BadMarks(f"{len(marks)} marks are set; four take the perspective away.")
    for which, places in (
        ("in the picture", [mark.seen for mark in marks]),
        ("on the bed", [mark.lies for mark in marks]),
    ):
        for three in combinations(range(4), 3):
            if _flatness([places[at] for at in three]) < _FLAT:
                names = ", ".join(str(at + 1) for at in three)
                raise BadMarks(f"Marks {names} lie on one line {which}; set them at four corners.")
    rows, right = [], []
    for mark in marks:
        u, v, x, y = mark.seen.real, mark.seen.imag, mark.lies.real, mark.lies.imag
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    found = np.linalg.solve(np.array(rows), np.array(right))
    return np.append(found, 1.0).reshape(3, 3)


def to_scale(a: Point, b: Point, distance: float, height: float) -> Matrix:
    """The map that two places of a picture (pixels) set which are so many mm apart.

    The picture, ``height`` pixels high, is not turned, and its lower left corner lies at 0, 0. Raises `BadMarks`.
    """
    if distance <= 0:
        raise BadMarks(f"A distance of {distance:g} mm sets no scale; type more than 0.")
    if abs(b - a) < 2:
        raise BadMarks("The two places are the same; click two that are far apart.")
    scale = distance / abs(b - a)
    return np.array([[scale, 0, 0], [0, -scale, height * scale], [0, 0, 1.0]])


def through(matrix: Matrix, place: Point) -> Point:
    """Where a map takes a place."""
    x, y, w = matrix @ np.array([place.real, place.imag, 1.0])
    return complex(x / w, y / w)


def _flatness(three: Sequence[Point]) -> float:
    a, b, c = three
    longest = max(abs(b - a), abs(c - b), abs(a - c))
    return abs(cross(b - a, c - a)) / (longest * longest) if longest else 0.0
