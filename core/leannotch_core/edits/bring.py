"""Edits that take what a drawing holds."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.limits import MOST_BROUGHT
from ..document.model import FileName, Id
from ..document.stock import Stock
from ..offered.parted import parted
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..project.project import Project
from .items import name_of, part_of, put


class BringParts(Edit):
    """Adds the parts of a drawing, all in one step, with ``stocks`` that they are cut from and that are new."""

    do: Literal["bring parts"] = "bring parts"
    file: FileName
    parts: list[Part] = Field(min_length=1, max_length=MOST_BROUGHT)
    stocks: list[Stock] = Field(default=[], max_length=40)

    def label(self, project: Project) -> str:
        parts = "1 part" if len(self.parts) == 1 else f"{len(self.parts)} parts"
        return f"{parts} brought from {self.file}"

    def changes(self, project: Project) -> Changes:
        taken = {part.id for part in project.parts}
        twice = next((part.name for part in self.parts if part.id in taken), None)
        if twice:
            raise CannotApply(f"{twice} is in the project already; look at the drawing again and take it then.")
        stocks = [*project.stocks, *self.stocks]
        if not any(part.stands for part in self.parts):
            return {"parts": [*project.parts, *self.parts], "stocks": stocks}
        # Only what is brought is looked at: what was there stays as it is.
        alone = project.model_copy(update={"parts": list(self.parts), "joints": [], "stocks": stocks})
        return {"parts": [*project.parts, *parted(alone, taken).parts], "stocks": stocks}


class BringMotifs(Edit):
    """Adds shapes of a drawing to a part, all in one step."""

    do: Literal["bring motifs"] = "bring motifs"
    file: FileName
    part: Id
    shapes: list[CutOut] = Field(min_length=1, max_length=400)

    def label(self, project: Project) -> str:
        shapes = "1 shape" if len(self.shapes) == 1 else f"{len(self.shapes)} shapes"
        return f"{shapes} of {self.file} put on {name_of(project, self.part)}"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.part)
        taken = {cut.id for cut in part.cutouts}
        if any(shape.id in taken for shape in self.shapes):
            raise CannotApply(f"{part.name} was changed meanwhile; look at the drawing again and take it then.")
        fresh = part.model_copy(update={"cutouts": [*part.cutouts, *self.shapes]})
        return {"parts": put(project.parts, fresh)}


class BringAgain(Edit):
    """Takes a newer drawing: parts as it has them now, new ones, and without those that are gone."""

    do: Literal["bring again"] = "bring again"
    file: FileName
    parts: list[Part] = Field(max_length=MOST_BROUGHT)
    stocks: list[Stock] = Field(default=[], max_length=40)
    gone: list[Id] = Field(default=[], max_length=MOST_BROUGHT)

    def label(self, project: Project) -> str:
        known = {part.id for part in project.parts}
        changed = sum(part.id in known for part in self.parts)
        told = [(changed, "changed"), (len(self.parts) - changed, "added"), (len(self.gone), "removed")]
        return f"{self.file} brought again: " + ", ".join(f"{count} {what}" for count, what in told if count)

    def changes(self, project: Project) -> Changes:
        gone = set(self.gone)
        parts = [part for part in project.parts if part.id not in gone]
        for part in self.parts:
            parts = put(parts, part)
        return {
            "parts": parts,
            "stocks": [*project.stocks, *self.stocks],
            "joints": [joint for joint in project.joints if not gone & set(joint.parts)],
            "layout": project.layout.without(gone),
        }
