"""Cutters of the library, and how they work a stock."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.document.cutter import Cutter
from ninja import Router
from shown.desk import KeptOrProposed
from shown.project import Trouble

from workshop import library
from workshop.proposed import keep_or_propose

router = Router()


@router.get("/cutters", response=list[Cutter])
def list_cutters(request: HttpRequest) -> list[Cutter]:
    return library.cutters()


@router.post("/cutters", response={200: KeptOrProposed, 422: Trouble})
def keep(request: HttpRequest, payload: Cutter) -> KeptOrProposed:
    return KeptOrProposed(kept=keep_or_propose(payload))
