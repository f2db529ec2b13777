"""The gaps of joints as they came off the machine, by what was measured."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace

from ..evaluate import Result
from ..facts.kerf import Walls
from ..joints.fit import Mating
from ..joints.walls import lying, with_walls
from ..project.project import Project
from .explained import explained
from .sheets import earlier

#: A gap (mm) on the upper and on the lower face of its opening.
OnFaces = tuple[float, float]


def measured_gaps(project: Project, result: Result) -> list[OnFaces | None]:
    """The gaps of each row of the ledger, in its order, as wide as the measured kerf made them on both faces.

    An opening gains by how much the kerf is wider than its file was written for, an insert that is cut loses as much;
    None where nothing is known of a stock on the machine in use.
    """
    walls = {stock.id: found for stock in project.stocks if (found := _walls(project, result, stock.id))}
    stocks = {
        part.id: replace(result.stocks[part.stock], walls=walls[part.stock])
        for part in project.parts
        if part.stock in walls and part.stock in result.stocks
    }
    made = with_walls(result.pairs, stocks, lying(project.layout.placements))
    return [(row.gap + row.above, row.gap + row.below) if _known(row, stocks.keys()) else None for row in made]


def _known(row: Mating, parts: Set[str]) -> bool:
    ids = {row.opening_part, *([row.insert_part] if row.insert_at is not None else [])}
    return ids <= parts


def _walls(project: Project, result: Result, stock: str) -> Walls | None:
    """By how much (mm) the cuts that were measured last are wider on both faces than their file was written for."""
    sheets = [one for one in project.measured if (one.stock, one.machine) == (stock, project.machine)]
    if not sheets or stock not in result.stocks:
        return None
    told = explained(sheets[-1], earlier(project, sheets[-1]))
    kerf, taper = told.of("kerf"), told.of("taper")
    if not kerf.known:
        return None
    above, below = result.stocks[stock].walls.faces
    return Walls(kerf.value, kerf.value + (taper.value if taper.known else below - above))
