"""Drawings that others made: brought into a project, looked at, and taken."""

from __future__ import annotations

from datetime import datetime
from pathlib import PurePath
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.limits import LARGEST_BROUGHT
from leannotch_core.document.sizes import SizeError
from leannotch_core.drawings.drawing import BrokenFile
from ninja import Query, Router, Schema, Status

from workshop import brought, revisions
from workshop.api.answers import Trouble, download, found
from workshop.api.edits import ANSWERS, changed_by
from workshop.brought import Choices, LineShown, Taking, WayInShown
from workshop.models import BroughtFile

router = Router()


class BroughtListed(Schema):
    id: int
    name: str
    created: datetime


class Looking(Schema):
    """A point of a drawing as the choices show it, in mm."""

    choices: Choices = Choices()
    x: float
    y: float


@router.post("/projects/{slug}/brought", response={201: BroughtListed, 404: Trouble, 413: Trouble, 422: Trouble})
def bring_file(request: HttpRequest, slug: str, name: Query[str]) -> Any:
    """Reads the bytes of an SVG or DXF file, sent as the body, and keeps them with the project."""
    size = int(request.headers.get("Content-Length") or 0)
    if size > LARGEST_BROUGHT:
        raise BrokenFile(f"The file has {size / 1e6:.1f} MB; at most {LARGEST_BROUGHT / 1e6:g} MB are brought.")
    # Only what a file is called is kept of where it lay.
    plain = PurePath(name.replace("\\", "/")).name.strip()[:120] or "drawing"
    return Status(201, brought.keep(found(slug), plain, request.body))


@router.get("/projects/{slug}/brought", response={200: list[BroughtListed], 404: Trouble})
def list_brought(request: HttpRequest, slug: str) -> Any:
    return found(slug).brought.all()


@router.get("/brought/{file_id}/file", response={404: Trouble})
def save_brought(request: HttpRequest, file_id: int) -> HttpResponse:
    """The file as it was brought; a browser is never to take it for a page."""
    file = _file(file_id)
    return download(bytes(file.data), "application/octet-stream", _plain(file.name))


@router.post("/brought/{file_id}/look", response={200: WayInShown, 404: Trouble, 422: Trouble})
def look_at_brought(request: HttpRequest, file_id: int, payload: Choices) -> WayInShown:
    try:
        return brought.look(_file(file_id), payload)
    except SizeError as error:
        raise CannotApply(f"What it should measure: {error}.") from error


@router.post("/brought/{file_id}/line", response={200: LineShown, 404: Trouble, 422: Trouble})
def find_line(request: HttpRequest, file_id: int, payload: Looking) -> LineShown:
    """The line of a drawing that lies nearest to a point."""
    return brought.nearest_line(_file(file_id), payload.choices, complex(payload.x, payload.y))


@router.post("/brought/{file_id}/take", response=ANSWERS)
def take_brought(request: HttpRequest, file_id: int, payload: Taking) -> Any:
    """Takes parts of a drawing into its project, as one edit."""
    file = _file(file_id)
    slug, version = file.project.slug, payload.version
    return changed_by(slug, version, lambda: revisions.edit(slug, version, brought.taking(file, payload)))


def _file(file_id: int) -> BroughtFile:
    file = BroughtFile.objects.select_related("project__current").filter(id=file_id, project__deleted=None).first()
    if file is None:
        raise Http404
    return file


def _plain(name: str) -> str:
    return "".join(c if c.isalnum() or c in "._- " else "_" for c in name)
