"""The shelf: offcuts that remain of sheets that were cut, with what they are of and since when."""

from __future__ import annotations

import json

from leannotch_core.document.sheet import LaidSheet
from leannotch_core.edits.layout import SheetCut
from leannotch_core.layout.offcuts import Offcut, offcuts

from workshop import revisions
from workshop.models import ShelfOffcut, StoredProject
from workshop.revisions import current_id, document_of, edit, result_of


def cut_sheet(project: StoredProject, version: int, index: int) -> StoredProject:
    """Counts all that lies on a sheet as cut; what remains goes to the shelf, and an offcut that was used leaves it.

    Raises as `edit` does.
    """
    revision = current_id(project)
    document, result = document_of(revision), result_of(revision)
    command = SheetCut(do="sheet cut", sheet=index)
    command.check(document)
    sheet = document.layout.sheets[index]
    stock = document.stock(sheet.stock)
    name = stock.name if stock else sheet.stock
    remains = offcuts(document, result, index)

    def to_the_shelf(changed: StoredProject) -> None:
        _taken(name, sheet, current_id(changed))
        for offcut in remains:
            ShelfOffcut.objects.create(
                stock=name,
                width=offcut.width,
                height=offcut.height,
                outline=_written(offcut),
                came_from=document.name,
                cut_in_id=current_id(changed),
            )

    return edit(project.slug, version, command, to_the_shelf)


def undo(slug: str, version: int) -> StoredProject:
    """Takes the last step of a project back, and what it did to the shelf. Raises as `revisions.undo` does."""
    taken_back = StoredProject.objects.get(slug=slug, deleted=None).current_id

    def back(changed: StoredProject) -> None:
        ShelfOffcut.objects.filter(cut_in=taken_back).update(there=False)
        ShelfOffcut.objects.filter(used_in=taken_back).update(there=True)

    return revisions.undo(slug, version, back)


def redo(slug: str, version: int) -> StoredProject:
    """Takes that step again, and what it did to the shelf, but for offcuts that were used meanwhile."""

    def again(changed: StoredProject) -> None:
        step = current_id(changed)
        ShelfOffcut.objects.filter(cut_in=step, used_in=None).update(there=True)
        ShelfOffcut.objects.filter(used_in=step).update(there=False)

    return revisions.redo(slug, version, again)


def _written(offcut: Offcut) -> str:
    return json.dumps([[round(point.real, 3), round(point.imag, 3)] for point in offcut.outline])


def _taken(name: str, sheet: LaidSheet, step: int) -> None:
    """Takes the offcut that a sheet was from the shelf, if it was one: it is known by its outline."""
    if not sheet.outline:
        return
    outline = json.dumps([[round(point.x, 3), round(point.y, 3)] for point in sheet.outline])
    used = ShelfOffcut.objects.filter(stock=name, outline=outline, there=True).first()
    if used:
        used.there, used.used_in_id = False, step
        used.save()
