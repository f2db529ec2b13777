"""DXF read with ezdxf: arcs are bulges, curves become arcs; what is switched off, frozen or not plotted stays out."""

from __future__ import annotations

import io
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import shapely
from ezdxf import colors, recover, units
from ezdxf.document import Drawing as DxfDocument
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader
from ezdxf.xclip import XClip
from shapely import STRtree

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.model import Align
from ...document.statement import IN_MILLIMETRES
from ...document.units import INCH
from ...geometry.chords import as_lines
from ...geometry.segment import Arc, Line, Point, Segment, move
from .. import progress
from ..bent import bend_named
from ..chains import SNAP
from ..drawing import LIVE_TEXT, BrokenFile, Drawing, LiveText, Look
from ..window import Window, closed_window
from .count import check_blocks, check_tags
from .entities import KINDS, NotFlat, segments_of
from .hatches import edges_of

_PLAIN = Look()

#: What the first bytes of a binary DXF end with (DXF reference, Binary DXF Files).
_BINARY = b"Binary DXF\r\n\x1a\0"


def read_dxf(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads the flat curves of any DXF of at most so many lines and arcs; ellipses and splines become arcs.

    Raises `BrokenFile`.
    """
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The DXF file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    if b"SECTION" not in data:
        raise BrokenFile("The DXF file cannot be read: it has no sections. Save it again.")
    document, faults = _document(_as_text(data) if _BINARY in data[:24] else data, most)
    check_blocks(document, most)
    drawing = Drawing(says=_comment(data), most=most)
    if faults:
        drawing.notes.append(f"The DXF had {faults} faults that could not be repaired.")
    drawing.ended = data.rstrip(b" \r\n\t\0\x1a").endswith(b"EOF")
    if not drawing.ended:
        drawing.note("The DXF breaks off before its end; what came after that is not known.")
    drawing.per_unit = _scale(document, drawing)
    reading = _Reading(document, drawing)
    for space in _spaces(document, drawing):
        for number, entity in enumerate(space):
            progress.done(number / len(space))
            reading.entities([entity], _Here())
    reading.hatches()
    drawing.tell_left_out()
    if not drawing.lines:
        drawing.notes.append("The DXF holds no lines in its model space.")
    return drawing


def _spaces(document: DxfDocument, drawing: Drawing) -> Iterator[Any]:
    """The model space, or what was drawn on paper where there is nothing else."""
    if len(document.modelspace()):
        yield document.modelspace()
        return
    for name in document.layout_names_in_taborder():
        space = document.layout(name)
        if name != "Model" and any(entity.dxftype() != "VIEWPORT" for entity in space):
            drawing.note(f"The DXF has nothing in its model space; what is drawn on its paper “{name}” was read.")
            yield space
            return


def _as_text(data: bytes) -> bytes:
    try:
        return "".join(tag.dxfstr() for tag in binary_tags_loader(data)).encode("utf-8", "surrogateescape")
    except Exception as error:  # the reader fails in many ways on broken files
        raise BrokenFile("The binary DXF file cannot be read: its structure is broken. Save it again.") from error


def _document(data: bytes, most: int) -> tuple[DxfDocument, int]:
    """The file, and how many faults of it were not repaired."""
    check_tags(data, most)
    try:
        document, auditor = recover.read(io.BytesIO(data))
    except MemoryError:
        raise
    except Exception as error:  # the reader fails in many ways on broken files
        raise BrokenFile("The DXF file cannot be read: its structure is broken. Save it again.") from error
    return document, len(auditor.errors)


def _comment(data: bytes) -> str:
    lines = data[:400].decode("utf-8", "replace").splitlines()
    return lines[1] if len(lines) > 1 and lines[0].strip() == "999" else ""


#: How units are called by the numbers of $INSUNITS (DXF reference, header variables).
_NAMES = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m"}


def _scale(document: DxfDocument, drawing: Drawing) -> float:
    try:
        unit = int(document.header.get("$INSUNITS", 0))
    except (TypeError, ValueError, OverflowError):
        unit = -1
    if unit == 0 and drawing.says.startswith(IN_MILLIMETRES):
        return 1.0
    if unit == 0 and document.header.get("$MEASUREMENT", 1) == 0:
        drawing.assume(
            "The DXF names no unit ($INSUNITS 0), but says that it measures in inches ($MEASUREMENT 0): read as inches."
        )
        drawing.unit = "in"
        return INCH
    if unit == 0:
        drawing.assume("The DXF names no unit ($INSUNITS 0); it was read as millimetres.")
        return 1.0
    try:
        scale = float(units.conversion_factor(InsertUnits(unit), InsertUnits.Millimeters))
        drawing.unit = _NAMES.get(unit, f"{scale:g} mm")
        return scale
    except (ValueError, TypeError):
        drawing.assume(f"The DXF names an unknown unit ($INSUNITS {unit}); it was read as millimetres.")
        return 1.0


def _scaled(segment: Segment, scale: float) -> Segment:
    if scale == 1.0:
        return segment
    if isinstance(segment, Line):
        return Line(segment.start * scale, segment.end * scale, segment.source)
    return Arc(segment.start * scale, segment.end * scale, segment.centre * scale, segment.ccw, segment.source)


#: What shows other things, or is filled in where a block is inserted.
_BESIDE = ("VIEWPORT", "ATTDEF")


@dataclass(frozen=True, slots=True)
class _Here:
    """What a block is inserted with, which holds for what is on layer 0 in it or is drawn as it is."""

    layer: str = "0"
    look: Look = _PLAIN
    hidden: str = ""
    seen: Window | None = None


class _Reading:
    def __init__(self, document: DxfDocument, drawing: Drawing) -> None:
        self._layers, self._drawing, self._scale = document.layers, drawing, drawing.per_unit
        self._hatches: list[tuple[Any, _Here]] = []

    def entities(self, entities: Iterable[Any], here: _Here) -> None:
        for entity in entities:
            own = self._here(entity, here)
            kind = entity.dxftype()
            if kind == "INSERT":
                self._insert(entity, own)
            elif kind == "POINT":
                self._drawing.point(kind, self._at(entity))
            elif kind in _BESIDE:
                continue
            elif own.hidden:
                self._drawing.leave_out(kind, own.hidden, at=self._at(entity))
            elif kind in KINDS:
                self._curve(entity, kind, own)
            elif kind == "HATCH":
                self._hatches.append((entity, own))
            elif kind == "MLINE":
                self._taken_apart(entity, kind, own)
            elif kind in ("TEXT", "MTEXT", "ATTRIB"):
                self._text(entity, kind, own)
            else:
                note = f"The DXF has {kind} entities, which were left out."
                self._drawing.lose(kind, "not read", note, self._at(entity))

    def _taken_apart(self, entity: Any, kind: str, here: _Here) -> None:
        """The lines and arcs that an entity is shown by."""
        try:
            parts = list(entity.virtual_entities())
        except (DXFError, ArithmeticError, ValueError, TypeError, AttributeError, IndexError):
            parts = []
        for part in parts:
            if part.dxftype() in KINDS:
                self._curve(part, part.dxftype(), here, called=kind)
        if not parts:
            self._drawing.lose(kind, "not read", f"The DXF has {kind} entities, which were left out.", self._at(entity))

    def hatches(self) -> None:
        """The edges of hatched areas that no line is drawn along; all else was read before."""
        drawn = [segment for line in self._drawing.lines for segment in line.segments]
        tree = STRtree(as_lines([[segment] for segment in drawn], SNAP)) if drawn else None
        for hatch, here in self._hatches:
            edges = list(edges_of(hatch, self._scale))
            if not edges:
                note = "The DXF has HATCH entities without edges, which were left out."
                self._drawing.lose("HATCH", "not read", note, self._at(hatch))
            for edge in edges:
                self._hatched(edge, here, tree)

    def _hatched(self, edge: list[Segment], here: _Here, tree: STRtree | None) -> None:
        if tree is not None and _lies_on(edge, tree):
            self._drawing.taken["HATCH, by the lines round it"] += 1
            return
        self._drawing.note("Hatched areas that no line is drawn round are in it; their edges were taken.")
        self._seen(here.layer, edge, here.look._replace(filled=True), "HATCH", here)

    def _seen(self, layer: str, segments: list[Segment], look: Look, kind: str, here: _Here) -> None:
        """Takes what the clip of a block leaves of lines."""
        left = [segments] if here.seen is None or not segments else here.seen.leaves(segments)
        if not left:
            self._drawing.leave_out(kind, "clipped away", at=segments[0].start)
        for run in left:
            self._drawing.add(layer, run, look, kind=kind)

    def _at(self, entity: Any) -> Point | None:
        """A place of an entity in mm, where it names one."""
        for name in ("start", "center", "insert", "location", "vtx0", "origin"):
            if entity.dxf.is_supported(name) and (at := entity.dxf.get(name)) is not None:
                return complex(at[0], at[1]) * self._scale
        return None

    def _here(self, entity: Any, outer: _Here) -> _Here:
        """An entity's own layer and colour, and why nobody sees it."""
        name = str(entity.dxf.get("layer", "0"))
        layer = outer.layer if name == "0" else name
        known = self._layers.get(layer) if self._layers.has_entry(layer) else None
        hidden = outer.hidden
        if entity.dxf.get("invisible", 0):
            hidden = "invisible"
        elif known is not None and known.is_frozen():
            hidden = "on a frozen layer"
        elif known is not None and known.is_off() and entity.dxftype() != "INSERT":
            hidden = "on a layer that is off"
        elif layer.lower() == "defpoints" or (known is not None and not known.dxf.get("plot", 1)):
            hidden = "on a layer that is not plotted"
        look = Look(
            self._colour(entity, known, outer), False, _style(entity, known, outer), _weight(entity, known, outer)
        )
        # A line type that says what a line is for says it of that line alone.
        return _Here(look.style if bend_named(look.style) else layer, look, hidden, outer.seen)

    def _colour(self, entity: Any, layer: Any, outer: _Here) -> str:
        if entity.rgb is not None:
            return _hex(entity.rgb)
        index = int(entity.dxf.get("color", colors.BYLAYER))
        if index == colors.BYBLOCK:
            return outer.look.colour
        if index == colors.BYLAYER:
            rgb = layer.rgb if layer is not None else None
            if rgb is not None:
                return _hex(rgb)
            index = abs(int(layer.dxf.get("color", 7))) if layer is not None else 7
        # Index 7 is black on paper and white on a dark screen.
        return "#000000" if index == 7 or not 1 <= index <= 255 else _hex(colors.aci2rgb(index))

    def _insert(self, insert: Any, here: _Here) -> None:
        for one in insert.multi_insert() if insert.mcount > 1 else (insert,):
            inside = replace(here, seen=self._clip(insert, here)) if insert.has_extension_dict else here
            self.entities(one.virtual_entities(), inside)
        self.entities(insert.attribs, here)

    def _clip(self, insert: Any, here: _Here) -> Window | None:
        """What the clip of a block shows, inside what shows it."""
        clip = XClip(insert)
        if not clip.has_clipping_path or not clip.is_clipping_enabled:
            return here.seen
        path = clip.get_wcs_clipping_path()
        if path.is_inverted_clip:
            self._drawing.note("The DXF has blocks that are clipped inside out; they were read whole.")
            return here.seen
        corners = [complex(at.x, at.y) * self._scale for at in path.vertices]
        straight = len(corners) == 4 and len({at.real for at in corners}) == len({at.imag for at in corners}) == 2
        return closed_window(corners, straight).and_through(here.seen)

    def _curve(self, entity: Any, kind: str, here: _Here, called: str = "") -> None:
        try:
            segments = [_scaled(segment, self._scale) for segment in segments_of(entity, kind, self._scale)]
        except NotFlat:
            note = f"The DXF has {kind} entities that do not lie flat, which were left out."
            self._drawing.lose(kind, "not flat", note, self._at(entity))
            return
        filled = kind in ("SOLID", "TRACE", "3DFACE")
        self._seen(here.layer, segments, here.look._replace(filled=filled), called or kind, here)

    def _text(self, entity: Any, kind: str, here: _Here) -> None:
        words = " ".join((entity.plain_text() if kind == "MTEXT" else entity.dxf.text).split())
        if words:
            height = float(entity.dxf.get("char_height" if kind == "MTEXT" else "height", 2.5)) * self._scale
            point, align, above = _anchored(entity, kind)
            up = 1j * move(float(entity.dxf.get("rotation", 0.0))).turn * height
            self._drawing.texts.append(LiveText(words, point * self._scale - above * up, up, here.layer, align))
            note = "The DXF has live text, which no machine cuts; it was left out."
            self._drawing.lose(kind, LIVE_TEXT, note, point * self._scale)


def _anchored(entity: Any, kind: str) -> tuple[complex, Align, float]:
    """Where a text is aligned, how, and how far above its baseline that is, in heights of its capitals.

    DXF reference: group codes 72 and 73 of TEXT, 71 of MTEXT.
    """
    if kind == "MTEXT":
        row, column = divmod(int(entity.dxf.get("attachment_point", 1)) - 1, 3)
        return (
            complex(entity.dxf.insert[0], entity.dxf.insert[1]),
            _COLUMNS[column % 3],
            (1.0, 0.5, 0.0)[min(2, max(0, row))],
        )
    across, up = int(entity.dxf.get("halign", 0)), int(entity.dxf.get("valign", 0))
    moved = (across or up) and across not in (3, 5) and entity.dxf.hasattr("align_point")
    stands = entity.dxf.align_point if moved else entity.dxf.insert
    point = complex(stands[0], stands[1])
    return point, _COLUMNS[1 if across == 4 else across % 3] if moved else "left", {2: 0.5, 3: 1.0}.get(up, 0.0)


_COLUMNS: tuple[Align, Align, Align] = ("left", "middle", "right")


def _style(entity: Any, layer: Any, outer: _Here) -> str:
    """The line type that an entity is drawn with; nothing of one that is drawn through."""
    name = str(entity.dxf.get("linetype", "BYLAYER"))
    if name.upper() == "BYBLOCK":
        return outer.look.style
    if name.upper() == "BYLAYER":
        name = str(layer.dxf.get("linetype", "")) if layer is not None else ""
    return "" if name.upper() in ("CONTINUOUS", "BYLAYER", "BYBLOCK") else name


def _weight(entity: Any, layer: Any, outer: _Here) -> float | None:
    """How wide (mm) a line is drawn: by itself, its layer or its block (DXF reference, group 370: hundredths of mm)."""
    width = int(entity.dxf.get("lineweight", _BYLAYER))
    if width == _BYBLOCK:
        return outer.look.weight
    if width == _BYLAYER:
        width = int(layer.dxf.get("lineweight", -3)) if layer is not None else -3
    return width / 100 if width >= 0 else None


_BYLAYER, _BYBLOCK = -1, -2


def _lies_on(edge: Sequence[Segment], tree: STRtree) -> bool:
    """Whether lines are drawn all along an edge."""
    spots = shapely.points([[at.real, at.imag] for segment in edge for at in (segment.start, segment.at(0.5))])
    near = tree.query(spots, predicate="dwithin", distance=2 * SNAP)[0]
    return len(set(near.tolist())) == len(spots)


def _hex(rgb: Iterable[int]) -> str:
    return "#" + "".join(f"{part:02x}" for part in rgb)
