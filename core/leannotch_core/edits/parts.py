"""Edits of several parts at once."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.ids import free_id
from ..document.limits import MOST_OF_A_PART
from ..document.model import PRINTABLE, Fit, Id
from ..parts.part import Part
from ..project.project import Project
from .items import part_of

Ids = Annotated[list[Id], Field(min_length=1, max_length=1000)]


class SetParts(Edit):
    """Sets stock, count, turns or heading of parts, and the fit of the joints between them; what is not given stays."""

    do: Literal["set parts"]
    ids: Ids
    stock: Id | None = None
    count: int | None = Field(default=None, ge=1, le=MOST_OF_A_PART)
    turns: Literal["grain", "180", "90", "45", "any"] | None = None
    heading: Annotated[str, Field(max_length=60), PRINTABLE] | None = None
    fit: Fit | Literal["project"] | None = None

    def label(self, project: Project) -> str:
        fields = ("stock", "count", "turns", "heading", "fit")
        given = [f"{field} {getattr(self, field)}" for field in fields if getattr(self, field) is not None]
        return f"{_called(project, self.ids)}: {', '.join(given) or 'nothing'}"

    def changes(self, project: Project) -> Changes:
        chosen = _chosen(project, self.ids)
        asked: dict[str, Any] = {}
        for field in ("stock", "count", "turns", "heading"):
            if (value := getattr(self, field)) is not None:
                asked[field] = value
        if self.stock is not None and project.stock(self.stock) is None:
            raise CannotApply(f"“{self.stock}” is not among the project's stocks.")
        if self.stock is not None or self.count is not None:
            _own(chosen)
        parts = [part.model_copy(update=asked) if part.id in self.ids else part for part in project.parts]
        if self.fit is None:
            return {"parts": parts}
        within = set(self.ids)
        fit = None if self.fit == "project" else self.fit
        joints = [j.model_copy(update={"fit": fit}) if set(j.parts) <= within else j for j in project.joints]
        return {"parts": parts, "joints": joints}


class DuplicateParts(Edit):
    """Puts copies of parts after them, with the joints between them, under new ids."""

    do: Literal["duplicate parts"]
    ids: Ids

    def label(self, project: Project) -> str:
        return f"{_called(project, self.ids)} duplicated"

    def changes(self, project: Project) -> Changes:
        chosen = _chosen(project, self.ids)
        taken = {part.id for part in project.parts}
        new = {part.id: free_id(part.id[:36], taken) for part in chosen}
        copies = [
            part.model_copy(update={"id": new[part.id], "name": f"{part.name} copy"[:80], "starter": "", "stands": []})
            for part in chosen
        ]
        known = {joint.id for joint in project.joints}
        within = [joint for joint in project.joints if set(joint.parts) <= set(new)]
        joints = [joint.between(free_id(joint.id[:36], known), new) for joint in within]
        return {"parts": [*project.parts, *copies], "joints": [*project.joints, *joints]}


class RemoveParts(Edit):
    """Takes parts away with their joints and their places on sheets."""

    do: Literal["remove parts"]
    ids: Ids

    def label(self, project: Project) -> str:
        return f"{_called(project, self.ids)} removed"

    def changes(self, project: Project) -> Changes:
        _own(_chosen(project, self.ids))
        gone = set(self.ids)
        return {
            "parts": [part for part in project.parts if part.id not in gone],
            "joints": [joint for joint in project.joints if not gone & set(joint.parts)],
            "layout": project.layout.without(gone),
        }


def _chosen(project: Project, ids: list[str]) -> list[Part]:
    return [part_of(project, part_id) for part_id in dict.fromkeys(ids)]


def _own(parts: list[Part]) -> None:
    """Raises `CannotApply` where a starter keeps one of the parts."""
    kept = [part.name for part in parts if part.starter]
    if kept:
        raise CannotApply(f"{', '.join(kept[:3])}: a starter keeps these; change its numbers, or let it go first.")


def _called(project: Project, ids: list[str]) -> str:
    names = [part.name for part in project.parts if part.id in ids]
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
