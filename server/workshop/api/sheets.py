"""Sheets: the plan of each, and its file, proved before it is given out."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.formats import FORMATS
from leannotch_core.document.operations import BY_NAME
from leannotch_core.drawings.apart import apart
from leannotch_core.handover.cut_list import write_cut_list
from leannotch_core.handover.proof_told import PROVING_GIVEN, SheetProved, given_apart
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.plan import SheetPlan, layers, plan_sheet
from leannotch_core.project.project import write_project
from ninja import Router, Status
from shown.hand_over import PlanLayer, PlanLine, PlanShown
from shown.project import Trouble

from workshop import revisions
from workshop.api.answers import download, found
from workshop.costs import cost_known
from workshop.handover import all_sheets, of_sheet, packed, stored_sheet_file
from workshop.models import StoredProject
from workshop.rates import rates

router = Router()


@router.get("/projects/{slug}/plans/{number}", response={200: PlanShown, 404: Trouble, 422: Trouble})
def get_plan(request: HttpRequest, slug: str, number: int) -> Any:
    """The plan of a sheet (counted from 1), as its file will have it."""
    revision = revisions.current_id(found(slug))
    document = revisions.document_of(revision)
    if not 1 <= number <= len(document.layout.sheets):
        return Status(
            404, Trouble(message=f"There is no sheet {number}; the layout has {len(document.layout.sheets)}.")
        )
    return _plan(plan_sheet(document, revisions.result_of(revision), number - 1))


def _plan(plan: SheetPlan) -> PlanShown:
    cutting = [path for path in plan.paths if not BY_NAME[path.operation].beside]
    hops = [(a.segments[-1].end, b.start) for a, b in pairwise(cutting)]
    laid = [
        PlanLayer(name=name, operation=paths[0].operation, length=sum(s.length for p in paths for s in p.segments))
        for name, paths in layers(plan).items()
        if name != "reference"
    ]
    return PlanShown(
        width=plan.width,
        height=plan.height,
        lines=[
            PlanLine(operation=path.operation, path=path_data(path.segments, plan.height, path.closed))
            for path in plan.paths
        ],
        travel="".join(
            f"M{a.real:.2f} {plan.height - a.imag:.2f}L{b.real:.2f} {plan.height - b.imag:.2f}" for a, b in hops
        ),
        layers=laid,
        travel_length=sum(abs(b - a) for a, b in hops),
    )


def _of_kind(kind: str) -> None:
    """Raises `CannotApply` where sheets are not written so."""
    if kind not in FORMATS:
        raise CannotApply(f"Sheets are written as {', '.join(FORMATS)}, not as {kind}.")


@router.get("/projects/{slug}/sheets/all.zip", response={404: Trouble, 409: Trouble, 422: Trouble})
def hand_all_over(request: HttpRequest, slug: str, kind: str, accept_faults: bool = False) -> Any:
    """All sheets of a project, each in its file of a kind, proved, in one ZIP."""
    _of_kind(kind)
    project = found(slug)
    revision = revisions.current_id(project)
    data, faults = all_sheets(revision, kind, lambda index: _name(project, revision, index + 1, kind))
    if faults and not accept_faults:
        return _faulty(faults)
    return download(data, "application/zip", f"{slugify(project.name) or slug}-{kind}.zip")


@router.get("/projects/{slug}/sheets/{number}.{kind}", response={404: Trouble, 409: Trouble, 422: Trouble})
def hand_over(
    request: HttpRequest, slug: str, number: int, kind: str, accept_faults: bool = False, only: str = ""
) -> Any:
    """The file of a sheet (counted from 1), proved from its own bytes before it is given out.

    ``only`` names parts by their ids, with commas between; nothing else is in the file then.
    """
    _of_kind(kind)
    project = found(slug)
    revision = revisions.current_id(project)
    document = revisions.document_of(revision)
    if not 1 <= number <= len(document.layout.sheets):
        return Status(
            404, Trouble(message=f"There is no sheet {number}; the layout has {len(document.layout.sheets)}.")
        )
    chosen = frozenset(part for part in only.split(",") if part)
    file = stored_sheet_file(revision, number - 1, kind, chosen)
    if file.proof.faults and not accept_faults:
        return _faulty([fault.text for fault in file.proof.faults])
    name = _name(project, revision, number, kind, "-some" if chosen else "")
    files = of_sheet(document, file, name)
    if len(files) == 1:
        return download(next(iter(files.values())), FORMATS[kind].media, name)
    return download(packed(files.items()), "application/zip", f"{name.removesuffix(f'.{kind}')}-programs.zip")


@router.post(
    "/projects/{slug}/sheets/{number}/proof/{name}",
    response={200: SheetProved, 404: Trouble, 413: Trouble, 422: Trouble},
)
def prove_given(request: HttpRequest, slug: str, number: int, name: str) -> Any:
    """What any file, sent as the body, would give in place of that of a sheet (counted from 1); nothing is stored."""
    revision = revisions.current_id(found(slug))
    document = revisions.document_of(revision)
    if not 1 <= number <= len(document.layout.sheets):
        return Status(
            404, Trouble(message=f"There is no sheet {number}; the layout has {len(document.layout.sheets)}.")
        )
    sent = write_project(document).decode()
    return SheetProved.model_validate(
        apart(given_apart, request.body, name[:120], sent, number - 1, bounds=PROVING_GIVEN)
    )


def _faulty(faults: list[str]) -> Status[Trouble]:
    more = len(faults) - 2
    rest = f"; and {more} more, see Prove" if more > 0 else ""
    return Status(409, Trouble(message=f"The proof of this file failed: {'; '.join(faults[:2])}{rest}."))


def _name(project: StoredProject, revision: int, number: int, kind: str, some: str = "") -> str:
    """What a sheet's file is called: the project, the sheet, and the machine that it is for."""
    document = revisions.document_of(revision)
    machine = document.machine_of(document.machine)
    words = [project.name, f"sheet {number}", *([machine.name] if machine else [])]
    return f"{'-'.join(filter(None, map(slugify, words)))}{some}.{kind}"


@router.get("/projects/{slug}/cut-list.csv", response={404: Trouble, 422: Trouble})
def get_cut_list(request: HttpRequest, slug: str) -> HttpResponse:
    """Every part with its count, size in mm, stock and sheets, as comma-separated values (RFC 4180)."""
    project = found(slug)
    revision = revisions.current_id(project)
    cost = cost_known(revision, rates())
    data = write_cut_list(revisions.document_of(revision), revisions.result_of(revision), cost)
    return download(data, "text/csv", f"{slugify(project.name) or slug}-cut-list.csv")
