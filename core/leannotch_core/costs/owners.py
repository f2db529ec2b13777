"""What the sheets of several makers take of a day and cost, added up by whose they are."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import groupby

from pydantic import BaseModel

from ..separated import as_text, separated
from .cost import cost_lines, total_of
from .rates import Rates
from .taken import Taken


@dataclass(frozen=True, slots=True)
class OwnedSheet:
    """A sheet, whose it is, how long (s) the machine is at it, whether it is ``cut``, and whether it is ``late``."""

    owner: str
    seconds: float
    cut: bool
    late: bool
    taken: Sequence[Taken]


class OwnerCost(BaseModel):
    """The sheets of one maker: how many, how many of them are cut, how long (s) the machine has still to go on with
    them, how many are late, and what all of them cost. ``lacking`` is how many things have no rate.
    """

    owner: str
    sheets: int
    cut: int
    seconds_left: float
    late: int
    total: float
    lacking: int


def by_owner(sheets: Iterable[OwnedSheet], rates: Rates) -> list[OwnerCost]:
    """A row for each maker, by name."""

    def name(sheet: OwnedSheet) -> str:
        return sheet.owner

    return [_row(owner, list(own), rates) for owner, own in groupby(sorted(sheets, key=name), name)]


def write_owners(rows: Iterable[OwnerCost], money: str) -> bytes:
    """The same as comma-separated values (RFC 4180): times in minutes, and how many things have no rate."""
    cost = f"cost {money}".strip()
    header = ["maker", "sheets", "cut", "minutes to go", "late", cost, "without a rate"]
    return separated([header, *(_written(row) for row in rows)])


def _written(row: OwnerCost) -> list[object]:
    minutes = f"{row.seconds_left / 60:.1f}"
    return [as_text(row.owner), row.sheets, row.cut, minutes, row.late, f"{row.total:.2f}", row.lacking]


def _row(owner: str, own: Sequence[OwnedSheet], rates: Rates) -> OwnerCost:
    lines = cost_lines([one for sheet in own for one in sheet.taken], rates)
    return OwnerCost(
        owner=owner,
        sheets=len(own),
        cut=sum(sheet.cut for sheet in own),
        seconds_left=sum(sheet.seconds for sheet in own if not sheet.cut),
        late=sum(sheet.late and not sheet.cut for sheet in own),
        total=total_of(lines),
        lacking=sum(line.total is None for line in lines),
    )
