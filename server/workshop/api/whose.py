"""Whose a project is: shared by its maker, given to one by the operator, and what makers made of one they took."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema, Status
from people import accounts, log
from people.accounts import NotOnTheList
from people.asking import maker_asking
from pydantic import Field
from shown.project import Trouble
from shown.projects import ProjectListed, Shared, SomebodyThere, ThereShown

from workshop import proofs, there, whose
from workshop.api.answers import found
from workshop.api.projects import listed
from workshop.models import StoredProject

router = Router()


class Sharing(Schema):
    shared: Shared


class Owner(Schema):
    """The number of a maker, or nothing: then it is the workshop's."""

    maker: int | None


class Here(Schema):
    """A window of a browser, by a name that it has given itself, and the station that is open in it."""

    window: Annotated[str, Field(min_length=8, max_length=64)]
    station: Annotated[str, Field(max_length=20)]


@router.post("/projects/{slug}/there", response={200: ThereShown, 404: Trouble})
def say_there(request: HttpRequest, slug: str, payload: Here) -> ThereShown:
    """Says that the project is open in a window; answers at which version it is, and who else has it open."""
    project = found(slug)
    seen = there.others(project.pk, payload.window, accounts.name_of(maker_asking.get()), payload.station)
    return ThereShown(
        version=project.version,
        others=[SomebodyThere(name=one.name, station=one.station) for one in seen],
        together=project.shared == "work",
    )


@router.put("/projects/{slug}/shared", response={200: ProjectListed, 404: Trouble, 422: Trouble})
def share(request: HttpRequest, slug: str, payload: Sharing) -> ProjectListed:
    """What other makers may do with a project from now on."""
    project = found(slug)
    whose.share(project, payload.shared)
    log.note("shared", to=project.name, more=payload.shared, slug=slug)
    return _row(project)


@router.put("/projects/{slug}/owner", response={200: ProjectListed, 404: Trouble, 422: Trouble})
def give(request: HttpRequest, slug: str, payload: Owner) -> Any:
    """Gives a project to a maker, or takes it to the workshop."""
    project = found(slug)
    try:
        project.owner = accounts.known(payload.maker) if payload.maker is not None else None
    except NotOnTheList as no:
        return Status(422, Trouble(message=str(no)))
    project.save(update_fields=["owner"])
    log.note("given", to=project.name, more=project.owner.username if project.owner else "", slug=slug)
    return _row(project)


@router.get("/projects/{slug}/hands", response={200: list[ProjectListed], 404: Trouble})
def in_hands(request: HttpRequest, slug: str) -> list[ProjectListed]:
    """What became of a project in the hands of those who took a copy of it, by their names."""
    copies = list(found(slug).taken_on.filter(deleted=None).select_related("owner", "variant_of"))
    faults = proofs.faults_of([one.current_id for one in copies if one.current_id])
    return sorted((listed(one, faults) for one in copies), key=lambda row: (row.owner.casefold(), row.name))


def _row(project: StoredProject) -> ProjectListed:
    """It as the list has it."""
    return listed(project, proofs.faults_of([project.current_id] if project.current_id else []))
