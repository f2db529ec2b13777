"""Repeats round a point."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Angle, Size
from ...document.turned_over import negative
from ...geometry.segment import Motion, move
from ..shapes.shape import plain
from .repeat import BaseRepeat, Begun


class RoundAPoint(BaseRepeat):
    """So many round a point, which lies ``x`` across and ``y`` up from the part's middle.

    ``step`` is the angle (degrees, counter-clockwise) from one to the next; 0 shares a full turn evenly. They are
    ``turned`` as they go round, or all stand as the first one does.
    """

    kind: Literal["round a point"] = "round a point"
    count: int = Field(default=6, ge=1, le=360)
    step: Angle = Angle(text="0")
    turned: bool = True
    x: Size = Size(text="0")
    y: Size = Size(text="0")

    @property
    def copies(self) -> int:
        return self.count

    def motions(self, begun: Begun) -> list[Motion] | None:
        step = begun.read("repeat/step", self.step, plain, "angle step")
        x = begun.read("repeat/x", self.x, called="point across")
        y = begun.read("repeat/y", self.y, called="point up")
        if step is None or x is None or y is None:
            return None
        centre = begun.middle + complex(x, y)
        return [self._place(begun.at, centre, index * (step or 360 / self.count)) for index in range(self.count)]

    def _place(self, at: complex, centre: complex, angle: float) -> Motion:
        turn = move(angle).turn
        round_it = Motion(turn, centre - turn * centre)
        return round_it if self.turned else Motion(shift=round_it(at) - at)

    def mirrored(self, from_middle: bool) -> Self:
        step = self.step if self.step.text.strip() not in ("", "0") else Angle(text=f"360/{self.count}")
        return self.model_copy(update={"x": negative(self.x), "step": Angle(text=negative(step).text)})
