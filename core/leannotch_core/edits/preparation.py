"""Edits of how sheets are prepared for the machine."""

from __future__ import annotations

from typing import Literal

from ..document.edit import Changes, Edit
from ..document.preparation import Preparation
from ..findings import Finding, Mend
from ..project import Project

#: What each field of a preparation is called in the history.
_CALLED = {
    "arrange": "Running order arranged anew",
    "order": "Running order changed",
    "starts": "Start points moved",
    "lead": "Lead-in changed",
    "common_lines": "Common lines changed",
    "holding": "Holding tabs changed",
    "held": "Holding tabs put by hand",
    "on_bed": "Sheet laid elsewhere on the bed",
}


class SetPreparation(Edit):
    do: Literal["set preparation"] = "set preparation"
    preparation: Preparation

    def label(self, project: Project) -> str:
        before = project.preparation
        changed = [name for name in _CALLED if getattr(before, name) != getattr(self.preparation, name)]
        return _CALLED[changed[0]] if changed else "Prepared as before"

    def changes(self, project: Project) -> Changes:
        return {"preparation": self.preparation}


def with_mends(finding: Finding, project: Project) -> Finding:
    """A finding of a prepared sheet with what would settle it."""
    if finding.code != "cut-too-early":
        return finding
    by_rule = project.preparation.model_copy(update={"order": []})
    mend = Mend(label="Put it in the order of the rule", command=SetPreparation(preparation=by_rule))
    return finding.model_copy(update={"mends": (mend,)})
