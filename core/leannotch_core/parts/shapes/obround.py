"""Slots with round ends."""

from __future__ import annotations

from typing import Literal, Self

from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.loop import Loop, Outline
from .rectangle import rectangular_hole
from .round_hole import round_hole
from .shape import BaseHole, Pen


class Obround(BaseHole):
    """A slot with round ends; ``width`` is its full length along x before it is turned."""

    kind: Literal["obround"] = "obround"
    width: Size
    height: Size

    @property
    def title(self) -> str:
        return "obround"

    @property
    def lines(self) -> int:
        return 4

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(width=typed_in(unit, 30), height=typed_in(unit, 10))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        return None if width is None or height is None else (Outline(obround(pen.name, width, height)),)


def obround(shape: str, width: float, height: float) -> Loop:
    """A slot about the origin with round ends on its short sides; a circle when both sizes are equal."""
    if abs(width - height) < 1e-9:
        return round_hole(shape, width)
    return rectangular_hole(shape, width, height, min(width, height) / 2)
