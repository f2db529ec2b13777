"""Where the plates of a mesh stood, once they are laid flat side by side in a drawing."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import islice

import numpy as np

from ..geometry.segment import Motion, Point
from ..parts.standing import Standing
from .alike import motions_between
from .drawing import Stand
from .recognised import FoundPart

#: The corner of a plate in the drawing is known again within this (mm).
_NEAR = 0.05


#: Ways to lay an outline onto an equal one that are looked at.
_WAYS = 16


def standings(part: FoundPart, stands: Sequence[Stand], scale: float) -> list[Standing]:
    """Where each copy of a part stood, in their order; none where one of them did not come from a plate.

    A copy that is equal in several ways stands the way in which its top is where that of the first is, and its face
    where it is seen.

    ``scale`` is what the drawing, as it was read, was multiplied by.
    """
    left, bottom, _, _ = part.outline.bounds
    found: list[Standing] = []
    for motion in part.places:
        own_left, own_bottom, _, _ = part.outline.moved(motion).bounds
        corner = complex(own_left, own_bottom)
        stand = next((one for one in stands if abs(one.corner * scale - corner) < _NEAR), None)
        if stand is None:
            return []
        rows = np.array(stand.rows).reshape(3, 4)
        rows[:, 3] *= scale
        ways = [motion]
        if found:
            moved = part.outline.moved(motion)
            ways += islice(motions_between(part.outline, moved, mirrored=True), _WAYS)
        wholes = [(way, rows @ _in_space(way, complex(left, bottom), stand.thick * scale)) for way in ways]
        top = np.array(found[0].rows).reshape(3, 4)[:, 1] if found else wholes[0][1][:, 1]
        _, whole = max(wholes, key=lambda one: (round(float(one[1][:, 1] @ top), 3), not one[0].mirrored))
        found.append(Standing(rows=whole.round(9).ravel().tolist(), thick=round(stand.thick * scale, 6)))
    return found


def _in_space(motion: Motion, corner: Point, thick: float) -> np.ndarray:
    """From a part's own frame to the drawing, moved: what is mirrored in the plane is turned over in space."""
    over = -1 if motion.mirrored else 1
    at = motion(corner)
    matrix = np.eye(4)
    matrix[0, :2] = motion.turn.real, -motion.turn.imag * over
    matrix[1, :2] = motion.turn.imag, motion.turn.real * over
    matrix[2, 2] = over
    matrix[:3, 3] = at.real, at.imag, thick if motion.mirrored else 0.0
    return matrix
