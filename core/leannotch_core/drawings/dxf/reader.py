"""DXF read with ezdxf: arcs are bulges, curves become arcs."""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Iterator
from typing import Any

from ezdxf import recover, units
from ezdxf.document import Drawing as DxfDocument
from ezdxf.enums import InsertUnits
from ezdxf.lldxf.const import DXFError
from ezdxf.math import Vec3

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.statement import IN_MILLIMETRES
from ...geometry.biarc import TOLERANCE, arcs_along
from ...geometry.segment import Arc, Line, Point, Segment, Source, arc_from_bulge
from ..drawing import SHORTEST, BrokenFile, Drawing, check_points, check_reach
from .count import check_blocks, check_tags

_SOURCE = Source("file", "line")

#: Entities that are lines or curves, whatever they hold; a POLYLINE may also be a mesh.
_CURVES = ("LINE", "CIRCLE", "ARC", "LWPOLYLINE", "ELLIPSE", "SPLINE")


def read_dxf(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads the flat curves of any DXF of at most so many lines and arcs; ellipses and splines become arcs.

    Raises `BrokenFile`.
    """
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The DXF file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    if b"SECTION" not in data:
        raise BrokenFile("The DXF file cannot be read: it has no sections. Save it again.")
    check_tags(data, most)
    try:
        document, auditor = recover.read(io.BytesIO(data))
    except MemoryError:
        raise
    except Exception as error:  # the reader fails in many ways on broken files
        raise BrokenFile("The DXF file cannot be read: its structure is broken. Save it again.") from error
    check_blocks(document, most)
    drawing = Drawing(says=_comment(data), most=most)
    if auditor.errors:
        drawing.notes.append(f"The DXF had {len(auditor.errors)} faults that could not be repaired.")
    scale = _scale(document, drawing)
    for layer, segments in _entities(document.modelspace(), drawing, scale):
        drawing.add(layer, (_scaled(segment, scale) for segment in segments))
    if not drawing.lines:
        drawing.notes.append("The DXF holds no lines in its model space.")
    return drawing


def _comment(data: bytes) -> str:
    lines = data[:400].decode("utf-8", "replace").splitlines()
    return lines[1] if len(lines) > 1 and lines[0].strip() == "999" else ""


def _scale(document: DxfDocument, drawing: Drawing) -> float:
    try:
        unit = int(document.header.get("$INSUNITS", 0))
    except (TypeError, ValueError, OverflowError):
        unit = -1
    if unit == 0 and drawing.says.startswith(IN_MILLIMETRES):
        return 1.0
    if unit == 0:
        drawing.unit_stated = False
        drawing.notes.append("The DXF names no unit ($INSUNITS 0); it was read as millimetres.")
        return 1.0
    try:
        return float(units.conversion_factor(InsertUnits(unit), InsertUnits.Millimeters))
    except (ValueError, TypeError):
        drawing.unit_stated = False
        drawing.notes.append(f"The DXF names an unknown unit ($INSUNITS {unit}); it was read as millimetres.")
        return 1.0


def _scaled(segment: Segment, scale: float) -> Segment:
    if scale == 1.0:
        return segment
    if isinstance(segment, Line):
        return Line(segment.start * scale, segment.end * scale, segment.source)
    return Arc(segment.start * scale, segment.end * scale, segment.centre * scale, segment.ccw, segment.source)


def _entities(entities: Iterable[Any], drawing: Drawing, scale: float) -> Iterator[tuple[str, Iterable[Segment]]]:
    """Layer and segments of each entity, in the file's unit, of which one is ``scale`` mm."""
    for entity in entities:
        kind, layer = entity.dxftype(), str(entity.dxf.get("layer", "0"))
        if kind == "INSERT":
            yield from _entities(entity.virtual_entities(), drawing, scale)
        elif kind in _CURVES or (kind == "POLYLINE" and entity.is_2d_polyline):
            yield layer, _readable(_segments(entity, kind, scale), kind)
        elif kind not in ("VIEWPORT", "POINT"):
            drawing.note(f"The DXF has {kind} entities, which were left out.")


def _readable(segments: Iterator[Segment], kind: str) -> Iterator[Segment]:
    """The segments of an entity. Raises `BrokenFile` where its numbers give none."""
    try:
        yield from segments
    except (ArithmeticError, ValueError, TypeError, DXFError) as error:
        if isinstance(error, BrokenFile):
            raise
        raise BrokenFile(f"The DXF has a {kind} whose numbers make no curve; take it out or draw it again.") from error


def _point(vector: Vec3) -> Point:
    return complex(vector[0], vector[1])


def _segments(entity: Any, kind: str, scale: float) -> Iterator[Segment]:
    if kind == "LINE":
        yield Line(_point(entity.dxf.start), _point(entity.dxf.end), _SOURCE)
    elif kind == "CIRCLE":
        yield from _circle(_point(entity.ocs().to_wcs(entity.dxf.center)), float(entity.dxf.radius), scale)
    elif kind == "ARC":
        yield from _arc(entity, scale)
    elif kind == "LWPOLYLINE":
        yield from _polyline(_seen(entity, entity.get_points("xyb")), entity.closed)
    elif kind == "POLYLINE" and entity.is_2d_polyline:
        vertices = [(*_xy(v.dxf.location), v.dxf.get("bulge", 0.0)) for v in entity.vertices]
        yield from _polyline(_seen(entity, vertices), entity.is_closed)
    elif kind in ("ELLIPSE", "SPLINE"):
        yield from _curve(entity, kind, scale)


def _circle(centre: Point, radius: float, scale: float) -> Iterator[Segment]:
    check_reach(*(value * scale for value in (centre.real, centre.imag, radius)))
    if radius * scale >= SHORTEST:
        yield Arc(centre + radius, centre - radius, centre, True, _SOURCE)
        yield Arc(centre - radius, centre + radius, centre, True, _SOURCE)


def _arc(entity: Any, scale: float) -> Iterator[Segment]:
    centre, radius = _point(entity.ocs().to_wcs(entity.dxf.center)), float(entity.dxf.radius)
    turned = (float(entity.dxf.end_angle) - float(entity.dxf.start_angle)) % 360
    check_reach(*(value * scale for value in (centre.real, centre.imag, radius)), turned)
    if math.radians(min(turned, 360 - turned)) * radius * scale < SHORTEST:
        # It ends where it begins. Which of the two is meant cannot be told; a full turn is what can be cut.
        yield from _circle(centre, radius, scale)
    else:
        yield Arc(_point(entity.start_point), _point(entity.end_point), centre, entity.dxf.extrusion.z > 0, _SOURCE)


def _seen(entity: Any, vertices: Iterable[tuple[float, float, float]]) -> Iterable[tuple[float, float, float]]:
    """Vertices as they are seen from above: a mirrored entity is stored from below, where x runs the other way."""
    if entity.dxf.extrusion.z > 0:
        return vertices
    return [(-x, y, -bulge) for x, y, bulge in vertices]


def _xy(vector: Vec3) -> tuple[float, float]:
    return float(vector[0]), float(vector[1])


def _polyline(vertices: Iterable[tuple[float, float, float]], closed: bool) -> Iterator[Segment]:
    points = list(vertices)
    ends = points[1:] + points[:1] if closed else points[1:]
    for (x, y, bulge), (end_x, end_y, _) in zip(points, ends, strict=False):
        start, end = complex(x, y), complex(end_x, end_y)
        if abs(end - start) > 1e-9:
            yield arc_from_bulge(start, end, bulge, _SOURCE)


def _curve(entity: Any, kind: str, scale: float) -> Iterator[Segment]:
    tool, tolerance = entity.construction_tool(), TOLERANCE / scale
    if kind == "ELLIPSE":
        check_points(_point(v) * scale for v in (tool.center, tool.major_axis, tool.minor_axis))
        if min(tool.major_axis.magnitude, tool.minor_axis.magnitude) * scale < SHORTEST:
            return
        begin, end = tool.start_param, tool.end_param
        end = end if end > begin else end + math.tau

        def on_ellipse(t: float) -> tuple[Point, complex]:
            return _point(next(tool.vertices([t]))), _point(next(tool.tangents([t])))

        yield from arcs_along(on_ellipse, begin, end, _SOURCE, tolerance)
        return

    check_points(_point(v) * scale for v in tool.control_points)

    def on_spline(t: float) -> tuple[Point, complex]:
        point, slope = tool.derivative(min(t, tool.max_t), 1)
        return _point(point), _point(slope)

    yield from arcs_along(on_spline, 0.0, tool.max_t, _SOURCE, tolerance)
