"""A few copies laid anew among all others, which stay where they lie."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..document.sheet import CopyOf, LaidSheet, Layout, Placement
from ..evaluate import EvaluatedPart, Result
from ..project.project import Project
from ..said import Said
from .bed import SheetToFill
from .fill import fill
from .sheets import laid_parts, shape_of
from .spacing import spacing
from .stack import item_of, kind_of, laid_sheet, lying_shape, placements_of, room_of


class NoRoom(Said):
    """A copy that fits no sheet of its stock; the message is a sentence to show."""


def laid_again(project: Project, result: Result, copies: Sequence[CopyOf], first: int) -> Layout:
    """The layout with ``copies`` in the first free places from sheet ``first`` (from 0) on, on a new one if need be.

    Raises `NoRoom`, or `SizeError` where margin or gap cannot be read.
    """
    layout = project.layout
    margin, gap = spacing(project, result)
    moved = {(copy.part, copy.copy_number) for copy in copies}
    lying = [p for p in layout.placements if (p.part, p.copy_number) not in moved]
    sheets = list(layout.sheets)
    for copy in copies:
        part = result.parts.get(copy.part)
        if part is None or copy.copy_number > part.part.count:
            continue
        item = item_of(project, part, copy.copy_number, gap)
        for number, sheet, ground in _grounds(part, result, sheets, lying, first, margin, gap):
            fill(ground, [item], apart=True)
            if ground.spots:
                sheets[number:] = sheets[number:] or [sheet]
                lying += placements_of(ground.spots[0], number)
                break
        else:
            raise NoRoom(
                f"{part.part.name} finds no room on a sheet of its stock that is at hand; "
                "add a sheet or a larger size, or allow more turns."
            )
    known = {part for part, _ in moved}
    laid = [now for now in laid_parts(result) if now.part in known]
    update = {
        "sheets": sheets,
        "placements": lying,
        "laid": [*(before for before in layout.laid if before.part not in known), *laid],
    }
    return layout.model_copy(update=update)


def _grounds(
    part: EvaluatedPart,
    result: Result,
    sheets: Sequence[LaidSheet],
    lying: Sequence[Placement],
    first: int,
    margin: float,
    gap: float,
) -> Iterator[tuple[int, LaidSheet, SheetToFill]]:
    """The sheets that a part may lie on, one after the other: those in use from ``first`` on, then new ones."""
    for number, sheet in enumerate(sheets):
        if number < first or sheet.stock != part.part.stock:
            continue
        there = [p for p in lying if p.sheet == number and p.part in result.parts]
        frame, bars = room_of(sheet.width, sheet.height, *shape_of(sheet), margin, gap)
        taken = [lying_shape(result.parts[p.part], p, gap) for p in there]
        yield number, sheet, SheetToFill(sheet.width, sheet.height, 0.0, frame, (*bars, *taken))
    for facts in part.stock.sheets:
        kind = kind_of(0, facts, margin, gap)
        fresh = laid_sheet(part.part.stock, kind.ground(), [kind])
        if facts.at_hand is None or sheets.count(fresh) < facts.at_hand:
            yield len(sheets), fresh, kind.ground()
