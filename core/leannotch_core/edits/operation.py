"""What is done along the lines of a part, changed for all of one stage at once."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Id
from ..document.operations import MARKS, Stage
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.brought import Brought
from ..parts.shapes.kinds import Hole, Shape
from ..project.project import Project

#: What lines can become: cut-outs are cut, marks are not.
Becomes = Literal["cut", "score", "engrave", "fill", "pocket", "nothing"]


class SetOperation(Edit):
    """Changes what is done along all lines of one stage of some parts; of all parts where none is named."""

    do: Literal["set operation"]
    parts: list[Id] = Field(default=[], max_length=1000)
    stage: Stage
    to: Becomes

    def label(self, project: Project) -> str:
        names = [part.name for part in project.parts if part.id in self.parts]
        return f"{self.stage} of {', '.join(names[:3]) if names else 'all parts'}: {self.to}"

    def changes(self, project: Project) -> Changes:
        return {"parts": [self._changed(p) if not self.parts or p.id in self.parts else p for p in project.parts]}

    def _changed(self, part: Part) -> Part:
        if self.stage == "outer":
            if self.to in ("fill", "pocket"):
                raise CannotApply(f"The outline of {part.name} is a line: it can be cut, scored, engraved or left out.")
            return part.model_copy(update={"edge": self.to})
        if self.to == "nothing":
            raise CannotApply("Only an outline can be left out; remove the cut-out or the mark itself.")
        was, now = ("cut out" if word in ("inner", "cut") else word for word in (self.stage, self.to))
        cutouts = [self._cut_out(cut, was, now) for cut in part.cutouts]
        changed: dict[str, object] = {"cutouts": cutouts}
        if self.to in MARKS:
            changed["shape"] = _lined(part.shape, was, self.to)
        return part.model_copy(update=changed)

    def _cut_out(self, cut: CutOut, was: str, now: str) -> CutOut:
        hole = _lined(cut.hole, was, now) if now in MARKS else cut.hole
        return cut.model_copy(update={"does": now if cut.does == was else cut.does, "hole": hole})


def _lined(shape: Shape | Hole, was: str, now: str) -> Shape | Hole:
    """A brought outline with the lines that are drawn on it changed."""
    if not isinstance(shape, Brought):
        return shape
    on_it = [line.model_copy(update={"operation": now}) if line.operation == was else line for line in shape.on_it]
    return shape.model_copy(update={"on_it": on_it})
