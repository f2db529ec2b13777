"""Rings."""

from __future__ import annotations

from typing import Literal, Self

from ...document.sizes import Size, positive, shown, typed_in
from ...document.sums import Unit
from ...geometry.loop import Outline, circle
from ...geometry.segment import Source
from .shape import BaseHole, Pen


class Annulus(BaseHole):
    """The ring between two circles about one middle."""

    kind: Literal["annulus"] = "annulus"
    diameter: Size
    inner: Size

    @property
    def title(self) -> str:
        return "ring"

    @property
    def lines(self) -> int:
        return 4

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(diameter=typed_in(unit, 30), inner=typed_in(unit, 20))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        outer, inner = pen.read("diameter", self.diameter, positive), pen.read("inner", self.inner, positive)
        if outer is None or inner is None:
            return None
        if inner >= outer:
            text = f"its inner diameter of {shown(inner)} is not less than the outer one of {shown(outer)}"
            pen.error(
                "ring-turned-out", text, "inner", pen.set(f"Use {outer * 0.7:.4g} mm", "inner", f"{outer * 0.7:.4g}")
            )
            return None
        hole = circle(0, inner / 2, Source(pen.name, "inner wall")).reversed()
        return (Outline(circle(0, outer / 2, Source(pen.name, "outer wall")), (hole,)),)

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return 1
