"""The shortest way from path to path: in which order they are cut, and where closed ones are begun."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import chain, pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from ..compiled import compiled, light
from ..geometry.segment import Point, Segment, cross

Points = npt.NDArray[np.complex128]
Order = npt.NDArray[np.int64]
Places = npt.NDArray[np.float64]

#: Sines of the turn between two segments, from which on they make a corner.
_CORNER = 0.05
#: Order and starts are bettered in turn, so often at most.
_TURNS = 6
#: Up to so many paths all are tried as the first one.
_FEW = 12
#: More paths than this are strokes of letters: they lie near each other, and the nearest one next is short enough.
_MANY = 600


def corners(segments: Sequence[Segment]) -> list[int]:
    """Where a closed path may begin, by segment: at a corner, so that no arc that is seen shows it; else anywhere."""
    turns = [cross(before.end_tangent, after.start_tangent) for before, after in pairwise((segments[-1], *segments))]
    found = [at for at, turn in enumerate(turns) if abs(turn) > _CORNER]
    return found or list(range(len(segments)))


def shortest_way(
    paths: Sequence[Sequence[Segment]], choices: Sequence[Sequence[int]], closed: Sequence[bool], here: Point = 0
) -> list[tuple[int, int]]:
    """Which path comes when, and the segment that each begins with: short from ``here`` to the last of them.

    ``choices`` are the segments that each path may begin with; a closed one ends where it begins.

    Begun nearest first; then stretches of the way are turned about and moved while that makes it shorter, and each
    closed path begins where the way past it is shortest.
    """
    if not paths:
        return []
    # Always the same kind of number, for which the loops are compiled already.
    begins, here = Begins.of(paths, choices, closed), complex(here)
    # Of few, each is tried as the first of them: what is begun badly is not always mended.
    firsts = [-1, *range(len(paths))] if 4 < len(paths) <= _FEW and all(closed) else [-1]
    tried = [_shortened(nearest_first(begins, here, first), begins, here, all(closed)) for first in firsts]
    _, order, begun = min(tried, key=lambda found: found[0])
    return [(int(path), choices[path][begun[path]]) for path in order]


class Begins(NamedTuple):
    """Where each of many paths may be begun, and where it then ends: the places of path i are ``first[i]`` to
    ``first[i + 1]`` of both.
    """

    starts: Points
    ends: Points
    first: Order

    @classmethod
    def of(cls, paths: Sequence[Sequence[Segment]], choices: Sequence[Sequence[int]], closed: Sequence[bool]) -> Begins:
        starts = [[path[at].start for at in some] for path, some in zip(paths, choices, strict=True)]
        ends = [
            some if loop else [path[-1].end] * len(some) for path, some, loop in zip(paths, starts, closed, strict=True)
        ]
        first = np.cumsum([0, *(len(some) for some in starts)], dtype=np.int64)
        return cls(_flat(starts), _flat(ends), first)


def _flat(places: Sequence[Sequence[Point]]) -> Points:
    return np.array([*chain.from_iterable(places)], dtype=complex)


def _shortened(order: Order, begins: Begins, here: Point, both_ways: bool) -> tuple[float, Order, Order]:
    """A way made shorter as far as that goes: its length, its order, and at which choice each path is begun."""
    best, begun = begun_at(order, begins, here)
    for _ in range(_TURNS if len(order) <= _MANY else 0):
        chosen = begins.first[:-1] + begun
        way = Way(order.copy(), _places(begins.starts[chosen], here), _places(begins.ends[chosen], here), both_ways)
        bettered(way)
        length, at = begun_at(way.order, begins, here)
        if length > best - 1e-9:
            break
        best, order, begun = length, way.order, at
    return best, order, begun


def _places(chosen: Points, here: Point) -> Places:
    """Each path's chosen place, and last where the way begins: rows of x and y."""
    places = np.append(chosen, here)
    return np.column_stack([places.real, places.imag])


@compiled
def nearest_first(begins: Begins, here: Point, first_path: int) -> Order:
    """Always the path next that can be begun nearest; the very first may be given, else it is -1."""
    count = len(begins.first) - 1
    done = np.zeros(count, dtype=np.bool_)
    order = np.empty(count, dtype=np.int64)
    for step in range(count):
        near, place, path = np.inf, -1, -1
        for one in range(count):
            if done[one] or (step == 0 and first_path >= 0 and one != first_path):
                continue
            for at in range(begins.first[one], begins.first[one + 1]):
                far = abs(begins.starts[at] - here)
                if far < near:
                    near, place, path = far, at, one
        done[path] = True
        order[step] = path
        here = begins.ends[place]
    return order


@compiled
def begun_at(order: Order, begins: Begins, here: Point) -> tuple[float, Order]:
    """The length of the way in this order at its shortest, and at which choice each path then begins."""
    starts, ends, first = begins
    cost = np.empty(len(starts))
    came = np.empty(len(starts), dtype=np.int64)
    for step in range(len(order)):
        for at in range(first[order[step]], first[order[step] + 1]):
            if step == 0:
                cost[at], came[at] = abs(starts[at] - here), -1
                continue
            cost[at] = np.inf
            for before in range(first[order[step - 1]], first[order[step - 1] + 1]):
                far = cost[before] + abs(starts[at] - ends[before])
                if far < cost[at]:
                    cost[at], came[at] = far, before
    last = order[-1]
    at = first[last] + np.argmin(cost[first[last] : first[last + 1]])
    length = cost[at]
    begun = np.zeros(len(order), dtype=np.int64)
    for step in range(len(order) - 1, -1, -1):
        begun[order[step]] = at - first[order[step]]
        at = came[at]
    return length, begun


class Way(NamedTuple):
    """The paths in their ``order``, and where each is begun and left, in mm. The last place of all is where it begins.

    ``both_ways`` is whether they are left where they are begun, and can be gone through in any direction.
    """

    order: Order
    into: Places
    out: Places
    both_ways: bool


@light
def gap(way: Way, a: int, b: int) -> float:
    """From the path at place ``a`` of the order, or -1 for where the way begins, to that at ``b``; 0 past its end."""
    order, into, out = way.order, way.into, way.out
    if b >= len(order):
        return 0.0
    before = order[a] if a >= 0 else len(order)
    dx, dy = out[before, 0] - into[order[b], 0], out[before, 1] - into[order[b], 1]
    return float(np.sqrt(dx * dx + dy * dy))


@light
def turned_about(way: Way) -> bool:
    """Goes through stretches the other way round where that is shorter (2-opt, after Croes 1958); whether any was."""
    order, shorter = way.order, False
    for i in range(len(order)):
        for j in range(i + 1, len(order)):
            if gap(way, i - 1, j) + gap(way, i, j + 1) < gap(way, i - 1, i) + gap(way, j, j + 1) - 1e-9:
                a, b = i, j
                while a < b:
                    order[a], order[b] = order[b], order[a]
                    a, b = a + 1, b - 1
                shorter = True
    return shorter


@light
def moved_elsewhere(way: Way, size: int) -> bool:
    """Moves stretches of a ``size`` to where the way is shorter with them (after Or 1976); whether any was moved."""
    order, shorter = way.order, False
    for i in range(len(order) - size + 1):
        j = i + size - 1
        saved = gap(way, i - 1, i) + gap(way, j, j + 1) - gap(way, i - 1, j + 1)
        for k in range(-1, len(order)):
            # Between k and what follows it, neither of them in the stretch.
            if not i - 1 <= k <= j and gap(way, k, i) + gap(way, j, k + 1) - gap(way, k, k + 1) < saved - 1e-9:
                shifted(order, i, j, k)
                shorter = True
                break
    return shorter


@light
def shifted(order: Order, i: int, j: int, k: int) -> None:
    """Takes the stretch from place ``i`` to ``j`` to behind what is at ``k``: it changes places with all between."""
    step = 1 if k > j else -1
    for _ in range(j - i + 1):
        at = i if step > 0 else j
        while at != (k if step > 0 else k + 1):
            order[at], order[at + step] = order[at + step], order[at]
            at += step


@light
def bettered(way: Way) -> None:
    """Shortens a way in place until no stretch of it can be turned about or moved for a shorter one."""
    shorter = True
    while shorter:
        shorter = way.both_ways and turned_about(way)
        for size in range(1, 4):
            shorter = moved_elsewhere(way, size) or shorter
