"""The way in: a drawing of somebody's, mended and taken apart by a maker's choices; nothing is stored by it."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from ..document.limits import MOST_READ
from ..document.operations import operation_named
from ..document.units import MM
from ..geometry.loop import Loop, Outline, joined_bounds
from ..geometry.segment import Arc, Line, Point, Segment, Source
from ..parts.lettering.single_line import text_width
from ..parts.shapes.text import Lettering
from .bent import straight_runs
from .chains import Chain
from .drawing import BrokenFile, Drawing, DrawnLine
from .formats import read_drawing
from .mending.arcs import WITHIN
from .mending.counting import Count, count
from .mending.crossing import crossing
from .mending.dividing import Crossing
from .mending.doubles import Once, once
from .mending.ends import Loose, loose
from .mending.mend import Mended, Mends, joined_up
from .meshes.cut import Cut
from .purposes import Keyed, LinesRow, Purpose, keyed, purposes_of, rows_of, thickness_named
from .recognised import (
    BEND,
    FoundPart,
    Frame,
    PartLine,
    PartText,
    frame_of,
    lying_on,
    outlines_of,
    parts_of,
    without_frame,
)
from .standing import standings

#: What lines enclose; marks lie across one another as they were drawn.
_ENCLOSE: frozenset[Purpose] = frozenset(("cut", "pocket"))

#: Parts are equal where their ends lie within the tolerance for joining, but never where they are further off (mm).
MOST_UNEQUAL = 0.1

Unit = Literal["mm", "cm", "m", "in", "ft", "px", "pt"]


@dataclass(frozen=True, slots=True)
class Bringing:
    """A maker's choices. ``unit`` None is the file's own; ``scale`` multiplies all on top of it.

    ``join``, ``arcs``, ``once``, ``crossing``, ``apart`` and ``polygons`` are as `Mends` has them; ``purposes`` are by
    row; ``frame`` says whether a rectangle round everything is left out, None for as it looks; ``mirrored`` is whether
    turned over is equal; ``lettering`` is how live text is set on the parts that it lies on, None leaves it out.
    """

    unit: Unit | None = None
    scale: float = 1.0
    join: float = 0.01
    arcs: float = WITHIN
    purposes: Mapping[str, Purpose] = field(default_factory=dict)
    depths: Mapping[str, float] = field(default_factory=dict)
    frame: bool | None = None
    mirrored: bool = False
    lettering: Lettering | None = None
    once: bool = True
    crossing: Crossing = "rooms"
    apart: tuple[Point, ...] = ()
    polygons: tuple[Point, ...] = ()

    @property
    def mends(self) -> Mends:
        return Mends(self.join, self.arcs, self.once, self.crossing, self.apart, self.polygons)


@dataclass(slots=True)
class WayIn:
    """What a ``drawing`` holds by those choices; sizes in mm, ``scale`` times its own.

    ``mend`` is what was mended of the lines that are cut. ``crossed`` are outlines that cross themselves, each with a
    place where it does; they are no parts. ``empty`` are places of outlines that enclose nothing, ``untied`` where
    little loops were taken out, ``overlaps`` where outlines cross one another; ``beside`` is where marks lie on no
    part. Corners of equal parts are up to ``unequal`` mm off. Live text is set where ``lettered``.
    """

    drawing: Drawing
    scale: float
    width: float
    height: float
    rows: list[LinesRow]
    purposes: dict[str, Purpose]
    parts: list[FoundPart]
    mend: Mended
    frame: Frame | None
    thickness: float | None
    points: int
    beside: list[Point]
    crossed: list[tuple[Loop, Point]] = field(default_factory=list)
    empty: list[Point] = field(default_factory=list)
    untied: list[Point] = field(default_factory=list)
    overlaps: list[Point] = field(default_factory=list)
    unequal: float = 0.0
    lettered: bool = False

    @property
    def notes(self) -> list[str]:
        """What the file itself had to tell."""
        return self.drawing.notes


@dataclass
class ReadDrawing:
    """A drawing that was read, and what its lines give at one scale, so that a tolerance is tried at once."""

    drawing: Drawing
    rows: list[LinesRow]
    name: str = ""
    _loose: dict[tuple[float, str, frozenset[str], bool], tuple[Loose, Once]] = field(default_factory=dict)

    @cached_property
    def key_of(self) -> Keyed:
        """The key of a line's row."""
        return keyed(self.drawing.lines)

    def loose(self, scale: float, operation: Purpose, keys: frozenset[str], drawn_once: bool) -> tuple[Loose, Once]:
        """The lines of some rows, each stretch once or as they are drawn."""
        known = self._loose.get((scale, operation, keys, drawn_once))
        if known is None:
            chosen = [line for line in self.drawing.lines if self.key_of(line) in keys]
            segments = [scaled(s, scale, line) for line in chosen for s in line.segments]
            lines = once(segments) if drawn_once else Once(segments)
            known = self._loose[scale, operation, keys, drawn_once] = loose(lines.kept), lines
        return known


def read(data: bytes, name: str, most: int = MOST_READ, cut: Cut | None = None) -> ReadDrawing:
    """Reads a drawing, or a mesh laid flat or ``cut``. Raises `BrokenFile`."""
    drawing = read_drawing(data, name, most, cut)
    if not drawing.lines:
        raise BrokenFile(" ".join(["The file holds no lines to cut.", *drawing.notes]))
    return ReadDrawing(drawing, rows_of(drawing), name)


def bring(found: ReadDrawing, chosen: Bringing) -> WayIn:
    """What a drawing holds by a maker's choices."""
    drawing, scale = found.drawing, scale_of(found, chosen)
    purposes = purposes_of(found.rows, chosen.purposes)
    mend = _mended(found, scale, "cut", purposes, chosen.mends)
    crossed = crossing([_closed(chain) for chain in mend.closed], chosen.join)
    outlines = outlines_of(crossed.round)
    page = complex(drawing.width, drawing.height) * scale if drawing.width and drawing.height else None
    frame = frame_of(outlines, page)
    if frame is not None and chosen.frame is not False:
        outlines = without_frame(outlines, frame)
    lines, beside = lying_on(outlines, _lines(found, scale, purposes, chosen))
    texts, off = lying_on(outlines, _texts(found, scale, purposes, chosen.lettering))
    over = chosen.mirrored or drawing.turns_over
    parts, unequal = parts_of(outlines, lines, texts, mirrored=over, within=min(chosen.join, MOST_UNEQUAL))
    _name(parts, found)
    for part in parts:
        part.stands = standings(part, drawing.stands, scale)
    left, bottom, right, top = joined_bounds(s.bounds() for line in drawing.lines for s in line.segments)
    return WayIn(
        drawing=drawing,
        scale=scale,
        width=(right - left) * scale,
        height=(top - bottom) * scale,
        rows=found.rows,
        purposes=purposes,
        parts=parts,
        mend=mend,
        frame=frame,
        thickness=thickness_named(found.name),
        points=drawing.points + len(mend.specks),
        beside=[*beside, *off],
        crossed=crossed.crossed,
        empty=[at for _, at in crossed.empty],
        untied=crossed.untied,
        overlaps=crossed.overlaps,
        unequal=unequal,
        lettered=chosen.lettering is not None,
    )


def count_joined(found: ReadDrawing, chosen: Bringing) -> Count:
    """How many outlines of what is cut close by a maker's choices: at once, to be told while a tolerance is dragged."""
    purposes = purposes_of(found.rows, chosen.purposes)
    keys = frozenset(key for key, purpose in purposes.items() if purpose == "cut")
    lines, _ = found.loose(scale_of(found, chosen), "cut", keys, chosen.once)
    return count(lines, chosen.join, chosen.apart, chosen.crossing)


def scale_of(found: ReadDrawing, chosen: Bringing) -> float:
    """What the drawing, as it was read, is multiplied by."""
    return chosen.scale * (MM[chosen.unit] / found.drawing.per_unit if chosen.unit else 1.0)


def _mended(
    found: ReadDrawing, scale: float, operation: Purpose, purposes: Mapping[str, Purpose], mends: Mends
) -> Mended:
    keys = frozenset(key for key, purpose in purposes.items() if purpose == operation)
    lines, drawn = found.loose(scale, operation, keys, mends.once)
    mend = joined_up(lines, mends if operation in _ENCLOSE else replace(mends, crossing="as drawn"))
    mend.doubled, mend.twice = drawn.doubled, drawn.twice
    return mend


def _lines(found: ReadDrawing, scale: float, purposes: Mapping[str, Purpose], chosen: Bringing) -> list[PartLine]:
    """What is scored, engraved, sunk and only shown, row by row."""
    lines: list[PartLine] = []
    for key, purpose in purposes.items():
        if purpose == "cut" or purpose == "left out":  # noqa: PLR1714 - so narrowed
            continue
        mend = _mended(found, scale, purpose, {key: purpose}, chosen.mends)
        depth = chosen.depths.get(key, next(row.depth for row in found.rows if row.key == key))
        if purpose == "pocket":
            lines += [PartLine("pocket", chain, depth) for chain in mend.closed]
        elif purpose == "bend up" or purpose == "bend down":  # noqa: PLR1714 - so narrowed
            runs = [run for chain in (*mend.closed, *mend.open) for run in straight_runs(chain)]
            lines += [PartLine(purpose, run, fold=_fold(found, scale, run)) for run in runs]
        else:
            lines += [PartLine(purpose, chain) for chain in (*mend.closed, *mend.open)]
    return lines


def _fold(found: ReadDrawing, scale: float, chain: Chain) -> tuple[float, float] | None:
    """How far (degrees) and how round (mm) a mesh is bent along a line, if it is."""
    middle = (chain.segments[0].start + chain.segments[-1].end) / 2
    folds = found.drawing.folds
    return next(((one.angle, one.radius * scale) for one in folds if abs(one.at * scale - middle) < BEND), None)


def _texts(
    found: ReadDrawing, scale: float, purposes: Mapping[str, Purpose], lettering: Lettering | None
) -> list[PartText]:
    """Live text as it is set: as its layer says, else scored."""
    texts: list[PartText] = []
    for text in found.drawing.texts if lettering else ():
        purpose = purposes.get(text.layer, operation_named(text.layer) or "score")
        if purpose in ("reference", "left out"):
            continue
        height = abs(text.up) * scale
        turn = math.degrees(cmath.phase(text.up / 1j)) if text.up else 0.0
        at, along = text.at * scale + text.up * scale / 2, text.up / 1j / abs(text.up) if text.up else 1
        align = text.align
        if lettering == "single line" and align != "middle":
            # Single strokes are set about their middle.
            at += along * text_width(text.words, height) / 2 * (1 if align == "left" else -1)
            align = "middle"
        operation: Literal["score", "engrave"] = "engrave" if purpose == "engrave" else "score"
        texts.append(PartText(text.words, at, height, turn, align, lettering or "plain", operation))
    return texts


def _name(parts: list[FoundPart], found: ReadDrawing) -> None:
    """Names each part by its layer where that is the layer of no other one, else by a number."""
    layers = [part.outline.outer.segments[0].source.shape for part in parts]
    for number, (part, layer) in enumerate(zip(parts, layers, strict=True), 1):
        own = layer and layers.count(layer) == 1 and not layer.isdigit() and len(parts) > 1
        part.name = layer[:80] if own else f"Part {number}"


def _closed(chain: Chain) -> Loop:
    """A chain as a loop that is closed to the last bit."""
    segments = chain.segments
    return Loop(tuple(_from(segments[i - 1].end, segment) for i, segment in enumerate(segments)))


def _from(start: Point, segment: Segment) -> Segment:
    return segment if segment.start == start else segment.between(start, segment.end)


def scaled(segment: Segment, scale: float, line: DrawnLine) -> Segment:
    """A segment of a drawing at true size, which remembers its layer."""
    source = Source(line.layer, "line")
    if isinstance(segment, Line):
        return Line(segment.start * scale, segment.end * scale, source)
    return Arc(segment.start * scale, segment.end * scale, segment.centre * scale, segment.ccw, source)


def placed(part: FoundPart) -> FoundPart:
    """A part with its lower left corner at the origin."""
    left, bottom, _, _ = part.outline.bounds
    corner = complex(left, bottom)

    def moved(segment: Segment) -> Segment:
        if isinstance(segment, Line):
            return Line(segment.start - corner, segment.end - corner, segment.source)
        return Arc(segment.start - corner, segment.end - corner, segment.centre - corner, segment.ccw, segment.source)

    def moved_loop(loop: Loop) -> Loop:
        return Loop(tuple(map(moved, loop.segments)))

    outline = Outline(*_loops([moved_loop(loop) for loop in part.outline.loops]))
    lines = [
        replace(
            line,
            chain=Chain(tuple(map(moved, line.chain.segments)), line.chain.closed),
            islands=tuple(map(moved_loop, line.islands)),
        )
        for line in part.lines
    ]
    texts = [replace(text, at=text.at - corner) for text in part.texts]
    return FoundPart(outline, part.name, lines, texts, part.places, part.stands)


def _loops(loops: list[Loop]) -> tuple[Loop, tuple[Loop, ...]]:
    return loops[0], tuple(loops[1:])
