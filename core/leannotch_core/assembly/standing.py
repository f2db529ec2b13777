"""Parts of a mesh where they stood in it."""

from __future__ import annotations

import numpy as np

from ..evaluate import EvaluatedPart
from ..parts.shapes.brought import Brought
from ..parts.standing import Standing
from .space import Matrix


def file_of(part: EvaluatedPart) -> str:
    """The file that a part came from: what came from one stands in one space."""
    came = part.part.shape.came_from if isinstance(part.part.shape, Brought) else None
    return came.file if came else ""


def stood(stand: Standing, part: EvaluatedPart) -> Matrix:
    """The pose in which a copy stood; a sheet of another thickness keeps its middle plane."""
    pose = np.eye(4)
    pose[:3] = np.array(stand.rows).reshape(3, 4)
    pose[:3, 3] += pose[:3, 2] * (stand.thick - part.stock.thickness) / 2
    return pose
