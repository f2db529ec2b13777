"""The layout that a project has, to go on from: what is found later is never worse than what was there."""

from __future__ import annotations

from collections import Counter

from ..document.sheet import LaidSheet, Placement
from ..project.project import Project
from .bed import Item, SheetToFill, Spot, Table
from .innermost.contact import outside
from .innermost.corners import barred
from .kinds import SheetKind
from .stack import Stack, laid_sheet


def resumed(project: Project, stack: Stack) -> list[SheetToFill] | None:
    """The grounds of a stock as the project's layout has them.

    None where something does not lie there yet, lies wrong, or lies on a sheet that is not at hand any more.
    """
    known = {(p.part, p.copy_number): p for p in project.layout.placements if p.sheet < len(project.layout.sheets)}
    spots: dict[int, list[Spot]] = {index: [] for index in stack.held}
    for item in stack.items:
        placement = known.get((item.part, item.copy_number))
        if placement is None or not _may_lie(item, placement):
            return None
        spot = Spot(item, placement.x, placement.y, placement.turn, placement.mirrored)
        spots.setdefault(placement.sheet, []).append(spot)
    held = dict(zip(sorted(stack.held), stack.grounds, strict=False))
    used = Counter[int]()
    grounds = []
    for index in sorted(spots, key=lambda index: (index not in held, index)):
        ground = held.get(index) or _fresh(project.layout.sheets[index], stack, used)
        if ground is None:
            return None
        grounds.append(ground.of_frame(ground.frame, spots[index]))
    return grounds if all(map(_is_right, grounds)) else None


def _may_lie(item: Item, placement: Placement) -> bool:
    return (not item.turns or placement.turn % 360 in item.turns) and (item.both_faces or not placement.mirrored)


def _fresh(sheet: LaidSheet, stack: Stack, used: Counter[int]) -> SheetToFill | None:
    """One more of the kind that a sheet is of, if there is one."""

    def is_of(kind: SheetKind) -> bool:
        free = kind.at_hand is None or used[kind.number] < kind.at_hand
        return free and laid_sheet(stack.stock, kind.ground(), stack.kinds) == sheet

    kind = next(filter(is_of, stack.kinds), None)
    if kind is None:
        return None
    used[kind.number] += 1
    return kind.ground()


def _is_right(ground: SheetToFill) -> bool:
    """Whether nothing overlaps or reaches out."""
    table = Table([spot.item for spot in ground.spots], [ground])
    for spot in ground.spots:
        table.put(spot, 0)
    shapes, bed = table.shapes, table.bed
    return all(barred(shapes, bed, thing) < 0 and not outside(shapes, bed, thing) for thing in range(len(ground.spots)))
