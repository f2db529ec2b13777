"""The API: thin calls that store intent and answer with what follows from it."""

from __future__ import annotations

import logging
from collections.abc import Callable
from itertools import pairwise
from typing import Annotated, Any, Literal

from django.core.exceptions import RequestDataTooBig
from django.db.models import Max
from django.http import Http404, HttpRequest, HttpResponse
from django.utils.text import slugify
from leannotch_core.bringing import outline_apart
from leannotch_core.commands import CannotApply, Command
from leannotch_core.coupons import clearances_between, fit_coupon, strip_coupon
from leannotch_core.cutting.plan import SheetPlan, layers, plan_sheet
from leannotch_core.document import Brought, NotAProject, Starter, Stock, read_project, write_project
from leannotch_core.document import Project as Document
from leannotch_core.findings import Finding
from leannotch_core.formats.apart import apart
from leannotch_core.formats.drawing import BrokenFile
from leannotch_core.formats.svg import path_data
from leannotch_core.sizes import SizeError
from leannotch_core.starters.in_place import with_size
from leannotch_core.starters.made import CannotMake
from ninja import NinjaAPI, Schema, Status
from ninja.errors import ValidationError
from pydantic import Field

from workshop import library, revisions, starters
from workshop.dry_fit import DryFitShown, FitShown, dry_fit_shown
from workshop.handover import Format, stored_sheet_file
from workshop.long_work import NestShown, ProofShown, work
from workshop.models import Project, Run
from workshop.shown import ProjectShown, show
from workshop.starters import KindShown, StarterShown, StarterWanted, TypedInPlace

api = NinjaAPI(title="Lean Notch", version="1", docs_url=None)
log = logging.getLogger(__name__)


class Trouble(Schema):
    """Why something was not done: a sentence, the findings behind it, and the state as it is stored now."""

    message: str
    findings: list[Finding] = Field(default=[])
    current: ProjectShown | None = None


class ProjectListed(Schema):
    slug: str
    name: str
    changed: str
    parts: int


class NewProject(Schema):
    name: str = Field(min_length=1, max_length=80)


class Edit(Schema):
    version: int
    command: Command


class Step(Schema):
    version: int


class NewRun(Schema):
    seconds: float = Field(default=10, ge=1, le=600)


class RunShown(Schema):
    id: int
    kind: str
    state: str
    progress: float
    message: str
    nest: NestShown | None
    proof: ProofShown | None
    fit: FitShown | None


@api.exception_handler(Http404)
def _not_found(request: HttpRequest, error: Http404) -> HttpResponse:
    return api.create_response(request, {"message": "That is not here (any more)."}, status=404)


@api.exception_handler(NotAProject)
@api.exception_handler(CannotApply)
def _cannot(request: HttpRequest, error: ValueError) -> HttpResponse:
    return api.create_response(request, {"message": str(error)}, status=422)


@api.exception_handler(revisions.Refused)
def _refused(request: HttpRequest, error: revisions.Refused) -> HttpResponse:
    findings = [finding.model_dump() for finding in error.findings]
    return api.create_response(request, {"message": str(error), "findings": findings}, status=422)


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    fault: dict[str, Any] = error.errors[0]
    place = " › ".join(str(step) for step in fault["loc"] if step not in ("body", "payload", "edit", "command"))
    return api.create_response(request, {"message": f"{place}: {fault['msg']}"}, status=422)


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    return api.create_response(request, {"message": "That is too large to be taken; nothing was changed."}, status=413)


@api.exception_handler(Exception)
def _fault(request: HttpRequest, error: Exception) -> HttpResponse:
    log.exception("a call failed")
    message = "Something went wrong here; nothing was changed. The server's log has the details."
    return api.create_response(request, {"message": message}, status=500)


def _project(slug: str) -> Project:
    project = Project.objects.select_related("current").filter(slug=slug).first()
    if project is None:
        raise Http404
    return project


# Projects


@api.get("/projects", response=list[ProjectListed])
def list_projects(request: HttpRequest) -> list[ProjectListed]:
    return [
        ProjectListed(
            slug=project.slug,
            name=project.name,
            changed=project.changed.isoformat(),
            parts=len(revisions.document_of(revisions.current_id(project)).parts),
        )
        for project in Project.objects.all()
    ]


@api.post("/projects", response={201: ProjectShown, 422: Trouble})
def new_project(request: HttpRequest, payload: NewProject) -> Status[ProjectShown]:
    return Status(201, show(revisions.create(Document(name=payload.name, stocks=library.stocks()[:1]))))


@api.post("/projects/open", response={201: ProjectShown, 422: Trouble})
def open_project(request: HttpRequest) -> Status[ProjectShown]:
    """Opens a project from the bytes of its file, sent as the body."""
    size = int(request.headers.get("Content-Length") or 0)
    if size > 8_000_000:
        raise NotAProject(f"The file has {size / 1e6:.1f} MB; a project file has at most 8 MB.")
    return Status(201, show(revisions.create(read_project(request.body))))


@api.get("/projects/{slug}", response={200: ProjectShown, 404: Trouble})
def get_project(request: HttpRequest, slug: str) -> ProjectShown:
    return show(_project(slug))


@api.delete("/projects/{slug}", response={204: None, 404: Trouble})
def delete_project(request: HttpRequest, slug: str) -> Status[None]:
    project = _project(slug)
    Project.objects.filter(id=project.id).update(current=None)
    project.delete()
    return Status(204, None)


@api.get("/projects/{slug}/file")
def save_project(request: HttpRequest, slug: str) -> HttpResponse:
    document = revisions.document_of(revisions.current_id(_project(slug)))
    return _download(write_project(document), "application/json", f"{slug}.notch.json")


def _download(data: bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


# Edits


@api.post("/projects/{slug}/edit", response={200: ProjectShown, 409: Trouble, 422: Trouble})
def edit_project(request: HttpRequest, slug: str, payload: Edit) -> Any:
    return _changed(slug, lambda: revisions.edit(slug, payload.version, payload.command))


@api.post("/projects/{slug}/undo", response={200: ProjectShown, 409: Trouble, 422: Trouble})
def undo(request: HttpRequest, slug: str, payload: Step) -> Any:
    return _changed(slug, lambda: revisions.undo(slug, payload.version))


@api.post("/projects/{slug}/redo", response={200: ProjectShown, 409: Trouble, 422: Trouble})
def redo(request: HttpRequest, slug: str, payload: Step) -> Any:
    return _changed(slug, lambda: revisions.redo(slug, payload.version))


def _changed(slug: str, change: Callable[[], Project]) -> ProjectShown | Status[Trouble]:
    """The state after a change; or, where it was made on an older version, the state as it is."""
    _project(slug)
    try:
        return show(change())
    except revisions.OutOfDate:
        return _conflict(slug)


def _conflict(slug: str) -> Status[Trouble]:
    message = "This project was changed in another window. Here is how it stands now; make your change again."
    return Status(409, Trouble(message=message, current=show(_project(slug))))


# The stock library


@api.get("/library", response=list[Stock])
def list_library(request: HttpRequest) -> list[Stock]:
    return library.stocks()


@api.post("/library", response={200: list[Stock], 422: Trouble})
def keep_stock(request: HttpRequest, payload: Stock) -> list[Stock]:
    library.keep(payload)
    return library.stocks()


Clearance = Annotated[float, Field(ge=-2, le=5, allow_inf_nan=False)]


class NewCoupon(Schema):
    """What a coupon is to show of a stock; ``low`` to ``high`` are the clearances (mm) that a comb tries."""

    stock: Stock
    kind: Literal["fit comb", "kerf strip"] = "fit comb"
    low: Clearance = -0.1
    high: Clearance = 0.3
    step: Clearance = 0.05


@api.post("/coupons", response={201: ProjectShown, 422: Trouble})
def new_coupon(request: HttpRequest, payload: NewCoupon) -> Status[ProjectShown]:
    """A project of its own, laid out: a fit comb with a square for the kerf, or a strip."""
    if payload.kind == "kerf strip":
        return Status(201, show(revisions.create(strip_coupon(payload.stock))))
    try:
        clearances = clearances_between(payload.low, payload.high, payload.step)
    except SizeError as error:
        raise CannotApply(f"Clearances {error}.") from error
    return Status(201, show(revisions.create(fit_coupon(payload.stock, clearances))))


# Starters


@api.get("/starters", response=list[KindShown])
def list_starters(request: HttpRequest) -> list[KindShown]:
    return starters.kinds()


@api.post("/starters/preview", response={200: StarterShown, 422: Trouble})
def preview_starter(request: HttpRequest, payload: StarterWanted) -> StarterShown:
    """What a starter would make, drawn in space, and what it needs."""
    try:
        return starters.preview(payload)
    except CannotMake as error:
        raise CannotApply(str(error)) from error


@api.post("/starters/typed", response={200: Starter, 422: Trouble})
def type_in_place(request: HttpRequest, payload: TypedInPlace) -> Starter:
    """The starter with a size that was typed where it stands in space."""
    try:
        return with_size(payload.starter, payload.number, payload.index, payload.size)
    except CannotMake as error:
        raise CannotApply(str(error)) from error


# Outlines from files


class OutlineShown(Schema):
    """An outline read from a drawing, for a part; ``notes`` say what was assumed, mended or left out."""

    outline: Brought
    notes: list[str]


@api.post("/outlines", response={200: OutlineShown, 413: Trouble, 422: Trouble})
def read_outline(request: HttpRequest) -> OutlineShown:
    """Reads the bytes of an SVG or DXF file, sent as the body; nothing is stored."""
    try:
        found = apart(outline_apart, request.body)
    except BrokenFile as error:
        raise CannotApply(str(error)) from error
    return OutlineShown(outline=Brought.model_validate(found["shape"]), notes=found["notes"])


# Long work


@api.post("/projects/{slug}/nest", response={202: RunShown, 404: Trouble})
def start_nesting(request: HttpRequest, slug: str, payload: NewRun) -> Status[RunShown]:
    return Status(202, _start(slug, "nest", payload.seconds))


@api.post("/projects/{slug}/prove", response={202: RunShown, 404: Trouble})
def start_proof(request: HttpRequest, slug: str) -> Status[RunShown]:
    return Status(202, _start(slug, "prove", 0))


@api.post("/projects/{slug}/fit", response={202: RunShown, 404: Trouble})
def start_dry_fit(request: HttpRequest, slug: str) -> Status[RunShown]:
    """Clashes of all parts against each other, and the order in which they go together."""
    return Status(202, _start(slug, "fit", 0))


@api.get("/projects/{slug}/dry-fit", response={200: DryFitShown, 404: Trouble})
def get_dry_fit(request: HttpRequest, slug: str) -> DryFitShown:
    project = _project(slug)
    return dry_fit_shown(revisions.current_id(project), project.version)


def _start(slug: str, kind: str, seconds: float) -> RunShown:
    project = _project(slug)
    run = Run.objects.create(project=project, kind=kind, seconds=seconds, version=project.version)
    keep = Run.objects.filter(project=project).aggregate(newest=Max("id"))["newest"] - 20
    Run.objects.filter(project=project, id__lt=keep).delete()
    work.enqueue(run.id)
    return _run(Run.objects.get(id=run.id))


@api.get("/runs/{run_id}", response={200: RunShown, 404: Trouble})
def get_run(request: HttpRequest, run_id: int) -> RunShown:
    return _run(_found(run_id))


@api.post("/runs/{run_id}/stop", response={200: RunShown, 404: Trouble})
def stop_run(request: HttpRequest, run_id: int) -> RunShown:
    Run.objects.filter(id=run_id).update(stop_asked=True)
    return _run(_found(run_id))


def _found(run_id: int) -> Run:
    run = Run.objects.filter(id=run_id).first()
    if run is None:
        raise Http404
    return run


def _run(run: Run) -> RunShown:
    nest = NestShown.model_validate_json(run.result) if run.kind == "nest" and run.result else None
    proof = ProofShown.model_validate_json(run.result) if run.kind == "prove" and run.result else None
    fit = FitShown.model_validate_json(run.result) if run.kind == "fit" and run.result else None
    return RunShown(
        id=run.id,
        kind=run.kind,
        state=run.state,
        progress=run.progress,
        message=run.message,
        nest=nest,
        proof=proof,
        fit=fit,
    )


# Hand-over


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


@api.get("/projects/{slug}/plans/{number}", response={200: PlanShown, 404: Trouble})
def get_plan(request: HttpRequest, slug: str, number: int) -> Any:
    """The plan of a sheet (counted from 1), as its file will have it."""
    revision = revisions.current_id(_project(slug))
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


@api.get("/projects/{slug}/sheets/{number}.{kind}", response={404: Trouble, 409: Trouble})
def hand_over(request: HttpRequest, slug: str, number: int, kind: Format, accept_faults: bool = False) -> Any:
    """The file of a sheet (counted from 1), proved from its own bytes before it is given out."""
    project = _project(slug)
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
    kind_of_file = "image/svg+xml" if kind == "svg" else "image/vnd.dxf"
    return _download(file.data, kind_of_file, f"{slugify(project.name) or slug}-sheet-{number}.{kind}")
