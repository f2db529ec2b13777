"""Proposals of makers for the library, which the operator takes or turns down."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest
from ninja import Router
from shown.desk import ProposedShown
from shown.project import Trouble

from workshop import proposed
from workshop.models import Proposed

router = Router()


@router.get("/desk/proposed", response=list[ProposedShown])
def list_proposed(request: HttpRequest) -> list[ProposedShown]:
    """What waits, the oldest first."""
    return [_shown(row) for row in Proposed.objects.select_related("who").order_by("since")]


@router.post("/desk/proposed/{number}/take", response={200: list[ProposedShown], 404: Trouble})
def take(request: HttpRequest, number: int) -> Any:
    """Keeps what was proposed in place of what the library has under that name."""
    proposed.take(_found(number))
    return list_proposed(request)


@router.delete("/desk/proposed/{number}", response={200: list[ProposedShown], 404: Trouble})
def turn_down(request: HttpRequest, number: int) -> Any:
    proposed.turn_down(_found(number))
    return list_proposed(request)


def _found(number: int) -> Proposed:
    row = Proposed.objects.select_related("who").filter(pk=number).first()
    if row is None:
        raise Http404("That does not wait any more; look at the list again.")
    return row


def _shown(row: Proposed) -> ProposedShown:
    return ProposedShown(
        number=row.pk, who=row.who.username, when=row.since, kind=row.kind, name=row.name, changes=proposed.changes(row)
    )
