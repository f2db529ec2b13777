"""Things that lie in each other's way are moved apart, one after the other, until none is.

Guided local search, as it is used for packing (Faroe, Pisinger and Zachariasen 2003; from memory): a thing in the way
is put where it shares least with all others, and pairs that go on sharing count more and more.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from ...compiled import compiled, light
from .contact import Counts, Lying, Numbers, Shapes, boxes_meet, in_the_way, lay, outside, shift

#: Places looked at all over the sheets, and near where a thing lies, each time that it is moved.
WIDE, NEAR = 24, 12
#: So many of them are followed to where less cannot be had.
FOLLOWED = 3


class Search(NamedTuple):
    """What may be moved, and how: the first ``movable`` things may.

    ``turns[first_turn[t]:first_turn[t + 1]]`` are the turns of thing ``t`` in degrees; with none it may have any.
    ``sheets[t, s]`` tells whether it may lie on a sheet. ``weight`` is how much each pair counts, its diagonal what
    lies outside; ``state`` is what chance is drawn from. ``faces`` has the shapes that a thing has from either side,
    the second one -1 where it must not be turned over.
    """

    movable: int
    turns: Numbers
    first_turn: Counts
    sheets: npt.NDArray[np.bool_]
    weight: Numbers
    state: npt.NDArray[np.uint64]
    faces: Counts


@light
def drawn(state: npt.NDArray[np.uint64]) -> float:
    """A number from 0 to 1, the next of Marsaglia's xorshift."""
    word = state[0]
    word ^= word << np.uint64(13)
    word ^= word >> np.uint64(7)
    word ^= word << np.uint64(17)
    state[0] = word
    return float(word >> np.uint64(11)) / 9007199254740992.0


@light
def trouble(shapes: Shapes, bed: Lying, search: Search, thing: int, limit: float) -> float:
    """What a thing shares with all others and has outside, weighted; it may be anything from ``limit`` on."""
    weight, box, sheet = search.weight, bed.box, bed.sheet
    total = weight[thing, thing] * outside(shapes, bed, thing)
    for other in range(len(sheet)):
        if total >= limit:
            break
        if sheet[other] == sheet[thing] and other != thing and boxes_meet(box, thing, other):
            total += weight[thing, other] * in_the_way(shapes, bed, thing, other)
    return float(total)


@light
def any_turn(search: Search, thing: int) -> float:
    """One of the turns (degrees) that a thing may have, by chance; any where all are allowed."""
    first, end = search.first_turn[thing], search.first_turn[thing + 1]
    if first == end:
        chance = drawn(search.state)
        # Half of the time one of the turns that things made of straight sides most often want.
        if chance < 0.5:
            return 15.0 * int(48.0 * chance)
        return round(360.0 * drawn(search.state), 3)
    return float(search.turns[first + int(drawn(search.state) * (end - first))])


@light
def follow(shapes: Shapes, bed: Lying, search: Search, thing: int, now: float, step: float, least: float) -> float:
    """Moves a thing by ever smaller steps to where it shares less."""
    free = search.first_turn[thing] == search.first_turn[thing + 1]
    swing = 5.0
    while step > least and now > 0.0:
        x, y, turn = bed.pose[thing, 0], bed.pose[thing, 1], bed.pose[thing, 2]
        way = int(drawn(search.state) * (5 if free else 4))
        best, bx, by, bt = now, x, y, turn
        for side in (-1.0, 1.0):
            tx, ty, tt = x, y, turn
            if way == 0:
                tx += side * step
            elif way == 1:
                ty += side * step
            elif way == 2:
                tx, ty = tx + side * step, ty + side * step
            elif way == 3:
                tx, ty = tx + side * step, ty - side * step
            else:
                tt = round(turn + side * swing, 3)
            lay(shapes, bed, thing, tx, ty, tt)
            found = trouble(shapes, bed, search, thing, best)
            if found < best:
                best, bx, by, bt = found, tx, ty, tt
                break
        lay(shapes, bed, thing, bx, by, bt)
        if best < now:
            now = best
            step *= 1.1
        elif way == 4:
            swing = max(swing * 0.5, 0.001)
            step *= 0.8
        else:
            step *= 0.6
    return now


@light
def dropped(
    shapes: Shapes, bed: Lying, search: Search, thing: int, x: float, y: float, turn: float, sheet: int, near: bool
) -> bool:
    """Lays a thing at random on a sheet, or ``near`` a place on it; False where it does not fit in the turn drawn."""
    if not search.sheets[thing, sheet]:
        return False
    if not near and search.faces[thing, 1] >= 0:
        bed.shape[thing] = search.faces[thing, int(2.0 * drawn(search.state))]
    if not near or drawn(search.state) < 0.5:
        turn = any_turn(search, thing)
    lay(shapes, bed, thing, 0.0, 0.0, turn)
    bed.sheet[thing] = sheet
    low_x, high_x = bed.frame[sheet, 0] - bed.box[thing, 0], bed.frame[sheet, 2] - bed.box[thing, 2]
    low_y, high_y = bed.frame[sheet, 1] - bed.box[thing, 1], bed.frame[sheet, 3] - bed.box[thing, 3]
    if high_x < low_x or high_y < low_y:
        return False
    if near:
        aside = 0.25 * shapes.size[bed.shape[thing]]
        low_x, high_x = max(low_x, x - aside), min(high_x, x + aside)
        low_y, high_y = max(low_y, y - aside), min(high_y, y + aside)
    across, up = drawn(search.state), drawn(search.state)
    shift(shapes, bed, thing, low_x + across * (high_x - low_x), low_y + up * (high_y - low_y))
    return True


@compiled
def better_place(shapes: Shapes, bed: Lying, search: Search, thing: int) -> None:
    """Puts a thing where it shares least, of many places on all sheets that it may lie on."""
    size = shapes.size[bed.shape[thing]]
    x, y, turn = bed.pose[thing]
    sheet, face = bed.sheet[thing], bed.shape[thing]
    # The best places so far, the best of them first: how much is shared there, where, on which sheet and which face.
    best = np.full(FOLLOWED, np.inf)
    where = np.empty((FOLLOWED, 3))
    lies = np.empty((FOLLOWED, 2), dtype=np.int64)
    best[0] = trouble(shapes, bed, search, thing, np.inf)
    where[0], lies[0, 0], lies[0, 1] = bed.pose[thing], sheet, face
    for n in range(WIDE + NEAR):
        near = n >= WIDE
        bed.shape[thing] = face
        on = sheet if near else int(drawn(search.state) * len(bed.frame))
        if not dropped(shapes, bed, search, thing, x, y, turn, on, near):
            continue
        found = trouble(shapes, bed, search, thing, best[FOLLOWED - 1])
        k = FOLLOWED - 1
        if found < best[k]:
            while k > 0 and found < best[k - 1]:
                best[k] = best[k - 1]
                where[k], lies[k] = where[k - 1], lies[k - 1]
                k -= 1
            best[k], where[k] = found, bed.pose[thing]
            lies[k, 0], lies[k, 1] = on, bed.shape[thing]
    least, at = np.inf, 0
    for k in range(FOLLOWED):
        if best[k] == np.inf:
            break
        bed.sheet[thing], bed.shape[thing] = lies[k]
        lay(shapes, bed, thing, where[k, 0], where[k, 1], where[k, 2])
        found = follow(shapes, bed, search, thing, best[k], 0.15 * size, 0.01 * size)
        where[k] = bed.pose[thing]
        if found < least:
            least, at = found, k
    bed.sheet[thing], bed.shape[thing] = lies[at]
    lay(shapes, bed, thing, where[at, 0], where[at, 1], where[at, 2])
    follow(shapes, bed, search, thing, least, 0.02 * size, 0.0002 * size)


@compiled
def shared(shapes: Shapes, bed: Lying, search: Search, pairs: Numbers) -> float:
    """All that is shared or outside, unweighted, mm²; ``pairs`` is filled with it pair by pair."""
    total, box, sheet = 0.0, bed.box, bed.sheet
    for a in range(search.movable):
        pairs[a, a] = outside(shapes, bed, a)
        total += pairs[a, a]
        for b in range(a + 1, len(sheet)):
            near = sheet[a] == sheet[b] and boxes_meet(box, a, b)
            pairs[a, b] = in_the_way(shapes, bed, a, b) if near else 0.0
            total += pairs[a, b]
    return total


@compiled
def moved_apart(shapes: Shapes, bed: Lying, search: Search, pairs: Numbers, most: int) -> float:
    """One pass: up to ``most`` things in the way of something are moved. Returns what is still shared, mm²."""
    waiting = np.empty(search.movable, dtype=np.int64)
    count = 0
    for a in range(search.movable):
        if trouble(shapes, bed, search, a, 1e-300) > 0.0:
            waiting[count] = a
            count += 1
    for n in range(min(count, most)):
        k = n + int(drawn(search.state) * (count - n))
        waiting[n], waiting[k] = waiting[k], waiting[n]
        if trouble(shapes, bed, search, waiting[n], 1e-300) > 0.0:
            better_place(shapes, bed, search, waiting[n])
    total = shared(shapes, bed, search, pairs)
    worst = 0.0
    for a in range(search.movable):
        for b in range(a, len(bed.shape)):
            worst = max(worst, pairs[a, b])
    for a in range(search.movable):
        for b in range(a, len(bed.shape)):
            if pairs[a, b] > 0.0:
                search.weight[a, b] *= 1.2 + 0.8 * pairs[a, b] / worst
            else:
                search.weight[a, b] = max(1.0, search.weight[a, b] * 0.95)
            search.weight[b, a] = search.weight[a, b]
    return total
