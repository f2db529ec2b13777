"""Where a mesh is cut."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Axis = Literal["x", "y", "z"]


@dataclass(frozen=True, slots=True)
class Cut:
    """A cut through bodies: square to an axis, at a height along it in mm; None is half way up all of them."""

    axis: Axis
    height: float | None = None
