"""What may be sent and held at the most."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.document import limits
from ninja import Router, Schema

router = Router()


class LimitsShown(Schema):
    """Sizes of files in bytes; counts of copies, and of lines and arcs."""

    project_file: int = limits.LARGEST_FILE
    drawing: int = limits.LARGEST_BROUGHT
    copies: int = limits.MOST_COPIES
    lines: int = limits.MOST_LINES
    lines_of_an_outline: int = limits.MOST_VERTICES


@router.get("/limits", response=LimitsShown)
def get_limits(request: HttpRequest) -> LimitsShown:
    return LimitsShown()
