"""The gaps of joints as they came off the machine, by what was measured."""

from __future__ import annotations

from ..evaluate import Result
from ..project.project import Project
from .explained import explained
from .sheets import earlier


def measured_gaps(project: Project, result: Result) -> list[float | None]:
    """The gap (mm) of each row of the ledger, in its order, as wide as the measured kerf made it.

    An opening gains by how much the kerf is wider than its file was written for, an insert that is cut loses as much;
    None where nothing is known of a stock on the machine in use.
    """
    wider = {stock.id: _wider(project, stock.id) for stock in project.stocks}
    found: list[float | None] = []
    for row in result.ledger:
        ids = [row.opening_part, *([row.insert_part] if row.insert_at is not None else [])]
        more = [wider.get(part.stock) if (part := project.part(one)) else None for one in ids]
        known = [one for one in more if one is not None]
        found.append(row.gap + sum(known) if len(known) == len(ids) else None)
    return found


def _wider(project: Project, stock: str) -> float | None:
    """By how much (mm) the kerf of the parts that were measured last is wider than their file was written for."""
    sheets = [one for one in project.measured if (one.stock, one.machine) == (stock, project.machine)]
    if not sheets:
        return None
    kerf = explained(sheets[-1], earlier(project, sheets[-1])).of("kerf")
    return kerf.value if kerf.known else None
