"""Words and drawings on sheets of A4, as PDF: what is printed to be read at the bench."""

from __future__ import annotations

import io
from collections.abc import Iterable

import pikepdf
from pikepdf import Dictionary, String

from .pdf import POINTS, escaped, plain_font

#: A4 upright (ISO 216) and its margin, mm.
WIDTH, HEIGHT, MARGIN = 210.0, 297.0, 15.0

#: From line to line, and how high words are, in mm and in points.
LINE, SMALL = 4.6, 8.5

#: How wide letters of Helvetica are, in thousandths of their size (its published metrics, from memory): narrow ones,
#: wide ones, and all others.
_NARROW, _WIDE = "ijlt.,:;'|!I()[] f", "mwMWGOQ%@"


def on_paper(title: str, pages: Iterable[Iterable[str]]) -> bytes:
    """The bytes of pages of A4, each of its content operators; the same pages give the same bytes."""
    document = pikepdf.new()
    font = plain_font(document)
    for words in pages:
        page = document.add_blank_page(page_size=(WIDTH * POINTS, HEIGHT * POINTS))
        page.obj.Resources = Dictionary(Font=font)
        page.obj.Contents = document.make_stream("\n".join(words).encode("cp1252", "replace"))
    document.trailer.Info = document.make_indirect(Dictionary(Title=String(title)))
    written = io.BytesIO()
    document.save(written, deterministic_id=True)
    return written.getvalue()


def text(x: float, y: float, size: float, words: str) -> str:
    """Words of a size in points, from a place (mm) of the page on."""
    return f"BT /F1 {size:g} Tf {x * POINTS:.3f} {y * POINTS:.3f} Td ({escaped(words)}) Tj ET"


def fitting(words: str, room: float, size: float) -> str:
    """Words cut off where there is no more room (mm), and said to be."""
    if _wide(words, size) <= room:
        return words
    while words and _wide(words, size) > room - 2:
        words = words[:-1]
    return f"{words.rstrip()}..."


def wrapped(words: str, room: float = WIDTH - 2 * MARGIN) -> list[str]:
    """A sentence in lines of small words that there is room (mm) for."""
    lines, line = [], ""
    for word in words.split(" "):
        longer = f"{line} {word}".strip()
        if line and _wide(longer, SMALL) > room:
            lines.append(line)
            longer = f"   {word}"
        line = longer
    return [*lines, line]


def _wide(words: str, size: float) -> float:
    """About how wide (mm) words are."""
    thousandths = sum(290 if letter in _NARROW else 840 if letter in _WIDE else 570 for letter in words)
    return thousandths / 1000 * size / POINTS
