"""A few copies laid anew among all others, which stay where they lie."""

from __future__ import annotations

from collections.abc import Sequence

from ..document.sheet import CopyOf, LaidSheet, Layout, Placement
from ..document.sizes import length
from ..evaluate import Result
from ..project import Project
from .fill import Item, Sheetful
from .nest import placement_of
from .sheets import laid_parts, placed, polygon_of, turns_allowed


class NoRoom(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A copy that fits no sheet of its stock; the message is a sentence to show."""


def laid_again(project: Project, result: Result, copies: Sequence[CopyOf], first: int) -> Layout:
    """The layout with ``copies`` in the first free places from sheet ``first`` (from 0) on, on a new one if need be.

    Raises `NoRoom`, or `SizeError` where margin or gap cannot be read.
    """
    layout = project.layout
    margin, gap = length(layout.margin, {}), length(layout.gap, {})
    moved = {(copy.part, copy.copy_number) for copy in copies}
    kept = [p for p in layout.placements if (p.part, p.copy_number) not in moved]
    sheets = [(sheet.stock, Sheetful(sheet.width, sheet.height, margin, gap)) for sheet in layout.sheets]
    for lying in kept:
        if lying.part in result.parts and lying.sheet < len(sheets):
            sheets[lying.sheet][1].fixed.append(placed(result.parts[lying.part].outline, lying))
    fresh: list[Placement] = []
    for copy in copies:
        part = result.parts.get(copy.part)
        if part is None or copy.copy_number > part.part.count:
            continue
        stock = project.stock(part.part.stock)
        turns = tuple(turns_allowed(part.part, stock.grain if stock else "none"))
        item = Item(copy.part, copy.copy_number, polygon_of(part.outline), turns)
        later = [i for i, (of, _) in enumerate(sheets) if i >= first and of == part.part.stock]
        lies = next((i for i in later if sheets[i][1].place(item)), None)
        if lies is None:
            new = (Sheetful(*size, margin, gap) for size in part.stock.sheets)
            sheet = next((sheet for sheet in new if sheet.place(item)), None)
            if sheet is None:
                raise NoRoom(f"{part.part.name} fits no sheet of its stock; add a larger one, or allow more turns.")
            sheets.append((part.part.stock, sheet))
            lies = len(sheets) - 1
        spot = sheets[lies][1].spots[-1]
        fresh.append(placement_of(spot, lies))
    known = {part for part, _ in moved}
    laid = [now for now in laid_parts(result) if now.part in known]
    update = {
        "sheets": [LaidSheet(stock=of, width=sheet.width, height=sheet.height) for of, sheet in sheets],
        "placements": [*kept, *fresh],
        "laid": [*(before for before in layout.laid if before.part not in known), *laid],
    }
    return layout.model_copy(update=update)
