"""Regular polygons."""

from __future__ import annotations

import cmath
import math
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.corner import CornerTooLarge, rounded
from ...geometry.loop import Loop, Outline, polygon
from ...geometry.segment import Source
from .shape import BaseHole, Pen


class RegularPolygon(BaseHole):
    """A polygon of so many equal ``sides``, one of them lying level below; ``width`` is ``across`` its corners, as the
    circle round it, or its flats, as the circle in it. Its corners are rounded by ``radius``.
    """

    kind: Literal["polygon"] = "polygon"
    sides: int = Field(default=6, ge=3, le=60)
    across: Literal["flats", "corners"] = "flats"
    width: Size
    radius: Size = Size(text="0")

    @property
    def title(self) -> str:
        return "polygon"

    @property
    def lines(self) -> int:
        return 2 * self.sides

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(width=typed_in(unit, 20))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, radius = pen.read("width", self.width, positive), pen.read("radius", self.radius)
        if width is None or radius is None:
            return None
        loop = regular_polygon(pen.name, self.sides, width, self.across == "flats")
        try:
            # From the last one on, so that the places of those before stay.
            for at in reversed(range(self.sides)) if radius > 0 else ():
                loop = rounded(loop, at, radius, Source(pen.name, f"corner {at + 1}"))
        except CornerTooLarge:
            # What one corner has room for, all of them have not: half a side is the most.
            fits = int(_largest_radius(self.sides, width, self.across == "flats") * 100) / 100
            text = f"a radius of {radius:g} mm is too large; the largest that fits is {fits:g} mm"
            pen.error("radius-too-large", text, "radius", pen.set(f"Use {fits:g} mm", "radius", f"{fits:g}"))
            return None
        return (Outline(loop),)


def regular_polygon(shape: str, sides: int, width: float, flats: bool) -> Loop:
    """A polygon about the origin, ``width`` mm across its flats (twice the inner radius) or its corners."""
    reach = width / 2 / math.cos(math.pi / sides) if flats else width / 2
    first = -math.pi / 2 - math.pi / sides
    corners = [cmath.rect(reach, first + math.tau * at / sides) for at in range(sides)]
    return polygon(corners, [Source(shape, f"side {at + 1}") for at in range(sides)])


def _largest_radius(sides: int, width: float, flats: bool) -> float:
    """Where the rounds of two neighbours meet in the middle of their side, the polygon is its inner circle."""
    return width / 2 if flats else width / 2 * math.cos(math.pi / sides)
