"""What comes back from the machine: a sheet that was cut there is counted once, in its project where that still has it.

The step at the desk is taken before: what cannot be counted is said in the log, and is cut all the same.
"""

from __future__ import annotations

import logging

from leannotch_core.evaluate import evaluate
from leannotch_core.project.project import Project, read_project
from leannotch_core.said import Said
from workshop import shelf
from workshop.models import StoredProject
from workshop.revisions import EditRefused, OutOfDate, Unreadable, current_id, document_of

from handin.models import HandIn

log = logging.getLogger(__name__)


def to_the_shelf(found: HandIn) -> None:
    """Counts the sheet of a number that was cut."""
    handed = read_project(found.document)
    try:
        if not _counted_in_project(found.project, handed, found.sheet):
            shelf.count_sheet(handed, evaluate(handed), found.sheet)
    except (Said, EditRefused, Unreadable, StoredProject.DoesNotExist):
        log.warning("what remains of number %s could not be counted", found.pk, exc_info=True)


def _counted_in_project(slug: str, handed: Project, sheet: int) -> bool:
    """Counts a sheet in its project; False where it does not lie there any more as it was handed in."""
    project = StoredProject.objects.filter(slug=slug, deleted=None).first()
    index = _where(document_of(current_id(project)), handed, sheet) if project else None
    if project is None or index is None:
        return False
    try:
        shelf.cut_sheet(project, project.version, index)
    except OutOfDate:
        # Its maker has just changed it: it is looked at again.
        return _counted_in_project(slug, handed, sheet)
    return True


def joint_to_the_shelf(document: str) -> None:
    """Counts a sheet on which several were laid; their projects have them on sheets of their own still."""
    handed = read_project(document)
    try:
        shelf.count_sheet(handed, evaluate(handed), 0)
    except Said:
        log.warning("what remains of a sheet laid together could not be counted", exc_info=True)


def _where(now: Project, handed: Project, sheet: int) -> int | None:
    """Which sheet of a project is the one that was handed in, if it still has it; those before it may be cut."""
    wanted = handed.layout.sheets[sheet], _lie(handed, sheet)
    return next((at for at, laid in enumerate(now.layout.sheets) if (laid, _lie(now, at)) == wanted), None)


def _lie(project: Project, sheet: int) -> list[str]:
    on_it = (placement for placement in project.layout.placements if placement.sheet == sheet)
    return sorted(placement.model_dump_json(exclude={"sheet"}) for placement in on_it)
