"""The cut list: every part with its count, size, stock and sheets, as comma-separated values (RFC 4180)."""

from __future__ import annotations

from collections.abc import Iterator

from ..costs.cost import Cost
from ..evaluate import Result
from ..project.project import Project
from ..separated import as_text, separated


def write_cut_list(project: Project, result: Result, cost: Cost | None = None) -> bytes:
    """A row for each part that can be built; sizes are those of the finished part, in mm, and what one of it costs."""
    header = ["part", "count", "width mm", "height mm", "thickness mm", "stock", "sheets", "gathered"]
    if cost is None:
        return separated([header, *(row for _, row in _rows(project, result))])
    each = {part.part: f"{part.each:.2f}" for part in cost.parts}
    rows = [[*row, each.get(part, "")] for part, row in _rows(project, result)]
    return separated([[*header, f"cost each {cost.money}".strip()], *rows])


def _rows(project: Project, result: Result) -> Iterator[tuple[str, list[object]]]:
    gathered = {(copy.part, copy.copy_number) for copy in project.preparation.gathered}
    for part in project.parts:
        found, stock = result.parts.get(part.id), project.stock(part.stock)
        if found is None or stock is None:
            continue
        left, bottom, right, top = found.outline.bounds
        on = sorted({p.sheet + 1 for p in project.layout.placements if p.part == part.id})
        done = sum(own == part.id and number <= part.count for own, number in gathered)
        size = [f"{right - left:.2f}", f"{top - bottom:.2f}", f"{found.stock.thickness:.2f}"]
        sheets = " ".join(map(str, on))
        yield part.id, [as_text(part.name), part.count, *size, as_text(stock.name), sheets, done]
