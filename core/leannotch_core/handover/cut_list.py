"""The cut list: every part with its count, size, stock and sheets, as comma-separated values (RFC 4180)."""

from __future__ import annotations

import csv
import io

from ..evaluate import Result
from ..project.project import Project


def write_cut_list(project: Project, result: Result) -> bytes:
    """A row for each part that can be built; sizes are those of the finished part, in mm."""
    written = io.StringIO()
    rows = csv.writer(written, lineterminator="\r\n")
    rows.writerow(["part", "count", "width mm", "height mm", "thickness mm", "stock", "sheets", "gathered"])
    gathered = {(copy.part, copy.copy_number) for copy in project.preparation.gathered}
    for part in project.parts:
        found, stock = result.parts.get(part.id), project.stock(part.stock)
        if found is None or stock is None:
            continue
        left, bottom, right, top = found.outline.bounds
        on = sorted({p.sheet + 1 for p in project.layout.placements if p.part == part.id})
        done = sum(own == part.id and number <= part.count for own, number in gathered)
        size = [f"{right - left:.2f}", f"{top - bottom:.2f}", f"{found.stock.thickness:.2f}"]
        rows.writerow([_safe(part.name), part.count, *size, _safe(stock.name), " ".join(map(str, on)), done])
    return b"\xef\xbb\xbf" + written.getvalue().encode()


def _safe(text: str) -> str:
    """A name that no table program takes for a formula."""
    return f"'{text}" if text[:1] in "=+-@" else text
