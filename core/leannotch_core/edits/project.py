"""Edits of the project as a whole: its name, unit, fit and named sizes."""

from __future__ import annotations

from typing import Literal

from ..document.edit import Changes, Edit
from ..document.model import Fit, Name
from ..document.sizes import Unit
from ..document.starter import NamedSize
from ..project import Project


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


class PutName(Edit):
    """Adds a named size, or gives a known name another size."""

    do: Literal["put name"]
    name: NamedSize

    def label(self, project: Project) -> str:
        return f"{self.name.name} = {self.name.size.text}"

    def changes(self, project: Project) -> Changes:
        names = {known.name: known for known in project.names}
        before = names.get(self.name.name)
        # A size that a starter made stays the starter's, whoever changes it.
        names[self.name.name] = self.name.model_copy(update={"starter": before.starter if before else ""})
        return {"names": list(names.values())}


class RemoveName(Edit):
    do: Literal["remove name"]
    name: str

    def label(self, project: Project) -> str:
        return f"{self.name} removed"

    def changes(self, project: Project) -> Changes:
        return {"names": [known for known in project.names if known.name != self.name]}
