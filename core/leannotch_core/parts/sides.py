"""A side of a part as joints see it: a straight datum with a length, whatever is cut into it later."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline, polygon
from ..geometry.segment import Point, Source

#: Notches reach this far (mm) out of the part, so that no sliver is left on its edge.
OVERSHOOT = 1.0


@dataclass(frozen=True, slots=True)
class SideFrame:
    """``start`` is the lower or left end; ``along`` and ``inward`` are unit directions; sizes in mm."""

    start: Point
    along: complex
    inward: complex
    length: float
    depth: float

    def point(self, along: float, inward: float) -> Point:
        return self.start + self.along * along + self.inward * inward

    def notch(self, begin: float, end: float, depth: float, shape: str, side: str) -> Outline:
        """A rectangular notch from ``begin`` to ``end`` along the side; drawn out past an end it reaches."""
        begin = begin - OVERSHOOT if begin <= 1e-9 else begin
        end = end + OVERSHOOT if end >= self.length - 1e-9 else end
        corners = [
            self.point(begin, -OVERSHOOT),
            self.point(end, -OVERSHOOT),
            self.point(end, depth),
            self.point(begin, depth),
        ]
        names = ("mouth", "flank", "floor", "flank")
        loop = polygon(corners, [Source(shape, f"{side} {name}") for name in names])
        return Outline(loop if loop.area > 0 else loop.reversed())


def side_frame(width: float, height: float, side: str) -> SideFrame:
    """The frame of one side of a ``width`` x ``height`` rectangle with its lower left corner at 0."""
    if side == "bottom":
        return SideFrame(0, 1, 1j, width, height)
    if side == "top":
        return SideFrame(1j * height, 1, -1j, width, height)
    if side == "left":
        return SideFrame(0, 1j, 1, height, width)
    return SideFrame(complex(width), 1j, -1, height, width)
