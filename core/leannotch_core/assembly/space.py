"""Places in space: x to the right, y to the back, z up, in mm."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..evaluate import EvaluatedPart
from ..joints.meeting import Contact

#: A pose: the 4 x 4 matrix from a part's own frame to space.
Matrix = npt.NDArray[np.float64]


def pose_between(own: Contact, other: Contact) -> Matrix:
    """The pose of the other part in the own part's frame, so that the axes of both contacts coincide."""
    # The axes stand square to one another, so that their transposed matrix undoes them.
    turn = np.array(own.axes).T @ np.array(other.axes)
    pose = np.eye(4)
    pose[:3, :3] = turn
    pose[:3, 3] = np.array(own.origin) - turn @ np.array(other.origin)
    return pose


def extent(part: EvaluatedPart, pose: Matrix) -> tuple[Matrix, Matrix]:
    """The lowest and the highest corner (mm) of the box about a part in its pose."""
    left, bottom, right, top = part.outline.bounds
    corners = np.array(
        [[x, y, z, 1.0] for x in (left, right) for y in (bottom, top) for z in (0.0, part.stock.thickness)]
    )
    there = (corners @ pose.T)[:, :3]
    return there.min(axis=0), there.max(axis=0)
