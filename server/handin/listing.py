"""Sheets of the queue, as the browser is told of them."""

from __future__ import annotations

import json
from collections.abc import Iterable

from django.utils import timezone
from leannotch_core.costs.cost import cost_lines
from leannotch_core.costs.owners import OwnedSheet, OwnerCost, by_owner
from leannotch_core.costs.rates import Rates
from leannotch_core.costs.taken import Taken, sheet_taken
from leannotch_core.handin.together import owners_of
from leannotch_core.handover.svg import path_data
from shown.desk import Facts, GatherRow, HandInLooked, HandInShown, QueueLine, SheetLooked, TogetherShown
from workshop.library import machines
from workshop.rates import rates

from handin import by_hand, desk
from handin.models import HandIn, Together


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
        facts=Facts.model_validate_json(one.facts),
    )


#: Sheets that are on their way to be cut, or cut; what went back to its maker takes nothing.
_COUNT = ("waiting", "released", "cut")


def makers_of(rows: Iterable[HandInShown], kept: Rates) -> list[OwnerCost]:
    """What the sheets of each maker take and cost, at the rates that hold now."""
    today = timezone.localdate()
    return by_owner(
        (
            OwnedSheet(
                owner=row.owner,
                seconds=row.facts.seconds,
                cut=row.state == "cut",
                late=row.due is not None and row.due < today,
                taken=[Taken(one.driver, one.name, one.amount, row.number) for one in row.facts.taken],
            )
            for row in rows
            if row.state in _COUNT
        ),
        kept,
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
        by_hand=by_hand.made(),
        log=one.log.strip().split("\n"),
        sheet=looked_sheet(desk.looked_at(one), one.sheet, f"{one.pk}, {one.owner}"),
        machines=machines(),
    )


def looked_sheet(looked: desk.LookedSheet, sheet: int, owner: str = "") -> SheetLooked:
    """A sheet as it would be cut; of one that is laid together, each part has an ``owner`` of its own."""
    ready, plan, kept = looked.ready, looked.ready.plan, rates()
    takes = sheet_taken(looked.project, looked.result, sheet, ready, kept.hand_work)
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
        costs=cost_lines(takes, kept),
        money=kept.money,
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
