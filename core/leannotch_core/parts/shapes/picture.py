"""Pictures laid under a drawing."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field

from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.loop import Outline
from .rectangle import rectangular_hole
from .shape import BaseHole, Pen


class Picture(BaseHole):
    """A picture, by the key that it is kept under, ``width`` x ``height`` large; it is only ever a reference."""

    kind: Literal["picture"] = "picture"
    picture: Annotated[str, Field(pattern=r"^[0-9a-f]{0,64}$")]
    width: Size
    height: Size

    @property
    def title(self) -> str:
        return "picture"

    @property
    def lines(self) -> int:
        return 4

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(picture="", width=typed_in(unit, 80), height=typed_in(unit, 60))

    @classmethod
    def of(cls, unit: Unit, what: str) -> Self:
        return cls.model_validate({**cls.begun(unit).model_dump(), "picture": what}) if what else cls.begun(unit)

    @property
    def only_shown(self) -> bool:
        return True

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        return None if width is None or height is None else (Outline(rectangular_hole(pen.name, width, height, 0)),)
