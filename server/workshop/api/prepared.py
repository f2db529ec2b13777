"""Sheets made ready for the machine: the running order with its times, and every move to be played."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from django.http import HttpRequest
from leannotch_core.facts.bed import bed_of
from leannotch_core.facts.cutters import NoCutter, cutter_facts
from leannotch_core.handover.gcode import write_moves, write_walk
from leannotch_core.machining.played import Played
from leannotch_core.machining.routed.facing import faced
from leannotch_core.machining.routed.rack import rack_of
from leannotch_core.machining.settings import setting_of
from leannotch_core.machining.walk import WalkWay
from leannotch_core.project.project import Project
from ninja import Query, Router, Schema, Status
from pydantic import Field
from shown.prepare import PreparedShown
from shown.project import Trouble

from workshop.api.answers import download, found
from workshop.prepared import moves_shown, prepared_sheet, prepared_shown
from workshop.revisions import current_id, document_of

router = Router()

T = TypeVar("T")


@router.get("/projects/{slug}/prepared/{number}", response={200: PreparedShown, 404: Trouble, 422: Trouble})
def get_prepared(request: HttpRequest, slug: str, number: int) -> Any:
    """A sheet (counted from 1) on the bed of the machine in use, with its running order."""
    version = found(slug).version
    return _of_sheet(slug, number, lambda revision: prepared_shown(revision, number - 1, version))


@router.get("/projects/{slug}/moves/{number}", response={200: Played, 404: Trouble, 422: Trouble})
def get_moves(request: HttpRequest, slug: str, number: int) -> Any:
    """Every move for a sheet (counted from 1), with its time."""
    return _of_sheet(slug, number, lambda revision: moves_shown(revision, number - 1))


@router.get("/projects/{slug}/walk/{number}", response={404: Trouble, 422: Trouble})
def get_walk(request: HttpRequest, slug: str, number: int, how: WalkWay = "box") -> Any:
    """A program that goes round what is cut on a sheet (counted from 1), and cuts nothing."""
    written = _of_sheet(slug, number, lambda revision: write_walk(prepared_sheet(revision, number - 1), how))
    return download(written, "text/plain", f"{slug}-sheet-{number}-{how}.nc") if isinstance(written, bytes) else written


class Facing(Schema):
    """Which piece of the bed is faced (mm), by how much, with which cutter, in rows of which share of its width."""

    cutter: str
    left: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    bottom: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    width: float = Field(ge=0, le=100_000, allow_inf_nan=False)
    height: float = Field(ge=0, le=100_000, allow_inf_nan=False)
    depth: float = Field(ge=0, le=100, allow_inf_nan=False)
    stepover: float = Field(ge=0.02, le=0.95)


@router.get("/projects/{slug}/facing", response={404: Trouble, 422: Trouble})
def get_facing(request: HttpRequest, slug: str, wanted: Query[Facing]) -> Any:
    """A program that faces the spoilboard of the router in use."""
    written = facing_program(document_of(current_id(found(slug))), wanted)
    return download(written, "text/plain", f"{slug}-facing.nc")


def facing_program(document: Project, wanted: Facing) -> bytes:
    """Raises `NoCutter`."""
    machine, rack = document.machine_of(document.machine), rack_of(document, "")
    cutter = document.cutter(wanted.cutter)
    if machine is None or rack is None or cutter is None or not document.stocks:
        raise NoCutter("Facing needs a router and a cutter of its rack; choose both at Prepare.")
    facts, bed = cutter_facts(cutter), bed_of(machine)
    setting = setting_of(document.stocks[0], machine, "pocket", cutter)
    area = (wanted.left, wanted.bottom, wanted.width, wanted.height, wanted.depth, wanted.stepover)
    moves = faced(facts, setting, machine, bed.axes, *area, ramp=rack.ramp, safe=rack.safe)
    return write_moves(machine, moves, facts, f"{machine.name}: facing of the spoilboard")


@router.get("/projects/{slug}/setup/{number}", response={404: Trouble, 422: Trouble})
def get_setup_sheet(request: HttpRequest, slug: str, number: int) -> Any:
    """The setup sheet of a sheet (counted from 1), as PDF."""
    # What writes PDF takes longer to load than all of a start should.
    from leannotch_core.handover.setup_sheet import write_setup_sheet

    revision = current_id(found(slug))
    wanted = document_of(revision).hand_over
    written = _of_sheet(slug, number, lambda of: write_setup_sheet(prepared_sheet(of, number - 1), wanted))
    name = f"{slug}-sheet-{number}-setup.pdf"
    return download(written, "application/pdf", name) if isinstance(written, bytes) else written


def _of_sheet(slug: str, number: int, show: Callable[[int], T]) -> T | Status[Trouble]:
    revision = current_id(found(slug))
    sheets = len(document_of(revision).layout.sheets)
    if not 1 <= number <= sheets:
        return Status(404, Trouble(message=f"There is no sheet {number}; the layout has {sheets}."))
    return show(revision)
