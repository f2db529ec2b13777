"""Changes of a project: edits, undo and redo, each on the version that it was made for."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from leannotch_core.edits.command import Command
from ninja import Router, Schema, Status

from workshop import revisions
from workshop.api.answers import Trouble, found, state
from workshop.models import Project
from workshop.shown import ProjectShown, show

router = Router()


class NewEdit(Schema):
    version: int
    command: Command


class Step(Schema):
    version: int


@router.post("/projects/{slug}/edit", response={200: ProjectShown, 404: Trouble, 409: Trouble, 422: Trouble})
def edit_project(request: HttpRequest, slug: str, payload: NewEdit) -> Any:
    return _changed(slug, lambda: revisions.edit(slug, payload.version, payload.command))


@router.post("/projects/{slug}/undo", response={200: ProjectShown, 404: Trouble, 409: Trouble, 422: Trouble})
def undo(request: HttpRequest, slug: str, payload: Step) -> Any:
    return _changed(slug, lambda: revisions.undo(slug, payload.version))


@router.post("/projects/{slug}/redo", response={200: ProjectShown, 404: Trouble, 409: Trouble, 422: Trouble})
def redo(request: HttpRequest, slug: str, payload: Step) -> Any:
    return _changed(slug, lambda: revisions.redo(slug, payload.version))


def _changed(slug: str, change: Callable[[], Project]) -> HttpResponse | Status[Trouble]:
    """The state after a change; or, where it was made on an older version, the state as it is."""
    try:
        return state(change())
    except revisions.OutOfDate:
        message = "This project was changed in another window. Here is how it stands now; make your change again."
        return Status(409, Trouble(message=message, current=show(found(slug))))
