"""A bent part of a project, folded in space."""

from __future__ import annotations

from django.http import Http404, HttpRequest
from drawn.folded import folded_shown
from ninja import Router
from shown.project import Trouble
from shown.shape import FoldedShown

from workshop.api.answers import found
from workshop.revisions import current_id, result_of

router = Router()


@router.get("/projects/{slug}/parts/{part_id}/folded", response={200: FoldedShown, 404: Trouble})
def folded(request: HttpRequest, slug: str, part_id: str) -> FoldedShown:
    part = result_of(current_id(found(slug))).parts.get(part_id)
    if part is None or part.folded is None:
        raise Http404("That part has no bend.")
    return folded_shown(part, part.folded)
