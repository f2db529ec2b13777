"""Shapes on a part moved and turned."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id
from ...document.sizes import Size
from ...document.turned_over import turned_by
from ...geometry.segment import move
from ...parts.corners import MetSide, straight_sides
from ...parts.nine import Nine, point_of
from ...project.project import Project
from .chosen import ChosenShapes


class MoveShapes(Edit):
    """Moves shapes on a part; what was typed stays, with the way added to it."""

    do: Literal["move shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    x: Size
    y: Size

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} moved"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        by = complex(chosen.mm(self.x), chosen.mm(self.y))
        return chosen.with_shapes(chosen.shifted(dict.fromkeys(chosen.ids, by)))


class TurnShapes(Edit):
    """Turns shapes counter-clockwise (degrees) about one of the nine points of the box round all, or ``each`` about its
    own.
    """

    do: Literal["turn shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    by: Size
    about: Nine = "middle"
    each: bool = False

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} turned by {self.by.text} degrees"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        degrees = chosen.degrees(self.by)
        turn = move(degrees).turn
        together = point_of(chosen.box(chosen.ids), self.about)
        shifts = {}
        for one in chosen.ids:
            shape = chosen.shape(one)
            pivot = shape.own_point(self.about) if self.each else together
            shifts[one] = pivot + turn * (shape.at - pivot) - shape.at
        turned = {cut.id: turned_by(cut.turn, degrees) for cut in chosen.part.cutouts if cut.id in shifts}
        moved = chosen.shifted(shifts)
        return chosen.with_shapes([c.model_copy(update={"turn": turned[c.id]}) if c.id in turned else c for c in moved])


class TurnAlong(Edit):
    """Turns shapes about their own points so that they lie along a straight side of the part's outline, as typed once:
    a side, a chamfer, or an edge of a shape that is turned itself.
    """

    do: Literal["turn along"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    side: MetSide

    def label(self, project: Project) -> str:
        of = f" of {self.side.shape}" if self.side.shape else ""
        return f"{ChosenShapes(project, self.part, self.ids).names} turned along {self.side.side}{of}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        sides = straight_sides(chosen.drawn.as_drawn, self.part)
        found = next((side for side in sides if side.side == self.side), None)
        if found is None:
            raise CannotApply(f"{chosen.part.name} has no straight side “{self.side.side}” there; choose another.")
        turn = turned_by(Size(text="0"), found.angle)
        return chosen.each(lambda cut: cut.model_copy(update={"turn": turn}))
