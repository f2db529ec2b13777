"""Words and drawings on sheets of A4, as PDF: what is printed to be read at the bench."""

from __future__ import annotations

import io
from collections.abc import Iterable
from dataclasses import dataclass

import pikepdf
from pikepdf import Dictionary, String

from .letters import POINTS, shown, typeface, wide

#: A4 upright (ISO 216) and its margin, mm.
WIDTH, HEIGHT, MARGIN = 210.0, 297.0, 15.0

#: From line to line, and how high words are, in mm and in points.
LINE, SMALL = 4.6, 8.5


@dataclass(frozen=True, slots=True)
class Words:
    """Words of a size in points, from a place (mm) of the page on."""

    x: float
    y: float
    size: float
    words: str

    @property
    def operators(self) -> str:
        """What shows them in a content stream."""
        return f"BT /F1 {self.size:g} Tf {self.x * POINTS:.3f} {self.y * POINTS:.3f} Td {shown(self.words)} ET"


def on_paper(title: str, pages: Iterable[Iterable[str | Words]]) -> bytes:
    """The bytes of pages of A4, each of its words and content operators; the same pages give the same bytes."""
    document = pikepdf.new()
    drawn = [list(page) for page in pages]
    font = typeface(document, (one.words for page in drawn for one in page if isinstance(one, Words)))
    for page in drawn:
        sheet = document.add_blank_page(page_size=(WIDTH * POINTS, HEIGHT * POINTS))
        sheet.obj.Resources = Dictionary(Font=font)
        lines = [one.operators if isinstance(one, Words) else one for one in page]
        sheet.obj.Contents = document.make_stream("\n".join(lines).encode("ascii"))
    document.trailer.Info = document.make_indirect(Dictionary(Title=String(title)))
    written = io.BytesIO()
    document.save(written, deterministic_id=True)
    return written.getvalue()


def fitting(words: str, room: float, size: float) -> str:
    """Words cut off where there is no more room (mm), and said to be."""
    if wide(words, size) <= room:
        return words
    while words and wide(f"{words}…", size) > room:
        words = words[:-1].rstrip()
    return f"{words}…"


def wrapped(words: str, room: float = WIDTH - 2 * MARGIN) -> list[str]:
    """A sentence in lines of small words that there is room (mm) for."""
    lines, line = [], ""
    for word in words.split(" "):
        longer = f"{line} {word}".strip()
        if line and wide(longer, SMALL) > room:
            lines.append(line)
            longer = f"   {word}"
        line = longer
    return [*lines, line]
