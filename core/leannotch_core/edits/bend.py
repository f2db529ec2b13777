"""Edits of bends: begun, changed and taken away."""

from __future__ import annotations

from typing import Literal

from ..document.bend import Bend, BendLine, Flange
from ..document.edit import Changes, Edit
from ..document.model import Id, Side
from ..document.sizes import typed_in
from ..parts.bent import bend_names
from ..parts.part import Part
from ..project.project import Project
from .items import name_of, part_of, put


class BeginBend(Edit):
    """Adds a flange to a side of a part, or to the end of the flange ``of`` that id; a bend line with no ``side``."""

    do: Literal["begin bend"]
    part: Id
    id: Id
    side: Side | None = None
    of: Literal[""] | Id = ""

    def label(self, project: Project) -> str:
        return f"{'Flange' if self.side else 'Bend line'} added to {name_of(project, self.part)}"

    def changes(self, project: Project) -> Changes:
        part, fresh = part_of(project, self.part), typed_in(project.unit, 30)
        bend: Bend = (
            Flange(id=self.id, side=self.side, of=self.of, length=fresh)
            if self.side
            else BendLine(id=self.id, length=fresh)
        )
        return _with_bends(project, part, [*part.bends, bend])


class PutBend(Edit):
    """Replaces the bend of a part with its id."""

    do: Literal["put bend"]
    part: Id
    bend: Bend

    def label(self, project: Project) -> str:
        return f"{_called(project, self.part, self.bend.id)} changed"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.part)
        return _with_bends(project, part, [self.bend if bend.id == self.bend.id else bend for bend in part.bends])


class RemoveBend(Edit):
    """Takes a bend away, with the flanges that hang on it; shapes on them stay, and tell that they have lost it."""

    do: Literal["remove bend"]
    part: Id
    id: Id

    def label(self, project: Project) -> str:
        return f"{_called(project, self.part, self.id)} removed"

    def changes(self, project: Project) -> Changes:
        part = part_of(project, self.part)
        gone = {self.id}
        while more := {b.id for b in part.bends if b.kind == "flange" and b.of in gone} - gone:
            gone |= more
        return _with_bends(project, part, [bend for bend in part.bends if bend.id not in gone])


def _called(project: Project, part_id: str, bend: str) -> str:
    part = project.part(part_id)
    return f"{part.name}, {bend_names(part).get(bend, bend)}" if part else bend


def _with_bends(project: Project, part: Part, bends: list[Bend]) -> Changes:
    return {"parts": put(project.parts, part.model_copy(update={"bends": bends}))}
