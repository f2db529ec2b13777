"""Texts that are scored or engraved on a part."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..document.model import PRINTABLE, Align, Model
from ..document.sizes import Size
from .shapes.text import LINES_OF_A_LETTER

#: How text on a part is drawn: by single strokes, or by the outlines of a shipped font.
Lettering = Literal["single line", "plain", "stencil"]


MOST_LETTERS = 40


class Mark(Model):
    """Text that is scored or engraved on a part; ``x`` and ``y`` are its middle, from the lower left corner."""

    text: Annotated[str, Field(min_length=1, max_length=MOST_LETTERS), PRINTABLE]
    x: Size
    y: Size
    height: Size = Size(text="4")
    turn: Size = Size(text="0")
    font: Lettering = "single line"
    tracking: Size = Size(text="0")
    align: Align = "middle"
    bend: Size = Size(text="0")
    operation: Literal["fill", "score", "engrave"] = "score"

    @property
    def lines(self) -> int:
        return 0 if self.font == "single line" else LINES_OF_A_LETTER * len(self.text)
