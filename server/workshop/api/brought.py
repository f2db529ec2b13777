"""Drawings that others made: brought into a project, looked at, and taken."""

from __future__ import annotations

from pathlib import PurePath
from typing import Any

from aside import deletable
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.limits import LARGEST_BROUGHT
from leannotch_core.document.sums import SizeError
from leannotch_core.drawings.drawing import BrokenFile
from ninja import Query, Router, Schema, Status
from people import log
from shown.choices import Choices, DrawingPoint
from shown.project import Trouble
from shown.way_in import BodyShown, BroughtListed, JoinedShown, LineShown, WayInShown

from workshop import revisions
from workshop.api.answers import download, found
from workshop.api.edits import ANSWERS, changed_by
from workshop.brought.kept import remember
from workshop.brought.look import between, bodies, joined_by, look, look_first, nearest_line
from workshop.brought.taken import TakingParts, taking
from workshop.long_work import ask_for
from workshop.models import BroughtFile, StoredProject

router = Router()


class Looking(Schema):
    """A point of a drawing as the choices show it, or two of them."""

    choices: Choices = Choices()
    at: DrawingPoint
    to: DrawingPoint | None = None


@router.post("/projects/{slug}/brought", response={201: BroughtListed, 404: Trouble, 413: Trouble, 422: Trouble})
def bring_file(request: HttpRequest, slug: str, name: Query[str]) -> Any:
    """Keeps the bytes of a drawing or a mesh, sent as the body, with the project, and has them read.

    What cannot be read is taken away again by the run that reads it, which says why.
    """
    return _kept(request, found(slug), name, None)


@router.post("/brought/{file_id}/again", response={201: BroughtListed, 404: Trouble, 413: Trouble, 422: Trouble})
def bring_file_again(request: HttpRequest, file_id: int, name: Query[str]) -> Any:
    """As `bring_file`, for a newer file than one that is there."""
    earlier = _file(file_id)
    return _kept(request, earlier.project, name, earlier)


def _kept(request: HttpRequest, project: StoredProject, name: str, earlier: BroughtFile | None) -> Any:
    size = int(request.headers.get("Content-Length") or 0)
    if size > LARGEST_BROUGHT:
        raise BrokenFile(f"The file has {size / 1e6:.1f} MB; at most {LARGEST_BROUGHT / 1e6:g} MB are brought.")
    # Only what a file is called is kept of where it lay.
    plain = PurePath(name.replace("\\", "/")).name.strip()[:120] or "drawing"
    with transaction.atomic():
        kept = BroughtFile.objects.create(project=project, name=plain, data=request.body, earlier=earlier)
        run = ask_for(project, "read", 0, kept)
    return Status(201, _listed(kept).model_copy(update={"run": run.id}))


@router.get("/projects/{slug}/brought", response={200: list[BroughtListed], 404: Trouble})
def list_brought(request: HttpRequest, slug: str) -> Any:
    """The files of a project, the deleted ones at the end."""
    files = found(slug).brought.select_related("earlier").defer("data")
    return [_listed(file) for file in (*files.filter(deleted=None), *deletable.kept(files))]


@router.delete("/brought/{file_id}", response={204: None, 404: Trouble})
def delete_brought(request: HttpRequest, file_id: int) -> Status[None]:
    """Parts that were taken from it stay as they are."""
    file = _file(file_id)
    deletable.delete(file)
    log.note("file deleted", to=file.name, more=file.project.name, slug=file.project.slug)
    return Status(204, None)


@router.post("/brought/{file_id}/restore", response={204: None, 404: Trouble})
def restore_brought(request: HttpRequest, file_id: int) -> Status[None]:
    file = deletable.kept(BroughtFile.objects.filter(id=file_id, project__deleted=None)).first()
    if file is None:
        raise Http404
    deletable.restore(file)
    log.note("file had back", to=file.name, more=file.project.name, slug=file.project.slug)
    return Status(204, None)


@router.get("/brought/{file_id}/file", response={404: Trouble})
def save_brought(request: HttpRequest, file_id: int) -> HttpResponse:
    """The file as it was brought; a browser is never to take it for a page."""
    file = _file(file_id)
    return download(bytes(file.data), "application/octet-stream", _plain(file.name))


@router.get("/brought/{file_id}/state", response={200: BroughtListed, 404: Trouble})
def get_brought_state(request: HttpRequest, file_id: int) -> Any:
    """A file with the run that reads it, as long as it is not read."""
    return _listed(_file(file_id))


@router.get("/brought/{file_id}", response={200: WayInShown, 404: Trouble, 422: Trouble})
def begin_with_brought(request: HttpRequest, file_id: int) -> WayInShown:
    """A drawing by what was chosen for it, or for others like it, before."""
    return look_first(_file(file_id))


@router.get("/brought/{file_id}/bodies", response={200: list[BodyShown], 404: Trouble, 422: Trouble})
def list_bodies(request: HttpRequest, file_id: int) -> list[BodyShown]:
    """The bodies of a mesh as they lie in space."""
    return bodies(_file(file_id))


@router.post("/brought/{file_id}/look", response={200: WayInShown, 404: Trouble, 422: Trouble})
def look_at_brought(request: HttpRequest, file_id: int, payload: Choices) -> WayInShown:
    try:
        return look(_file(file_id), payload)
    except SizeError as error:
        raise CannotApply(f"What was typed cannot be read: {error}.") from error


@router.post("/brought/{file_id}/joined", response={200: JoinedShown, 404: Trouble, 422: Trouble})
def count_joined(request: HttpRequest, file_id: int, payload: Choices) -> JoinedShown:
    """How many outlines close by a tolerance: for while it is dragged."""
    return joined_by(_file(file_id), payload)


@router.post("/brought/{file_id}/line", response={200: LineShown, 404: Trouble, 422: Trouble})
def find_line(request: HttpRequest, file_id: int, payload: Looking) -> LineShown:
    """The line of a drawing that lies nearest to a point; or the way between the ends nearest to two."""
    file, at, to = _file(file_id), payload.at, payload.to
    if to is None:
        return nearest_line(file, payload.choices, complex(at.x, at.y))
    return between(file, payload.choices, complex(at.x, at.y), complex(to.x, to.y))


@router.post("/brought/{file_id}/take", response=ANSWERS)
def take_brought(request: HttpRequest, file_id: int, payload: TakingParts) -> Any:
    """Takes parts of a drawing into its project, as one edit."""
    file = _file(file_id)
    slug, version = file.project.slug, payload.version
    answer = changed_by(slug, version, lambda: revisions.edit(slug, version, taking(file, payload)))
    if isinstance(answer, HttpResponse):
        remember(file, payload.choices)
    return answer


def _file(file_id: int) -> BroughtFile:
    file = (
        BroughtFile.objects.select_related("project__current", "earlier")
        .filter(id=file_id, deleted=None, project__deleted=None)
        .first()
    )
    if file is None:
        raise Http404
    return file


def _listed(file: BroughtFile) -> BroughtListed:
    run = None if file.reading else file.runs.order_by("-id").first()
    return BroughtListed(
        id=file.id,
        name=file.name,
        created=file.created,
        earlier=file.earlier.name if file.earlier else "",
        is_taken=bool(file.choices),
        deleted=file.deleted,
        run=run.id if run else None,
    )


def _plain(name: str) -> str:
    return "".join(c if c.isalnum() or c in "._- " else "_" for c in name)
