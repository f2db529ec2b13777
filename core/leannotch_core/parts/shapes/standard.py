"""Standard things as shapes, mostly to design round."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field

from ...document.sums import Unit
from ...geometry.loop import Outline
from .shape import BaseHole, Pen


class Standard(BaseHole):
    """A thing of the library of standard things, by its name there."""

    kind: Literal["standard"] = "standard"
    thing: Annotated[str, Field(max_length=60)]

    @property
    def title(self) -> str:
        return self.thing

    @property
    def lines(self) -> int:
        return 16

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(thing="M3 socket screw")

    @classmethod
    def of(cls, unit: Unit, what: str) -> Self:
        return cls.model_validate({**cls.begun(unit).model_dump(), "thing": what}) if what else cls.begun(unit)

    @property
    def as_large_as(self) -> str:
        return "its standard has it"

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        found = pen.standards.get(self.thing)
        if found is None:
            pen.error(
                "not-in-library", f"“{self.thing}” is not in the library of standard things; choose another", "thing"
            )
            return None
        return found

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return sum(len(outline.cutouts) for outline in outlines)
