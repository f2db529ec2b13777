"""Starters: their kinds, and what one would make before it is made."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.starter import Starter
from leannotch_core.starters.in_place import with_size
from leannotch_core.starters.live import KINDS
from ninja import Router
from shown.project import Trouble
from shown.starters import KindShown, StarterShown

from workshop import portraits, starters
from workshop.api.answers import picture
from workshop.starters import StarterWanted, TypedInPlace

router = Router()


@router.get("/starters", response=list[KindShown])
def list_starters(request: HttpRequest) -> list[KindShown]:
    return starters.kinds()


@router.get("/starters/{key}/portrait", response={200: None, 404: None})
def get_portrait_of_starter(request: HttpRequest, key: str) -> HttpResponse:
    """What a kind of starter looks like as it begins, as SVG."""
    if key not in KINDS:
        raise Http404
    return picture(portraits.portrait_of_starter(key), stays=False)


@router.post("/starters/preview", response={200: StarterShown, 422: Trouble})
def preview_starter(request: HttpRequest, payload: StarterWanted) -> StarterShown:
    """What a starter would make, drawn in space, and what it needs."""
    return starters.preview(payload)


@router.post("/starters/typed", response={200: Starter, 422: Trouble})
def type_in_place(request: HttpRequest, payload: TypedInPlace) -> Starter:
    """The starter with a size that was typed where it stands in space."""
    return with_size(payload.starter, payload.number, payload.index, payload.size)
