"""New shapes on a part: in its middle, or where and as large as somebody drew them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id, Millimetres, Model
from ...document.sizes import LARGEST, Size, length, typed_in
from ...document.sums import Unit
from ...document.turned_over import moved_by, scaled
from ...geometry.loop import Bounds
from ...parts.cut_out import CutOut
from ...parts.nine import Nine, point_of
from ...parts.repeats.grid import Grid
from ...parts.shapes.kinds import HOLES
from ...parts.shapes.shape import BaseHole
from ...project.project import Project
from ..items import name_of, part_of
from .chosen import ChosenShapes
from .placing import standing

Drawn = Annotated[float, Field(gt=0, le=LARGEST)]


class PutAt(Model):
    """Where a new shape is put: the middle of the box round it (mm, in the part's frame), what it stands from, as in
    `CutOut`, and as large as that box was drawn; of its usual size where none was.
    """

    x: Millimetres
    y: Millimetres
    width: Drawn | None = None
    height: Drawn | None = None
    origin: Nine = "middle"
    x_of: Literal[""] | Id = ""
    y_of: Literal[""] | Id = ""


class BeginCutOut(Edit):
    """Adds a shape to a part, to be cut out, or to be designed round as a ``reference``: in its middle, or ``at``.

    It is the outline ``of`` another part, or the standard thing or picture of that name, where it is one of those.
    """

    do: Literal["begin cut-out"]
    part: Id
    id: Id
    kind: str
    of: Annotated[str, Field(max_length=64)] = ""
    reference: bool = False
    at: PutAt | None = None

    def label(self, project: Project) -> str:
        return f"Cut-out added to {name_of(project, self.part)}"

    def changes(self, project: Project) -> Changes:
        part, kind = part_of(project, self.part), HOLES.get(self.kind)
        if kind is None:
            raise CannotApply(f"There is no cut-out of the kind “{self.kind}”.")
        step, none = typed_in(project.unit, 20), Size(text="0", unit=project.unit)
        fresh = CutOut.model_validate(
            {
                "id": self.id,
                "hole": kind.of(project.unit, self.of),
                "does": "reference" if self.reference else "cut out",
                "origin": "middle",
                "x": none,
                "y": none,
                "repeat": Grid(step_x=step, step_y=step),
            }
        )
        if self.at:
            fresh = self._there(project, fresh, self.at)
        return _with(ChosenShapes(project, part.id, []), fresh)

    def _there(self, project: Project, fresh: CutOut, at: PutAt) -> CutOut:
        """The shape where and as large as it was drawn."""
        # While it is measured nothing of it is taken from the part, however small that is.
        shape = fresh.model_copy(update={"does": "reference"})
        if at.width and at.height:
            box = self._drawn(project, shape).shape(shape.id).box
            shape = shape.model_copy(update={"hole": sized(shape.hole, box, at.width, at.height, project.unit)})
        middle = point_of(self._drawn(project, shape).shape(shape.id).box, "middle")
        way = complex(at.x, at.y) - middle
        shape = shape.model_copy(update={"x": moved_by(shape.x, way.real), "y": moved_by(shape.y, way.imag)})
        stands = {"origin": at.origin, "x_of": at.x_of, "y_of": at.y_of}
        shape = standing(self._drawn(project, shape), shape.model_copy(update=stands))
        return shape.model_copy(update={"does": fresh.does})

    def _drawn(self, project: Project, shape: CutOut) -> ChosenShapes:
        changes = _with(ChosenShapes(project, self.part, []), shape)
        return ChosenShapes(project.model_copy(update=changes), self.part, [shape.id])


def _with(chosen: ChosenShapes, shape: CutOut) -> Changes:
    return chosen.with_shapes([*chosen.part.cutouts, shape])


def stretches(kind: type[BaseHole]) -> bool:
    """Whether a kind of shape has a width and a height of its own; else all of it grows alike."""
    return {"width", "height"} <= set(kind.model_fields)


def sized(hole: BaseHole, box: Bounds, width: float, height: float, unit: Unit) -> BaseHole:
    """A shape with sizes that are numbers alone, and the ``box`` round it, made as large as one that was drawn (mm).

    It is stretched where it has a width and a height; else it grows alike, and fills that box on its longer side.
    """
    if stretches(type(hole)):
        sides = {"width": typed_in(unit, width), "height": typed_in(unit, height)}
        radius = getattr(hole, "radius", None)
        if isinstance(radius, Size):
            # What is rounded stays so, as far as there is room.
            sides["radius"] = typed_in(unit, min(length(radius, {}), min(width, height) / 4))
        return hole.model_copy(update=sides)
    left, bottom, right, top = box
    larger = scaled(hole, max(width / (right - left), height / (top - bottom)))
    sizes = {name: size for name, size in larger if type(size) is Size}
    return larger.model_copy(update={name: typed_in(unit, length(size, {})) for name, size in sizes.items()})
