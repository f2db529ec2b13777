"""The day at the machines: the call that lists it."""

from __future__ import annotations

from collections.abc import Sequence

from django.http import HttpRequest
from django.utils import timezone
from leannotch_core.handin.day import ForTheDay, can_take, days
from ninja import Router
from shown.desk import DayShown, HandInShown, OtherMachine
from workshop import shelf
from workshop.library import machines
from workshop.rates import rates

from handin import together
from handin.listing import shown
from handin.models import HandIn, Together

router = Router(tags=["queue"])


@router.get("/desk/day", response=DayShown)
def get_day(request: HttpRequest) -> DayShown:
    """What waits or is released, in the order in which each machine cuts it."""
    rows = HandIn.objects.filter(deleted=None, state__in=["waiting", "released"]).defer("document")
    alone = [shown(one) for one in rows.filter(together=None)]
    sheets = [_sheet([row], row.facts.machine, row.facts.seconds, row.facts.offcut) for row in alone]
    for made in Together.objects.filter(members__in=rows).distinct():
        ready = together.looked_together(made).ready
        members = [shown(one) for one in made.members.all()]
        sheets.append(_sheet(members, ready.machine.name, ready.seconds, ""))
    return DayShown(
        machines=days(sheets, timezone.localtime(), shelf.there()),
        others={str(row.number): _others(row) for row in alone if row.state == "waiting"},
    )


def _sheet(rows: Sequence[HandInShown], machine: str, seconds: float, offcut: str) -> ForTheDay:
    return ForTheDay(
        numbers=tuple(row.number for row in rows),
        owners=tuple(row.owner for row in rows),
        machine=machine,
        stock=rows[0].facts.stock,
        seconds=seconds,
        due=min((row.due for row in rows if row.due), default=None),
        released=all(row.state == "released" for row in rows),
        offcut=offcut,
        by_hand=rates().hand_work.sheet * 60,
    )


def _others(row: HandInShown) -> list[OtherMachine]:
    facts = row.facts
    return [
        OtherMachine(id=one.id, name=one.name)
        for one in machines()
        if one.name != facts.machine
        and one.id in facts.known_on
        and can_take(one, facts.kind, facts.width, facts.height)
    ]
