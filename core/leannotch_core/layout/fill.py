"""A first layout at once: each item goes to the first free corner from the left, round whatever lies already."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import groupby

import numpy as np
import shapely
from shapely import Polygon

from .bed import Item, SheetToFill, Spot, Table
from .innermost.contact import lay
from .innermost.corners import first_free, settled
from .rows import LEAST, in_rows
from .turns import is_square, turns_that_fit


def fits(item: Item, ground: SheetToFill) -> bool:
    """Whether an item fits an empty sheet in one of its turns, as far as the frame goes."""
    return bool(turns_that_fit(item.shape, item.turns, ground.frame))


#: What items are laid by: those for which it is more come first.
Size = Callable[[Item], float]


class Filling:
    """Items being laid one by one on the grounds of a table."""

    def __init__(self, table: Table) -> None:
        self.table = table
        self._movable = table.search.movable
        # Where edges are not level or upright, no corner tells where there is room.
        self._steps = 0 if all(is_square(bar) for ground in table.grounds for bar in ground.bars) else 16
        barred = [bar for ground in table.grounds for bar in ground.bars]
        self._square = np.array(
            [is_square(s) for s in [*(item.shape for item in table.items), *barred]], dtype=np.int64
        )
        #: From where on there may be room for a shape in a turn on a sheet.
        self._from: dict[tuple[int, float, int], float] = {}

    def lay(self, thing: int, sheet: int) -> bool:
        """Lays an item in the first free corner of a sheet, as it ends least far to the right."""
        bed, shapes, item = self.table.bed, self.table.shapes, self.table.items[thing]
        best, most = None, np.inf
        for shape in self.table.search.faces[thing].tolist():
            if shape < 0:
                continue
            bed.shape[thing] = shape
            for turn in turns_that_fit(item.shape, item.turns, self.table.grounds[sheet].frame):
                if not self._first(thing, sheet, turn, most):
                    continue
                if not self._square[thing]:
                    settled(shapes, bed, thing)
                # What ends as far as another does, ends no less far.
                most, best = float(bed.box[thing, 2]) - 1e-6, (shape, *bed.pose[thing].tolist())
        if best is None:
            bed.sheet[thing] = -1
            return False
        bed.sheet[thing], bed.shape[thing] = sheet, best[0]
        lay(shapes, bed, thing, *best[1:])
        return True

    def _first(self, thing: int, sheet: int, turn: float, most: float) -> bool:
        """The first free corner for an item; where equal ones found none, it is not looked for again."""
        bed = self.table.bed
        key = int(bed.shape[thing]), turn, sheet
        least = self._from.get(key, -np.inf)
        found = least < np.inf and first_free(
            self.table.shapes, bed, self._square, thing, sheet, turn, least, most, self._steps, self._movable
        )
        if found:
            self._from[key] = float(bed.box[thing, 0])
        elif most == np.inf:
            self._from[key] = np.inf
        return found


def by_area(item: Item) -> float:
    """How large an item is, in mm²."""
    return float(item.shape.area)


def largest_first(items: Sequence[Item], size: Size = by_area) -> list[list[Item]]:
    """Items that should lie together as one, the others one by one; the largest first."""

    def order(item: Item) -> tuple[float, str, int]:
        return -size(item), item.part, item.copy_number

    named = sorted((item for item in items if item.group), key=lambda item: item.group)
    groups = [list(some) for _, some in groupby(named, key=lambda item: item.group)]
    batches = [*groups, *([item] for item in items if not item.group)]
    for batch in batches:
        batch.sort(key=order)
    return sorted(batches, key=lambda batch: (-sum(map(size, batch)), order(batch[0])))


def fill(ground: SheetToFill, items: Sequence[Item], apart: bool = False, size: Size = by_area) -> list[Item]:
    """Lays on a sheet what finds room there, the largest by ``size`` first, and returns what does not.

    What should lie together is laid together or not at all, unless it may be set ``apart``. Where most of it is equal,
    rows of it are tried too.
    """
    wanted = [item for item in items if fits(item, ground)]
    if not wanted:
        return list(items)
    spots = _in_corners(ground, wanted, apart, size)
    many = [] if ground.spots else _many(wanted)
    if many:
        rows = ground.of_frame(ground.frame, in_rows(many, ground))
        there = {id(spot.item) for spot in rows.spots}
        rows.spots = _in_corners(rows, [item for item in wanted if id(item) not in there], apart, size)
        spots = min(spots, rows.spots, key=lambda some: (-sum(s.item.shape.area for s in some), reach(some)))
    ground.spots[:] = spots
    there = {id(spot.item) for spot in spots}
    return [item for item in items if id(item) not in there]


def _many(items: Sequence[Item]) -> list[Item]:
    """The copies of the part that most of the material is of, if there are many."""
    area: Counter[str] = Counter()
    plain = [item for item in items if not item.riders and not item.group]
    for item in plain:
        area[item.part] += item.shape.area
    part, most = max(area.items(), key=lambda some: some[1], default=("", 0.0))
    many = [item for item in plain if item.part == part]
    return many if len(many) >= LEAST and most > 0.5 * sum(item.shape.area for item in items) else []


def reach(spots: Sequence[Spot]) -> float:
    """How far to the right things reach, mm."""
    return max((spot.polygon().bounds[2] for spot in spots), default=0.0)


def _in_corners(ground: SheetToFill, wanted: Sequence[Item], apart: bool, size: Size) -> list[Spot]:
    table = Table([*(spot.item for spot in ground.spots), *wanted], [ground])
    for spot in ground.spots:
        table.put(spot, 0)
    filling, free = Filling(table), ground.room - sum(spot.item.shape.area for spot in ground.spots)
    thing = {id(item): index for index, item in enumerate(table.items)}
    for batch in largest_first(wanted, size):
        laid = [item for item in batch if item.shape.area <= free and filling.lay(thing[id(item)], 0)]
        if len(laid) < len(batch) and not apart:
            table.bed.sheet[[thing[id(item)] for item in batch]] = -1
        else:
            free -= sum(item.shape.area for item in laid)
    return table.spots()[0]


def riding(items: Sequence[Item]) -> list[Item]:
    """Items with smaller ones laid in their cut-outs; what rides is not in the answer by itself."""
    waiting = [item for batch in largest_first(items) for item in batch]
    answer: list[Item] = []
    while waiting:
        host = waiting.pop(0)
        loaded = _loaded(host, waiting)
        gone = {id(rider.item) for rider in loaded.riders}
        waiting = [item for item in waiting if id(item) not in gone]
        answer.append(loaded)
    return answer


def _loaded(host: Item, others: Sequence[Item]) -> Item:
    """The host with what fits of the others in its cut-outs, which are closed where something lies."""
    riders: list[Spot] = []
    still_open = []
    for hole in host.shape.interiors:
        room = Polygon(hole)
        taken = {id(rider.item) for rider in riders}
        small = [item for item in others if item.shape.area <= room.area and id(item) not in taken]
        laid = _laid_in(room, host, [item for item in small if item.group in ("", host.group)])
        riders += laid
        if not laid:
            still_open.append(hole)
    if not riders:
        return host
    turns = _turns_together(host, riders)
    return Item(
        host.part, host.copy_number, Polygon(host.shape.exterior, still_open), turns, host.group, False, tuple(riders)
    )


def _laid_in(room: Polygon, host: Item, items: Sequence[Item]) -> list[Spot]:
    """What finds room in a cut-out of ``host``, in the frame of that."""
    if not items:
        return []
    # Turned with their host, they are to lie as they may.
    ahead = host.turns[0] if host.turns else 0.0
    meant = [replace(item, turns=tuple((turn - ahead) % 360 for turn in item.turns), group="") for item in items]
    left, bottom, right, top = room.bounds
    beyond = shapely.box(left - 1, bottom - 1, right + 1, top + 1).difference(room)
    ground = SheetToFill(right - left, top - bottom, 0.0, room.bounds, tuple(shapely.get_parts(beyond)))
    fill(ground, meant)
    itself = {id(copy): item for copy, item in zip(meant, items, strict=True)}
    return [replace(spot, item=itself[id(spot.item)]) for spot in ground.spots]


def _turns_together(host: Item, riders: Sequence[Spot]) -> tuple[float, ...]:
    """The turns of a host in which all that rides in it lies as it may; none where it and they may have any."""
    held = [{round((turn - rider.turn) % 360, 9) for turn in rider.item.turns} for rider in riders if rider.item.turns]
    if not held:
        return host.turns
    common = set.intersection(*held)
    if not host.turns:
        return tuple(sorted(common))
    return tuple(turn for turn in host.turns if round(turn % 360, 9) in common)
