"""Changes of a project: edits, undo and redo, each on the version that it was made for."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from leannotch_core.edits.command import Command
from leannotch_core.project.project import Project
from ninja import Router, Schema, Status
from shown.project import ProjectChanges, Trouble
from shown.projects import HistoryStep

from workshop import hand, revisions, shelf
from workshop.api.answers import changed, found
from workshop.models import StoredProject
from workshop.state import show

router = Router()


class NewEdit(Schema):
    version: int
    command: Command


ANSWERS = {200: ProjectChanges, 404: Trouble, 409: Trouble, 422: Trouble}


@router.post("/projects/{slug}/edit", response=ANSWERS)
def edit_project(request: HttpRequest, slug: str, payload: NewEdit) -> Any:
    command = payload.command
    return changed_by(slug, payload.version, lambda: revisions.edit(slug, payload.version, command), command.said)


@router.post("/projects/{slug}/undo", response=ANSWERS)
def undo(request: HttpRequest, slug: str, payload: HistoryStep) -> Any:
    return changed_by(slug, payload.version, lambda: shelf.undo(slug, payload.version))


@router.post("/projects/{slug}/redo", response=ANSWERS)
def redo(request: HttpRequest, slug: str, payload: HistoryStep) -> Any:
    return changed_by(slug, payload.version, lambda: shelf.redo(slug, payload.version))


def changed_by(
    slug: str,
    version: int,
    change: Callable[[], StoredProject],
    said: Callable[[Project, Project], str] = lambda _, __: "",
) -> HttpResponse | Status[Trouble]:
    """What a change made different; or, where it was made on an older version, the state as it is.

    ``said`` tells of the documents before and after it what the maker should know of the change.
    """
    # Where this is another revision than that of the version, the change is refused.
    before = revisions.current_id(found(slug))
    try:
        with hand.editing():
            project = change()
            now = revisions.document_of(revisions.current_id(project))
            return changed(project, version, before, said(revisions.document_of(before), now))
    except revisions.OutOfDate:
        message = "This project was changed in another window. Here is how it stands now; make your change again."
        return Status(409, Trouble(message=message, current=show(found(slug))))
