"""Shapes that move as one."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.ids import free_id
from ...document.model import Id
from ...project.project import Project
from .chosen import ChosenShapes


class GroupShapes(Edit):
    """Keeps shapes as a group; groups among them stay groups inside it."""

    do: Literal["group shapes"]
    part: Id
    ids: list[Id] = Field(min_length=2, max_length=500)

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} kept as a group"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        group = free_id("group", {known for cut in chosen.part.cutouts for known in cut.groups})
        inside = [chosen.typed(one).groups for one in chosen.ids]
        shared = 0
        while all(len(groups) > shared and groups[shared] == inside[0][shared] for groups in inside):
            shared += 1
        if max(map(len, inside)) >= 6:
            raise CannotApply("Groups within groups go six deep at the most; take one apart first.")
        return chosen.each(
            lambda cut: cut.model_copy(update={"groups": [*cut.groups[:shared], group, *cut.groups[shared:]]})
        )


class UngroupShapes(Edit):
    """Takes the outermost groups of shapes apart; groups inside them stay."""

    do: Literal["ungroup shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)

    def label(self, project: Project) -> str:
        return f"Group of {ChosenShapes(project, self.part, self.ids).names} taken apart"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        outer = {cut.groups[0] for one in chosen.ids if (cut := chosen.typed(one)).groups}
        if not outer:
            raise CannotApply("What is chosen is in no group.")
        cutouts = [
            cut.model_copy(update={"groups": cut.groups[1:]}) if cut.groups and cut.groups[0] in outer else cut
            for cut in chosen.part.cutouts
        ]
        return chosen.with_shapes(cutouts)
