"""SVG: every shape that is seen, by its layer and colour, in mm; curves become arcs."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial
from xml.etree.ElementTree import Element

from fontTools.misc.transform import Transform

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.model import Align
from ...document.operations import operation_named
from ...geometry.loop import Bounds, joined_bounds
from ...geometry.segment import Line, Segment
from .. import progress
from ..drawing import LIVE_TEXT, BrokenFile, Drawing, LiveText, Look, check_reach
from ..window import Window
from .count import DEEPEST, check_svg
from .lengths import PIXEL, fitted, millimetres, pixels, transform, view_box, viewport
from .parsed import parsed, tag_of
from .regions import Regions, UserSpace, rectangle, used
from .shapes import SHAPES, SOURCE, Subpath, runs_of
from .styles import Style, StyleSheets, styled

#: Capitals are about so much of a font's size (common practice, no source).
CAPITALS = 0.7

#: Where a text's anchor is (SVG 2, 11.10.2).
_ALIGNED: dict[str, Align] = {"start": "left", "middle": "middle", "end": "right"}

#: What holds shapes and draws them where it stands. All else is drawn only where something uses it, or never.
_GROUPS = ("svg", "g", "a", "switch")

#: What moves shapes while they are looked at.
_MOVES = ("animate", "animateTransform", "animateMotion", "set")

#: What is seen and has no lines: why it is left out, and what is said of that.
_NO_LINES = {
    "image": (
        "a picture of dots",
        "The SVG has a picture made of dots, which no line can be cut from; it was left out.",
    ),
    "foreignObject": ("not read", "The SVG has foreign objects, which are no drawing; they were left out."),
    **dict.fromkeys(
        ("video", "audio", "canvas", "iframe"),
        ("not read", "The SVG has moving pictures or pages in it, which are no drawing; they were left out."),
    ),
}


def read_svg(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads what is seen of any SVG of at most so many lines and arcs. Raises `BrokenFile`."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The SVG file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    root = parsed(data)
    check_svg(root, most)
    drawing = Drawing(most=most)
    drawing.says = next((e.text for e in root if tag_of(e) == "desc"), "") or ""
    sheet = StyleSheets(root)
    size, to_mm = _read_size(sheet.given(root), drawing)
    _Reading(root, sheet, drawing).whole(_Here(to_mm, size, Style()))
    drawing.tell_left_out()
    return drawing


def _read_size(given: Mapping[str, str], drawing: Drawing) -> tuple[complex, Transform]:
    """The drawing's size in its own units, and what takes them to mm with y up; tells how large it says that it is."""
    box = view_box(given.get("viewBox"))
    stated = [millimetres(given.get(name)) for name in ("width", "height")]
    # A share of what is round the drawing says nothing; a side that is not given keeps the shape of the view box.
    width, height = (
        None if "%" in (given.get(name) or "") else pixels(given.get(name)) for name in ("width", "height")
    )
    if box:
        width = width or (height * box[2] / box[3] if height else box[2])
        height = height or width * box[3] / box[2]
    width, height = width or 0.0, height or 0.0
    if box is None and "viewBox" in given:
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
    inner = fitted(box, width, height, given.get("preserveAspectRatio", "")) if box else Transform()
    up = Transform(PIXEL, 0, 0, -PIXEL, 0, drawing.height)
    drawing.unit = _unit(given) if drawing.unit_stated else "px"
    drawing.per_unit = PIXEL * abs(inner.xx) or PIXEL
    return complex(box[2], box[3]) if box else complex(width, height), up.transform(inner)


def _unit(given: Mapping[str, str]) -> str:
    """The unit in which a drawing states its size."""
    text = (given.get("width") or given.get("height") or "").strip().lower()
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
    seen: Window | None = None

    @property
    def layer(self) -> str:
        """The nearest name that says what is done, else the nearest name."""
        named = [name for name in reversed(self.names) if operation_named(name)]
        return (named or [*reversed(self.names)] or [""])[0]

    def through(self, window: Window) -> _Here:
        """The same, seen through a window too."""
        return replace(self, seen=window.and_through(self.seen))


class _Reading:
    def __init__(self, root: Element, sheet: StyleSheets, drawing: Drawing) -> None:
        self._drawing, self._sheet, self._root = drawing, sheet, root
        self._by_id: dict[str, Element] = {}
        self._seen, self._all = 0, 1
        for element in root.iter():
            self._all += 1
            if name := element.get("id"):
                self._by_id.setdefault(name, element)
            if tag_of(element) in _MOVES:
                drawing.note("The SVG moves; it was read as it stands where nothing has moved yet.")
        self._regions = Regions(self._by_id, sheet, self._unfit, drawing.most)

    def whole(self, here: _Here) -> None:
        """Reads all, drawn as the drawing itself says."""
        self._children(self._root, replace(here, style=styled(self._sheet.given(self._root), here.style)))

    def _unfit(self, what: str) -> None:
        self._drawing.note(f"The SVG has {what}, which are not carried out: what is under them was read without.")

    def _children(self, element: Element, here: _Here) -> None:
        for child in element:
            self._element(child, here)

    def _element(self, element: Element, here: _Here) -> None:
        self._seen += 1
        progress.done(self._seen / self._all)
        tag = tag_of(element)
        if tag not in (*_GROUPS, *SHAPES, "use", "text", *_NO_LINES):
            return
        given = self._sheet.given(element)
        if not _applies(given):
            self._drawing.leave_out(tag, "for others, by its language or extensions")
            return
        style, box = styled(given, here.style), partial(self._box, element)
        here = replace(here, style=style, to_mm=here.to_mm.transform(transform(given, here.whole, box)))
        for window in self._regions.seen(style, UserSpace(here.to_mm, here.whole, box)):
            here = here.through(window)
        for name in style.unfit:
            self._unfit("filters" if name == "filter" else "markers")
        if tag in _GROUPS:
            self._group(element, given, tag, _named(element, here))
        elif tag == "use":
            self._use(given, _named(element, here))
        elif tag in SHAPES:
            self._shape(given, tag, here)
        elif style.displayed and style.visible:
            self._other(element, tag, here)

    def _group(self, element: Element, given: Mapping[str, str], tag: str, here: _Here) -> None:
        if not here.style.displayed:
            hidden = Counter(kind for one in element.iter() if (kind := tag_of(one)) in (*SHAPES, "use"))
            for kind, number in hidden.items():
                self._drawing.leave_out(kind, "hidden", number)
            return
        if tag == "svg":
            here = self._inside(given, here)
        if tag == "switch":
            self._first(element, here)
        else:
            self._children(element, here)

    def _first(self, switch: Element, here: _Here) -> None:
        """A switch shows the first of what applies, and nothing else (SVG 2, 5.8.4)."""
        taken = next((one for one in switch if tag_of(one) and _applies(self._sheet.given(one))), None)
        for child in switch:
            if child is taken:
                self._element(child, here)
            elif (tag := tag_of(child)) in (*_GROUPS, *SHAPES, "use"):
                self._drawing.leave_out(tag, "not chosen by a switch")

    def _inside(self, given: Mapping[str, str], here: _Here) -> _Here:
        """The inside of a nested drawing or a symbol, which shows nothing beyond its edge unless it says so."""
        port = viewport(given, here.whole)
        if given.get("overflow", "hidden").strip() not in ("visible", "auto"):
            here = here.through(rectangle(port.box, here.to_mm))
        return replace(here, whole=port.whole, to_mm=here.to_mm.transform(port.inner))

    def _use(self, given: Mapping[str, str], here: _Here) -> None:
        target = self._by_id.get(used(given))
        if target is None:
            named = given.get("href") or given.get("{http://www.w3.org/1999/xlink}href") or ""
            note = f"The SVG uses “{named[:40]}”, which is not in it; that was left out."
            self._drawing.lose("use", "not in the file", note)
            return
        x, y = pixels(given.get("x"), here.whole.real) or 0.0, pixels(given.get("y"), here.whole.imag) or 0.0
        here = replace(here, to_mm=here.to_mm.translate(x, y))
        if tag_of(target) != "symbol":
            self._element(target, here)
            return
        own = self._sheet.given(target)
        here = _named(target, replace(here, style=styled(own, here.style)))
        sized = {name: value for name in ("width", "height") if (value := given.get(name) or own.get(name))}
        if here.style.displayed:
            self._children(target, self._inside({**own, **sized}, here))

    def _other(self, element: Element, tag: str, here: _Here) -> None:
        if tag == "text":
            self._text(element, here)
        else:
            self._drawing.lose(tag, *_NO_LINES[tag], _origin(here))

    def _box(self, element: Element) -> Bounds:
        """The box of all that an element draws, in its own units (SVG 2, 8.10)."""
        boxes = list(self._boxes(element, Transform(), 0))
        return joined_bounds(boxes) if boxes else (0.0, 0.0, 0.0, 0.0)

    def _boxes(self, element: Element, to: Transform, deep: int) -> Iterator[Bounds]:
        tag, given = tag_of(element), self._sheet.given(element)
        if tag in SHAPES:
            for run in runs_of(given, tag, to, 0j):
                yield joined_bounds(segment.bounds() for segment in run.segments)
            return
        inside: Iterable[Element] = element if tag in _GROUPS else ()
        if tag == "use" and deep < DEEPEST:
            target = self._by_id.get(used(given))
            to = to.translate(pixels(given.get("x")) or 0.0, pixels(given.get("y")) or 0.0)
            inside = () if target is None else (target,)
        for child in inside:
            moved = transform(self._sheet.given(child), 0j, lambda: (0.0, 0.0, 0.0, 0.0))
            yield from self._boxes(child, to.transform(moved), deep + 1)

    def _text(self, element: Element, here: _Here) -> None:
        if here.style.hidden:
            return
        for words, (x, y) in _text_lines(element):
            at = complex(*here.to_mm.transformPoint((x, y)))
            up = complex(*here.to_mm.transformVector((0, -CAPITALS * here.style.font_size)))
            self._drawing.texts.append(LiveText(words, at, up, here.layer, _ALIGNED.get(here.style.anchor, "left")))
            self._drawing.lose("text", LIVE_TEXT, "The SVG has live text, which no machine cuts; it was left out.", at)

    # Shapes

    def _shape(self, given: Mapping[str, str], tag: str, here: _Here) -> None:
        runs = runs_of(given, tag, here.to_mm, here.whole)
        if not runs:
            self._drawing.point(tag, _origin(here))
        elif here.style.hidden:
            self._drawing.leave_out(tag, here.style.hidden, at=runs[0].segments[0].start)
        else:
            self._drawn(runs, tag, here)

    def _drawn(self, runs: list[Subpath], tag: str, here: _Here) -> None:
        if here.style.is_hairline:
            self._drawing.hairlines += 1
        painted = self._by_id.get(here.style.filled_with)
        if painted is not None and tag_of(painted) == "pattern":
            self._unfit("patterns")
        edges = [_edges(run, here.style) for run in runs]
        if any(len(edge) > len(run.segments) for edge, run in zip(edges, runs, strict=True)):
            self._drawing.note("Filled shapes that no line closes are in it; the edge of what is filled was taken.")
        for edge in edges:
            seen = [edge] if here.seen is None else here.seen.leaves(edge)
            if not seen:
                self._drawing.leave_out(tag, "clipped away", at=edge[0].start)
            for segments in seen:
                self._drawing.add(here.layer, segments, _look(here), kind=tag)


def _look(here: _Here) -> Look:
    """How a shape is drawn, its line's width in mm."""
    style, scale = here.style, math.sqrt(abs(here.to_mm.xx * here.to_mm.yy - here.to_mm.xy * here.to_mm.yx))
    if not style.strokes:
        return Look(style.colour, filled=True)
    return Look(style.colour, style="dashed" if style.dashed else "", weight=round(style.stroke_width * scale, 3))


def _applies(given: Mapping[str, str]) -> bool:
    """Whether an element is for us: it asks for no extension, and for no other language (SVG 2, 5.8.5)."""
    languages = given.get("systemLanguage")
    spoken = languages is None or any(one.strip().lower().startswith("en") for one in languages.split(","))
    return spoken and not given.get("requiredExtensions", "").strip()


def _named(element: Element, here: _Here) -> _Here:
    """Under its label, which is what a maker called it, or else under its id."""
    label = next((value for key, value in element.attrib.items() if key.rpartition("}")[2] == "label"), "")
    name = (label or element.get("id") or "").strip()
    return replace(here, names=(*here.names, name)) if name else here


def _origin(here: _Here) -> complex:
    """Where the units of a shape begin, in mm."""
    return complex(here.to_mm.dx, here.to_mm.dy)


def _edges(run: Subpath, style: Style) -> list[Segment]:
    """The lines of a run, with the one that closes it where what is seen is its filled inside."""
    first, last = run.segments[0].start, run.segments[-1].end
    if run.closed or abs(first - last) < 1e-9 or not style.fills or (style.strokes and not style.fill_stated):
        return run.segments
    closing = Line(last, first, SOURCE)
    flat = abs(sum(segment.green() for segment in (*run.segments, closing))) < 1e-9
    return run.segments if flat else [*run.segments, closing]
