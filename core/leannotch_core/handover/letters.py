"""The typeface of what is printed: put into each file with just the letters that are used in it."""

from __future__ import annotations

import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import pikepdf
from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont
from pikepdf import Array, Dictionary, Name

from ..document.units import INCH

#: A point is 1/72 in (ISO 32000-1, 8.3.2.3).
POINTS = 72 / INCH

#: DejaVu Sans Condensed: Latin, Greek, Cyrillic, Armenian and Georgian letters. Its licence is beside it.
FILE = Path(__file__).parent / "fonts" / "dejavu-sans-condensed.woff"

#: How high its capitals are, as a share of its size.
CAPITALS = 0.729


@dataclass(frozen=True, slots=True)
class _Face:
    """The face as far as it is told of: numbers of glyphs by code points, how far the next letter is from each and the
    box of all, as shares of the size. All threads have it, so nothing of the file is left to be read.
    """

    glyphs: Mapping[int, int]
    advances: Sequence[float]
    box: tuple[float, float, float, float]


@lru_cache(maxsize=1)
def _face() -> _Face:
    face = TTFont(FILE, recalcTimestamp=False)
    head, wide = face["head"], face["hmtx"]
    em = head.unitsPerEm
    return _Face(
        {code: int(face.getGlyphID(name)) for code, name in face.getBestCmap().items()},
        [wide[name][0] / em for name in face.getGlyphOrder()],
        (head.xMin / em, head.yMin / em, head.xMax / em, head.yMax / em),
    )


def _glyph(letter: str) -> int:
    """Its number in the face; 0, an empty box, is what a letter is shown as that the face does not have."""
    return _face().glyphs.get(ord(letter), 0)


def wide(words: str, size: float) -> float:
    """How wide (mm) words of a size (points) are."""
    return sum(_advance(_glyph(letter)) for letter in words) * size / POINTS


def _advance(glyph: int) -> float:
    """How far the next letter is from a glyph, as a share of the size."""
    return _face().advances[glyph]


def shown(words: str) -> str:
    """Words as they are shown by a content stream: the numbers of their glyphs (ISO 32000-1, 9.7.6.2)."""
    return f"<{''.join(f'{_glyph(letter):04X}' for letter in words)}> Tj"


def typeface(document: pikepdf.Pdf, words: Iterable[str]) -> Dictionary:
    """The face as F1 of a document, with the letters of ``words`` (ISO 32000-1, 9.7.4); same words, same bytes.

    Its glyphs go by their own numbers, which is a collection of ours (9.7.3).
    """
    letters = sorted({letter for word in words for letter in word})
    put = document.make_indirect
    name, em = Name("/LEANNO+DejaVuSansCondensed"), 1000
    left, bottom, right, top = _box(em)
    descriptor = Dictionary(
        Type=Name.FontDescriptor,
        FontName=name,
        Flags=32,
        FontBBox=Array([left, bottom, right, top]),
        ItalicAngle=0,
        Ascent=top,
        Descent=bottom,
        CapHeight=round(CAPITALS * em),
        StemV=80,
        FontFile2=put(pikepdf.Stream(document, _subset(letters))),
    )
    glyphs = sorted({_glyph(letter) for letter in letters})
    described = Dictionary(
        Type=Name.Font,
        Subtype=Name.CIDFontType2,
        BaseFont=name,
        CIDSystemInfo=Dictionary(Registry=b"LeanNotch", Ordering=b"Identity", Supplement=0),
        CIDToGIDMap=Name.Identity,
        FontDescriptor=put(descriptor),
        W=Array([one for glyph in glyphs for one in (glyph, Array([round(_advance(glyph) * em)]))]),
    )
    font = Dictionary(
        Type=Name.Font,
        Subtype=Name.Type0,
        BaseFont=name,
        Encoding=Name("/Identity-H"),
        DescendantFonts=Array([put(described)]),
        ToUnicode=put(pikepdf.Stream(document, _to_unicode(letters))),
    )
    return Dictionary(F1=put(font))


def _box(em: int) -> tuple[int, int, int, int]:
    left, bottom, right, top = (round(side * em) for side in _face().box)
    return left, bottom, right, top


def _subset(letters: Iterable[str]) -> bytes:
    """The face with those letters alone, each under the number that it has in the whole one."""
    options = Options(retain_gids=True, notdef_outline=True, hinting=False, layout_features=[], drop_tables=["name"])
    face = TTFont(FILE, recalcTimestamp=False)
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=map(ord, letters))
    subsetter.subset(face)
    face.flavor = None
    written = io.BytesIO()
    face.save(written)
    return written.getvalue()


def _to_unicode(letters: Iterable[str]) -> bytes:
    """What the glyphs stand for, so that words can be searched and read aloud (ISO 32000-1, 9.10.3)."""
    pairs = [(glyph, letter) for letter in letters if (glyph := _glyph(letter))]
    lines = [f"<{glyph:04X}> <{letter.encode('utf-16-be').hex().upper()}>" for glyph, letter in pairs]
    blocks = [lines[at : at + 100] for at in range(0, len(lines), 100)]
    mapped = "\n".join(f"{len(block)} beginbfchar\n" + "\n".join(block) + "\nendbfchar" for block in blocks)
    return (
        "/CIDInit /ProcSet findresource begin 12 dict begin begincmap\n"
        "/CMapName /LeanNotch-Identity-UCS def /CMapType 2 def\n"
        f"1 begincodespacerange <0000> <FFFF> endcodespacerange\n{mapped}\nendcmap end end"
    ).encode("ascii")
