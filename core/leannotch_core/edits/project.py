"""Edits of the project as a whole: its name, unit and fit."""

from __future__ import annotations

from typing import Literal

from ..document.edit import Changes, Edit
from ..document.model import Fit, Name
from ..document.sums import Unit
from ..project.project import Project


class RenameProject(Edit):
    do: Literal["rename project"]
    name: Name

    def label(self, project: Project) -> str:
        return f"Renamed to {self.name}"

    def changes(self, project: Project) -> Changes:
        return {"name": self.name}


class SetUnit(Edit):
    """Which unit sizes are shown in, and bare numbers typed from now on are read in."""

    do: Literal["set unit"]
    unit: Unit

    def label(self, project: Project) -> str:
        return f"Shown in {self.unit}"

    def changes(self, project: Project) -> Changes:
        return {"unit": self.unit}


class SetFit(Edit):
    """The fit of all joints that have none of their own."""

    do: Literal["set fit"]
    fit: Fit

    def label(self, project: Project) -> str:
        return f"Fit: {self.fit}"

    def changes(self, project: Project) -> Changes:
        return {"fit": self.fit}
