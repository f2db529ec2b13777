"""A bend where it lies on the flat sheet."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline, polygon
from ..geometry.segment import Point, Source, dot
from .allowance import Allowance


@dataclass(frozen=True, slots=True)
class LaidBend:
    """A bend in the frame of the part (mm): its middle line runs from ``start`` to ``end``.

    ``onward`` is the unit direction from the leg that it is measured from, or that carries the flange, to the other
    one. ``flange`` is whether it carries a flange.
    """

    id: str
    name: str
    bend: Allowance
    up: bool
    start: Point
    end: Point
    onward: complex
    flange: bool = False

    @property
    def half(self) -> float:
        """Half the width (mm) that it takes of the sheet."""
        return self.bend.length / 2

    @property
    def middle(self) -> Point:
        return (self.start + self.end) / 2

    @property
    def along(self) -> complex:
        return self.onward * -1j

    @property
    def tangents(self) -> tuple[tuple[Point, Point], tuple[Point, Point]]:
        """The two lines between which the sheet is bent."""
        shift = self.onward * self.half
        return (self.start - shift, self.end - shift), (self.start + shift, self.end + shift)

    def takes(self, point: Point) -> bool:
        """Whether a point lies in the strip that is bent; that of a line has no ends."""
        if abs(dot(self.onward, point - self.middle)) > self.half:
            return False
        return not self.flange or 2 * abs(dot(self.along, point - self.middle)) < abs(self.end - self.start)

    def strip(self, beyond: float = 0.0) -> Outline:
        """What it takes of the sheet, ``beyond`` mm longer at both ends."""
        way = (self.end - self.start) / abs(self.end - self.start) * beyond
        (a, b), (c, d) = self.tangents
        corners = [a - way, b + way, d + way, c - way]
        loop = polygon(corners, [Source(self.id, "bend")] * 4)
        return Outline(loop if loop.area > 0 else loop.reversed())
