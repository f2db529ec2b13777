"""What was deleted: marked at once, kept for a while, then taken away bit by bit in the background."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TypeVar

from django.db.models import Model, QuerySet
from django.utils import timezone

from workshop.models import BroughtFile, Deletable, Project, Revision, Run

#: How long what was deleted can be had back.
KEPT = timedelta(days=30)

#: So few rows are taken away at a time, that nobody waits for it.
_AT_A_TIME = 200

M = TypeVar("M", bound=Model)
D = TypeVar("D", bound=Deletable)


def delete(row: Deletable) -> None:
    type(row)._default_manager.filter(pk=row.pk).update(deleted=timezone.now())


def restore(row: Deletable) -> None:
    type(row)._default_manager.filter(pk=row.pk).update(deleted=None)


def kept(rows: QuerySet[D]) -> QuerySet[D]:
    """The deleted ones among them that can still be had back, the last one first."""
    return rows.filter(deleted__gte=timezone.now() - KEPT).order_by("-deleted")


def over(rows: QuerySet[D]) -> QuerySet[D]:
    """Those that nobody can have back any more."""
    return rows.filter(deleted__lt=timezone.now() - KEPT)


def until(row: Deletable) -> datetime | None:
    """Until when it can be had back; None of what is not deleted."""
    return row.deleted + KEPT if row.deleted else None


def take_away(rows: QuerySet[M]) -> int:
    """Takes rows away, a few at a time, the newest first; answers how many."""
    taken = 0
    while ids := list(rows.order_by("-pk").values_list("pk", flat=True)[:_AT_A_TIME]):
        rows.model._default_manager.filter(pk__in=ids).delete()
        taken += len(ids)
    return taken


def take_away_what_is_over() -> int:
    """Takes away projects and files that were deleted long ago; answers how many projects."""
    take_away(over(BroughtFile.objects.all()))
    gone = over(Project.objects.all())
    for project in gone:
        Project.objects.filter(id=project.id).update(current=None)
        # No row goes before those that came of it.
        take_away(Run.objects.filter(project=project))
        take_away(Revision.objects.filter(project=project))
        project.delete()
    return len(gone)
