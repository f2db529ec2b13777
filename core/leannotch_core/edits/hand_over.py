"""Edits of how files are wanted."""

from __future__ import annotations

from typing import Literal

from ..document.edit import Changes, Edit
from ..document.hand_over import HandOver
from ..project.project import Project


class SetHandOver(Edit):
    do: Literal["set hand-over"]
    hand_over: HandOver

    def label(self, project: Project) -> str:
        return "Hand-over changed"

    def changes(self, project: Project) -> Changes:
        return {"hand_over": self.hand_over}
