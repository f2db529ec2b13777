"""Cutters of the library, and how they work a stock."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.document.cutter import Cutter
from ninja import Router
from people import log

from workshop import library

router = Router()


@router.get("/cutters", response=list[Cutter])
def list_cutters(request: HttpRequest) -> list[Cutter]:
    return library.cutters()


@router.post("/cutters", response=list[Cutter])
def keep(request: HttpRequest, payload: Cutter) -> list[Cutter]:
    library.keep(payload)
    log.note("kept for all", to=payload.name)
    return library.cutters()
