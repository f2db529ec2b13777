"""What is told of a finished part: webs and gaps that are too narrow, and marks that lie on nothing."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
import shapely

from ..document.sizes import shown
from ..facts.findings import Mend, mend
from ..facts.reading import Reader
from ..facts.stock import StockFacts
from ..geometry.chords import as_lines, as_polygon
from ..geometry.loop import Outline, joined_bounds
from .cutting_out import Finished
from .drawing import DrawnPart
from .gaps import NarrowPlace, narrow_places
from .lettering.outlines import Typesetting, text_outlines
from .necks import necks, tight_gaps
from .places import of
from .shapes.rectangle import rectangle
from .shapes.text import TextHole

#: A mark may reach so far (mm) over an edge: that is nothing that is seen.
_OVER = 0.05
#: Less than this (mm) of a mark is not told.
_LEAST = 0.2
#: Chords by which marks are looked at (mm).
_CHORDS = 0.02


def least_web(stock: StockFacts) -> float:
    """The narrowest that material may be (mm): as its stock says, and no thinner than a beam is wide."""
    return stock.smallest_web if stock.routed else max(stock.smallest_web, stock.kerf)


def check_webs(drawn: DrawnPart, finished: Finished, reader: Reader) -> tuple[Finished, tuple[NarrowPlace, ...]]:
    """The part with its narrowest web, wherever that is; and all that are too narrow for its stock, told as one."""
    least, outline = least_web(drawn.stock), finished.pieces[0]
    within = necks(outline, least)
    if within and (finished.web is None or within[0].distance < finished.web):
        finished = replace(finished, web=within[0].distance, web_at=within[0].at)
    if finished.web is None or finished.web >= least - 1e-6:
        return finished, ()
    between = narrow_places(outline, least) if len(outline.loops) > 1 else ()
    narrow = tuple(sorted((*between, *within), key=lambda place: place.distance))
    others = f", the narrowest of {len(narrow)}," if len(narrow) > 1 else ""
    reader.warn(
        "narrow-web",
        f"{drawn.part.name}: a web of {shown(finished.web)}{others} is left; this stock needs {shown(least)}",
        of(drawn.part, "cutouts", finished.web_at),
        *_letters_that_bear(drawn, narrow, least),
    )
    return finished, narrow


def _letters_that_bear(drawn: DrawnPart, narrow: Sequence[NarrowPlace], least: float) -> Iterator[Mend]:
    """For a text in whose letters webs are too thin: how high it bears, and the lettering that bears as it is."""
    shapes = {shape.id: shape for shape in drawn.cutouts if shape.does == "cut out" and shape.loops}
    for cut in drawn.part.cutouts:
        shape = shapes.get(cut.id)
        if shape is None or not isinstance(cut.hole, TextHole):
            continue
        left, bottom, right, top = joined_bounds(outline.bounds for outline in shape.loops)
        own = [n for n in narrow if left <= n.at.real <= right and bottom <= n.at.imag <= top]
        height = drawn_height(shape.own_box[3] - shape.own_box[1], cut.hole, drawn)
        if not own or height is None:
            continue
        path = ("parts", drawn.part.id, "cutouts", cut.id, "hole")
        high = math.ceil(10 * height * least / max(own[0].distance, 1e-3)) / 10
        yield mend(f"Letters {high:g} mm high", (*path, "height"), f"{high:g}")
        for font in ("plain", "stencil"):
            if font != cut.hole.font and _bears(cut.hole.text, Typesetting(font, height), least):
                yield mend(f"Letters in {font}", (*path, "font"), font)
        return


def drawn_height(box: float, hole: TextHole, drawn: DrawnPart) -> float | None:
    """How high (mm) the capitals of a text are, by its size as it was read; as high as its box where that is a sum."""
    try:
        return float(hole.height.text)
    except ValueError:
        return box if box > 0 else None


def _bears(text: str, setting: Typesetting, least: float) -> bool:
    """Whether no web among letters that are cut out of a sheet is too thin."""
    letters = text_outlines("letters", text, setting)
    if not letters or any(outline.cutouts for outline in letters):
        # The insides of letters fall out.
        return False
    left, bottom, right, top = joined_bounds(outline.bounds for outline in letters)
    size, room = complex(right - left, top - bottom), 10 * least
    sheet = rectangle("sheet", size.real + 2 * room, size.imag + 2 * room, base=complex(left - room, bottom - room))
    whole = Outline(sheet, tuple(outline.outer.reversed() for outline in letters))
    return not narrow_places(whole, least) and not necks(whole, least)


def check_gaps(drawn: DrawnPart, finished: Finished, reader: Reader) -> None:
    """Tells of notches and cut-outs that the beam or cutter does not get into, so that nothing is cut there."""
    kerf = drawn.stock.kerf
    tight = tight_gaps(finished.pieces[0], kerf)
    if not tight:
        return
    what = "cutter" if drawn.stock.routed else "kerf"
    others = f", the narrowest of {len(tight)}," if len(tight) > 1 else ""
    text = (
        f"{drawn.part.name}: a gap of {shown(tight[0].distance)}{others} is narrower than the {what} of {shown(kerf)}"
    )
    mends = "; make it wider, or take a thinner cutter" if drawn.stock.routed else "; make it wider"
    reader.warn("narrow-gap", f"{text}; nothing is cut there{mends}", of(drawn.part, "cutouts", tight[0].at))


def check_marks(drawn: DrawnPart, finished: Finished, reader: Reader) -> None:
    """Tells of marks that lie over an opening, across a cut or off the part."""
    lines = [line for line in drawn.lines if line.operation != "reference"]
    if not lines or not finished.pieces:
        return
    whole = shapely.union_all([as_polygon(piece, _CHORDS) for piece in finished.pieces]).buffer(_OVER)
    drawn_lines = as_lines([line.segments for line in lines], _CHORDS)
    shapely.prepare(whole)
    out = np.flatnonzero(~shapely.covers(whole, drawn_lines))
    off = shapely.difference(drawn_lines[out], whole)
    long = shapely.length(off)
    told = long > _LEAST
    if not told.any():
        return
    at = off[told][0].representative_point()
    operation = lines[int(out[told][0])].operation
    text = (
        f"{drawn.part.name}: {shown(float(long[told].sum()))} of what is to {operation} lie over an opening or off it"
    )
    place = of(drawn.part, "cutouts", complex(at.x, at.y))
    reader.warn("mark-on-nothing", f"{text}; move the mark or the cut, or make it smaller", place)
