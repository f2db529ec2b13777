"""The shelf of offcuts, and sheets that were cut."""

from __future__ import annotations

import json
from typing import Any

from django.http import Http404, HttpRequest
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.keep_out import SheetPoint
from leannotch_core.document.limits import MOST_SHEETS
from leannotch_core.document.sums import SizeError
from ninja import Router, Status
from people import log
from shown.lay_out import OffcutListed
from shown.projects import HistoryStep

from workshop import shelf
from workshop.api.answers import found
from workshop.api.edits import ANSWERS, changed_by
from workshop.models import ShelfOffcut

router = Router()


@router.get("/shelf", response=list[OffcutListed])
def list_shelf(request: HttpRequest) -> list[OffcutListed]:
    return [
        OffcutListed(
            id=offcut.id,
            stock=offcut.stock,
            width=offcut.width,
            height=offcut.height,
            outline=[SheetPoint(x=x, y=y) for x, y in json.loads(offcut.outline)],
            since=offcut.created,
            came_from=offcut.came_from,
        )
        for offcut in ShelfOffcut.objects.filter(there=True)
    ]


@router.delete("/shelf/{offcut_id}", response={204: None})
def discard(request: HttpRequest, offcut_id: int) -> Status[None]:
    for offcut in ShelfOffcut.objects.filter(id=offcut_id):
        log.note("taken away", to=offcut.stock)
        offcut.delete()
    return Status(204, None)


@router.post("/projects/{slug}/sheets/{number}/cut", response=ANSWERS)
def sheet_cut(request: HttpRequest, slug: str, number: int, payload: HistoryStep) -> Any:
    """Counts what lies on a sheet (counted from 1) as cut; what remains of the sheet goes to the shelf."""
    project = found(slug)
    if not 1 <= number <= MOST_SHEETS:
        raise Http404(f"There is no sheet {number}.")
    try:
        return changed_by(slug, payload.version, lambda: shelf.cut_sheet(project, payload.version, number - 1))
    except SizeError as error:
        raise CannotApply(f"The layout's {error}.") from error
