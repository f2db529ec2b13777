"""Machines: those of the library, and profiles as files."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.machine import Machine
from leannotch_core.drawings.gcode.profile_lines import ProfileLine, profile_lines
from leannotch_core.facts.profiles.shipped import read_profile, write_profile
from ninja import Router, Schema
from shown.desk import KeptOrProposed
from shown.project import Trouble

from workshop import library
from workshop.api.answers import download, found
from workshop.proposed import keep_or_propose
from workshop.revisions import current_id, document_of

router = Router()


@router.get("/machines", response=list[Machine])
def list_machines(request: HttpRequest) -> list[Machine]:
    return library.machines()


@router.post("/machines", response={200: KeptOrProposed, 422: Trouble})
def keep(request: HttpRequest, payload: Machine) -> KeptOrProposed:
    return KeptOrProposed(kept=keep_or_propose(payload))


class OpenedProfile(Schema):
    """A profile of somebody's, and what the lines do that it would have in every program."""

    machine: Machine
    lines: list[ProfileLine]


@router.post("/machines/open", response={200: OpenedProfile, 422: Trouble})
def open_machine(request: HttpRequest) -> OpenedProfile:
    """Reads a profile from the bytes of its file, sent as the body; nothing is stored."""
    machine = read_profile(request.body)
    return OpenedProfile(machine=machine, lines=profile_lines(machine))


@router.get("/projects/{slug}/machines/{machine_id}/file", response={404: Trouble})
def save_machine(request: HttpRequest, slug: str, machine_id: str) -> HttpResponse:
    machine = document_of(current_id(found(slug))).machine_of(machine_id)
    if machine is None:
        raise Http404
    return download(write_profile(machine), "application/json", f"{machine.id}.machine.json")
