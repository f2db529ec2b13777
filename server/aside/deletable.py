"""Rows that are set aside when they are deleted, and how long they can be had back."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import TypeVar

from django.db import models
from django.db.models import QuerySet
from django.utils import timezone

#: How long what was deleted can be had back.
KEPT = timedelta(days=30)

#: So few rows are taken away at a time, that nobody waits for it.
_AT_A_TIME = 200


class Deletable(models.Model):
    """What is shown nowhere once it is ``deleted`` but among the deleted ones, and kept for a while."""

    deleted = models.DateTimeField(null=True, db_index=True)

    class Meta:
        abstract = True


M = TypeVar("M", bound=models.Model)
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
