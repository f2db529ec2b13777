"""Sheets: the plan of each, and its file, proved before it is given out."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from django.http import HttpRequest
from django.utils.text import slugify
from leannotch_core.handover.formats import FORMATS
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.plan import SheetPlan, layers, plan_sheet
from ninja import Router, Schema, Status

from workshop import revisions
from workshop.api.answers import Trouble, download, found
from workshop.handover import stored_sheet_file

router = Router()


class PlanLine(Schema):
    """A line of the plan in the order of cutting; path data with y turned down from the sheet's top."""

    operation: str
    path: str


class PlanLayer(Schema):
    """A layer of the file, as it is named there, and the length (mm) of all its lines."""

    name: str
    operation: str
    length: float


class PlanShown(Schema):
    """What goes into a sheet's file. Lengths in mm; ``travel`` is the way of the head between the lines."""

    width: float
    height: float
    lines: list[PlanLine]
    travel: str
    layers: list[PlanLayer]
    travel_length: float


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
    cutting = [path for path in plan.paths if path.operation != "reference"]
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


@router.get("/projects/{slug}/sheets/{number}.{kind}", response={404: Trouble, 409: Trouble, 422: Trouble})
def hand_over(request: HttpRequest, slug: str, number: int, kind: str, accept_faults: bool = False) -> Any:
    """The file of a sheet (counted from 1), proved from its own bytes before it is given out."""
    if kind not in FORMATS:
        return Status(404, Trouble(message=f"Sheets are written as {', '.join(FORMATS)}, not as {kind}."))
    project = found(slug)
    revision = revisions.current_id(project)
    document = revisions.document_of(revision)
    if not 1 <= number <= len(document.layout.sheets):
        return Status(
            404, Trouble(message=f"There is no sheet {number}; the layout has {len(document.layout.sheets)}.")
        )
    file = stored_sheet_file(revision, number - 1, kind)
    if file.proof.faults and not accept_faults:
        texts = "; ".join(text for text, _ in file.proof.faults[:2])
        more = len(file.proof.faults) - 2
        rest = f"; and {more} more, see Prove" if more > 0 else ""
        return Status(409, Trouble(message=f"The proof of this file failed: {texts}{rest}."))
    return download(file.data, FORMATS[kind].media, f"{slugify(project.name) or slug}-sheet-{number}.{kind}")
