"""Rows and grids."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size
from ...document.turned_over import negative
from ...geometry.segment import Motion
from .repeat import BaseRepeat, Begun


class Grid(BaseRepeat):
    """A row or grid; steps run away from the corner that the first one is placed from."""

    kind: Literal["grid"] = "grid"
    columns: int = Field(default=1, ge=1, le=60)
    rows: int = Field(default=1, ge=1, le=60)
    step_x: Size = Size(text="10")
    step_y: Size = Size(text="10")

    @property
    def copies(self) -> int:
        return self.columns * self.rows

    def motions(self, begun: Begun) -> list[Motion] | None:
        x = begun.read("repeat/step_x", self.step_x, called="step across") if self.columns > 1 else 0.0
        y = begun.read("repeat/step_y", self.step_y, called="step up") if self.rows > 1 else 0.0
        if x is None or y is None:
            return None
        across, up = x * begun.away.real, y * begun.away.imag
        return [
            Motion(shift=complex(column * across, row * up))
            for row in range(self.rows)
            for column in range(self.columns)
        ]

    def mirrored(self, from_middle: bool) -> Self:
        return self.model_copy(update={"step_x": negative(self.step_x)}) if from_middle else self
