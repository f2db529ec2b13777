"""Joints that are offered for brought parts."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.offered.offers import offers
from ninja import Router, Schema

from workshop.api.answers import Trouble, found
from workshop.revisions import current_id, document_of, result_of

router = Router()


class OfferShown(Schema):
    """A joint that would hold two parts: what it is known by, and why; ``redrawn`` are the parts that it changes."""

    kind: str
    a: str
    side: str
    b: str
    other: str
    why: str
    redrawn: list[str]


@router.get("/projects/{slug}/offers", response={200: list[OfferShown], 404: Trouble, 422: Trouble})
def list_offers(request: HttpRequest, slug: str) -> list[OfferShown]:
    revision = current_id(found(slug))
    return [
        OfferShown(**key._asdict(), why=offer.why, redrawn=[part.name for part in offer.parts])
        for key, offer in offers(document_of(revision), result_of(revision)).items()
    ]
