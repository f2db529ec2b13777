"""What a joint takes up of a part: an edge, a line on its face, or slots along a side."""

from __future__ import annotations

from typing import Self

from pydantic import Field

from ..document.model import Id, Model, Side
from ..document.sizes import Size
from ..document.turned_over import from_right, half_turn, negative, other_hand


class End(Model):
    """One of the two ends of a joint, on a part."""

    part: Id

    def turned_over(self) -> Self:
        """The same place, once the part is turned over, left to right."""
        raise NotImplementedError


class EdgeOf(End):
    """One side of a part, as it was drawn before any joint."""

    side: Side

    def turned_over(self) -> Self:
        return self.model_copy(update={"side": other_hand(self.side)})


class FaceLine(End):
    """A line on the face of a part: where it begins, its turn in degrees, and how often it is repeated.

    ``x`` and ``y`` run from the lower left corner; repeated lines lie ``step`` apart, to the left of the line.
    Unevenly spaced ones begin at each of ``at_x``, as high as the first.
    """

    x: Size
    y: Size
    turn: Size = Size(text="0")
    lines: int = Field(default=1, ge=1, le=60)
    step: Size = Size(text="30")
    at_x: list[Size] = Field(default=[], max_length=60)

    @property
    def all_lines(self) -> int:
        return self.lines + len(self.at_x)

    def turned_over(self) -> Self:
        line = {"x": from_right(self.x), "turn": half_turn(self.turn), "step": negative(self.step)}
        return self.model_copy(update={**line, "at_x": [from_right(x) for x in self.at_x]})


class SlotAt(End):
    """Where slots open: a side of the part, how far along it the middle of the first lies, and the step to the next.

    Unevenly spaced ones lie ``also_at``, besides the first.
    """

    side: Side
    at: Size
    slots: int = Field(default=1, ge=1, le=60)
    step: Size = Size(text="30")
    also_at: list[Size] = Field(default=[], max_length=60)

    @property
    def all_slots(self) -> int:
        return self.slots + len(self.also_at)

    def turned_over(self) -> Self:
        other = self.model_copy(update={"side": other_hand(self.side)})
        if self.side in ("left", "right"):
            return other
        also = [from_right(at) for at in self.also_at]
        return other.model_copy(update={"at": from_right(self.at), "step": negative(self.step), "also_at": also})
