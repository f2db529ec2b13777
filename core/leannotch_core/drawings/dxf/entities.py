"""The flat curves of single DXF entities, in the file's unit, as they are seen from above."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from itertools import pairwise
from typing import Any

from ezdxf.lldxf.const import DXFError
from ezdxf.math import Vec3

from ...document.sizes import LARGEST
from ...geometry.biarc import TOLERANCE, arcs_along
from ...geometry.segment import Arc, Line, Point, Segment, Source, arc_from_bulge
from ...geometry.shallow import RISE, chords
from ..drawing import SHORTEST, BrokenFile, check_points, check_reach

SOURCE = Source("file", "line")

#: Heights that differ by no more than this (mm) are one height.
FLAT = 1e-4

#: By so much the way in which an entity is drawn may differ from upright, of 1.
_UPRIGHT = 1e-6

#: Splines of a higher degree are no drawing.
HIGHEST_DEGREE = 11


#: A vertex with this flag is a point of the frame of a spline (DXF reference, VERTEX, group 70).
_FRAME = 16


class NotFlat(Exception):  # noqa: N818 - it is a state
    """An entity that does not lie at one height."""


def segments_of(entity: Any, kind: str, scale: float) -> Iterator[Segment]:
    """Lines and arcs of an entity of a `KINDS`, one unit of which is ``scale`` mm.

    Raises `NotFlat`, or `BrokenFile` where its numbers give no curve.
    """
    try:
        yield from KINDS[kind](entity, scale)
    except (ArithmeticError, ValueError, TypeError, IndexError, DXFError) as error:
        if isinstance(error, BrokenFile):
            raise
        raise BrokenFile(f"The DXF has a {kind} whose numbers make no curve; take it out or draw it again.") from error


def _point(vector: Vec3) -> Point:
    return complex(vector[0], vector[1])


def _one_height(points: Iterable[Vec3], scale: float) -> None:
    heights = [float(point[2]) * scale for point in points]
    if heights and max(heights) - min(heights) > FLAT:
        raise NotFlat


def _upright(entity: Any) -> bool:
    """Whether an entity is seen from above as it was drawn; mirrored, where it was drawn from below.

    Raises `NotFlat` where it leans.
    """
    extrusion = Vec3(entity.dxf.extrusion).normalize()
    if abs(abs(extrusion.z) - 1) > _UPRIGHT:
        raise NotFlat
    return bool(extrusion.z > 0)


def _line(entity: Any, scale: float) -> Iterator[Segment]:
    _one_height((entity.dxf.start, entity.dxf.end), scale)
    yield Line(_point(entity.dxf.start), _point(entity.dxf.end), SOURCE)


def _centre(entity: Any, scale: float) -> tuple[Point, float]:
    centre, radius = _point(entity.ocs().to_wcs(entity.dxf.center)), float(entity.dxf.radius)
    check_reach(*(value * scale for value in (centre.real, centre.imag, radius)))
    return centre, radius


def _circle(entity: Any, scale: float) -> Iterator[Segment]:
    _upright(entity)
    yield from _full_turn(*_centre(entity, scale), scale)


def _full_turn(centre: Point, radius: float, scale: float) -> Iterator[Segment]:
    if radius * scale >= SHORTEST:
        yield Arc(centre + radius, centre - radius, centre, True, SOURCE)
        yield Arc(centre - radius, centre + radius, centre, True, SOURCE)


def _arc(entity: Any, scale: float) -> Iterator[Segment]:
    upright = _upright(entity)
    centre, radius = _point(entity.ocs().to_wcs(entity.dxf.center)), float(entity.dxf.radius)
    if LARGEST <= radius * scale < math.inf:
        # Its centre lies beyond all that is read, and what is drawn of it need not.
        arc = Arc(_point(entity.start_point), _point(entity.end_point), centre, upright, SOURCE)
        check_points(point * scale for point in (arc.start, arc.end))
        yield from chords(arc, RISE / scale)
        return
    centre, radius = _centre(entity, scale)
    turned = (float(entity.dxf.end_angle) - float(entity.dxf.start_angle)) % 360
    check_reach(turned)
    if radius * scale < SHORTEST:
        return
    if math.radians(min(turned, 360 - turned)) * radius * scale < SHORTEST:
        # It ends where it begins. Which of the two is meant cannot be told; a full turn is what can be cut.
        yield from _full_turn(centre, radius, scale)
    else:
        yield from _halves(Arc(_point(entity.start_point), _point(entity.end_point), centre, upright, SOURCE))


def _halves(arc: Arc) -> Iterator[Segment]:
    """An arc of more than half a turn as two: nearly a full one has no bulge that a polyline can hold."""
    if abs(arc.sweep) <= math.pi + 1e-6:
        yield arc
        return
    middle = arc.at(0.5)
    yield from (arc.between(arc.start, middle), arc.between(middle, arc.end))


def _light_polyline(entity: Any, scale: float) -> Iterator[Segment]:
    yield from _bulged(_seen(entity, entity.get_points("xyb")), entity.closed)


def _polyline(entity: Any, scale: float) -> Iterator[Segment]:
    if entity.is_2d_polyline:
        # Of a polyline that was fitted with a spline, the frame that it hangs on is stored too.
        drawn = [v for v in entity.vertices if not v.dxf.get("flags", 0) & _FRAME]
        vertices = [(*_xy(v.dxf.location), v.dxf.get("bulge", 0.0)) for v in drawn]
        yield from _bulged(_seen(entity, vertices), entity.is_closed)
    elif entity.is_3d_polyline:
        places = [vertex.dxf.location for vertex in entity.vertices if not vertex.dxf.get("flags", 0) & _FRAME]
        _one_height(places, scale)
        yield from _bulged([(*_xy(place), 0.0) for place in places], entity.is_closed)
    else:
        raise NotFlat


def _seen(entity: Any, vertices: Iterable[tuple[float, float, float]]) -> Iterable[tuple[float, float, float]]:
    """Vertices as they are seen from above: a mirrored entity is stored from below, where x runs the other way."""
    return vertices if _upright(entity) else [(-x, y, -bulge) for x, y, bulge in vertices]


def _xy(vector: Vec3) -> tuple[float, float]:
    return float(vector[0]), float(vector[1])


def _bulged(vertices: Iterable[tuple[float, float, float]], closed: bool) -> Iterator[Segment]:
    points = list(vertices)
    ends = points[1:] + points[:1] if closed else points[1:]
    for (x, y, bulge), (end_x, end_y, _) in zip(points, ends, strict=False):
        start, end = complex(x, y), complex(end_x, end_y)
        if abs(end - start) > 1e-9:
            segment = arc_from_bulge(start, end, bulge, SOURCE)
            yield from _halves(segment) if isinstance(segment, Arc) else (segment,)


def _face(entity: Any, scale: float) -> Iterator[Segment]:
    """The edge of a filled triangle or quadrilateral."""
    corners = entity.wcs_vertices(close=True)
    _one_height(corners, scale)
    yield from (Line(_point(a), _point(b), SOURCE) for a, b in pairwise(corners))


def _ellipse(entity: Any, scale: float) -> Iterator[Segment]:
    tool = entity.construction_tool()
    axes = (tool.major_axis, tool.minor_axis)
    check_points(_point(v) * scale for v in (tool.center, *axes))
    _one_height((Vec3(), *axes), scale)
    if min(axis.magnitude for axis in axes) * scale < SHORTEST:
        return
    begin, end = tool.start_param, tool.end_param

    def curve(t: float) -> tuple[Point, complex]:
        return _point(next(tool.vertices([t]))), _point(next(tool.tangents([t])))

    yield from arcs_along(curve, begin, end if end > begin else end + math.tau, SOURCE, TOLERANCE / scale)


def _spline(entity: Any, scale: float) -> Iterator[Segment]:
    tool = entity.construction_tool()
    if tool.degree > HIGHEST_DEGREE:
        raise BrokenFile(f"The DXF has a spline of degree {tool.degree}; at most {HIGHEST_DEGREE} are read.")
    check_points(_point(v) * scale for v in tool.control_points)
    _one_height(tool.control_points, scale)
    knots = [float(knot) for knot in tool.knots()]
    # A curve runs over these knots only, also where its ends are not clamped or it is periodic.
    first, last = knots[tool.degree], knots[-tool.degree - 1]
    # Where a knot stands as often as the degree, there may be a corner.
    corners = [knot for knot in sorted(set(knots)) if first < knot < last and knots.count(knot) >= tool.degree]
    for begin, end in pairwise((first, *corners, last)):
        yield from arcs_along(_stretch(tool, begin, end), begin, end, SOURCE, TOLERANCE / scale)


def _stretch(tool: Any, begin: float, end: float) -> Callable[[float], tuple[Point, complex]]:
    inside = (end - begin) * 1e-9

    def curve(t: float) -> tuple[Point, complex]:
        point, slope = tool.derivative(min(max(t, begin + inside), end - inside), 1)
        return _point(point), _point(slope)

    return curve


#: Entities that are lines and curves, with what gives them.
KINDS: dict[str, Callable[[Any, float], Iterator[Segment]]] = {
    "LINE": _line,
    "CIRCLE": _circle,
    "ARC": _arc,
    "LWPOLYLINE": _light_polyline,
    "POLYLINE": _polyline,
    "SOLID": _face,
    "TRACE": _face,
    "3DFACE": _face,
    "ELLIPSE": _ellipse,
    "SPLINE": _spline,
}
