"""Long work on a project: started, followed and stopped; and the dry fit that it is about."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field
from shown.join import DryFitShown, FitShown
from shown.lay_out import NestShown
from shown.project import RunShown, Trouble
from shown.prove import ProofShown

from workshop import hand, proofs, revisions
from workshop.api.answers import download, found
from workshop.dry_fit import assembly_of, dry_fit_shown, steps_of
from workshop.long_work import ahead_of, ask_for
from workshop.models import Run
from workshop.runs import stop

router = Router()


class NewRun(Schema):
    seconds: float = Field(default=10, ge=1, le=600, allow_inf_nan=False)


@router.post("/projects/{slug}/nest", response={202: RunShown, 404: Trouble, 422: Trouble})
def start_nesting(request: HttpRequest, slug: str, payload: NewRun) -> Status[RunShown]:
    return Status(202, _start(slug, "nest", payload.seconds))


@router.post("/projects/{slug}/prove", response={202: RunShown, 404: Trouble, 422: Trouble})
def start_proof(request: HttpRequest, slug: str) -> Status[RunShown]:
    return Status(202, _start(slug, "prove", 0))


@router.get("/projects/{slug}/proof", response={200: ProofShown | None, 404: Trouble, 422: Trouble})
def get_proof(request: HttpRequest, slug: str) -> ProofShown | None:
    """The proof of the project as it is now, where it was made."""
    project = found(slug)
    return proofs.kept(project, revisions.current_id(project))


@router.post("/projects/{slug}/fit", response={202: RunShown, 404: Trouble, 422: Trouble})
def start_dry_fit(request: HttpRequest, slug: str) -> Status[RunShown]:
    """Clashes of all parts against each other, and the order in which they go together."""
    return Status(202, _start(slug, "fit", 0))


@router.get("/projects/{slug}/dry-fit", response={200: DryFitShown, 404: Trouble, 422: Trouble})
def get_dry_fit(request: HttpRequest, slug: str) -> DryFitShown:
    project = found(slug)
    return dry_fit_shown(revisions.current_id(project), project.version)


def _start(slug: str, kind: str, seconds: float) -> RunShown:
    return _shown(_run(ask_for(found(slug), kind, seconds).id))


@router.get("/runs/{run_id}", response={200: RunShown, 404: Trouble})
def get_run(request: HttpRequest, run_id: int) -> RunShown:
    return _shown(_run(run_id))


@router.get("/runs/{run_id}/assembly-sheet", response={404: Trouble, 422: Trouble})
def get_assembly_sheet(request: HttpRequest, run_id: int) -> Any:
    """The steps that a check of the fit found, with pictures, as PDF; the project must still be as it was checked."""
    # What writes PDF takes longer to load than all of a start should.
    from leannotch_core.portrait.assembly_sheet import write_assembly_sheet

    run = _run(run_id)
    fit = _shown(run).fit
    if fit is None or run.project.deleted:
        raise Http404
    if fit.version != run.project.version:
        return Status(422, Trouble(message="The project was changed after its fit was checked; check the fit again."))
    revision = revisions.current_id(run.project)
    with hand.looking():
        hand.let_edits_first()
        document, result = revisions.document_of(revision), revisions.result_of(revision)
        written = write_assembly_sheet(document, result, assembly_of(revision), steps_of(fit))
    return download(written, "application/pdf", f"{run.project.slug}-assembly.pdf")


@router.post("/runs/{run_id}/stop", response={200: RunShown, 404: Trouble})
def stop_run(request: HttpRequest, run_id: int) -> RunShown:
    stop(run_id)
    return _shown(_run(run_id))


def _run(run_id: int) -> Run:
    run = Run.objects.filter(id=run_id).first()
    if run is None:
        raise Http404
    return run


def _shown(run: Run) -> RunShown:
    return RunShown(
        id=run.id,
        kind=run.kind,
        state=run.state,
        progress=run.progress,
        message=run.message,
        ahead=ahead_of(run),
        offered=run.offered,
        nest=NestShown.model_validate_json(run.result) if run.kind == "nest" and run.result else None,
        proof=ProofShown.model_validate_json(run.result) if run.kind == "prove" and run.result else None,
        fit=FitShown.model_validate_json(run.result) if run.kind == "fit" and run.result else None,
    )
