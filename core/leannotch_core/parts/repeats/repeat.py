"""What every kind of repeat tells of itself, and what it is given to find its places with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from ...document.model import Model
from ...geometry.loop import Loop
from ...geometry.segment import Motion, Point
from ..shapes.shape import ReadSize


@dataclass(frozen=True, slots=True)
class Begun:
    """Where the first one stands (mm, in the part's frame), and what others may be found by.

    ``away`` is which way positive steps run, ``middle`` the middle of the part and ``edge`` its drawn outline.
    """

    at: Point
    away: complex
    middle: Point
    edge: Loop
    read: ReadSize


class BaseRepeat(Model):
    """A kind of repeat: typed here, and found by itself."""

    @property
    def copies(self) -> int:
        """How many there are, those left out included."""
        raise NotImplementedError

    def motions(self, begun: Begun) -> list[Motion] | None:
        """What takes the first one to each place, the first one's included; None, with findings, where unreadable."""
        raise NotImplementedError

    def mirrored(self, from_middle: bool) -> Self:
        """As it runs once the part is turned over, left to right; ``from_middle``: steps run right and up."""
        raise NotImplementedError
