"""Letters as shapes."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field

from ...document.model import PRINTABLE, Align
from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.loop import Outline
from ...geometry.segment import Line, Segment, Source
from ..lettering.outlines import NoGlyph, Typesetting, islands, text_outlines
from ..lettering.single_line import missing, strokes
from .shape import BaseHole, Pen

#: How text is drawn: by single strokes, or by the outlines of a shipped font.
Lettering = Literal["single line", "plain", "stencil"]

#: The most letters of a text.
MOST_LETTERS = 60

#: About how many lines and arcs an outlined letter comes to.
LINES_OF_A_LETTER = 75


class TextHole(BaseHole):
    """Letters; ``height`` is that of the capitals. On a ``bend`` they follow an arc of that radius.

    ``bend`` is positive where the letters stand on top of the arc, 0 for a straight line. ``bridges`` hold the
    insides of letters such as O; the stencil font needs none. Letters of a single line have no inside at all.
    """

    kind: Literal["text"] = "text"
    text: Annotated[str, Field(min_length=1, max_length=MOST_LETTERS), PRINTABLE]
    font: Lettering = "stencil"
    height: Size
    tracking: Size = Size(text="0")
    align: Align = "middle"
    bend: Size = Size(text="0")
    bridges: Size = Size(text="0")

    @property
    def lines(self) -> int:
        return (8 if self.font == "single line" else LINES_OF_A_LETTER) * len(self.text)

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(text="TEXT", height=typed_in(unit, 12))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        if self.font == "single line":
            return ()
        height = pen.read("height", self.height, positive, "cap height")
        tracking, bend = pen.read("tracking", self.tracking), pen.read("bend", self.bend)
        bridges = pen.read("bridges", self.bridges)
        if height is None or tracking is None or bend is None or bridges is None:
            return None
        return letters(pen, self.text, Typesetting(self.font, height, tracking, self.align, bend, max(0.0, bridges)))

    def open_lines(self, pen: Pen) -> tuple[tuple[Segment, ...], ...] | None:
        if self.font != "single line":
            return ()
        height = pen.read("height", self.height, positive, "cap height")
        if lacking := missing(self.text):
            said = f"{pen.called}: single-line letters have no “{lacking[0]}”, it is drawn as a box; write it otherwise"
            pen.reader.warn("letter-missing", said, pen.at("text"))
        return None if height is None else single_lines(self.text, height)

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


def single_lines(text: str, height: float) -> tuple[tuple[Segment, ...], ...]:
    """A text in single strokes, capitals ``height`` mm high, about its middle."""
    source = Source("text", text)
    return tuple(tuple(Line(a, b, source) for a, b in pairwise(line) if a != b) for line in strokes(text, height))


def letters(pen: Pen, text: str, setting: Typesetting) -> tuple[Outline, ...] | None:
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
