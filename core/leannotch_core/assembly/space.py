"""Places in space: x to the right, y to the back, z up, in mm."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np
import numpy.typing as npt

from ..evaluate import EvaluatedPart
from ..joints.meeting import Contact

#: A pose: the 4 x 4 matrix from a part's own frame to space.
Matrix = npt.NDArray[np.float64]


def poses_between(own: Sequence[Contact], other: Sequence[Contact]) -> Matrix:
    """Poses, shape (n, 4, 4), of other parts in their partners' frames, so that the axes of both contacts coincide."""
    # The axes stand square to one another, so that their transposed matrix undoes them.
    turns = np.array([c.axes for c in own]).transpose(0, 2, 1) @ np.array([c.axes for c in other])
    poses = np.zeros((len(own), 4, 4))
    poses[:, :3, :3] = turns
    poses[:, :3, 3] = np.array([c.origin for c in own])
    poses[:, :3, 3] -= (turns @ np.array([c.origin for c in other])[:, :, None])[:, :, 0]
    poses[:, 3, 3] = 1
    return poses


def box(part: EvaluatedPart) -> Matrix:
    """The corners, shape (8, 4), of the box about a part in its own frame, folded where it is bent."""
    if part.folded:
        points = part.folded.corners()
        ends = zip(points.min(axis=0).tolist(), points.max(axis=0).tolist(), strict=True)
        return np.array([[x, y, z, 1.0] for x, y, z in product(*ends)])
    left, bottom, right, top = part.outline.bounds
    return np.array([[x, y, z, 1.0] for x in (left, right) for y in (bottom, top) for z in (0.0, part.stock.thickness)])


def extent(part: EvaluatedPart, pose: Matrix) -> tuple[Matrix, Matrix]:
    """The lowest and the highest corner (mm) of the box about a part in its pose."""
    return extent_of(box(part), pose)


def extent_of(corners: Matrix, pose: Matrix) -> tuple[Matrix, Matrix]:
    """The least and the most of x, y and z (mm) that corners, rows of x, y, z and 1, reach in a pose."""
    there = (corners @ pose.T)[:, :3]
    return there.min(axis=0), there.max(axis=0)


def moved(pose: Matrix, way: Matrix) -> Matrix:
    """A pose (4 x 4) moved along a way in space (mm)."""
    there = pose.copy()
    there[:3, 3] += way
    return there
