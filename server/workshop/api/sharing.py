"""Starters of one's own: kept, opened from a file, handed on, and made projects of."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import Http404, HttpRequest, HttpResponse
from django.utils.text import slugify
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.model import Name
from leannotch_core.document.sizes import Size
from leannotch_core.scripted.own_starter import OwnNumber, OwnStarter, begun, made_of, read_starter, write_starter
from ninja import Router, Schema, Status
from people import log
from pydantic import Field, ValidationError
from shown.project import ProjectShown, Trouble
from shown.starters import OwnStarterShown

from workshop import revisions
from workshop.api.answers import download, found, state
from workshop.models import KeptStarter

router = Router()


class NewOwnStarter(Schema):
    name: Name
    says: Annotated[str, Field(max_length=300)] = ""
    numbers: list[OwnNumber] = Field(min_length=1, max_length=30)


class NewFromOwn(Schema):
    name: Name
    sizes: dict[str, Size] = Field(default={}, max_length=30)


@router.get("/own-starters", response=list[OwnStarterShown])
def list_own(request: HttpRequest) -> list[OwnStarterShown]:
    return [_shown(kept) for kept in KeptStarter.objects.all()]


@router.post("/projects/{slug}/own-starter", response={201: OwnStarterShown, 404: Trouble, 422: Trouble})
def make_own(request: HttpRequest, slug: str, payload: NewOwnStarter) -> Any:
    """Makes the project as it stands a starter, of which the chosen named sizes are the numbers."""
    document = revisions.document_of(revisions.current_id(found(slug)))
    try:
        own = OwnStarter(name=payload.name, says=payload.says, numbers=payload.numbers, project=document)
    except ValidationError as error:
        raise CannotApply(f"{error.errors()[0]['msg'].removeprefix('Value error, ')}.") from error
    log.note("kept for all", to=own.name, slug=slug)
    return Status(201, _shown(_keep(own)))


@router.post("/own-starters/open", response={201: OwnStarterShown, 422: Trouble})
def open_own(request: HttpRequest) -> Any:
    """Opens a starter from the bytes of its file, sent as the body."""
    opened = read_starter(request.body)
    log.note("kept for all", to=opened.name)
    return Status(201, _shown(_keep(opened)))


@router.get("/own-starters/{number}/file", response={404: Trouble})
def save_own(request: HttpRequest, number: int) -> HttpResponse:
    own = _own(number)
    return download(write_starter(own), "application/json", f"{slugify(own.name) or 'starter'}.notch-starter.json")


@router.delete("/own-starters/{number}", response={204: None, 404: Trouble})
def forget_own(request: HttpRequest, number: int) -> Status[None]:
    for kept in KeptStarter.objects.filter(pk=number):
        log.note("taken away", to=kept.name)
        kept.delete()
    return Status(204, None)


@router.post("/own-starters/{number}/project", response={201: ProjectShown, 404: Trouble, 422: Trouble})
def begin_from_own(request: HttpRequest, number: int, payload: NewFromOwn) -> HttpResponse:
    """A project made of a starter with other numbers."""
    return state(revisions.create(made_of(_own(number), payload.sizes, payload.name)), 201)


def _keep(own: OwnStarter) -> KeptStarter:
    return KeptStarter.objects.create(name=own.name, content=write_starter(own).decode())


def _own(number: int) -> OwnStarter:
    kept = KeptStarter.objects.filter(pk=number).first()
    if kept is None:
        raise Http404("There is no such starter.")
    return read_starter(kept.content.encode())


def _shown(kept: KeptStarter) -> OwnStarterShown:
    own = read_starter(kept.content.encode())
    return OwnStarterShown(
        id=kept.pk, name=own.name, says=own.says, numbers=own.numbers, begins=begun(own), parts=len(own.project.parts)
    )
