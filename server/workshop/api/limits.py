"""What may be sent and held at the most."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router
from shown.project import LimitsShown

router = Router()


@router.get("/limits", response=LimitsShown)
def get_limits(request: HttpRequest) -> LimitsShown:
    return LimitsShown()
