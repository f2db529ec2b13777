"""Outlines from files that others made."""

from __future__ import annotations

from django.http import HttpRequest
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.outline import outline_apart
from leannotch_core.parts.shapes.brought import Brought
from ninja import Router
from shown.project import Trouble
from shown.shape import OutlineShown

router = Router()


@router.post("/outlines", response={200: OutlineShown, 413: Trouble, 422: Trouble})
def read_outline(request: HttpRequest) -> OutlineShown:
    """Reads the bytes of an SVG or DXF file, sent as the body; nothing is stored."""
    found = apart(outline_apart, request.body)
    return OutlineShown(outline=Brought.model_validate(found["shape"]), notes=found["notes"])
