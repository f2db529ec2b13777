"""Edits of the rack: cutters added, measured and taken out."""

from __future__ import annotations

from typing import Literal

from ..document.cutter import Cutter
from ..document.edit import Changes, Edit
from ..document.model import Id
from ..document.routing import Routing
from ..facts.cutters import cutter_facts
from ..project.project import Project
from .items import known, put, without


class PutCutter(Edit):
    """Adds a cutter to the rack, or replaces the one with its id; with ``use`` it cuts parts out from now on."""

    do: Literal["put cutter"]
    cutter: Cutter
    use: bool = False

    def label(self, project: Project) -> str:
        return f"{self.cutter.name} {known(project.cutters, self.cutter.id)}"

    def changes(self, project: Project) -> Changes:
        cutter_facts(self.cutter)
        changed: Changes = {"cutters": put(project.cutters, self.cutter)}
        if self.use:
            changed |= _with(project, project.preparation.routing.model_copy(update={"cutter": self.cutter.id}))
        return changed


class RemoveCutter(Edit):
    """Takes a cutter out of the rack; what it did, the one that cuts parts out does."""

    do: Literal["remove cutter"]
    id: Id

    def label(self, project: Project) -> str:
        cutter = project.cutter(self.id)
        return f"{cutter.name if cutter else self.id} taken out of the rack"

    def changes(self, project: Project) -> Changes:
        routing = project.preparation.routing
        roles = {role: "" for role in ("cutter", "pockets", "rest", "marks") if getattr(routing, role) == self.id}
        drills = [drill for drill in routing.drills if drill != self.id]
        left = routing.model_copy(update={**roles, "drills": drills})
        return {"cutters": without(project.cutters, self.id)} | _with(project, left)


def _with(project: Project, routing: Routing) -> Changes:
    return {"preparation": project.preparation.model_copy(update={"routing": routing})}
