"""What is left whole of the sheets that are used."""

from __future__ import annotations

import shapely

from ..document.sheet import LaidSheet, Placement
from ..document.sums import SizeError
from ..evaluate import EvaluatedPart, Result
from ..geometry.loop import Outline
from ..project.project import Project
from ..remembered import remembered
from .rest import Rest, largest_rest
from .sheets import lying_on, moved_by, polygon_of, polygon_through, shape_of
from .spacing import spacing


def left_whole(project: Project, result: Result) -> list[Rest | None]:
    """The largest rectangle that is left of the last sheet of each stock, by sheets; None of the others."""
    try:
        _, gap = spacing(project, result)
    except SizeError:
        return [None] * len(project.layout.sheets)
    last = {sheet.stock: index for index, sheet in enumerate(project.layout.sheets)}
    return [
        _rest(sheet, lying_on(project, result, index), gap) if last[sheet.stock] == index else None
        for index, sheet in enumerate(project.layout.sheets)
    ]


def _rest(sheet: LaidSheet, on_sheet: list[tuple[Placement, EvaluatedPart]], gap: float) -> Rest | None:
    lying = tuple((part.outline, p.x, p.y, p.turn, p.mirrored) for p, part in on_sheet)
    return _known_rest(sheet.width, sheet.height, *shape_of(sheet), lying, gap)


@remembered(most=64)
def _known_rest(
    width: float,
    height: float,
    outline: tuple[complex, ...],
    barred: tuple[tuple[complex, ...], ...],
    lying: tuple[tuple[Outline, float, float, float, bool], ...],
    gap: float,
) -> Rest | None:
    """Kept, as most edits leave a sheet as it is."""
    taken = [polygon_of(part.moved(moved_by(x, y, turn, over))) for part, x, y, turn, over in lying]
    taken += [polygon_through(corners) for corners in barred]
    if outline:
        sheet = shapely.box(-1, -1, width + 1, height + 1)
        taken += shapely.get_parts(sheet.difference(polygon_through(outline))).tolist()
    return largest_rest(width, height, taken, gap)
