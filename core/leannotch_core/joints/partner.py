"""A part as its joints know it."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline
from ..parts.sides import Beyond, SideFrame, side_frame
from .relief import Relief


@dataclass(frozen=True, slots=True)
class Partner:
    """A part as its joints know it: drawn size, thickness from the caliper readings, kerf (mm), and its relief.

    ``beyond`` is what joints drawn at the inside face add outside the drawn size. ``silhouette`` is its base region
    if that is not simply its rectangle. ``outward`` is 1 where its drawn face is outside in the assembly, else -1.
    ``starter`` is the id of the one that made it.
    """

    id: str
    name: str
    width: float
    height: float
    thickness: float
    thickest: float
    kerf: float
    relief: Relief | None = None
    beyond: Beyond = (0.0, 0.0, 0.0, 0.0)
    silhouette: tuple[Outline, ...] = ()
    outward: int = 1
    starter: str = ""

    def frame(self, side: str) -> SideFrame:
        """The side as joints see it: where the part ends, with what lies beyond its drawn size."""
        return side_frame(self.width, self.height, side, self.beyond)
