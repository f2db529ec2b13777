"""Shapes and outlines drawn by hand, redrawn, and their points moved."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id, Millimetres, Model
from ...document.sizes import Size, in_digits
from ...document.sums import Unit
from ...document.turned_over import moved_by
from ...geometry.biarc import bezier_bounds, smooth_through
from ...geometry.segment import Point
from ...geometry.stroke import Knot, knots_of_stroke
from ...parts.by_hand import redrawn, straightened
from ...parts.cut_out import CutOut
from ...parts.drawing import knots_of
from ...parts.nine import point_of
from ...parts.part import Part
from ...parts.reshaping import through_knots
from ...parts.shapes.curve import Curve, KnotAt
from ...parts.shapes.curve import Knot as Share
from ...parts.shapes.points import PointAt, Points
from ...project.project import Project
from ..items import name_of, put
from .chosen import ChosenShapes


class StrokeSpot(Model):
    """A place in mm, in the part's frame."""

    x: Millimetres
    y: Millimetres

    @property
    def point(self) -> Point:
        return complex(self.x, self.y)


Stroke = Annotated[list[StrokeSpot], Field(min_length=2, max_length=4000)]
#: How far (mm) a curve may leave a stroke.
Smoothing = Annotated[float, Field(ge=0.02, le=50)]


class DrawStroke(Edit):
    """Puts a stroke that was drawn by hand on a part, as a smooth curve of few points; with no ``id`` it becomes the
    part's own outline.
    """

    do: Literal["draw stroke"]
    part: Id
    id: Literal[""] | Id
    stroke: Stroke
    smoothing: Smoothing
    closed: bool = True
    does: Literal["cut out", "add", "keep", "pocket", "fill", "score", "engrave"] = "cut out"

    def label(self, project: Project) -> str:
        return f"Drawn by hand on {name_of(project, self.part)}"

    def changes(self, project: Project) -> Changes:
        knots = _followed(self.stroke, self.smoothing, self.closed)
        chosen = ChosenShapes(project, self.part, [])
        if not self.id:
            return {"parts": put(project.parts, _outlined(chosen.part, knots))}
        left, bottom, right, top = bezier_bounds(
            smooth_through(knots) if self.closed else [(p, p, p, p) for p, _ in knots]
        )
        middle = complex(left + right, bottom + top) / 2
        hole = Points(
            points=[_typed(point - middle, corner, project.unit) for point, corner in knots], closed=self.closed
        )
        zero = Size(text="0", unit=project.unit)
        x, y = moved_by(zero, middle.real), moved_by(zero, middle.imag)
        does = self.does if self.closed or self.does in ("score", "engrave") else "score"
        return chosen.with_shapes([*chosen.part.cutouts, CutOut(id=self.id, hole=hole, x=x, y=y, does=does)])


class RedrawPiece(Edit):
    """Replaces the piece of a curve that a stroke runs beside; of the part's own outline where no ``id`` is given.

    With ``straight`` the piece between the stroke's ends becomes a straight line, as a flat bottom.
    """

    do: Literal["redraw piece"]
    part: Id
    id: Literal[""] | Id = ""
    stroke: Stroke
    smoothing: Smoothing = 0.5
    straight: bool = False

    def label(self, project: Project) -> str:
        return f"A piece of {name_of(project, self.part)} {'made straight' if self.straight else 'redrawn'}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id] if self.id else [])
        drawn = [spot.point for spot in self.stroke]
        if not self.id:
            before = [(complex(k.x, k.y), k.corner) for k in _knots_of_part(chosen)]
            return {"parts": put(project.parts, _outlined(chosen.part, self._replaced(before, drawn)))}
        cut, back = chosen.typed(self.id), chosen.shape(self.id).frame.back
        if isinstance(cut.hole, Points) and (not cut.hole.closed or cut.hole.half != "whole"):
            what = "drawn as a half" if cut.hole.closed else "an open line"
            raise CannotApply(
                f"{chosen.called(self.id)} is {what}; only a whole closed shape is redrawn piece by piece."
            )
        inside = [complex(-p.real, p.imag) if cut.mirrored else p for p in map(back, drawn)]
        knots = self._replaced(_knots_of_shape(chosen, cut), inside)
        return chosen.each(lambda one: _through(chosen, one, knots))

    def _replaced(self, knots: Sequence[Knot], drawn: Sequence[Point]) -> list[Knot]:
        try:
            if self.straight:
                return straightened(knots, drawn[0], drawn[-1])
            return redrawn(knots, drawn, self.smoothing)
        except ValueError as error:
            raise CannotApply(str(error)) from error


class MovePoint(Edit):
    """Moves one point of a shape on a part that runs through points, by so many mm in the part's frame."""

    do: Literal["move point"]
    part: Id
    id: Id
    index: int = Field(ge=0, le=400)
    x: Millimetres
    y: Millimetres

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, [self.id]).names}, point {self.index + 1} moved"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        cut, frame = chosen.typed(self.id), chosen.shape(self.id).frame
        by = frame.back(complex(self.x, self.y)) - frame.back(0)
        if cut.mirrored:
            by = complex(-by.real, by.imag)
        if isinstance(cut.hole, Points) and self.index < len(cut.hole.points):
            points = list(cut.hole.points)
            point = points[self.index]
            moved = {"x": moved_by(point.x, by.real), "y": moved_by(point.y, by.imag)}
            points[self.index] = point.model_copy(update=moved)
            hole = cut.hole.model_copy(update={"points": points})
            return chosen.each(lambda one: one.model_copy(update={"hole": hole}))
        if isinstance(cut.hole, Curve) and self.index < len(cut.hole.knots):
            knots = _knots_of_shape(chosen, cut)
            place, corner = knots[self.index]
            knots[self.index] = (place + by, corner)
            return chosen.each(lambda one: _through(chosen, one, knots))
        raise CannotApply(f"{chosen.called(self.id)} has no point {self.index + 1}.")


class PlaceKnot(Edit):
    """Places a point of a curve by a sum, across or up from the lower left corner of the part or of the shape's box."""

    do: Literal["place knot"]
    part: Id
    id: Literal[""] | Id = ""
    index: int = Field(ge=0, le=400)
    way: Literal["x", "y"]
    to: Size

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.part)}, point {self.index + 1} placed"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id] if self.id else [])
        mm = chosen.mm(self.to)
        if not self.id:
            knots = [(complex(k.x, k.y), k.corner) for k in _knots_of_part(chosen)]
            return {"parts": put(project.parts, _outlined(chosen.part, self._placed(chosen, knots, mm, 0j)))}
        cut = chosen.typed(self.id)
        knots = _knots_of_shape(chosen, cut)
        left, bottom, _, _ = bezier_bounds(smooth_through(knots))
        placed = self._placed(chosen, knots, mm, complex(left, bottom))
        return chosen.each(lambda one: _through(chosen, one, placed))

    def _placed(self, chosen: ChosenShapes, knots: list[Knot], mm: float, corner: Point) -> list[Knot]:
        if self.index >= len(knots):
            raise CannotApply(f"{chosen.part.name} has no point {self.index + 1} there.")
        point, sharp = knots[self.index]
        off = point - corner
        moved = corner + (complex(mm, off.imag) if self.way == "x" else complex(off.real, mm))
        return [*knots[: self.index], (moved, sharp), *knots[self.index + 1 :]]


def _followed(stroke: Sequence[StrokeSpot], smoothing: float, closed: bool) -> list[Knot]:
    try:
        return knots_of_stroke([spot.point for spot in stroke], smoothing, closed)
    except ValueError as error:
        raise CannotApply(str(error)) from error


def _outlined(part: Part, knots: Sequence[Knot]) -> Part:
    """The part drawn as the curve through knots; one that began elsewhere stays where its shapes lie."""
    try:
        return through_knots(part, [KnotAt(x=p.real, y=p.imag, corner=corner) for p, corner in knots])
    except ValueError as error:
        raise CannotApply(f"{part.name}: {error}; draw a wider one.") from error


def _knots_of_part(chosen: ChosenShapes) -> list[KnotAt]:
    knots = knots_of(chosen.part, chosen.drawn.width, chosen.drawn.height)
    if not knots:
        raise CannotApply(f"{chosen.part.name} is no curve through points; draw it as one first, under Outline.")
    return knots


def _knots_of_shape(chosen: ChosenShapes, cut: CutOut) -> list[Knot]:
    """The points of a shape about its own zero, as it stands before it is mirrored and turned."""
    begins = f"parts/{chosen.part.id}/cutouts/{cut.id}/"
    if isinstance(cut.hole, Points):
        places = [
            complex(chosen.value(f"{begins}points/{at}/x"), chosen.value(f"{begins}points/{at}/y"))
            for at in range(len(cut.hole.points))
        ]
        return [(place, not point.smooth) for place, point in zip(places, cut.hole.points, strict=True)]
    if isinstance(cut.hole, Curve):
        return cut.hole.knots_at(chosen.value(f"{begins}width"), chosen.value(f"{begins}height"))
    raise CannotApply(f"{chosen.called(cut.id)} does not run through points.")


def _through(chosen: ChosenShapes, cut: CutOut, knots: Sequence[Knot]) -> CutOut:
    """The shape through other points; one that fills a width and height gets those, and stays where it lies."""
    if isinstance(cut.hole, Points):
        # A point that stays where it was keeps its sums; a corner it may be now.
        known = dict(zip((place for place, _ in _knots_of_shape(chosen, cut)), cut.hole.points, strict=True))
        fresh = [(known.get(place) or _typed(place, corner, chosen.project.unit), corner) for place, corner in knots]
        points = [point.model_copy(update={"smooth": not corner}) for point, corner in fresh]
        return cut.model_copy(update={"hole": cut.hole.model_copy(update={"points": points})})
    left, bottom, right, top = bezier_bounds(smooth_through(knots))
    width, height = right - left, top - bottom
    if min(width, height) < 0.01:
        raise CannotApply(f"{chosen.called(cut.id)}: all its points lie on one line; leave one aside of it.")
    shares = [Share(x=(p.real - left) / width, y=(p.imag - bottom) / height, corner=corner) for p, corner in knots]
    shape = chosen.shape(cut.id)
    off = point_of((left, bottom, right, top), "middle")
    over = complex(-off.real, off.imag) if cut.mirrored else off
    way = shape.frame(over) - shape.frame(0)
    wide, high = (Size(text=in_digits(value, 4)) for value in (width, height))
    reshaped = cut.model_copy(update={"hole": Curve(width=wide, height=high, knots=shares)})
    [moved] = [one for one in chosen.shifted({cut.id: way}) if one.id == cut.id]
    return reshaped.model_copy(update={"x": moved.x, "y": moved.y})


def _typed(place: Point, corner: bool, unit: Unit) -> PointAt:
    zero = Size(text="0", unit=unit)
    return PointAt(x=moved_by(zero, place.real), y=moved_by(zero, place.imag), smooth=not corner)
