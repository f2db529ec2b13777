"""Slots that follow an arc."""

from __future__ import annotations

import cmath
import math
from typing import Literal, Self

from ...document.sizes import Angle, Size, positive, shown, typed_in
from ...document.sums import Unit
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Arc, Segment, Source
from .shape import BaseHole, Pen, plain


class ArcSlot(BaseHole):
    """A slot ``width`` wide with round ends, whose middle line runs ``angle`` degrees along an arc of ``radius``.

    It is drawn about the arc's middle, with its own middle to the right of that.
    """

    kind: Literal["arc slot"] = "arc slot"
    radius: Size
    width: Size
    angle: Angle = Angle(text="60")

    @property
    def title(self) -> str:
        return "arc slot"

    @property
    def lines(self) -> int:
        return 6

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(radius=typed_in(unit, 20), width=typed_in(unit, 5))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        radius, width = pen.read("radius", self.radius, positive), pen.read("width", self.width, positive)
        angle = pen.read("angle", self.angle, plain)
        if radius is None or width is None or angle is None:
            return None
        if width >= 2 * radius:
            text = f"a slot {shown(width)} wide does not go round a radius of {shown(radius)}; make it narrower"
            pen.error("slot-too-wide", text, "width", pen.set(f"Use {radius:.4g} mm", "width", f"{radius:.4g}"))
            return None
        most = 360 - 2 * math.degrees(math.asin(width / 2 / radius))
        if not 0 < angle < most - 1e-9:
            text = f"an angle of {angle:g} degrees is not between 0 and the {most:.1f} at which its ends meet"
            pen.error("no-sector", text, "angle", pen.set("Use 60 degrees", "angle", "60"))
            return None
        return (Outline(arc_slot(pen.name, radius, width, angle)),)


def arc_slot(shape: str, radius: float, width: float, angle: float) -> Loop:
    """A slot along an arc about the origin, half of it on either side of the x axis."""
    half = math.radians(angle) / 2
    low, middle, high = (cmath.rect(1, turn) for turn in (-half, 0, half))
    far, near = radius + width / 2, radius - width / 2
    outer, inner, end = (Source(shape, side) for side in ("outer wall", "inner wall", "end"))
    segments: list[Segment] = [
        Arc(far * low, far * middle, 0, True, outer),
        Arc(far * middle, far * high, 0, True, outer),
        Arc(far * high, near * high, radius * high, True, end),
        Arc(near * high, near * middle, 0, False, inner),
        Arc(near * middle, near * low, 0, False, inner),
        Arc(near * low, far * low, radius * low, True, end),
    ]
    return Loop(tuple(segments))
