"""Edits of parts."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Id
from ..document.sizes import typed_in
from ..document.turned_over import scaled
from ..evaluate import evaluate
from ..parts.corners import CornerTaken, corners_of, turned_over
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.reshaping import mirrored, through_knots
from ..parts.shapes.brought import Brought
from ..parts.shapes.curve import KnotAt
from ..parts.shapes.kinds import OUTLINES
from ..parts.shapes.rectangle import Rectangle
from ..project.project import Project
from ..starters.live import with_silhouette
from .items import known, name_of, part_of, put, without
from .starter import all_of_a_starter


class PutPart(Edit):
    """Adds a part, or replaces the one with its id."""

    do: Literal["put part"]
    part: Part

    def label(self, project: Project) -> str:
        return f"{self.part.name} {known(project.parts, self.part.id)}"

    def changes(self, project: Project) -> Changes:
        return {"parts": put(project.parts, self.part)}


class BeginPart(Edit):
    """Adds a rectangle of the first stock, to be drawn on."""

    do: Literal["begin part"]
    id: Id

    def label(self, project: Project) -> str:
        return "Part added"

    def changes(self, project: Project) -> Changes:
        if not project.stocks:
            raise CannotApply("Add a stock first: a part is cut from one.")
        shape = Rectangle(width=typed_in(project.unit, 100), height=typed_in(project.unit, 60))
        name = f"Part {len(project.parts) + 1}"
        return {"parts": put(project.parts, Part(id=self.id, name=name, stock=project.stocks[0].id, shape=shape))}


class DrawAs(Edit):
    """Draws a part as another kind of shape, as wide and high as it is."""

    do: Literal["draw as"]
    id: Id
    kind: str

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.id)} drawn as {self.kind}"

    def changes(self, project: Project) -> Changes:
        part, kind = part_of(project, self.id), OUTLINES.get(self.kind)
        if kind is None:
            raise CannotApply(f"There is no shape of the kind “{self.kind}”.")
        shape = kind.filling(part.shape.width, part.shape.height)
        return {"parts": put(project.parts, part.model_copy(update={"shape": shape}))}


class MirrorPart(Edit):
    """Turns a part over, left to right; its joints stay on the edges that they are on."""

    do: Literal["mirror part"]
    id: Id

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.id)} mirrored"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.id)
        lengths = {known: complex(p.width, p.height) for known, p in evaluate(project).parts.items()}
        joints = [joint.turned_over(self.id, lengths) for joint in project.joints]
        over = mirrored(part)
        if self.id in lengths:
            stands = [stand.turned_over(lengths[self.id].real) for stand in part.stands]
            over = over.model_copy(update={"stands": stands})
        if part.corners:
            over = over.model_copy(update={"corners": self._corners(project, part, over)})
        return {"parts": put(project.parts, over), "joints": joints}

    def _corners(self, project: Project, part: Part, over: Part) -> list[CornerTaken]:
        """The corners taken off, found again by where they lie."""
        sharp = project.model_copy(update={"parts": put(project.parts, over.model_copy(update={"corners": []}))})
        before, after = (evaluate(one).parts.get(self.id) for one in (project, sharp))
        if before is None or after is None:
            raise CannotApply(f"{part.name} cannot be built as it is; mend that before it is turned over.")
        found, there = (corners_of(one.as_drawn, self.id) for one in (before, after))
        return turned_over(part.corners, found, there, before.width)


class ScalePart(Edit):
    """Multiplies every size of a part that is a number; sizes given by names follow what they name."""

    do: Literal["scale part"]
    id: Id
    factor: float = Field(gt=0.001, lt=1000, allow_inf_nan=False)

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.id)} scaled by {self.factor:g}"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.id)
        joints = [joint.scaled(self.id, self.factor) for joint in project.joints]
        return {"parts": put(project.parts, scaled(part, self.factor)), "joints": joints}


class ReshapeCurve(Edit):
    """Draws a part as the curve through knots, in mm from its lower left corner."""

    do: Literal["reshape curve"]
    id: Id
    knots: list[KnotAt] = Field(min_length=3, max_length=200)

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.id)} reshaped"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.id)
        try:
            return {"parts": put(project.parts, through_knots(part, self.knots))}
        except ValueError as error:
            raise CannotApply(f"{part.name}: {error}; leave a point aside of it.") from error


class BringOutline(Edit):
    """Draws a part as an outline that was brought from a file, as large as there; a starter's part keeps its height.

    ``sunk`` are the pockets that the drawing has in it.
    """

    do: Literal["bring outline"] = "bring outline"
    id: Id
    outline: Brought
    sunk: list[CutOut] = Field(default=[], max_length=400)

    def label(self, project: Project) -> str:
        return f"{name_of(project, self.id)} drawn from a file"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.id)
        drawn = with_silhouette(project, part, self.outline)
        if self.sunk:
            fresh = part_of(drawn, self.id)
            sunk = fresh.model_copy(update={"cutouts": [*fresh.cutouts, *self.sunk]})
            drawn = drawn.model_copy(update={"parts": put(drawn.parts, sunk)})
        return all_of_a_starter(drawn)


class RemovePart(Edit):
    """Takes away a part with its joints and its places on sheets."""

    do: Literal["remove part"]
    id: Id

    def label(self, project: Project) -> str:
        part = project.part(self.id)
        return f"{part.name if part else self.id} removed"

    def changes(self, project: Project) -> Changes:
        return {
            "parts": without(project.parts, self.id),
            "joints": [joint for joint in project.joints if self.id not in joint.parts],
            "layout": project.layout.without({self.id}),
        }
