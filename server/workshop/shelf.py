"""The shelf: offcuts that remain of sheets that were cut, with what they are of and since when."""

from __future__ import annotations

import json
from collections.abc import Sequence

from django.db import transaction
from leannotch_core.document.sheet import LaidSheet
from leannotch_core.edits.layout import SheetCut
from leannotch_core.evaluate import Result
from leannotch_core.layout.offcuts import Offcut, offcuts
from leannotch_core.project.project import Project

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
        _count(document.name, name, sheet, remains, current_id(changed))

    return edit(project.slug, version, command, to_the_shelf)


@transaction.atomic
def count_sheet(document: Project, result: Result, index: int) -> None:
    """Counts a sheet that was cut elsewhere than in its project, as that was: what remains of it goes to the shelf."""
    sheet = document.layout.sheets[index]
    stock = document.stock(sheet.stock)
    _count(document.name, stock.name if stock else sheet.stock, sheet, offcuts(document, result, index), None)


def _count(came_from: str, name: str, sheet: LaidSheet, remains: Sequence[Offcut], step: int | None) -> None:
    _taken(name, sheet, step)
    for offcut in remains:
        ShelfOffcut.objects.create(
            stock=name,
            width=offcut.width,
            height=offcut.height,
            outline=_written(offcut),
            came_from=came_from,
            cut_in_id=step,
        )


def there() -> set[tuple[str, str]]:
    """The offcuts on the shelf, by their stocks and outlines."""
    return set(ShelfOffcut.objects.filter(there=True).values_list("stock", "outline"))


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


def written_outline(sheet: LaidSheet) -> str:
    """What the offcut that a sheet is of is known by; nothing of a whole sheet."""
    return json.dumps([[round(point.x, 3), round(point.y, 3)] for point in sheet.outline]) if sheet.outline else ""


def _taken(name: str, sheet: LaidSheet, step: int | None) -> None:
    """Takes the offcut that a sheet was from the shelf, if it was one."""
    outline = written_outline(sheet)
    if not outline:
        return
    used = ShelfOffcut.objects.filter(stock=name, outline=outline, there=True).first()
    if used:
        used.there, used.used_in_id = False, step
        used.save()
