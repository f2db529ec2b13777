"""Proposals of makers for the library, which the operator takes or turns down."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest
from ninja import Router
from shown.desk import ProposedShown
from shown.project import Trouble

from workshop import proposed
from workshop.proposed import Waiting

router = Router()


@router.get("/desk/proposed", response=list[ProposedShown])
def list_proposed(request: HttpRequest) -> list[ProposedShown]:
    """What waits, the oldest first."""
    return [_shown(one) for one in proposed.waiting()]


@router.post("/desk/proposed/{number}/take", response={200: list[ProposedShown], 404: Trouble})
def take(request: HttpRequest, number: int) -> Any:
    """Keeps what was proposed in place of what the library has under that name."""
    proposed.take(_found(number))
    return list_proposed(request)


@router.delete("/desk/proposed/{number}", response={200: list[ProposedShown], 404: Trouble})
def turn_down(request: HttpRequest, number: int) -> Any:
    proposed.turn_down(_found(number))
    return list_proposed(request)


def _found(number: int) -> Waiting:
    found = next((one for one in proposed.waiting() if one.row.pk == number), None)
    if found is None:
        raise Http404("That does not wait any more; look at the list again.")
    return found


def _shown(one: Waiting) -> ProposedShown:
    row, changes = one.row, proposed.changes(one.thing)
    return ProposedShown(
        number=row.pk, who=row.who.username, when=row.since, kind=row.kind, name=row.name, changes=changes
    )
