"""What makers by a name propose for the library; the operator, who keeps that, takes it or turns it down."""

from __future__ import annotations

from contextlib import suppress
from typing import NamedTuple

from django.contrib.auth.models import User
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.machine import Machine
from leannotch_core.document.stock import Stock
from leannotch_core.facts.anew import what_changes
from leannotch_core.project.compared import changed_fields
from people.asking import maker_asking
from people.log import note
from pydantic import ValidationError

from workshop import library
from workshop.models import Proposed

KINDS: dict[str, type[Stock | Machine | Cutter]] = {"stock": Stock, "machine": Machine, "cutter": Cutter}

#: So many of one maker wait; the oldest makes room.
MOST = 40


def keep_or_propose(thing: Stock | Machine | Cutter) -> bool:
    """Keeps it in the library; of a maker by a name it is proposed instead. Whether it is kept."""
    number = maker_asking.get()
    maker = User.objects.filter(pk=number).first() if number is not None else None
    if maker is None:
        library.keep(thing)
        note("kept for all", to=thing.name)
        return True
    kind = next(name for name, of in KINDS.items() if type(thing) is of)
    fresh = {"document": thing.model_dump_json()}
    Proposed.objects.update_or_create(who=maker, kind=kind, name=thing.name, defaults=fresh)
    own = Proposed.objects.filter(who=maker).order_by("-since").values_list("pk", flat=True)
    Proposed.objects.filter(pk__in=list(own[MOST:])).delete()
    note("proposed", to=thing.name)
    return False


class Waiting(NamedTuple):
    """Something that waits for the operator, and what it is."""

    row: Proposed
    thing: Stock | Machine | Cutter


def waiting() -> list[Waiting]:
    """What waits, the oldest first; what an older Lean Notch kept otherwise is passed over."""
    found = []
    for row in Proposed.objects.select_related("who").order_by("since", "pk"):
        with suppress(ValidationError):
            found.append(Waiting(row, KINDS[row.kind].model_validate_json(row.document)))
    return found


def changes(thing: Stock | Machine | Cutter) -> list[str] | None:
    """What would be another in the library, a phrase each; None where it has no such thing yet."""
    before = library.namesake(thing)
    if before is None:
        return None
    numbers = what_changes(before, thing) if isinstance(before, Stock) and isinstance(thing, Stock) else []
    return [*numbers, *changed_fields(before, thing)]


def take(one: Waiting) -> None:
    library.keep(one.thing)
    note("kept for all", to=one.row.name, more=one.row.who.username)
    one.row.delete()


def turn_down(one: Waiting) -> None:
    note("turned down", to=one.row.name, more=one.row.who.username)
    one.row.delete()
