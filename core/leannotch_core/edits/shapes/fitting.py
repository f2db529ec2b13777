"""Shapes on a part made larger or smaller, fitted inside its border, and spread where they are too near."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

import shapely
from pydantic import Field
from shapely.affinity import scale as scaled_shape
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id
from ...document.sizes import Size, number
from ...document.sums import SizeError
from ...document.turned_over import scaled
from ...geometry.chords import as_polygon
from ...geometry.loop import Bounds, Outline
from ...geometry.segment import Point
from ...parts.cut_out import CutOut
from ...parts.nine import point_of
from ...parts.spreading import Spread, spread
from ...project.project import Project
from ..items import name_of, part_of
from .chosen import ChosenShapes

#: What is left between a shape that is fitted and the line it is fitted in (mm), so that it surely lies inside.
_INSIDE = 0.005


class ScaleShapes(Edit):
    """Makes shapes so many times as large, all about the middle of all, or ``each`` about its own."""

    do: Literal["scale shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    by: Size
    each: bool = False

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} made {self.by.text} times as large"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        try:
            factor = number(self.by)
        except SizeError as error:
            raise CannotApply(f"{error}.") from error
        if not 0.001 <= factor <= 1000:
            raise CannotApply(f"{factor:g} times as large cannot be made; type a factor between 0.001 and 1000.")
        together = point_of(chosen.box(chosen.ids), "middle")
        shifts = {}
        for one in chosen.ids:
            shape = chosen.shape(one)
            about = point_of(shape.box, "middle") if self.each else together
            shifts[one] = (shape.at - about) * (factor - 1)
        return _resized(chosen, shifts, dict.fromkeys(chosen.ids, factor))


class FitInside(Edit):
    """Brings shapes inside the part's border, or its edge where it has none, and makes them smaller where they are too
    large, in proportion: each by itself, or all ``together``.
    """

    do: Literal["fit inside"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    together: bool = False

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} fitted inside"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        # Without a border it is the part as it is before anything is cut out of it.
        lines = chosen.drawn.border or chosen.drawn.region
        room = shapely.union_all([as_polygon(outline, 0.002) for outline in lines])
        inside = shapely.MultiPolygon([shapely.Polygon(p.exterior) for p in shapely.get_parts(room)]).buffer(-_INSIDE)
        shifts: dict[str, complex] = {}
        factors: dict[str, float] = {}
        for unit in [chosen.ids] if self.together else chosen.units():
            shape = shapely.union_all([drawn_shape(chosen.shape(one).loops or ()) for one in unit])
            if shape.is_empty or inside.contains(shape):
                continue
            way, factor = self._fitted(chosen, unit, shape, inside)
            about = complex(*_middle(shape))
            for one in unit:
                factors[one] = factor
                shifts[one] = way + (chosen.shape(one).at - about) * (factor - 1)
        if not factors:
            raise CannotApply("All that is chosen lies inside already.")
        return _resized(chosen, shifts, factors)

    def _fitted(
        self, chosen: ChosenShapes, unit: Sequence[str], shape: BaseGeometry, inside: BaseGeometry
    ) -> tuple[complex, float]:
        """How far the shape goes and how much smaller it becomes about its middle."""
        left, bottom, right, top = inside.bounds
        a, b, c, d = shape.bounds
        # As near to where it was as its box goes into the room's; larger than that, to its middle.
        across = (left + right - a - c) / 2 if c - a > right - left else max(left - a, 0.0) + min(right - c, 0.0)
        up = (bottom + top - b - d) / 2 if d - b > top - bottom else max(bottom - b, 0.0) + min(top - d, 0.0)
        moved = translate(shape, across, up)
        middle = shapely.Point(_middle(moved))
        if not inside.contains(middle):
            near = shapely.shortest_line(inside.representative_point(), middle).intersection(inside)
            there = shapely.get_coordinates(near)[-1]
            moved = translate(moved, there[0] - middle.x, there[1] - middle.y)
        low = _largest_inside(moved, inside)
        if low < 0.01:
            raise CannotApply(f"{chosen.called(unit[0])} cannot be brought inside where it is; move it nearer first.")
        (x, y), (was_x, was_y) = _middle(moved), _middle(shape)
        return complex(x - was_x, y - was_y), low


class SpreadShapes(Edit):
    """Moves, and where that is not enough shrinks, what is cut out of a part and nearer to something than its stock
    allows; all of it, or what is named by ``ids``.
    """

    do: Literal["spread shapes"]
    part: Id
    ids: list[Id] = Field(default=[], max_length=500)

    def label(self, project: Project) -> str:
        return f"Shapes on {name_of(project, self.part)} spread"

    def said(self, before: Project, after: Project) -> str:
        then, now = part_of(before, self.part), ChosenShapes(after, self.part, [])
        pairs = zip(then.cutouts, now.part.cutouts, strict=True)
        smaller = sum(old.hole != new.hole for old, new in pairs)
        told = [f"{smaller} {'shape is' if smaller == 1 else 'shapes are'} smaller now."] if smaller else []
        narrow = now.drawn.narrow
        if narrow:
            names = ", ".join(now.called(one) for one in self._near(now)[:4])
            told.append(
                f"Still nearer than {now.drawn.stock.smallest_web:g} mm: {names}; they stand in rows or from another "
                "shape, or there is no room. Make them smaller, or take some away."
            )
        return " ".join(told)

    def _near(self, now: ChosenShapes) -> list[str]:
        """The cut-outs that are nearest to the places that are still too narrow."""
        cuts = [shape for shape in now.drawn.cutouts if shape.does == "cut out"]
        found = [min(cuts, key=lambda shape: _off(shape.box, place.at)).id for place in now.drawn.narrow if cuts]
        return list(dict.fromkeys(found))

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        least = f"{chosen.drawn.stock.smallest_web:g} mm"
        if not chosen.drawn.narrow:
            raise CannotApply(
                f"Nothing of {chosen.part.name} needs to be spread: all its cuts are {least} apart or more."
            )
        ids, found = self._spread(chosen)
        shifts, factors = {}, {}
        for one, way, factor in zip(ids, found.ways, found.factors, strict=True):
            if abs(way) > 1e-6 or factor < 1:
                shape = chosen.shape(one)
                shifts[one] = way + (shape.at - point_of(shape.box, "middle")) * (factor - 1)
                factors[one] = factor
        if not shifts:
            raise CannotApply(
                f"What is nearer than {least} on {chosen.part.name} cannot be pushed: it stands in rows, from another "
                "shape, or is a joint's; change its numbers."
            )
        return _resized(chosen, shifts, factors)

    def _spread(self, chosen: ChosenShapes) -> tuple[list[str], Spread]:
        cuts = [s for s in chosen.drawn.cutouts if s.does == "cut out" and s.loops]
        typed = {cut.id: cut for cut in chosen.part.cutouts}
        # What stands in many places, or from another shape, is not pushed by itself.
        movable = [
            (not self.ids or s.id in self.ids)
            and typed[s.id].copies == 1
            and not typed[s.id].stands_from
            and not typed[s.id].starter
            for s in cuts
        ]
        least, border = chosen.drawn.stock.smallest_web, chosen.drawn.border
        # A border holds what is on the part in; without one the edge is as far from all as they are from each other.
        edge = as_polygon(border[0] if border else chosen.drawn.outline, 0.005)
        shapes = [drawn_shape(s.loops) for s in cuts]
        room = shapely.Polygon(edge.exterior)
        return [s.id for s in cuts], spread(shapes, room, movable, least, 0.0 if border else least)


def drawn_shape(loops: Sequence[Outline]) -> BaseGeometry:
    """The shape in chords, for finding what is near; what is cut is measured exactly."""
    return shapely.union_all([as_polygon(outline, 0.005).buffer(0) for outline in loops])


def _largest_inside(shape: BaseGeometry, inside: BaseGeometry) -> float:
    """The largest factor up to 1, to a ten-thousandth, by which a shape made smaller about its middle lies inside."""

    def fits(factor: float) -> bool:
        return bool(inside.contains(scaled_shape(shape, factor, factor, origin=_middle(shape))))

    low, high = 0, 10_000
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if fits(middle / 1e4) else (low, middle - 1)
    return low / 1e4


def _middle(shape: BaseGeometry) -> tuple[float, float]:
    left, bottom, right, top = shape.bounds
    return (left + right) / 2, (bottom + top) / 2


def _off(box: Bounds, point: Point) -> float:
    """How far (mm) a point lies from a box; 0 within it."""
    left, bottom, right, top = box
    across = max(left - point.real, 0.0, point.real - right)
    return abs(complex(across, max(bottom - point.imag, 0.0, point.imag - top)))


def _resized(chosen: ChosenShapes, shifts: Mapping[str, complex], factors: Mapping[str, float]) -> Changes:
    def resized(cut: CutOut) -> CutOut:
        factor = factors.get(cut.id, 1.0)
        if factor == 1:
            return cut
        if cut.hole.as_large_as:
            raise CannotApply(f"{chosen.called(cut.id)} is as large as {cut.hole.as_large_as}; leave it out of this.")
        hole, repeat = scaled(cut.hole, factor, whole=True), scaled(cut.repeat, factor, whole=True)
        return cut.model_copy(update={"hole": hole, "repeat": repeat})

    return chosen.with_shapes([resized(cut) for cut in chosen.shifted(shifts)])
