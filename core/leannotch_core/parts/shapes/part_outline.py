"""Another part's outline as a shape."""

from __future__ import annotations

from typing import Literal, Self

from ...document.model import Id
from ...document.sums import Unit
from ...geometry.loop import Outline, joined_bounds
from ...geometry.segment import Motion
from .shape import BaseHole, Pen


class PartOutline(BaseHole):
    """The outline of another part as it is drawn, its cut-outs included, about the middle of its box; it follows that
    part. With it two parts are joined, taken from one another, or cut to what they have in common.
    """

    kind: Literal["part"] = "part"
    part: Id

    @property
    def title(self) -> str:
        return "outline of a part"

    @property
    def lines(self) -> int:
        return 40

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(part="part_1")

    @classmethod
    def of(cls, unit: Unit, what: str) -> Self:
        return cls.model_validate({**cls.begun(unit).model_dump(), "part": what}) if what else cls.begun(unit)

    @property
    def as_large_as(self) -> str:
        return "the part that it shows"

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        region = pen.others.get(self.part)
        if region is None:
            pen.error("part-missing", f"“{self.part}”, whose outline it has, is not there or cannot be drawn", "part")
            return None
        left, bottom, right, top = joined_bounds(outline.bounds for outline in region)
        middle = complex(left + right, bottom + top) / 2
        return tuple(outline.moved(Motion(shift=-middle)) for outline in region)

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return sum(len(outline.cutouts) for outline in outlines)
