"""Better layouts of one stock: on fewer and cheaper sheets, and then with more of the last one left whole."""

from __future__ import annotations

import itertools
import os
import random
from collections import Counter
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor

import numpy as np

from .bed import Item, SheetToFill, Spot, Table
from .effort import Effort
from .fill import Size, fill
from .innermost.contact import lay, outside
from .innermost.corners import barred, settled
from .innermost.separation import moved_apart
from .kinds import SheetKind, cheaper

#: So many searches side by side, each with its own chance.
SIDES = min(2, os.cpu_count() or 1)
#: So many things are moved between two looks at the clock.
_AT_ONCE = 48
#: Passes without anything better until a search goes back to the best it had; and how often, until it is stirred.
_PATIENCE, _STRIKES = 80, 2
#: So often all things are slid, each as far as those before it leave room.
_SLIDES = 3


def fewer(
    grounds: list[SheetToFill], kinds: Sequence[SheetKind], effort: Effort, seed: int
) -> Iterator[list[SheetToFill]]:
    """The same items on sheets of less and less worth. Grounds that hold parts placed by hand stay."""
    held = [ground for ground in grounds if ground.kind < 0]
    items = [spot.item for ground in grounds for spot in ground.spots]
    tried: Counter[tuple[int, ...]] = Counter()
    worth = sum(ground.worth for ground in grounds if ground.kind >= 0)
    while not effort.over():
        choices = cheaper(kinds, items, held, worth)
        if not choices:
            return
        choice = min(choices, key=lambda some: (tried[some], -_room(some, kinds)))
        tried[choice] += 1
        # What turns out to be hopeless at once has been looked at all the same.
        effort.spent.rounds += 1
        fresh = _sheets(choice, kinds, held)
        share = 1.0 if len(choices) == 1 else 0.35
        spent = effort.part(share)
        found = _filled(fresh, items, spent.part(0.25), seed + tried[choice])
        found = found or separated(_kept(grounds, fresh), items, spent, seed + tried[choice])
        if found:
            grounds = [ground for ground in found if ground.spots or ground.kind < 0]
            worth = sum(ground.worth for ground in grounds if ground.kind >= 0)
            yield grounds


def tighter(grounds: list[SheetToFill], effort: Effort, seed: int) -> Iterator[list[SheetToFill]]:
    """The same items and sheets, with the last sheet used ever less far from the left or from below."""
    items = [spot.item for ground in grounds for spot in ground.spots]
    last = len(grounds) - 1
    if last < 0 or grounds[last].kind < 0 or not grounds[last].spots:
        return
    upward = _leaves_more_above(grounds[last])
    step = 0.02
    while step > 0.0005 and not effort.over():
        left, bottom, right, top = grounds[last].frame
        reach = max(spot.polygon().bounds[3 if upward else 2] for spot in grounds[last].spots)
        limit = reach - step * (reach - (bottom if upward else left))
        frame = (left, bottom, right, limit) if upward else (left, bottom, limit, top)
        shorter = [*grounds[:last], grounds[last].of_frame(frame)]
        found = separated(_kept(grounds, shorter), items, effort.part(0.15), seed)
        seed += 1
        if found is None:
            step /= 2
            continue
        step *= 1.2
        grounds = [*found[:last], found[last].of_frame((left, bottom, right, top))]
        if not grounds[last].spots:
            yield grounds[:last]
            return
        yield grounds


def _leaves_more_above(ground: SheetToFill) -> bool:
    left, bottom, right, top = ground.frame
    boxes = [spot.polygon().bounds for spot in ground.spots]
    beside = (right - max(box[2] for box in boxes)) * (top - bottom)
    return bool((top - max(box[3] for box in boxes)) * (right - left) > beside)


def _room(choice: tuple[int, ...], kinds: Sequence[SheetKind]) -> float:
    return sum(count * kind.room for count, kind in zip(choice, kinds, strict=True))


def _sheets(choice: tuple[int, ...], kinds: Sequence[SheetKind], held: Sequence[SheetToFill]) -> list[SheetToFill]:
    """Empty sheets of a choice, the largest first, after those that are held."""
    fresh = [kind.ground() for kind, count in zip(kinds, choice, strict=True) for _ in range(count)]
    fresh.sort(key=lambda ground: -ground.room)
    return [*(ground.of_frame(ground.frame, ()) for ground in held), *fresh]


def _filled(grounds: list[SheetToFill], items: Sequence[Item], effort: Effort, seed: int) -> list[SheetToFill] | None:
    """All items laid by filling sheet after sheet, if that is enough: in one order of the items after the other."""
    chance = random.Random(seed)
    for turn in itertools.count():
        if effort.over():
            return None
        effort.spent.rounds += 1
        found = [ground.of_frame(ground.frame) for ground in grounds]
        waiting = list(items)
        size = _order(items, turn, chance)
        for ground in found:
            waiting = fill(ground, waiting, size=size)
        if not waiting:
            return found
    return None


def _order(items: Sequence[Item], turn: int, chance: random.Random) -> Size:
    """What to order items by: their area, the longer side, the shorter one, and then any of these about so large."""
    boxes = [item.shape.bounds for item in items]
    sides = [sorted((right - left, top - bottom)) for left, bottom, right, top in boxes]
    ways = [[item.shape.area for item in items], [long for _, long in sides], [short for short, _ in sides]]
    # Copies of a part stay together: rows of them are laid at once.
    about = {item.part: chance.uniform(0.6, 1.4) if turn >= len(ways) else 1.0 for item in items}
    chosen = zip(items, ways[turn % len(ways)], strict=True)
    sizes = {(item.part, item.copy_number): size * about[item.part] for item, size in chosen}
    return lambda item: sizes[item.part, item.copy_number]


def _kept(grounds: Sequence[SheetToFill], fresh: Sequence[SheetToFill]) -> list[SheetToFill]:
    """The fresh grounds, with what lay on grounds of the same kind where it lay."""
    free = list(grounds)
    kept = []
    for ground in fresh:
        before = next((other for other in free if other.kind == ground.kind and other.bars == ground.bars), None)
        if before:
            free.remove(before)
        kept.append(ground.of_frame(ground.frame, before.spots if before else ()))
    return kept


def separated(
    grounds: Sequence[SheetToFill], items: Sequence[Item], effort: Effort, seed: int
) -> list[SheetToFill] | None:
    """All items on the grounds with nothing in the way of anything, or None; begun with what lies there."""
    searches = [_Search(grounds, items, seed * SIDES + side) for side in range(SIDES)]
    if any(search.hopeless for search in searches):
        return None
    with ThreadPoolExecutor(SIDES) as pool:
        while not effort.over():
            effort.spent.rounds += 1
            done = list(pool.map(_Search.step, searches))
            for search, free in zip(searches, done, strict=True):
                if free:
                    return search.result()
    return None


class _Search:
    """One search for places without overlaps: stirred where it makes no headway."""

    def __init__(self, grounds: Sequence[SheetToFill], items: Sequence[Item], seed: int) -> None:
        self._chance = random.Random(seed)
        self._table = Table(items, grounds, seed)
        self._pairs = np.zeros(self._table.search.weight.shape)
        self.hopeless = not self._begin()
        self._best, self._kept = np.inf, self._where()
        self._since = self._strikes = 0

    def _begin(self) -> bool:
        """Everything lies somewhere it may, whatever it lies on. What belongs together may only lie on one sheet."""
        table = self._table
        for sheet, ground in enumerate(table.grounds):
            for spot in ground.spots:
                table.put(spot, sheet)
        homes: dict[str, int] = {}
        for thing, item in enumerate(table.items):
            sheets = table.sheets_for(item)
            if item.group and sheets:
                lies = int(table.bed.sheet[thing])
                homes.setdefault(item.group, lies if lies in sheets else self._chance.choice(sheets))
                sheets = [sheet for sheet in sheets if sheet == homes[item.group]]
            if not sheets:
                return False
            table.search.sheets[thing] = False
            table.search.sheets[thing, sheets] = True
            if table.bed.sheet[thing] not in sheets:
                self._scatter(thing, self._chance.choice(sheets))
        return True

    def _scatter(self, thing: int, sheet: int) -> None:
        table = self._table
        left, bottom, right, top = table.grounds[sheet].frame
        turn = self._chance.choice(table.turns_on(thing, sheet))
        table.bed.sheet[thing] = sheet
        lay(table.shapes, table.bed, thing, self._chance.uniform(left, right), self._chance.uniform(bottom, top), turn)

    def step(self) -> bool:
        """One pass; whether nothing is in the way any more."""
        table = self._table
        total = moved_apart(table.shapes, table.bed, table.search, self._pairs, _AT_ONCE)
        if total <= 0.0:
            return True
        if total < self._best:
            self._best, self._kept, self._since = total, self._where(), 0
            return False
        self._since += 1
        if self._since > _PATIENCE:
            self._since = 0
            self._strikes += 1
            self._restore(self._kept)
            if self._strikes > _STRIKES:
                self._stir()
        return False

    def _where(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        bed = self._table.bed
        return bed.pose.copy(), bed.sheet.copy(), bed.shape.copy()

    def _restore(self, where: tuple[np.ndarray, np.ndarray, np.ndarray]) -> None:
        bed = self._table.bed
        bed.sheet[:], bed.shape[:] = where[1], where[2]
        for thing in range(len(self._table.items)):
            lay(self._table.shapes, bed, thing, *where[0][thing].tolist())

    def _stir(self) -> None:
        """Two of the larger things change places, and all pairs count the same again."""
        table, bed = self._table, self._table.bed
        large = sorted(range(len(table.items)), key=lambda thing: -table.shapes.size[bed.shape[thing]])
        large = large[: max(2, len(large) // 2)]
        if len(large) >= 2:
            a, b = self._chance.sample(large, 2)
            if table.search.sheets[a, bed.sheet[b]] and table.search.sheets[b, bed.sheet[a]]:
                (ax, ay, at), (bx, by, bt) = bed.pose[a].tolist(), bed.pose[b].tolist()
                bed.sheet[a], bed.sheet[b] = bed.sheet[b], bed.sheet[a]
                lay(table.shapes, bed, a, bx, by, at)
                lay(table.shapes, bed, b, ax, ay, bt)
        table.search.weight[:] = 1.0
        self._best, self._strikes = np.inf, 0

    def result(self) -> list[SheetToFill]:
        table = self._table
        return [
            ground.of_frame(ground.frame, spots) for ground, spots in zip(table.grounds, table.spots(), strict=True)
        ]


def tidied(grounds: Sequence[SheetToFill]) -> list[SheetToFill]:
    """The grounds with all things slid to the left and down, and with rounder numbers where these are free too."""
    found = []
    for ground in grounds:
        table = Table([spot.item for spot in ground.spots], [ground])
        for spot in ground.spots:
            table.put(spot, 0)
        for _ in range(_SLIDES):
            for thing in np.lexsort(table.bed.box[: len(ground.spots), :2].T).tolist():
                settled(table.shapes, table.bed, thing)
        for thing, spot in enumerate(table.spots()[0]):
            for round_spot in _rounder(spot):
                table.put(round_spot, 0)
                if barred(table.shapes, table.bed, thing) < 0 and not outside(table.shapes, table.bed, thing):
                    break
            else:
                table.put(spot, 0)
        found.append(ground.of_frame(ground.frame, table.spots()[0]))
    return found


def _rounder(spot: Spot) -> list[Spot]:
    turns = [spot.turn] if spot.item.turns else [round(spot.turn), round(spot.turn, 1), spot.turn]
    return [
        Spot(spot.item, round(spot.x, digits), round(spot.y, digits), float(turn), spot.mirrored)
        for turn in turns
        for digits in (1, 2, 3, 4)
    ]
