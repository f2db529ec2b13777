"""Deleted projects: marked at once, kept for a while, then taken away bit by bit in the background."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import QuerySet
from django.utils import timezone

from workshop.models import Project, Revision, Run

#: How long a deleted project can be had back.
KEPT = timedelta(days=30)

#: So few rows are taken away at a time, that nobody waits for it.
_AT_A_TIME = 200


def delete(project: Project) -> None:
    Project.objects.filter(id=project.id).update(deleted=timezone.now())


def kept() -> QuerySet[Project]:
    """Deleted projects that can still be had back, the last one first."""
    return Project.objects.filter(deleted__gte=timezone.now() - KEPT).order_by("-deleted")


def restore(project: Project) -> None:
    Project.objects.filter(id=project.id).update(deleted=None)


def take_away_what_is_over() -> int:
    """Takes away projects that were deleted long ago; answers how many."""
    over = Project.objects.filter(deleted__lt=timezone.now() - KEPT)
    taken = 0
    for project in over:
        Project.objects.filter(id=project.id).update(current=None)
        # The newest first: no row goes before those that came of it.
        for rows in (Run.objects.filter(project=project), Revision.objects.filter(project=project)):
            while ids := list(rows.order_by("-id").values_list("id", flat=True)[:_AT_A_TIME]):
                rows.filter(id__in=ids).delete()
        project.delete()
        taken += 1
    return taken
