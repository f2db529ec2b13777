"""Nesting, proof, dry fit and reading as tasks: with progress, to be stopped, the best so far kept."""

from __future__ import annotations

import logging
import time
from collections import defaultdict
from collections.abc import Mapping, Sequence

from django.db import transaction
from django.db.models import Q
from django_tasks import task
from django_tasks_db.models import DBTaskResult
from leannotch_core.assembly.order import assembly_order
from leannotch_core.assembly.solids import Clash, clashes
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.sheet import Layout
from leannotch_core.edits.layout import SetLayout
from leannotch_core.evaluate import Result
from leannotch_core.handover.proof_told import ProofCheck, SheetProved, fault_told, sheet_told
from leannotch_core.joints.walls import Face, lying
from leannotch_core.layout.merged import merged
from leannotch_core.layout.nest import Nesting, nest
from leannotch_core.layout.told import compared_with, told
from leannotch_core.project.cutting import is_routed
from leannotch_core.project.project import Project
from leannotch_core.proof.faces import proved_on_faces
from leannotch_core.proof.found import ProvedPart, SheetProof
from leannotch_core.proof.sheet_proof import proved_gap
from leannotch_core.said import Said
from people.asking import asked_for
from shown.lay_out import NestShown, ToldShown
from shown.prove import GapOnFaces, ProofShown

from workshop import proofs
from workshop.brought.reading import read
from workshop.dry_fit import assembly_of, fit_shown
from workshop.handover import stored_sheet_file
from workshop.models import BroughtFile, Run, StoredProject
from workshop.revisions import EditRefused, OutOfDate, Unreadable, current_id, document_of, edit, result_of
from workshop.runs import StopAsked, begin, end, wait_for_worker

log = logging.getLogger(__name__)

#: The queue that each kind of run waits in.
QUEUES = {"nest": "nesting", "prove": "checks", "fit": "checks", "read": "checks"}


#: The least priority that there is, but for its sign.
_LEAST = 100

#: Better layouts are told no more often than this (s).
_BETWEEN = 0.2


@task(queue_name="checks")
def work(run_id: int) -> None:
    """Carries out a run that still waits."""
    if not begin(run_id):
        return
    run = Run.objects.select_related("project").get(id=run_id)
    try:
        if run.project.deleted:
            raise CannotApply("The project was deleted meanwhile.")
        {"nest": _nest, "prove": _prove, "fit": _fit, "read": read}[run.kind](run)
    except (Said, Unreadable, EditRefused) as refusal:
        end(run, "failed", str(refusal)[:400])
    except Exception as error:
        end(run, "failed", "The work ended with a fault of ours; the project is as it was.")
        log.exception("run %s of “%s” failed", run.id, run.project.slug)
        raise RuntimeError(f"run {run_id} failed") from error


def ask_for(project: StoredProject, kind: str, seconds: float, file: BroughtFile | None = None) -> Run:
    """A run that waits for its worker: nesting has one of its own, so that nothing short waits for it."""
    with transaction.atomic():
        run = wait_for_worker(project, kind, seconds, file)
        _enqueue(run)
    return run


@transaction.atomic
def carry_on() -> None:
    """Runs whose task went with a worker before they were begun get another task."""
    waits = {task.args_kwargs["args"][0] for task in DBTaskResult.objects.ready()}
    for run in Run.objects.filter(state="waiting").exclude(id__in=waits):
        _enqueue(run)


def forget_done_tasks() -> None:
    """A task tells nothing once it is done: its run does."""
    DBTaskResult.objects.finished().delete()


def _enqueue(run: Run) -> None:
    """Behind as many of others as wait of its maker, or of its project where makers have no names: whoever asks for
    much keeps nobody waiting for all of it.
    """
    own = Q(by=run.by_id) if run.by_id else Q(project=run.project, by=None)
    before = Run.objects.filter(own, state="waiting", id__lt=run.id).count()
    work.using(queue_name=QUEUES[run.kind], priority=-min(before, _LEAST)).enqueue(run.id)


def ahead_of(run: Run) -> int:
    """How many are carried out before a run that waits, with what is at work."""
    if run.state != "waiting":
        return 0
    queue = QUEUES[run.kind]
    at_work = Run.objects.filter(state="running", kind__in=[kind for kind, name in QUEUES.items() if name == queue])
    waiting = [task.args_kwargs["args"][0] for task in DBTaskResult.objects.ready().filter(queue_name=queue)]
    return at_work.count() + (waiting.index(run.id) if run.id in waiting else 0)


def _nest(run: Run) -> None:
    revision = current_id(run.project)
    began = document_of(revision)
    stop = StopAsked(run)
    result, instead, next_look = result_of(revision), None, 0.0
    best: Nesting | None = None
    for best in nest(began, result, run.seconds, stop):
        instead = instead or compared_with(began, result, best.layout)
        if time.monotonic() < next_look and best.done < 1:
            continue
        facts = ToldShown.model_validate(told(began, result, best.layout, instead), from_attributes=True)
        shown = NestShown(layout=best.layout, findings=list(best.findings), told=facts)
        Run.objects.filter(id=run.id).update(result=shown.model_dump_json(), progress=best.done)
        next_look = time.monotonic() + _BETWEEN
    assert best is not None, "the first layout always comes"
    if _hand_back(run, began, best.layout):
        end(run, "stopped" if stop() else "done", progress=1)
    else:
        message = "Spacing, sheets or parts placed by hand were changed meanwhile, and were kept. The layout found is:"
        end(run, "stopped" if stop() else "done", message, progress=1, offered=True)


def _hand_back(run: Run, began: Project, layout: Layout) -> bool:
    """Gives the project its layout, as far as it is still true. False where it is not, and nothing was changed."""
    while True:
        project = StoredProject.objects.get(id=run.project_id)
        taken = merged(began, document_of(current_id(project)), layout)
        if taken is None:
            return False
        try:
            with asked_for(run.by_id):
                edit(project.slug, project.version, SetLayout(do="set layout", layout=taken))
            return True
        except OutOfDate:
            continue
        except StoredProject.DoesNotExist as error:
            raise CannotApply("The project was deleted meanwhile.") from error


def _prove(run: Run) -> None:
    revision = current_id(run.project)
    document, result = document_of(revision), result_of(revision)
    stop = StopAsked(run)
    sheets, parts = [], []
    faces: dict[Face, list[ProvedPart]] = defaultdict(list)
    for index in range(len(document.layout.sheets)):
        if stop():
            end(run, "stopped")
            return
        file = stored_sheet_file(revision, index, proved_as(document))
        told = sheet_told(index, file.ready, file.proof)
        if and_program(document):
            told = with_program(told, stored_sheet_file(revision, index, "nc").proof)
        sheets.append(told)
        parts += file.proof.parts
        for face, came_free in file.proof.faces.items():
            faces[face] += came_free
        Run.objects.filter(id=run.id).update(progress=(index + 1) / len(document.layout.sheets))
    shown = ProofShown(
        version=run.version, sheets=sheets, gaps=_gaps(result, parts), faces=_on_faces(document, result, faces)
    )
    proofs.keep(run.project, revision, shown)
    end(run, "done", progress=1, result=shown.model_dump_json())


def proved_as(document: Project) -> str:
    """In which form a sheet is proved: as the program, where a router makes it of one; else as a drawing."""
    machine = document.machine_of(document.machine)
    return (machine.program if is_routed(document) and machine else None) or "dxf"


def and_program(document: Project) -> bool:
    """Whether a beam is driven by a program too: it burns what a drawing only shows."""
    machine = document.machine_of(document.machine)
    return machine is not None and machine.kind == "beam" and machine.program is not None


def with_program(told: SheetProved, program: SheetProof) -> SheetProved:
    """The proof of a drawing with what is wrong with the program of the same sheet."""
    known = {(fault.code, fault.x, fault.y) for fault in told.faults}
    more = [fault for fault in map(fault_told, program.faults) if (fault.code, fault.x, fault.y) not in known]
    looked = {check.code for check in told.checks}
    checks = [
        ProofCheck(code=check.code, what=f"in its program, {check.what}", good=check.good)
        for check in program.checks
        if check.code not in looked or not check.good
    ]
    return told.model_copy(update={"faults": [*told.faults, *more], "checks": [*told.checks, *checks]})


def _fit(run: Run) -> None:
    revision = current_id(run.project)
    result, assembly, stop = result_of(revision), assembly_of(revision), StopAsked(run)
    found: list[Clash] = []

    def tell(done: float) -> bool:
        Run.objects.filter(id=run.id).update(progress=done)
        return stop()

    for done, clash in clashes(result, assembly):
        if clash:
            found.append(clash)
        if tell(done / 2):
            break
    order = assembly_order(result, assembly, lambda done: tell((1 + done) / 2))
    shown = fit_shown(run.version, result, sorted(found, key=lambda clash: -clash.deep), order, assembly)
    end(run, "stopped" if stop() else "done", progress=1, result=shown.model_dump_json())


def _gaps(result: Result, parts: Sequence[ProvedPart]) -> list[float | None]:
    return [proved_gap(mating, parts) for mating in result.pairs]


def _on_faces(document: Project, result: Result, faces: Mapping[Face, Sequence[ProvedPart]]) -> list[GapOnFaces]:
    """The proved gaps on both faces; nothing where no walls lean."""
    lie = lying(document.layout.placements)
    rows = [proved_on_faces(mating, faces, lie) for mating in result.pairs] if faces else []
    return [GapOnFaces(above=above, below=below) for above, below in rows]
