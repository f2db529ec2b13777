"""Parts on sheets, while they are dragged."""

from __future__ import annotations

from django.http import Http404, HttpRequest
from leannotch_core.document.sheet import Placement
from leannotch_core.layout.beside import beside
from ninja import Router, Schema
from pydantic import Field
from shown.lay_out import BesideShown
from shown.project import Trouble

from workshop.api.answers import found
from workshop.revisions import current_id, document_of, result_of

router = Router()


class Dragged(Schema):
    """Where a copy is being dragged to, and how far (mm) it may be moved from there to touch a gap or a margin."""

    placement: Placement
    reach: float = Field(ge=0, le=50, allow_inf_nan=False)


@router.post("/projects/{slug}/beside", response={200: BesideShown, 404: Trouble, 422: Trouble})
def get_beside(request: HttpRequest, slug: str, payload: Dragged) -> BesideShown:
    """What a dragged copy would be in the way of, and where near by it would touch; nothing is stored."""
    revision = current_id(found(slug))
    answer = beside(document_of(revision), result_of(revision), payload.placement, payload.reach)
    if answer is None:
        raise Http404
    return BesideShown.model_validate(answer, from_attributes=True)
