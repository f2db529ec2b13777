"""SVG: every shape that is seen, by its layer and colour, in mm; curves become arcs."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from xml.etree.ElementTree import Element, ParseError

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from fontTools.misc.transform import Transform

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.model import Align
from ...document.operations import operation_named
from ...geometry.boolean import intersect
from ...geometry.loop import Bounds, Loop, Outline, joined_bounds
from ...geometry.segment import Line, Segment
from .. import progress
from ..drawing import BrokenFile, Drawing, LiveText, check_reach
from .count import check_svg
from .lengths import PIXEL, fitted, millimetres, pixels, transform, view_box, viewport
from .shapes import SHAPES, SOURCE, Run, runs_of
from .styles import Sheet, Style

#: Capitals are about so much of a font's size (common practice, no source).
CAPITALS = 0.7

#: Where a text's anchor is (SVG 2, 11.10.2).
_ALIGNED: dict[str, Align] = {"start": "left", "middle": "middle", "end": "right"}

#: What holds shapes and draws them where it stands. All else is drawn only where something uses it, or never.
_GROUPS = ("svg", "g", "a", "switch")


def read_svg(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads what is seen of any SVG of at most so many lines and arcs. Raises `BrokenFile`."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The SVG file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    root = _parsed(data)
    check_svg(root, most)
    drawing = Drawing(most=most)
    drawing.says = next((e.text for e in root if _tag(e) == "desc"), "") or ""
    size, to_mm = _read_size(root, drawing)
    _Reading(root, drawing).whole(_Here(to_mm, size, Style()))
    drawing.tell_left_out()
    return drawing


def _parsed(data: bytes) -> Element:
    try:
        root: Element = ElementTree.fromstring(data, forbid_dtd=False)
    except ParseError as error:
        line, column = error.position
        raise BrokenFile(f"The SVG file is broken at line {line}, column {column}; save it again.") from error
    except DefusedXmlException as error:
        raise BrokenFile("The SVG file defines entities, which is not safe; save it as plain SVG.") from error
    except (LookupError, ValueError) as error:
        raise BrokenFile("The SVG file is written in an encoding that is not known here; save it in UTF-8.") from error
    if _tag(root) != "svg":
        raise BrokenFile("The file is XML but not an SVG drawing.")
    return root


def _tag(element: Element) -> str:
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def _read_size(root: Element, drawing: Drawing) -> tuple[complex, Transform]:
    """The drawing's size in its own units, and what takes them to mm with y up; tells how large it says that it is."""
    box = view_box(root.get("viewBox"))
    stated = [millimetres(root.get(name)) for name in ("width", "height")]
    width, height = (
        size if (size := pixels(root.get(name), whole)) else whole
        for name, whole in (("width", box[2] if box else 0.0), ("height", box[3] if box else 0.0))
    )
    if box and not pixels(root.get("height"), 1):
        height = width * box[3] / box[2]
    if box is None and "viewBox" in root.attrib:
        drawing.note("The viewBox of the SVG has no size that can be read; it was left out.")
    if stated == [None, None]:
        drawing.assume("The SVG gives no size in mm or in; read at 96 px to the inch (100 px = 26.458 mm).")
    elif box is None:
        drawing.assume(
            "The SVG gives its page in mm or in but no viewBox: its numbers were read as px at 96 to the inch, "
            "so that 100 are 26.458 mm."
        )
    drawing.width, drawing.height = width * PIXEL, height * PIXEL
    check_reach(drawing.width, drawing.height)
    if box and (width <= 0 or height <= 0):
        raise BrokenFile("The SVG gives no size that can be drawn; give it a width and a height in mm.")
    inner = fitted(box, width, height, root.get("preserveAspectRatio", "")) if box else Transform()
    up = Transform(PIXEL, 0, 0, -PIXEL, 0, drawing.height)
    drawing.unit = _unit(root) if drawing.unit_stated else "px"
    drawing.per_unit = PIXEL * abs(inner.xx) or PIXEL
    return complex(box[2], box[3]) if box else complex(width, height), up.transform(inner)


def _unit(root: Element) -> str:
    """The unit in which a drawing states its size."""
    text = (root.get("width") or root.get("height") or "").strip().lower()
    return next((unit for unit in ("in", "pt", "cm") if text.endswith(unit)), "mm")


def _text_lines(text: Element) -> Iterator[tuple[str, tuple[float, float]]]:
    """The lines of a text, each where it begins: a span with a place of its own begins one."""
    at, words = _text_place(text, (0.0, 0.0)), text.text or ""
    for span in text:
        if any(span.get(name) for name in ("x", "y", "dy")):
            yield from _said(words, at)
            at, words = _text_place(span, at), ""
        words += "".join(span.itertext()) + (span.tail or "")
    yield from _said(words, at)


def _said(words: str, at: tuple[float, float]) -> Iterator[tuple[str, tuple[float, float]]]:
    if plain := " ".join(words.split()):
        yield plain, at


def _text_place(element: Element, before: tuple[float, float]) -> tuple[float, float]:
    def first(name: str) -> float | None:
        return pixels((element.get(name) or "").split(maxsplit=1)[0]) if (element.get(name) or "").strip() else None

    x, y = (given if (given := first(name)) is not None else old for name, old in zip("xy", before, strict=True))
    return x + (first("dx") or 0.0), y + (first("dy") or 0.0)


@dataclass(frozen=True, slots=True)
class _Here:
    """Where a shape stands: what takes its units to mm, what percents are of, how it is drawn, under which names."""

    to_mm: Transform
    whole: complex
    style: Style
    names: tuple[str, ...] = ()
    clips: tuple[Outline, ...] | None = None

    @property
    def layer(self) -> str:
        """The nearest name that says what is done, else the nearest name."""
        named = [name for name in reversed(self.names) if operation_named(name)]
        return (named or [*reversed(self.names)] or [""])[0]


class _Reading:
    def __init__(self, root: Element, drawing: Drawing) -> None:
        self._drawing, self._sheet, self._root = drawing, Sheet(root), root
        self._by_id: dict[str, Element] = {}
        self._seen, self._all = 0, 1
        for element in root.iter():
            self._all += 1
            if name := element.get("id"):
                self._by_id.setdefault(name, element)

    def whole(self, here: _Here) -> None:
        """Reads all, drawn as the drawing itself says."""
        self.group(self._root, replace(here, style=self._sheet.style(self._root, here.style)))

    def group(self, element: Element, here: _Here) -> None:
        for child in element:
            self._element(child, here)

    def _element(self, element: Element, here: _Here) -> None:
        self._seen += 1
        progress.done(self._seen / self._all)
        tag = _tag(element)
        if tag not in (*_GROUPS, *SHAPES, "use", "text", "image", "foreignObject"):
            return
        style = self._sheet.style(element, here.style)
        here = replace(here, style=style, to_mm=here.to_mm.transform(transform(element.get("transform"))))
        if style.clip:
            here = replace(here, clips=self._clip(style.clip, here))
        if tag in _GROUPS:
            self._group(element, tag, _named(element, here))
        elif tag == "use":
            self._use(element, here)
        elif tag in SHAPES:
            self._shape(element, tag, here)
        elif style.displayed and style.visible:
            self._other(element, tag, here)

    def _group(self, element: Element, tag: str, here: _Here) -> None:
        if tag == "svg":
            whole, inner = viewport(element.attrib, here.whole)
            here = replace(here, whole=whole, to_mm=here.to_mm.transform(inner))
        if here.style.displayed:
            self.group(element, here)
        else:
            hidden = Counter(tag for one in element.iter() if (tag := _tag(one)) in (*SHAPES, "use"))
            for kind, number in hidden.items():
                self._drawing.leave_out(kind, "hidden", number)

    def _use(self, element: Element, here: _Here) -> None:
        href = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
        target = self._by_id.get(href.removeprefix("#")) if href.startswith("#") else None
        if target is None:
            note = f"The SVG uses “{href[:40]}”, which is not in it; that was left out."
            self._drawing.lose("use", "not in the file", note)
            return
        x, y = pixels(element.get("x"), here.whole.real) or 0.0, pixels(element.get("y"), here.whole.imag) or 0.0
        here = replace(_named(element, here), to_mm=here.to_mm.translate(x, y))
        if _tag(target) != "symbol":
            self._element(target, here)
            return
        here = _named(target, replace(here, style=self._sheet.style(target, here.style)))
        sized = {name: value for name in ("width", "height") if (value := element.get(name) or target.get(name))}
        whole, inner = viewport({**target.attrib, **sized}, here.whole)
        if here.style.displayed:
            self.group(target, replace(here, whole=whole, to_mm=here.to_mm.transform(inner)))

    def _other(self, element: Element, tag: str, here: _Here) -> None:
        if tag == "text":
            self._text(element, here)
        elif tag == "image":
            note = "The SVG has a picture made of dots, which no line can be cut from; it was left out."
            self._drawing.lose(tag, "a picture of dots", note, _origin(here))

    def _text(self, element: Element, here: _Here) -> None:
        if here.style.hidden:
            return
        for words, (x, y) in _text_lines(element):
            at = complex(*here.to_mm.transformPoint((x, y)))
            up = complex(*here.to_mm.transformVector((0, -CAPITALS * here.style.font_size)))
            self._drawing.texts.append(LiveText(words, at, up, here.layer, _ALIGNED.get(here.style.anchor, "left")))
            self._drawing.lose(
                "text", "live text", "The SVG has live text, which no machine cuts; it was left out.", at
            )

    # Shapes

    def _shape(self, element: Element, tag: str, here: _Here) -> None:
        runs = runs_of(element, tag, here.to_mm, here.whole)
        if not runs:
            self._drawing.point(tag, _origin(here))
        elif here.style.hidden:
            self._drawing.leave_out(tag, here.style.hidden, at=runs[0].segments[0].start)
        else:
            if here.style.is_hairline:
                self._drawing.hairlines += 1
            edges = [_edges(run, here.style) for run in runs]
            if any(len(edge) > len(run.segments) for edge, run in zip(edges, runs, strict=True)):
                self._drawing.note("Filled shapes that no line closes are in it; the edge of what is filled was taken.")
            for segments in self._clipped(edges, tag, here):
                self._drawing.add(here.layer, segments, here.style.colour, filled=not here.style.strokes, kind=tag)

    def _clipped(self, runs: list[list[Segment]], tag: str, here: _Here) -> Iterator[list[Segment]]:
        """What a clip leaves of a shape's runs: none, all, or of a closed one the piece inside."""
        if here.clips is None:
            yield from runs
            return
        window = joined_bounds(clip.bounds for clip in here.clips) if here.clips else None
        for run in runs:
            box = joined_bounds(segment.bounds() for segment in run)
            if window is None or _apart(box, window):
                self._drawing.leave_out(tag, "clipped away", at=run[0].start)
            elif _is_closed(run):
                shape = _outline(run)
                pieces = [] if shape.area < 1e-9 else intersect([shape], list(here.clips))
                if not pieces:
                    self._drawing.leave_out(tag, "clipped away", at=run[0].start)
                yield from (list(loop.segments) for piece in pieces for loop in piece.loops)
            else:
                self._drawing.note("An open line that a clip cuts off was taken whole.")
                yield run

    def _clip(self, name: str, here: _Here) -> tuple[Outline, ...] | None:
        """The outlines of a clip, inside what is clipped already; None where it is not known."""
        clip = self._by_id.get(name)
        if clip is None or _tag(clip) != "clipPath" or clip.get("clipPathUnits") == "objectBoundingBox":
            return here.clips
        to_mm = here.to_mm.transform(transform(clip.get("transform")))
        found = []
        for child in clip:
            if (tag := _tag(child)) in SHAPES:
                placed = to_mm.transform(transform(child.get("transform")))
                runs = [run for run in runs_of(child, tag, placed, here.whole) if len(run.segments) > 1]
                loops = [Loop(tuple(_edges(run, Style()))) for run in runs]
                found += [
                    Outline(loop if loop.area > 0 else loop.reversed()) for loop in loops if abs(loop.area) > 1e-9
                ]
        return tuple(found) if here.clips is None else tuple(intersect(found, list(here.clips)))


def _named(element: Element, here: _Here) -> _Here:
    """Under its label, which is what a maker called it, or else under its id."""
    label = next((value for key, value in element.attrib.items() if key.rpartition("}")[2] == "label"), "")
    name = (label or element.get("id") or "").strip()
    return replace(here, names=(*here.names, name)) if name else here


def _origin(here: _Here) -> complex:
    """Where the units of a shape begin, in mm."""
    return complex(here.to_mm.dx, here.to_mm.dy)


def _edges(run: Run, style: Style) -> list[Segment]:
    """The lines of a run, with the one that closes it where what is seen is its filled inside."""
    first, last = run.segments[0].start, run.segments[-1].end
    if run.closed or abs(first - last) < 1e-9 or not style.fills or (style.strokes and not style.fill_stated):
        return run.segments
    closing = Line(last, first, SOURCE)
    flat = abs(sum(segment.green() for segment in (*run.segments, closing))) < 1e-9
    return run.segments if flat else [*run.segments, closing]


def _outline(run: list[Segment]) -> Outline:
    loop = Loop(tuple(run))
    return Outline(loop if loop.area > 0 else loop.reversed())


def _is_closed(run: list[Segment]) -> bool:
    return len(run) > 1 and abs(run[-1].end - run[0].start) < 1e-6


def _apart(a: Bounds, b: Bounds) -> bool:
    return a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]
