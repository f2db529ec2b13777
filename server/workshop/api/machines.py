"""Machines: those of the library, and profiles as files."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.machine import Machine
from leannotch_core.profiles.shipped import NotAProfile, read_profile, write_profile
from ninja import Router

from workshop import library
from workshop.api.answers import Trouble, download, found
from workshop.revisions import current_id, document_of

router = Router()


@router.get("/machines", response=list[Machine])
def list_machines(request: HttpRequest) -> list[Machine]:
    return library.machines()


@router.post("/machines", response={200: list[Machine], 422: Trouble})
def keep(request: HttpRequest, payload: Machine) -> list[Machine]:
    library.keep(payload)
    return library.machines()


@router.post("/machines/open", response={200: Machine, 422: Trouble})
def open_machine(request: HttpRequest) -> Machine:
    """Reads a profile from the bytes of its file, sent as the body; nothing is stored."""
    try:
        return read_profile(request.body)
    except NotAProfile as error:
        raise CannotApply(str(error)) from error


@router.get("/projects/{slug}/machines/{machine_id}/file", response={404: Trouble})
def save_machine(request: HttpRequest, slug: str, machine_id: str) -> HttpResponse:
    machine = document_of(current_id(found(slug))).machine_of(machine_id)
    if machine is None:
        raise Http404
    return download(write_profile(machine), "application/json", f"{machine.id}.machine.json")
