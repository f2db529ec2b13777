"""What a maker picks of two parts to join them."""

from __future__ import annotations

from dataclasses import dataclass

from ..document.model import Side
from ..document.sizes import Size, typed_in
from ..document.sums import Unit
from .ends import EdgeOf, FaceLine


@dataclass(frozen=True, slots=True)
class Picked:
    """A part that was picked, one of its sides if that was; its width and height in mm, the unit of new sizes."""

    part: str
    side: Side | None
    width: float
    height: float
    unit: Unit

    @property
    def edge(self) -> EdgeOf:
        return EdgeOf(part=self.part, side=self.side or "bottom")

    @property
    def along(self) -> float:
        """Length (mm) of the side."""
        return self.height if self.side in ("left", "right") else self.width

    def size(self, mm: float) -> Size:
        return typed_in(self.unit, mm)

    def line(self, length: float) -> FaceLine:
        """A line ``length`` mm long across the middle of the part's face."""
        upright = self.height >= self.width
        x = self.width / 2 if upright else (self.width - length) / 2
        y = (self.height - length) / 2 if upright else self.height / 2
        return FaceLine(part=self.part, x=self.size(x), y=self.size(y), turn=Size(text="90" if upright else "0"))
