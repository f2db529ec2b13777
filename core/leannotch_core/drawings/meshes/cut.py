"""Where a mesh is cut."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Axis = Literal["x", "y", "z"]

Direction = tuple[float, float, float]

AXES: dict[Axis, Direction] = {"x": (1.0, 0.0, 0.0), "y": (0.0, 1.0, 0.0), "z": (0.0, 0.0, 1.0)}

#: So many cuts at most are made through one mesh.
MOST_CUTS = 24


@dataclass(frozen=True, slots=True)
class Cut:
    """Cuts through bodies: square to a direction, at ``heights`` along it in mm; none is half way up all of them."""

    square_to: Direction = AXES["z"]
    heights: tuple[float, ...] = ()
