"""A layout that was found while the maker went on working: taken where it is still true."""

from __future__ import annotations

from ..document.sheet import Layout, Placement
from ..project.project import Project


def merged(began: Project, now: Project, found: Layout) -> Layout | None:
    """The layout that was ``found`` for the project as it ``began``, for the project as it is ``now``.

    Copies that are gone are left out, and so are those of parts that have another stock or other turns. None where
    spacing, sheets or what lies where it was put by hand have changed: then it answers another question.
    """
    before, after = began.layout, now.layout
    if (before.margin, before.gap) != (after.margin, after.gap) or _held(before) != _held(after):
        return None
    known = {stock.id: (stock.sheets, stock.grain) for stock in began.stocks}
    if any((stock.sheets, stock.grain) != known.get(stock.id) for stock in now.stocks if stock.id in known):
        return None
    laid = {part.id: (part.stock, part.turns, part.both_faces) for part in began.parts}
    counts = {p.id: p.count for p in now.parts if (p.stock, p.turns, p.both_faces) == laid.get(p.id)}
    done = after.finished
    placements = [
        p for p in found.placements if p.copy_number <= counts.get(p.part, 0) and (p.part, p.copy_number) not in done
    ]
    parts = [part for part in found.laid if part.part in counts]
    return after.model_copy(update={"sheets": found.sheets, "placements": placements, "laid": parts})


def _held(layout: Layout) -> list[Placement]:
    return sorted((p for p in layout.placements if p.held), key=lambda p: (p.part, p.copy_number))
