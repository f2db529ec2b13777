"""SVG read with svgelements: shapes, transforms and units; curves become arcs."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Callable, Iterable
from xml.etree.ElementTree import ParseError

import svgelements
from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

from ..document.limits import LARGEST_DRAWING, MOST_READ
from ..geometry.biarc import arcs_along, bezier, ellipse
from ..geometry.segment import Arc, Line, Point, Segment, Source, arc_from_bulge
from .drawing import SHORTEST, BrokenFile, Drawing, check_points, check_reach
from .svg_count import check_svg

#: CSS Values and Units 3, section 6.2: 1in = 96px = 25.4mm.
PIXEL = 25.4 / 96


def read_svg(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads any SVG of at most so many lines and arcs: shapes, transforms, units; curves become arcs.

    Raises `BrokenFile`.
    """
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The SVG file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    try:
        root = ElementTree.fromstring(data, forbid_dtd=False)
    except ParseError as error:
        line, column = error.position
        raise BrokenFile(f"The SVG file is broken at line {line}, column {column}; save it again.") from error
    except DefusedXmlException as error:
        raise BrokenFile("The SVG file defines entities, which is not safe; save it as plain SVG.") from error
    except (LookupError, ValueError) as error:
        raise BrokenFile("The SVG file is written in an encoding that is not known here; save it in UTF-8.") from error
    if root.tag.rpartition("}")[2] != "svg":
        raise BrokenFile("The file is XML but not an SVG drawing.")
    check_svg(root, most)
    try:
        svg = svgelements.SVG.parse(io.BytesIO(data), ppi=96, reify=True)
    except Exception as error:  # the reader has no exception of its own
        raise BrokenFile(f"The SVG file cannot be read: {error}") from error
    drawing = Drawing(most=most)
    scale = _read_size(root.attrib, svg, drawing)
    description = next((e.text for e in root if e.tag.rpartition("}")[2] == "desc"), "")
    drawing.says = description or ""
    _read_group(svg, "", drawing, scale)
    return drawing


def _read_size(attributes: dict[str, str], svg: svgelements.SVG, drawing: Drawing) -> float:
    """Notes the drawing's size in mm; returns mm for one unit of the reader."""
    width = _millimetres(attributes.get("width", ""))
    if width is None:
        drawing.unit_stated = False
        drawing.notes.append("The SVG gives no size in mm or in; read at 96 px to the inch (100 px = 26.458 mm).")
    wide, high = _pixels(svg.width), _pixels(svg.height)
    scale = width / wide if width and wide > 0 else PIXEL
    drawing.width, drawing.height = wide * scale, high * scale
    check_reach(scale, drawing.width, drawing.height)
    if scale <= 0:
        raise BrokenFile("The SVG gives no size that can be drawn; give it a width and a height in mm.")
    return scale


def _pixels(length: object) -> float:
    try:
        return float(length)  # type: ignore[arg-type]
    except (TypeError, ValueError):
        return 0.0


def _millimetres(text: str) -> float | None:
    """A CSS length with a physical unit in mm, worked out here: the reader rounds an inch to seven digits."""
    match = re.fullmatch(r"\s*(\d+\.?\d*|\.\d+)\s*(mm|cm|in|pt|pc|q)\s*", text, re.IGNORECASE)
    if not match:
        return None
    unit = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6, "q": 0.25}
    return float(match.group(1)) * unit[match.group(2).lower()]


def _read_group(group: Iterable[object], layer: str, drawing: Drawing, scale: float) -> None:
    for element in group:
        name = getattr(element, "id", None)
        if isinstance(element, svgelements.Group):
            _read_group(element, name or layer, drawing, scale)
        elif isinstance(element, svgelements.Text):
            drawing.note("The SVG has live text, which no machine cuts; it was left out.")
        elif isinstance(element, svgelements.Shape):
            path = svgelements.Path(element)
            path.reify()
            for run in path.as_subpaths():
                drawing.add(layer, _segments(svgelements.Path(run), drawing.height or 0.0, scale))


def _segments(path: svgelements.Path, height: float, scale: float) -> Iterable[Segment]:
    source = Source("file", "line")

    def point(p: svgelements.Point) -> Point:
        return complex(p.x * scale, height - p.y * scale)

    for piece in path:
        if isinstance(piece, svgelements.Move) or piece.start is None or piece.end is None:
            continue
        start, end = point(piece.start), point(piece.end)
        check_points((start, end))
        if isinstance(piece, svgelements.Line | svgelements.Close):
            yield Line(start, end, source)
        elif isinstance(piece, svgelements.CubicBezier):
            yield from _bezier(start, point(piece.control1), point(piece.control2), end, source)
        elif isinstance(piece, svgelements.QuadraticBezier):
            control = point(piece.control)
            yield from _bezier(start, start + (control - start) * 2 / 3, end + (control - end) * 2 / 3, end, source)
        elif isinstance(piece, svgelements.Arc):
            yield from _read_arc(piece, point, source)


def _bezier(start: Point, first: Point, second: Point, end: Point, source: Source) -> Iterable[Segment]:
    check_points((first, second))
    if max(abs(first - start), abs(second - start), abs(end - start)) < SHORTEST:
        return ()
    return arcs_along(bezier(start, first, second, end), 0, 1, source)


def _read_arc(piece: svgelements.Arc, point: Callable[[svgelements.Point], Point], source: Source) -> Iterable[Segment]:
    centre = point(piece.center)
    axis, other = point(piece.prx) - centre, point(piece.pry) - centre
    start, end = point(piece.start), point(piece.end)
    sweep = -float(piece.sweep)
    check_points((centre, centre + axis, centre + other, start, end))
    if min(abs(axis), abs(other)) < SHORTEST or abs(sweep) * max(abs(axis), abs(other)) < SHORTEST:
        return
    if abs(abs(axis) - abs(other)) > 1e-6 * abs(axis):
        curve = ellipse(centre, axis, other)
        begin = _angle_on(centre, axis, other, start)
        turned = sweep if (other / axis).imag > 0 else -sweep
        yield from arcs_along(curve, begin, begin + turned, source)
        return
    parts = 1 if abs(sweep) < 1.9 * math.pi else 2
    if parts == 1:
        yield arc_from_bulge(start, end, math.tan(sweep / 4), source)
        return
    middle = 2 * centre - start
    yield Arc(start, middle, centre, sweep > 0, source)
    yield Arc(middle, end, centre, sweep > 0, source)


def _angle_on(centre: Point, axis: complex, other: complex, at: Point) -> float:
    """The angle of an ellipse's parameter at a point on it."""
    spoke = at - centre
    x = (spoke * axis.conjugate()).real / abs(axis) ** 2
    y = (spoke * other.conjugate()).real / abs(other) ** 2
    return math.atan2(y, x)
