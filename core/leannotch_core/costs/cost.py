"""What it costs: what is taken, at the workshop's rates. What has no rate is told, and counts nothing."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence

from pydantic import BaseModel

from ..project.project import Project
from .rates import UNITS, Driver, Rates
from .taken import Taken, summed

#: For so many sets it is told what one costs.
SETS = (1, 10, 100)


class CostLine(BaseModel):
    """``amount`` (in its ``unit``) of something: what ``each`` is worth and the ``total``, None without a rate."""

    driver: Driver
    name: str
    amount: float
    unit: str
    each: float | None
    total: float | None


class SheetCost(BaseModel):
    """What a sheet (from 0) costs, and what that consists of."""

    sheet: int
    lines: list[CostLine]
    total: float


class PartCost(BaseModel):
    """What each of the ``copies`` of a part that are laid costs, by itself: without what is done once, or by sheet."""

    part: str
    name: str
    copies: int
    each: float
    lines: list[CostLine]


class SetsCost(BaseModel):
    """What ``each`` of so many sets costs, all cut as this one is: what is done once is shared by them."""

    sets: int
    each: float


class Cost(BaseModel):
    """What a project costs. ``unlaid`` copies lie on no sheet and are not counted; ``lacking`` lines have no rate."""

    money: str
    lines: list[CostLine]
    total: float
    sheets: list[SheetCost]
    parts: list[PartCost]
    sets: list[SetsCost]
    unlaid: int
    lacking: int


def cost_of(project: Project, found: Sequence[Taken], rates: Rates) -> Cost:
    """What is taken, summed up for the whole, by sheet, by part and by set."""
    lines = cost_lines(found, rates)
    total = total_of(lines)
    once = total_of(cost_lines([one for one in found if one.sheet is None], rates))
    laid = {(placement.part, placement.copy_number) for placement in project.layout.placements}
    return Cost(
        money=rates.money,
        lines=lines,
        total=total,
        sheets=[_sheet(index, found, rates) for index in range(len(project.layout.sheets))],
        parts=list(_parts(project, found, rates)),
        sets=[SetsCost(sets=sets, each=once / sets + total - once) for sets in SETS],
        unlaid=sum((part.id, n + 1) not in laid for part in project.parts for n in range(part.count)),
        lacking=sum(line.each is None for line in lines),
    )


def cost_lines(found: Iterable[Taken], rates: Rates) -> list[CostLine]:
    """A line for each thing, in the order of `UNITS` and of what is taken first."""
    order = list(UNITS)
    return [
        _line(driver, name, amount, rates.worth(driver, name))
        for (driver, name), amount in sorted(summed(found).items(), key=lambda kept: order.index(kept[0][0]))
    ]


def total_of(lines: Iterable[CostLine]) -> float:
    """What lines that have a rate come to."""
    return sum(line.total for line in lines if line.total is not None)


def _line(driver: Driver, name: str, amount: float, each: float | None) -> CostLine:
    total = None if each is None else amount * each
    return CostLine(driver=driver, name=name, amount=amount, unit=UNITS[driver], each=each, total=total)


def _sheet(index: int, found: Iterable[Taken], rates: Rates) -> SheetCost:
    lines = cost_lines([one for one in found if one.sheet == index], rates)
    return SheetCost(sheet=index, lines=lines, total=total_of(lines))


def _parts(project: Project, found: Sequence[Taken], rates: Rates) -> Iterator[PartCost]:
    laid = Counter(placement.part for placement in project.layout.placements)
    for part in project.parts:
        if copies := laid[part.id]:
            lines = cost_lines([one for one in found if one.part == part.id], rates)
            yield PartCost(part=part.id, name=part.name, copies=copies, each=total_of(lines) / copies, lines=lines)
