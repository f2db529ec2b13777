"""What the browser is told of the queue."""

from __future__ import annotations

import json
from datetime import date, datetime

from leannotch_core.document.machine import Machine
from leannotch_core.document.preparation import Holding
from leannotch_core.document.sheet import CopyOf
from leannotch_core.handin.checks import DeskCheck
from leannotch_core.handin.together import owners_of
from leannotch_core.handover.svg import path_data
from ninja import Schema
from workshop.library import machines

from handin import desk
from handin.models import HandIn, Together


class HandInShown(Schema):
    """A sheet of the queue as it is listed."""

    number: int
    version: int
    owner: str
    group: str
    due: date | None
    project: str
    project_name: str
    project_version: int
    sheet: int
    state: str
    why: str
    again: list[CopyOf]
    together: int | None
    replaced_by: int | None
    created: datetime
    facts: desk.Facts


class QueueLine(Schema):
    operation: str
    path: str


class GatherRow(Schema):
    """How many of a part there are on the sheet, and whose they are."""

    owner: str
    part: str
    called: str
    copies: list[int]


class SheetLooked(Schema):
    """A sheet as it would be cut, in mm; ``width`` and ``height`` are those of the sheet."""

    width: float
    height: float
    lines: list[QueueLine]
    checks: list[DeskCheck]
    findings: list[str]
    faults: list[str]
    seconds: float
    file: str
    machine: str
    holding: Holding
    gather: list[GatherRow]


class HandInLooked(Schema):
    shown: HandInShown
    ticks: list[str]
    log: list[str]
    sheet: SheetLooked
    machines: list[Machine]


class TogetherShown(Schema):
    number: int
    members: list[int]
    states: list[str]


class QueueShown(Schema):
    """What is there, and what was ``deleted`` and can be had back."""

    rows: list[HandInShown]
    together: list[TogetherShown]
    deleted: list[HandInShown]


def shown(one: HandIn) -> HandInShown:
    """It as it is listed."""
    return HandInShown(
        number=one.pk,
        version=one.version,
        owner=one.owner,
        group=one.group,
        due=one.due,
        project=one.project,
        project_name=one.project_name,
        project_version=one.project_version,
        sheet=one.sheet + 1,
        state=one.state,
        why=one.why,
        again=json.loads(one.failed),
        together=one.together_id,
        replaced_by=one.replaced_by_id,
        created=one.created,
        facts=desk.Facts.model_validate_json(one.facts),
    )


def shown_together(made: Together) -> TogetherShown:
    """Several that were laid on one sheet, as they are listed."""
    members = list(made.members.all())
    return TogetherShown(number=made.pk, members=[m.pk for m in members], states=[m.state for m in members])


def looked(one: HandIn) -> HandInLooked:
    """It as it would be cut, with its checks."""
    return HandInLooked(
        shown=shown(one),
        ticks=json.loads(one.ticks),
        log=one.log.strip().split("\n"),
        sheet=looked_sheet(desk.looked_at(one), one.sheet, f"{one.pk}, {one.owner}"),
        machines=machines(),
    )


def looked_sheet(looked: desk.LookedSheet, sheet: int, owner: str = "") -> SheetLooked:
    """A sheet as it would be cut; of one that is laid together, each part has an ``owner`` of its own."""
    ready, plan = looked.ready, looked.ready.plan
    return SheetLooked(
        width=plan.width,
        height=plan.height,
        lines=[
            QueueLine(operation=path.operation, path=path_data(path.segments, plan.height, path.closed))
            for path in plan.paths
        ],
        checks=looked.checks,
        findings=[finding.text for finding in ready.findings],
        faults=[fault.text for fault in looked.written.proof.faults],
        seconds=ready.seconds,
        file=looked.kind,
        machine=ready.machine.name,
        holding=looked.project.preparation.holding,
        gather=_gather(looked, owner),
    )


def _gather(looked: desk.LookedSheet, owner: str) -> list[GatherRow]:
    owners = owners_of(looked.project)
    rows: dict[str, GatherRow] = {}
    for placement in looked.ready.plan.placements:
        part = looked.result.parts[placement.part].part
        whose = owner or owners[part.id]
        row = rows.setdefault(part.id, GatherRow(owner=whose, part=part.id, called=part.name, copies=[]))
        row.copies.append(placement.copy_number)
    return sorted(rows.values(), key=lambda row: (row.owner, row.called))
