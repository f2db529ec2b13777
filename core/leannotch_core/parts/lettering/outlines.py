"""Text as outlines: glyphs of the shipped fonts as lines and arcs, set along a straight line or an arc."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from pathlib import Path
from threading import Lock
from typing import Any, Literal

from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.ttLib import TTFont

from ...geometry.arrangement import select
from ...geometry.biarc import arcs_along, bezier
from ...geometry.boolean import subtract
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Line, Motion, Point, Segment, Source
from ...said import Said
from ..shapes.rectangle import rectangle

Font = Literal["plain", "stencil"]

Align = Literal["left", "middle", "right"]

_LETTER = Source("text", "letter")

#: The shipped fonts, both under the SIL Open Font License 1.1: see the licences beside them.
FILES: dict[Font, str] = {"plain": "archivo.woff", "stencil": "saira-stencil-one.woff"}


@dataclass(frozen=True, slots=True)
class Typesetting:
    """How text is set: capitals ``height`` mm high, ``tracking`` mm more between letters.

    ``bend`` is the radius (mm) of the arc that the baseline follows: above its centre where positive, below it where
    negative, straight where 0. Islands, the insides of letters such as O, hold by two bridges ``bridges`` mm wide.
    """

    font: Font
    height: float
    tracking: float = 0.0
    align: Align = "middle"
    bend: float = 0.0
    bridges: float = 0.0


class NoGlyph(Said):
    """A letter that the font does not have."""

    def __init__(self, letter: str) -> None:
        super().__init__(f"the font has no “{letter}”")
        self.letter = letter


def text_outlines(shape: str, text: str, setting: Typesetting) -> tuple[Outline, ...]:
    """Outlines of ``text`` about its anchor: the middle of the capitals' height at the chosen alignment.

    Raises `NoGlyph`.
    """
    advances = [_advance(setting.font, letter, setting.height) for letter in text]
    width = sum(advances) + setting.tracking * max(0, len(text) - 1)
    left = {"left": 0.0, "middle": -width / 2, "right": -width}[setting.align]
    found: list[Outline] = []
    for letter, advance in zip(text, advances, strict=True):
        place = _place(left + advance / 2, setting)
        centred = Motion(shift=complex(-advance / 2, -setting.height / 2))
        for outline in _glyph(setting.font, letter, setting.height, setting.bridges):
            found.append(_named(outline.moved(centred).moved(place), shape))
        left += advance + setting.tracking
    return tuple(found)


def islands(outlines: tuple[Outline, ...]) -> int:
    """How many insides of letters would fall out."""
    return sum(len(outline.cutouts) for outline in outlines)


def _place(along: float, setting: Typesetting) -> Motion:
    """Where a letter's middle goes: ``along`` mm from the anchor on the straight or bent line."""
    if setting.bend == 0:
        return Motion(shift=complex(along, 0))
    angle = along / setting.bend
    centre = -1j * setting.bend
    turn = complex(math.cos(angle), -math.sin(angle))
    return Motion(turn, centre + 1j * setting.bend * turn)


def _named(outline: Outline, shape: str) -> Outline:
    source = Source(shape, "letter")

    def loop(one: Loop) -> Loop:
        return Loop(tuple(replace(segment, source=source) for segment in one))

    return Outline(loop(outline.outer), tuple(loop(cut) for cut in outline.cutouts))


@dataclass(frozen=True, slots=True)
class _Face:
    """A font in its own units: names of glyphs by code points, advances by names, the height of its capitals.

    A glyph is read once it is drawn: two threads that did so at once would leave it half read for good, so one at a
    time is ``reading``.
    """

    names: Mapping[int, str]
    advances: Mapping[str, float]
    capitals: float
    glyphs: Any
    reading: Lock

    def drawn(self, name: str) -> list[tuple[str, tuple[Any, ...]]]:
        """What a pen records of a glyph."""
        with self.reading:
            pen = DecomposingRecordingPen(self.glyphs)
            self.glyphs[name].draw(pen)
            return list(pen.value)


@lru_cache(maxsize=4)
def _font(font: Font) -> _Face:
    # All of its tables are read here, before any other thread has it.
    opened = TTFont(Path(__file__).parent / "fonts" / FILES[font], lazy=False)
    names, wide = dict(opened.getBestCmap()), opened["hmtx"]
    advances = {name: float(wide[name][0]) for name in names.values()}
    return _Face(names, advances, float(opened["OS/2"].sCapHeight), opened.getGlyphSet(), Lock())


def _name(font: Font, letter: str) -> str:
    name = _font(font).names.get(ord(letter))
    if name is None:
        raise NoGlyph(letter)
    return name


def _scale(font: Font, height: float) -> float:
    """mm for a unit of the font, by the height of its capitals."""
    return height / _font(font).capitals


def _advance(font: Font, letter: str, height: float) -> float:
    return _font(font).advances[_name(font, letter)] * _scale(font, height)


@lru_cache(maxsize=2048)
def _glyph(font: Font, letter: str, height: float, bridges: float) -> tuple[Outline, ...]:
    """A letter's outlines with its origin on the baseline at the left; islands bridged."""
    loops = _contours(_font(font).drawn(_name(font, letter)), _scale(font, height))
    if not loops:
        return ()
    outlines = select([loops], lambda windings: windings[:, 0] != 0)
    return tuple(_bridged(outlines, bridges)) if bridges > 0 else tuple(outlines)


def _bridged(outlines: list[Outline], width: float) -> list[Outline]:
    """Each island held by an upright strip of material through its middle, from one side of the letter to the other."""
    strips = []
    for outline in outlines:
        _, bottom, _, top = outline.bounds
        for island in outline.cutouts:
            left, _, right, _ = island.bounds
            base = complex((left + right - width) / 2, bottom - 1)
            strips.append(Outline(rectangle("bridge", width, top - bottom + 2, base=base)))
    return subtract(outlines, strips) if strips else outlines


def _contours(drawn: list[tuple[str, tuple[Any, ...]]], scale: float) -> list[Loop]:
    """Closed loops of lines and arcs from a pen's record."""
    loops: list[Loop] = []
    contour = _Contour(0)
    for operation, arguments in drawn:
        points = [complex(*point) * scale for point in arguments if point is not None]
        if operation == "moveTo":
            contour = _Contour(points[0])
        elif operation == "lineTo":
            contour.line_to(points[0])
        elif operation == "curveTo":
            contour.curve_to(points[0], points[1], points[2])
        elif operation == "qCurveTo":
            if arguments[-1] is None:
                # A contour of off-curve points only begins between its last and its first one.
                contour = _Contour((points[0] + points[-1]) / 2)
                points.append(contour.here)
            contour.quadratics_to(points)
        elif contour.segments:
            loops.append(contour.closed())
    return loops


class _Contour:
    """A contour as it is drawn; ``here`` is the pen's place."""

    def __init__(self, here: Point) -> None:
        self.begin = self.here = here
        self.segments: list[Segment] = []

    def line_to(self, point: Point) -> None:
        if abs(point - self.here) > 1e-9:
            self.segments.append(Line(self.here, point, _LETTER))
        self.here = point

    def curve_to(self, b: Point, c: Point, d: Point) -> None:
        self.segments += arcs_along(bezier(self.here, b, c, d), 0.0, 1.0, _LETTER)
        self.here = d

    def quadratics_to(self, points: list[Point]) -> None:
        """Off-curve points and an end; between two controls lies an implied point (TrueType reference)."""
        *controls, last = points
        ends = [(a + b) / 2 for a, b in pairwise(controls)] + [last]
        for control, end in zip(controls, ends, strict=True):
            self.curve_to(self.here + (control - self.here) * 2 / 3, end + (control - end) * 2 / 3, end)

    def closed(self) -> Loop:
        self.line_to(self.begin)
        return Loop(tuple(s.between(self.segments[i - 1].end, s.end) for i, s in enumerate(self.segments)))
