"""Joints that are offered for brought parts."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.offered.offers import offers
from ninja import Router
from shown.join import OfferShown
from shown.project import Trouble

from workshop.api.answers import found
from workshop.revisions import current_id, document_of, result_of

router = Router()


@router.get("/projects/{slug}/offers", response={200: list[OfferShown], 404: Trouble, 422: Trouble})
def list_offers(request: HttpRequest, slug: str) -> list[OfferShown]:
    revision = current_id(found(slug))
    return [
        OfferShown(**key._asdict(), why=offer.why, redrawn=[part.name for part in offer.parts])
        for key, offer in offers(document_of(revision), result_of(revision)).items()
    ]
