"""Round holes."""

from __future__ import annotations

from typing import Literal, Self

from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.loop import Loop, Outline, circle
from ...geometry.segment import Source
from .shape import BaseHole, Pen


class RoundHole(BaseHole):
    kind: Literal["round"] = "round"
    diameter: Size

    @property
    def title(self) -> str:
        return "round hole"

    @property
    def lines(self) -> int:
        return 2

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(diameter=typed_in(unit, 10))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        diameter = pen.read("diameter", self.diameter, positive)
        return (Outline(round_hole(pen.name, diameter)),) if diameter else None


def round_hole(shape: str, diameter: float) -> Loop:
    """A circle about the origin."""
    return circle(0, diameter / 2, Source(shape, "wall"))
