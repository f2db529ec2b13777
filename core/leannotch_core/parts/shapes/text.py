"""Letters as shapes."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field

from ...document.model import PRINTABLE, Align
from ...document.sizes import Size, Unit, positive, typed_in
from ...geometry.loop import Outline
from ..lettering.outlines import NoGlyph, Setting, islands, text_outlines
from .shape import BaseHole, Pen

#: About how many lines and arcs an outlined letter comes to.
LINES_OF_A_LETTER = 75


class TextHole(BaseHole):
    """Letters; ``height`` is that of the capitals. On a ``bend`` they follow an arc of that radius.

    ``bend`` is positive where the letters stand on top of the arc, 0 for a straight line. ``bridges`` hold the
    insides of letters such as O; the stencil font needs none.
    """

    kind: Literal["text"] = "text"
    text: Annotated[str, Field(min_length=1, max_length=60), PRINTABLE]
    font: Literal["plain", "stencil"] = "stencil"
    height: Size
    tracking: Size = Size(text="0")
    align: Align = "middle"
    bend: Size = Size(text="0")
    bridges: Size = Size(text="0")

    @property
    def lines(self) -> int:
        return LINES_OF_A_LETTER * len(self.text)

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(text="TEXT", height=typed_in(unit, 12))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        height = pen.read("height", self.height, positive, "cap height")
        tracking, bend = pen.read("tracking", self.tracking), pen.read("bend", self.bend)
        bridges = pen.read("bridges", self.bridges)
        if height is None or tracking is None or bend is None or bridges is None:
            return None
        return letters(pen, self.text, Setting(self.font, height, tracking, self.align, bend, max(0.0, bridges)))

    @property
    def title(self) -> str:
        return f"text “{self.text}”"

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return islands(outlines)

    def tell_islands(self, pen: Pen, lost: int) -> None:
        width = f"{max(pen.stock.smallest_web, 2 * pen.stock.kerf):.2f}"
        fall = "islands of its letters fall" if lost > 1 else "island of its letters falls"
        pen.reader.warn(
            "letters-lose-islands",
            f"{pen.called}: {lost} {fall} out; hold them by bridges, or take the stencil font",
            pen.at("bridges"),
            pen.set(f"Bridges of {width} mm", "bridges", width),
        )


def letters(pen: Pen, text: str, setting: Setting) -> tuple[Outline, ...] | None:
    """The outlines of a text; None, with a finding, where a letter is missing or there are none to cut."""
    try:
        outlines = text_outlines(pen.name, text, setting)
    except NoGlyph as error:
        pen.error("letter-missing", f"{error}; write it otherwise", "text")
        return None
    if not outlines:
        pen.error("nothing-to-cut", "there is nothing to cut in it", "text")
        return None
    return outlines
