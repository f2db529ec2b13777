"""Sectors: pieces of a disc or of a ring."""

from __future__ import annotations

import cmath
import math
from typing import Literal, Self

from ...document.sizes import Angle, Size, positive, shown, typed_in
from ...document.sums import Unit
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Arc, Line, Segment, Source
from .shape import BaseHole, Pen, plain


class Sector(BaseHole):
    """A piece of a disc, ``angle`` degrees wide, about the disc's middle and opening to the right; of a ring, where
    the ``inner`` diameter is more than 0.
    """

    kind: Literal["sector"] = "sector"
    diameter: Size
    inner: Size = Size(text="0")
    angle: Angle = Angle(text="60")

    @property
    def title(self) -> str:
        return "sector"

    @property
    def lines(self) -> int:
        return 6

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(diameter=typed_in(unit, 40))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        diameter, inner = pen.read("diameter", self.diameter, positive), pen.read("inner", self.inner)
        angle = pen.read("angle", self.angle, plain)
        if diameter is None or inner is None or angle is None:
            return None
        if not 0 < angle < 360:
            text = f"an angle of {angle:g} degrees is no sector; type one between 0 and 360, or take a ring"
            pen.error("no-sector", text, "angle", pen.set("Use 60 degrees", "angle", "60"))
            return None
        if not 0 <= inner < diameter:
            text = f"its inner diameter of {shown(inner)} is not between 0 and the outer one of {shown(diameter)}"
            pen.error("ring-turned-out", text, "inner", pen.set("Use 0", "inner", "0"))
            return None
        return (Outline(sector(pen.name, diameter / 2, inner / 2, angle)),)


def sector(shape: str, radius: float, inner: float, angle: float) -> Loop:
    """A piece of a disc or ring about the origin, ``angle`` degrees wide, half of it on either side of the x axis."""
    half = math.radians(angle) / 2
    low, middle, high = (cmath.rect(1, turn) for turn in (-half, 0, half))
    wall, first, second = (Source(shape, side) for side in ("outer wall", "lower side", "upper side"))
    # In halves, as an arc of nearly a full turn has a bulge beyond all bounds.
    segments: list[Segment] = [
        Line(inner * low, radius * low, first),
        Arc(radius * low, radius * middle, 0, True, wall),
        Arc(radius * middle, radius * high, 0, True, wall),
        Line(radius * high, inner * high, second),
    ]
    if inner > 0:
        back = Source(shape, "inner wall")
        segments.append(Arc(inner * high, inner * middle, 0, False, back))
        segments.append(Arc(inner * middle, inner * low, 0, False, back))
    return Loop(tuple(segments))
