"""How much of a project's past is kept: every late step, of older ones one an hour, of still older ones one a day."""

from __future__ import annotations

import time
from collections.abc import Iterable, Iterator
from datetime import datetime, timedelta
from typing import NamedTuple

from django.db import transaction
from django.db.models import ManyToOneRel
from django.utils import timezone

from workshop.models import Ground, Revision, StoredProject

#: So many of the latest steps, and as many that can be undone, are kept whatever their age.
LATEST = 200

#: All steps of so long ago are kept; after that the last one of each hour, and then of each day.
ALL, HOURLY = timedelta(days=1), timedelta(days=7)

#: So few steps go at a time, with a pause (s) after them, that nobody waits for it.
_AT_A_TIME, _PAUSE = 50, 0.02


class Past(NamedTuple):
    """A step of the past: its number, that of the one before it, and when it was taken."""

    id: int
    parent: int | None
    created: datetime


def superfluous(steps: Iterable[Past], standing: int | None, now: datetime) -> list[int]:
    """Which steps of a project that stands at one of them the rule does not keep, the newest first."""
    newest_first = sorted(steps, key=lambda step: -step.id)
    kept = {step.id for step in newest_first[:LATEST]} | set(_back_from(newest_first, standing))
    spans = set()
    for step in newest_first:
        span = _span(step.created, now)
        if span is None or span not in spans:
            kept.add(step.id)
        spans.add(span)
    return [step.id for step in newest_first if step.id not in kept]


def _back_from(steps: Iterable[Past], standing: int | None) -> Iterator[int]:
    """The steps that can be undone, so many of them as are kept."""
    parents = {step.id: step.parent for step in steps}
    for _ in range(LATEST + 1):
        if standing is None:
            return
        yield standing
        standing = parents.get(standing)


def _span(taken: datetime, now: datetime) -> str | None:
    """The hour or day of which one step is kept; None where all are."""
    if now - taken < ALL:
        return None
    return f"{taken:%Y-%m-%d %H}" if now - taken < HOURLY else f"{taken:%Y-%m-%d}"


def thin() -> int:
    """Thins the past of all projects; answers how many steps went. What anything refers to is kept."""
    gone = 0
    for project_id, standing in StoredProject.objects.values_list("id", "current_id"):
        rows = Revision.objects.filter(project=project_id).values_list("id", "parent_id", "created")
        over = superfluous(map(Past._make, rows), standing, timezone.now())
        referred = _referred_to(project_id) if over else set()
        over = [step for step in over if step not in referred]
        for begin in range(0, len(over), _AT_A_TIME):
            _take_out(over[begin : begin + _AT_A_TIME])
            time.sleep(_PAUSE)
        gone += len(over)
    Ground.objects.filter(revisions=None).delete()
    return gone


def _referred_to(project_id: int) -> set[int]:
    """The steps of a project that something else refers to: versions, sheets that were cut, files that were sent."""
    found: set[int] = set()
    for relation in Revision._meta.get_fields(include_hidden=True):
        if isinstance(relation, ManyToOneRel) and relation.related_model is not Revision:
            name = relation.field.name
            there = relation.related_model._default_manager.filter(**{f"{name}__project": project_id})
            found.update(there.values_list(name, flat=True))
    return found


@transaction.atomic
def _take_out(steps: list[int]) -> None:
    """Takes steps out of their chains: what came of one comes of the one before it then."""
    for step in steps:
        before = Revision.objects.values_list("parent_id", flat=True).get(id=step)
        Revision.objects.filter(parent_id=step).update(parent_id=before)
    Revision.objects.filter(id__in=steps).delete()
