"""What a project costs, as comma-separated values (RFC 4180)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..project.project import Project
from ..separated import as_text, separated
from .rates import UNITS, Rates
from .taken import Taken


def write_costs(project: Project, found: Sequence[Taken], rates: Rates) -> bytes:
    """A row for all that each part takes on each sheet; a column is empty where there is no rate."""
    money = f" {rates.money}" if rates.money else ""
    header = ["sheet", "part", "what", "name", "amount", "unit", f"rate{money}", f"cost{money}"]
    return separated([header, *_rows(project, found, rates)])


def _rows(project: Project, found: Sequence[Taken], rates: Rates) -> Iterator[list[object]]:
    names = {part.id: part.name for part in project.parts}
    for one in found:
        each = rates.worth(one.driver, one.name)
        sheet = "" if one.sheet is None else one.sheet + 1
        worth = ["", ""] if each is None else [f"{each:.2f}", f"{one.amount * each:.4f}"]
        what = [sheet, as_text(names.get(one.part, "")), one.driver, as_text(one.name)]
        yield [*what, f"{one.amount:.6f}", UNITS[one.driver], *worth]
