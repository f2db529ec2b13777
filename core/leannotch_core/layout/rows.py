"""Many equal parts in rows, as close as they lie: alone or in pairs turned about, row upon row, each a bit aside."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from .bed import Item, SheetToFill, Spot, Table
from .innermost.contact import Numbers, lay, outside
from .innermost.corners import barred
from .innermost.lattice import contact, pitch, rise
from .turns import turns_that_fit

#: From so many equal ones on it is worth while.
LEAST = 12
#: Lifts of a turned neighbour, the best few of which are followed; and how far a row may lie aside, in so many steps.
_LIFTS, _FOLLOWED, _ASIDE = 9, 3, 12


@dataclass(frozen=True)
class RowPattern:
    """A pattern: the ``unit``, rows of x, y and turn, repeated by ``step`` along a row, which is ``rise`` high.

    Each row lies ``aside`` of the one below it. ``upright`` rows run up the sheet instead of across. All mm, degrees.
    """

    unit: Numbers
    step: float
    rise: float
    aside: float
    upright: bool


def in_rows(items: Sequence[Item], ground: SheetToFill) -> list[Spot]:
    """Equal items in the rows that use least of a sheet; as many as find room there."""
    best: tuple[float, list[Spot]] = (np.inf, [])
    for rows in _patterns(items[0], ground):
        spots = _laid(items, ground, rows)
        left, bottom, _, _ = ground.frame
        if spots:
            boxes = shapely.bounds([spot.polygon() for spot in spots])
            width, height = boxes[:, 2].max() - left, boxes[:, 3].max() - bottom
            used = min(width * (ground.frame[3] - bottom), height * (ground.frame[2] - left))
            best = min(best, (used / len(spots), spots), key=lambda some: (-len(some[1]), some[0]))
    return best[1]


def _patterns(item: Item, ground: SheetToFill) -> Iterator[RowPattern]:
    turns = turns_that_fit(item.shape, item.turns, ground.frame)
    seen_already: set[float] = set()
    for turn in turns:
        about = not item.turns or any(abs((turn + 180) % 360 - other % 360) < 1e-9 for other in item.turns)
        if about and round(turn % 180, 6) in seen_already:
            continue
        seen_already.add(round(turn % 180, 6))
        for upright in (False, True):
            # Upright rows are those of the shape turned by a quarter, turned back with all that lies there.
            seen = turn + 90.0 if upright else turn
            table = Table([item, item], [ground])
            table.bed.sheet[:2] = 0
            for pairs in (False, True) if about else (False,):
                unit, step = _unit(table, seen, pairs)
                up, aside = _closest(table, unit, step)
                yield RowPattern(unit, step, up, aside, upright)


def _far(table: Table, turn: float) -> float:
    lay(table.shapes, table.bed, 0, 0.0, 0.0, turn)
    left, bottom, right, top = table.bed.box[0].tolist()
    return 1.1 * float(np.hypot(right - left, top - bottom))


def _unit(table: Table, turn: float, pairs: bool) -> tuple[Numbers, float]:
    """What is repeated along a row, and by how much: one, or with ``pairs`` one and its neighbour turned about."""
    shapes, bed, far = table.shapes, table.bed, 2 * _far(table, turn)
    if not pairs:
        lay(shapes, bed, 0, 0.0, 0.0, turn)
        return np.array([[0.0, 0.0, turn]]), float(contact(shapes, bed, 0.0, 0.0, turn, True, far))
    low, high = float(table.bed.box[0, 1]), float(table.bed.box[0, 3])
    found = []
    # Turned about, it reaches from -high to -low: lifted by their sum, both are level.
    for lift in (low + high + np.linspace(-0.5, 0.5, _LIFTS) * (high - low)).tolist():
        beside, step = pitch(shapes, bed, turn, lift, far)
        height = max(high, lift - low) - min(low, lift - high)
        found.append((float(step) * height, np.array([[0.0, 0.0, turn], [beside, lift, turn + 180.0]]), float(step)))
    found.sort(key=lambda some: some[0])
    close = [(step * _closest(table, unit, step)[0], n) for n, (_, unit, step) in enumerate(found[:_FOLLOWED])]
    _, unit, step = found[min(close)[1]]
    return unit, step


def _closest(table: Table, unit: Numbers, step: float) -> tuple[float, float]:
    """The least rise from row to row, and how far aside the next one then lies."""
    far = _far(table, float(unit[0, 2])) + float(np.ptp(unit[:, 1]))

    def up(aside: float) -> float:
        return float(rise(table.shapes, table.bed, unit, step, aside, far))

    best = min((up(share * step), share) for share in np.arange(_ASIDE) / _ASIDE)
    fine = best[1] + np.linspace(-0.9, 0.9, 7) / _ASIDE
    return min((*((up(share * step), share * step % step) for share in fine), (best[0], best[1] * step)))


def _laid(items: Sequence[Item], ground: SheetToFill, rows: RowPattern) -> list[Spot]:
    """Items laid row by row while there is room; a place that is barred is left out."""
    table = Table(list(items), [ground])
    bed, shapes = table.bed, table.shapes
    left, bottom, right, top = ground.frame
    length, height = (top - bottom, right - left) if rows.upright else (right - left, top - bottom)
    corner = _corner(table, rows.unit)
    waiting = list(range(len(items)))
    for row in range(int(height / max(rows.rise, 1e-3)) + 1):
        for along in range(-1, int(length / rows.step) + 2):
            for x, y, turn in rows.unit.tolist():
                if not waiting:
                    return table.spots()[0]
                ahead = x - corner[0] + along * rows.step + row * rows.aside % rows.step
                up = y - corner[1] + row * rows.rise
                thing = waiting[-1]
                bed.sheet[thing] = 0
                # Upright rows run down from the top, each to the right of the last.
                if rows.upright:
                    lay(shapes, bed, thing, left + up, top - ahead, turn - 90.0)
                else:
                    lay(shapes, bed, thing, left + ahead, bottom + up, turn)
                if outside(shapes, bed, thing) > 0.0 or barred(shapes, bed, thing) >= 0:
                    bed.sheet[thing] = -1
                else:
                    waiting.pop()
    return table.spots()[0]


def _corner(table: Table, unit: Numbers) -> tuple[float, float]:
    """Left end of the first of a unit, and the lower side of all of it."""
    boxes = []
    for x, y, turn in unit.tolist():
        lay(table.shapes, table.bed, 0, x, y, turn)
        boxes.append(table.bed.box[0].copy())
    return float(boxes[0][0]), float(min(box[1] for box in boxes))
