"""Edits of starters."""

from __future__ import annotations

from typing import Literal

from ..document.edit import Changes, Edit
from ..document.model import Id
from ..document.starter import Starter
from ..project.project import Project
from ..starters.live import KINDS, let_go, put_starter, remove_starter
from .items import known


class PutStarter(Edit):
    """Adds a starter, or changes one: its parts follow, and what the maker added to them stays."""

    do: Literal["put starter"]
    starter: Starter

    def label(self, project: Project) -> str:
        title = KINDS[self.starter.kind][0].title
        return f"{title} {known(project.starters, self.starter.id)}"

    def changes(self, project: Project) -> Changes:
        after = put_starter(project, self.starter)
        return all_of_a_starter(after)


class RemoveStarter(Edit):
    """Takes away a starter with its parts, their joints and its named sizes."""

    do: Literal["remove starter"]
    id: Id

    def label(self, project: Project) -> str:
        return "Starter removed"

    def changes(self, project: Project) -> Changes:
        return all_of_a_starter(remove_starter(project, self.id))


def all_of_a_starter(project: Project) -> Changes:
    """All of a project that a starter may change, as changes."""
    return {name: getattr(project, name) for name in ("names", "parts", "joints", "starters", "layout")}


class LetGo(Edit):
    """Turns what a starter made into plain parts."""

    do: Literal["let go"]
    id: Id

    def label(self, project: Project) -> str:
        return "Starter let go"

    def changes(self, project: Project) -> Changes:
        after = let_go(project, self.id)
        return all_of_a_starter(after)
