"""What was done lately, for the operator: steps of projects, and all else that is on the log; who, what and when."""

from __future__ import annotations

from heapq import merge
from itertools import islice
from operator import attrgetter

from django.http import HttpRequest
from ninja import Router
from people.models import Deed
from shown.desk import DeedShown
from workshop.models import Revision

router = Router(tags=["queue"])

#: So many are listed.
MOST = 300


@router.get("/desk/done", response=list[DeedShown])
def list_done(request: HttpRequest) -> list[DeedShown]:
    """The last steps of all projects that are there and what else was done, the latest first."""
    deeds = [DeedShown.model_validate(one) for one in Deed.objects.order_by("-id")[:MOST]]
    return list(islice(merge(_steps(), deeds, key=attrgetter("when"), reverse=True), MOST))


def _steps() -> list[DeedShown]:
    steps = Revision.objects.filter(project__deleted=None).select_related("project", "by").defer("difference")
    return [
        DeedShown(
            when=one.created,
            who=one.by.username if one.by else "",
            kind="step",
            to=one.project.name,
            more=one.label,
            slug=one.project.slug,
        )
        for one in steps.order_by("-id")[:MOST]
    ]
