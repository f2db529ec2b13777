"""The operator's desk: what is handed in, looked at, returned, released, cut; each step once, whoever else is at it."""

from __future__ import annotations

import cmath
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from aside import deletable
from device import machine as device
from django.db import transaction
from django.utils import timezone
from leannotch_core.costs.taken import sheet_taken, summed
from leannotch_core.document.machine import Machine
from leannotch_core.document.preparation import Holding
from leannotch_core.document.sheet import CopyOf
from leannotch_core.evaluate import Result, evaluate
from leannotch_core.handin.checks import DeskCheck, checks
from leannotch_core.handin.steps import OVER
from leannotch_core.handover.gcode import cutters_of
from leannotch_core.handover.proved import WrittenSheet, written
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.ready import Prepared
from leannotch_core.project.cutting import machine_for
from leannotch_core.project.project import Project, read_project, write_project
from leannotch_core.remembered import remembered
from people.log import note
from shown.desk import Facts, TakenOf
from workshop import shelf
from workshop.rates import rates

from handin import back
from handin.models import HandIn
from handin.steps import DeskRefuses, SomebodyElse, called, check_alone, logged, take_step


@dataclass(frozen=True, slots=True)
class LookedSheet:
    """A sheet of the queue as it would be cut, with its file of a kind, the proof, and the operator's checks."""

    project: Project
    sheet: int
    result: Result
    ready: Prepared
    kind: str
    written: WrittenSheet
    checks: list[DeskCheck]


# Makers


@dataclass(frozen=True, slots=True)
class WantedSheets:
    """Sheets of a project, counted from 0, as it is at a version: whose they are, of which group, wanted by when.

    A ``key`` is the same when it is sent again; ``made_by`` is the session that it comes from.
    """

    slug: str
    project: Project
    version: int
    sheets: tuple[int, ...]
    owner: str
    group: str = ""
    due: date | None = None
    key: str = ""
    made_by: str = ""


def hand_in(order: WantedSheets, instead_of: HandIn | None = None) -> list[HandIn]:
    """Takes sheets in as the project is now, in place of one that was handed in. Raises `DeskRefuses`.

    What the same order handed in before is handed in once.
    """
    # What takes long is done before anybody else has to wait for it.
    fresh = [_made(order, sheet) for sheet in dict.fromkeys(order.sheets)]
    with transaction.atomic():
        before = HandIn.objects.filter(key=order.key, project=order.slug) if order.key else HandIn.objects.none()
        known = {one.sheet: one for one in before}
        made = [known.get(one.sheet, one) for one in fresh]
        for one in made:
            if one.sheet not in known:
                one.save()
                note("sheet", to=called(one), more="handed in", slug=one.project)
        if instead_of is not None and not known:
            take_step(instead_of, instead_of.version, "hand in anew", f"as {made[0].pk}", replaced_by=made[0])
    return made


def _made(order: WantedSheets, sheet: int) -> HandIn:
    """A sheet looked at and not yet kept. Raises `DeskRefuses`."""
    project = order.project
    if not 0 <= sheet < len(project.layout.sheets):
        raise DeskRefuses(f"There is no sheet {sheet + 1}; the layout has {len(project.layout.sheets)}.")
    if not any(p.sheet == sheet and not p.cut for p in project.layout.placements):
        raise DeskRefuses(f"Nothing lies on sheet {sheet + 1} that is still to be cut.")
    if not order.owner.strip():
        raise DeskRefuses("Say whose it is: the operator has to give it back to somebody.")
    document = write_project(project).decode()
    fresh = HandIn(
        owner=order.owner.strip(),
        group=order.group.strip(),
        due=order.due,
        project=order.slug,
        project_name=project.name,
        project_version=order.version,
        document=document,
        sheet=sheet,
        log=logged("", "handed in"),
        key=order.key,
        made_by=order.made_by,
    )
    fresh.facts = _facts(fresh)
    return fresh


def _facts(found: HandIn) -> str:
    looked = looked_at(found)
    plan = looked.ready.plan
    takes = sheet_taken(looked.project, looked.result, found.sheet, looked.ready, rates().hand_work)
    return Facts(
        stock=looked.ready.stock.name,
        thickness=looked.ready.thickness,
        machine=looked.ready.machine.name,
        kind=looked.ready.machine.kind,
        known_on=[known.machine for known in looked.ready.stock.on],
        offcut=shelf.written_outline(looked.project.layout.sheets[found.sheet]),
        width=plan.width,
        height=plan.height,
        operations=list(dict.fromkeys(path.operation for path in plan.paths)),
        seconds=looked.ready.seconds,
        faults=len(looked.written.proof.faults),
        findings=len(looked.ready.findings),
        path="".join(path_data(path.segments, plan.height, path.closed) for path in plan.paths)[:60_000],
        taken=[TakenOf(driver=driver, name=name, amount=much) for (driver, name), much in summed(takes).items()],
    ).model_dump_json()


def take_back(found: HandIn, version: int) -> HandIn:
    return take_step(found, version, "take back", "by its maker")


# The operator


def give_back(found: HandIn, version: int, why: str) -> HandIn:
    """Returns a sheet to its maker. Raises `DeskRefuses`."""
    if not why.strip():
        raise DeskRefuses("Say why it goes back: its maker has to mend that.")
    return take_step(found, version, "return", why.strip(), why=why.strip()[:400])


def tick(found: HandIn, version: int, codes: Sequence[str]) -> HandIn:
    known = {check.code for check in looked_at(found).checks}
    ticked = sorted(set(codes) & known)
    return take_step(found, version, "tick", ", ".join(ticked) or "nothing", ticks=json.dumps(ticked))


def set_up(found: HandIn, version: int, machine: Machine | None, holding: Holding | None) -> HandIn:
    """The operator's own machine for it, or holding tabs in place of what was handed in. Ticks have to be set again."""
    changes = {"ticks": "[]"}
    if machine:
        changes["machine"] = machine.model_dump_json()
    if holding:
        project = project_of(found)
        held = project.preparation.model_copy(update={"holding": holding, "held": []})
        changes["document"] = write_project(project.model_copy(update={"preparation": held})).decode()
    for field, value in changes.items():
        setattr(found, field, value)
    changes["facts"] = _facts(found)
    return take_step(found, version, "set up", "by the operator", **changes)


def release(found: HandIn, version: int) -> HandIn:
    """Releases a sheet to the machine, which takes its file, once all its checks are ticked. Raises `DeskRefuses`."""
    looked = looked_at(found)
    left = [check.what for check in looked.checks if check.code not in json.loads(found.ticks)]
    if left:
        raise DeskRefuses(f"Not all is ticked yet: {', '.join(left)}.")
    check_alone(found, "release")
    taking = ready_to_take(looked, f"{found.pk}-{found.owner}.{looked.kind}")
    with transaction.atomic():
        now = take_step(found, version, "release", "to the machine")
        check_is_free(looked.ready.machine.name, [found.pk])
        take(taking)
    return now


def check_is_free(machine: str, numbers: Sequence[int]) -> None:
    """Raises `DeskRefuses` where other sheets than these are in a machine still."""
    for other in HandIn.objects.filter(state="released", deleted=None).exclude(pk__in=numbers):
        if Facts.model_validate_json(other.facts).machine == machine:
            raise DeskRefuses(
                f"Number {other.pk} is in the {machine} still: say what came of it there, or call it back to the desk."
            )


def call_back(found: HandIn, version: int) -> HandIn:
    """Has a sheet wait again that was released and not cut. Raises `DeskRefuses`."""
    check_alone(found, "call back")
    return take_step(found, version, "call back", "to the desk", ticks="[]")


def was_cut(found: HandIn, version: int, failed: Sequence[CopyOf], why: str = "") -> HandIn:
    """Tells that a sheet was cut; copies that ``failed``, and ``why``, wait again, only they. Raises `DeskRefuses`."""
    check_alone(found, "cut")
    check_on_sheet(project_of(found), found.sheet, failed)
    again = json.loads(found.failed)
    now = count_cut(found, version, failed, why)
    # What failed is cut anew from a piece that nobody has said.
    if not again:
        back.to_the_shelf(found)
    return now


def count_cut(found: HandIn, version: int, failed: Sequence[CopyOf], why: str) -> HandIn:
    if not failed:
        return take_step(found, version, "cut", "", failed="[]", why="")
    again = json.dumps([copy.model_dump() for copy in failed])
    names = ", ".join(f"{copy.part} {copy.copy_number}" for copy in failed)
    reason = why.strip()[:400]
    told = f"at {names}{f': {reason}' if reason else ''}"
    return take_step(found, version, "fail", told, failed=again, ticks="[]", why=reason)


def check_on_sheet(project: Project, sheet: int, copies: Sequence[CopyOf]) -> None:
    """Raises `DeskRefuses` of copies that do not lie on a sheet, and of any that is named twice."""
    on_it = {(p.part, p.copy_number) for p in project.layout.placements if p.sheet == sheet and not p.cut}
    named = [(copy.part, copy.copy_number) for copy in copies]
    for part, number in named:
        if (part, number) not in on_it:
            raise DeskRefuses(f"There is no {part} {number} on that sheet; look at it again.")
        if named.count((part, number)) > 1:
            raise DeskRefuses(f"{part} {number} is named twice; look at it again.")


def delete(found: HandIn, version: int) -> None:
    """Marks one deleted that nobody waits for any more. Raises `DeskRefuses`."""
    done = HandIn.objects.filter(pk=found.pk, version=version, state__in=OVER).update(
        deleted=timezone.now(), version=version + 1
    )
    if done:
        note("sheet deleted", to=called(found), slug=found.project)
    else:
        found.refresh_from_db()
        if found.version != version:
            raise SomebodyElse(f"Somebody else has just been at number {found.pk}; look at it again.")
        raise DeskRefuses(f"Number {found.pk} is {found.state}: return it to its maker, and then delete it.")


def have_back(found: HandIn) -> None:
    deletable.restore(found)
    note("sheet had back", to=called(found), slug=found.project)


def take_away_what_is_over() -> int:
    """Takes away what was deleted long ago; answers how many."""
    return deletable.take_away(deletable.over(HandIn.objects.all()))


# What follows


def project_of(found: HandIn) -> Project:
    """The project as it was handed in, with the operator's machine, and only what is to be cut again."""
    return _project(found.document, found.machine, found.failed, found.sheet)


@remembered(most=32)
def _project(document: str, machine: str, failed: str, sheet: int) -> Project:
    project = read_project(document)
    if machine:
        own = Machine.model_validate_json(machine)
        others = [other for other in project.machines if other.id != own.id]
        project = project.model_copy(update={"machines": [*others, own], "machine": own.id})
    again = {(copy["part"], copy["copy_number"]) for copy in json.loads(failed)}
    if again:
        placements = [p for p in project.layout.placements if p.sheet != sheet or (p.part, p.copy_number) in again]
        project = project.model_copy(update={"layout": project.layout.model_copy(update={"placements": placements})})
    return project


def looked_at(found: HandIn) -> LookedSheet:
    """Raises `DeskRefuses` where the sheet cannot be made ready."""
    return looked_as(found.document, found.machine, found.failed, found.sheet)


@remembered(most=12)
def looked_as(document: str, own: str, failed: str, sheet: int) -> LookedSheet:
    project = _project(document, own, failed, sheet)
    result = evaluate(project)
    machine = machine_for(project)
    kind = machine.program or machine.reads[0]
    ready = prepare(project, result, sheet)
    made = written(project, result, ready, kind, project.hand_over)
    return LookedSheet(project, sheet, result, ready, kind, made, checks(project, result, ready, made, kind))


def take(taking: device.FileTaken) -> None:
    taking.take()


def ready_to_take(looked: LookedSheet, name: str) -> device.FileTaken:
    """A sheet for the simulated machine, as it lies on its bed, run there once. Raises `DeskRefuses`."""
    ready = looked.ready
    barred = looked.project.layout.sheets[looked.sheet].barred
    lies = ready.lies
    clips = [
        [device.BedPoint(x=at.real, y=at.imag) for corner in one.corners for at in [lies(complex(corner.x, corner.y))]]
        for one in barred
        if one.what == "clip"
    ]
    rack = ready.plan.rack
    laid = device.Laid(
        width=ready.plan.width,
        height=ready.plan.height,
        x=lies.shift.real,
        y=lies.shift.imag,
        turn=math.degrees(cmath.phase(lies.turn)),
        clips=clips,
        thickness=ready.thickness,
        tall=rack.clips if rack else None,
        cutters=[device.InSpindle(width=one.diameter, flutes=one.flutes) for one in cutters_of(ready)] if rack else [],
    )
    return device.ready_to_take(name, looked.written.data, ready.machine, laid)
