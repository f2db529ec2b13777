"""What a project takes: of stock, of time at the machine and by hand, of cutters, bends and pieces."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import shapely
from shapely import Polygon

from ..evaluate import Result
from ..geometry.segment import Point
from ..layout.offcuts import offcuts
from ..layout.sheets import placed, shape_of
from ..machining.ready import Prepared
from ..project.project import Project
from .rates import Driver, HandWork


@dataclass(frozen=True, slots=True)
class Taken:
    """So much (``amount``, in the driver's unit) of something, on a sheet (from 0; None: for the project once) and for
    a part, by its id; "" where it is for none in particular.
    """

    driver: Driver
    name: str
    amount: float
    sheet: int | None
    part: str = ""


def summed(found: Iterable[Taken]) -> dict[tuple[Driver, str], float]:
    """How much of each thing is taken in all, what is taken first before what comes later."""
    amounts: dict[tuple[Driver, str], float] = defaultdict(float)
    for one in found:
        amounts[one.driver, one.name] += one.amount
    return amounts


def taken(project: Project, result: Result, sheets: Sequence[Prepared], work: HandWork) -> list[Taken]:
    """All that is taken by the sheets of a project, made ready in their order. Raises `SizeError` for its margin."""
    found = [Taken("hand", "", work.once / 60, None)] if work.once else []
    for index, ready in enumerate(sheets):
        found += sheet_taken(project, result, index, ready, work)
    return found


def sheet_taken(project: Project, result: Result, index: int, ready: Prepared, work: HandWork) -> list[Taken]:
    """What one sheet takes. Parts share its stock by their areas, the waste too; offcuts that are kept are no waste."""
    return [
        *_stock(project, result, index),
        *_time(ready, index),
        *_cutters(project, ready, index),
        *_pieces(project, result, index, work),
    ]


def _stock(project: Project, result: Result, index: int) -> Iterator[Taken]:
    sheet = project.layout.sheets[index]
    outline, _ = shape_of(sheet)
    whole = _polygon(outline) if outline else shapely.box(0, 0, sheet.width, sheet.height)
    lacks = [_polygon([complex(c.x, c.y) for c in b.corners]) for b in sheet.barred if b.what == "missing"]
    there = whole.difference(shapely.union_all(lacks)).area
    gone = max(0.0, there - sum(offcut.area for offcut in offcuts(project, result, index)))
    areas: Counter[str] = Counter()
    for placement in project.layout.placements:
        if placement.sheet == index and placement.part in result.parts:
            areas[placement.part] += placed(result.parts[placement.part].outline, placement).area
    stock = project.stock(sheet.stock)
    name, total = stock.name if stock else sheet.stock, sum(areas.values())
    for part, area in areas.items():
        yield Taken("stock", name, gone * area / total / 1e6, index, part)


def _polygon(corners: Sequence[Point]) -> Polygon:
    return Polygon([(corner.real, corner.imag) for corner in corners])


def _time(ready: Prepared, index: int) -> Iterator[Taken]:
    """The machine's hours by part; what goes by between them and before is for none in particular."""
    seconds: dict[str, float] = defaultdict(float)
    for row in ready.rows:
        seconds[row.part] += row.seconds
    for part, took in seconds.items():
        yield Taken("machine", ready.machine.name, took / 3600, index, part)
    rest = ready.seconds - sum(seconds.values())
    if rest > 1e-6:
        yield Taken("machine", ready.machine.name, rest / 3600, index)


def _cutters(project: Project, ready: Prepared, index: int) -> Iterator[Taken]:
    """Metres that each cutter of a router goes through the stock."""
    names = {cutter.id: cutter.name for cutter in project.cutters}
    metres: dict[tuple[str, str], float] = defaultdict(float)
    for move in ready.moves:
        if move.cutter and move.power is not None and min(move.z, move.from_z) < 0:
            metres[move.cutter, ready.plan.jobs[move.job].key.part] += move.length / 1000
    for (cutter, part), amount in metres.items():
        yield Taken("cutter", names.get(cutter, cutter), amount, index, part)


def _pieces(project: Project, result: Result, index: int, work: HandWork) -> Iterator[Taken]:
    copies = Counter(p.part for p in project.layout.placements if p.sheet == index and p.part in result.parts)
    for part, count in copies.items():
        yield Taken("piece", "", count, index, part)
        if bends := len(result.parts[part].bends):
            yield Taken("bend", "", count * bends, index, part)
        if work.piece:
            yield Taken("hand", "", count * work.piece / 60, index, part)
    if work.sheet and copies:
        yield Taken("hand", "", work.sheet / 60, index)
