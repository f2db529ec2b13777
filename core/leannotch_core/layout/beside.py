"""A part that is dragged: what it is in the way of there, and where near by it lies a gap from its neighbours."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import shapely
from shapely import Polygon
from shapely.affinity import translate

from ..document.sheet import CopyOf, Placement
from ..evaluate import Result
from ..project.project import Project
from .sheets import placed, usable
from .spacing import spacing

#: Places looked at on the way to a snap, and how often the last step is halved.
_LOOKS, _HALVINGS = 10, 20
#: Neighbours are told up to so far away (mm), and so many of them.
_TOLD, _FEW = 30.0, 4
#: Less than this (mm) is no fault.
_EXACT = 1e-6


@dataclass(frozen=True, slots=True)
class Neighbour:
    """The shortest way from a dragged part to another or to the sheet's edge (no copy), in mm on the sheet."""

    copy_of: CopyOf | None
    distance: float
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(slots=True)
class Beside:
    """Where a dragged part would lie, whether that is free, and what is near."""

    x: float
    y: float
    free: bool = True
    in_the_way: list[CopyOf] = field(default_factory=list)
    neighbours: list[Neighbour] = field(default_factory=list)


def beside(project: Project, result: Result, placement: Placement, reach: float) -> Beside | None:
    """Where a copy would lie: moved by up to ``reach`` mm each way to where it touches the gap or the margin.

    None where part or sheet are not there any more. Raises `SizeError` where margin or gap cannot be read.
    """
    part, layout = result.parts.get(placement.part), project.layout
    if part is None or placement.sheet >= len(layout.sheets):
        return None
    margin, gap = spacing(project, result)
    sheet = layout.sheets[placement.sheet]
    others = [
        other
        for other in layout.placements
        if other.sheet == placement.sheet
        and other.part in result.parts
        and (other.part, other.copy_number) != (placement.part, placement.copy_number)
    ]
    lying = [placed(result.parts[other.part].outline, other) for other in others]
    shape = placed(part.outline, placement)
    around = shape.buffer(reach + max(gap, _TOLD), join_style="mitre")
    near = shapely.STRtree(lying).query(around).tolist() if lying else []
    edges = usable(sheet)

    def free(dx: float, dy: float) -> bool:
        moved = translate(shape, dx, dy)
        return _inside(moved, edges, margin) and all(_apart(moved, lying[at], gap) for at in near)

    dx = _snap(lambda step: free(step, 0.0), reach)
    dy = _snap(lambda step: free(dx, step), reach)
    found = Beside(placement.x + dx, placement.y + dy)
    shape = translate(shape, dx, dy)
    copies = {at: CopyOf(part=others[at].part, copy_number=others[at].copy_number) for at in near}
    found.in_the_way = [copies[at] for at in near if not _apart(shape, lying[at], gap)]
    found.free = not found.in_the_way and _inside(shape, edges, margin)
    ways = [_way(shape, lying[at], copies[at]) for at in near] + [_way(shape, edges.boundary, None)]
    found.neighbours = sorted((way for way in ways if way.distance <= _TOLD), key=lambda way: way.distance)[:_FEW]
    return found


def _inside(shape: Polygon, edges: Polygon, margin: float) -> bool:
    if edges.contains(shape):
        return bool(edges.boundary.distance(shape) >= margin - _EXACT)
    return margin <= _EXACT and bool(edges.buffer(_EXACT).contains(shape))


def _apart(shape: Polygon, other: Polygon, gap: float) -> bool:
    if gap > _EXACT:
        return bool(shape.distance(other) >= gap - _EXACT)
    return not shape.intersects(other) or shape.intersection(other).area <= _EXACT


def _snap(free: Callable[[float], bool], reach: float) -> float:
    """The least step, up to ``reach`` either way, to where free and not free meet: on the free side of it."""
    if reach <= 0:
        return 0.0
    begins = free(0.0)
    found: list[float] = []
    for way in (1.0, -1.0):
        last = 0.0
        for look in range(1, _LOOKS + 1):
            step = reach * look / _LOOKS
            if free(way * step) != begins:
                found.append(way * _between(free, way, last, step, begins))
                break
            last = step
    return min(found, key=abs, default=0.0)


def _between(free: Callable[[float], bool], way: float, same: float, other: float, begins: bool) -> float:
    for _ in range(_HALVINGS):
        middle = (same + other) / 2
        if free(way * middle) == begins:
            same = middle
        else:
            other = middle
    return same if begins else other


def _way(shape: Polygon, other: shapely.Geometry, copy: CopyOf | None) -> Neighbour:
    (x1, y1), (x2, y2) = shapely.get_coordinates(shapely.shortest_line(shape, other)).tolist()
    return Neighbour(copy, float(shape.distance(other)), x1, y1, x2, y2)
