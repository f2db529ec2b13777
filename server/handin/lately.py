"""What was done to all projects lately, for the operator: who, what and when."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router
from shown.desk import StepDone
from workshop.models import Revision

router = Router(tags=["queue"])

#: So many steps are listed.
MOST = 200


@router.get("/desk/done", response=list[StepDone])
def list_done(request: HttpRequest) -> list[StepDone]:
    """The last steps of all projects that are there, the latest first."""
    steps = Revision.objects.filter(project__deleted=None).select_related("project", "by").defer("difference")
    return [
        StepDone(
            when=one.created,
            who=one.by.username if one.by else "",
            project=one.project.name,
            slug=one.project.slug,
            label=one.label,
        )
        for one in steps.order_by("-id")[:MOST]
    ]
