"""Edits that take what a drawing holds."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.model import PRINTABLE
from ..parts.part import Part
from ..project import Project

FileName = Annotated[str, Field(min_length=1, max_length=120), PRINTABLE]


class BringParts(Edit):
    """Adds the parts of a drawing, all in one step."""

    do: Literal["bring parts"] = "bring parts"
    file: FileName
    parts: list[Part] = Field(min_length=1, max_length=1000)

    def label(self, project: Project) -> str:
        parts = "1 part" if len(self.parts) == 1 else f"{len(self.parts)} parts"
        return f"{parts} brought from {self.file}"

    def changes(self, project: Project) -> Changes:
        taken = {part.id for part in project.parts}
        twice = next((part.name for part in self.parts if part.id in taken), None)
        if twice:
            raise CannotApply(f"{twice} is in the project already; look at the drawing again and take it then.")
        return {"parts": [*project.parts, *self.parts]}
