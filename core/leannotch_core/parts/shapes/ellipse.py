"""Ellipses, in arcs."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Literal, Self

from ...document.sizes import positive, typed_in
from ...document.sums import Unit
from ...geometry.biarc import arcs_along
from ...geometry.biarc import ellipse as ellipse_curve
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Motion, Source
from .outline import joined_ends
from .round_hole import round_hole
from .shape import BaseHole, BaseOutline, Extent, Pen


class Ellipse(BaseOutline, BaseHole):
    kind: Literal["ellipse"] = "ellipse"

    @property
    def title(self) -> str:
        return "ellipse"

    @property
    def lines(self) -> int:
        return 12

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(width=typed_in(unit, 30), height=typed_in(unit, 20))

    def outline(self, pen: Pen, extent: Extent) -> list[Loop] | None:
        middle = complex(extent.width, extent.height) / 2
        return [ellipse(pen.name, extent.width, extent.height).moved(Motion(shift=middle))]

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        return None if width is None or height is None else (Outline(ellipse(pen.name, width, height)),)


def ellipse(shape: str, width: float, height: float) -> Loop:
    """An ellipse about the origin, in arcs; a circle when both sizes are equal."""
    if abs(width - height) < 1e-9:
        return round_hole(shape, width)
    curve = ellipse_curve(0, width / 2, 1j * height / 2)
    quarters = [math.tau * quarter / 4 for quarter in range(5)]
    source = Source(shape, "wall")
    arcs = [arc for begin, end in pairwise(quarters) for arc in arcs_along(curve, begin, end, source)]
    return Loop(joined_ends(arcs))
