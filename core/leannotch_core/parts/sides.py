"""A side of a part as joints see it: a straight datum with a length, whatever is cut into it later."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..geometry.loop import Outline, polygon
from ..geometry.meet import meeting_points
from ..geometry.segment import Line, Point, Source

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


#: How far a part reaches beyond its drawn rectangle at the left, bottom, right and top (mm).
Beyond = tuple[float, float, float, float]


def side_frame(width: float, height: float, side: str, beyond: Beyond = (0.0, 0.0, 0.0, 0.0)) -> SideFrame:
    """The frame of one side of a ``width`` x ``height`` rectangle with its lower left corner at 0.

    What lies ``beyond`` the rectangle counts as part of it: there the sides are moved outwards.
    """
    left, bottom, right, top = beyond
    low = complex(-left, -bottom)
    width, height = width + left + right, height + bottom + top
    if side == "bottom":
        return SideFrame(low, 1, 1j, width, height)
    if side == "top":
        return SideFrame(low + 1j * height, 1, -1j, width, height)
    if side == "left":
        return SideFrame(low, 1j, 1, height, width)
    return SideFrame(low + width, 1j, -1, height, width)


def reach(region: Sequence[Outline], frame: SideFrame, at: float) -> tuple[float, float] | None:
    """Where a line square to the side, ``at`` mm along it, enters and leaves ``region``: mm from the side.

    None where the line misses it. Used for silhouettes, whose material does not begin at the side itself.
    """
    far = frame.depth + 2 * OVERSHOOT
    probe = Line(frame.point(at, -OVERSHOOT), frame.point(at, far), Source("probe", "line"))
    met = [point for outline in region for segment in outline.outer for point in meeting_points(probe, segment)]
    depths = [((point - frame.start) * frame.inward.conjugate()).real for point in met]
    return (min(depths), max(depths)) if depths else None
