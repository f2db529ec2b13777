"""The shortest way from path to path: in which order they are cut, and where closed ones are begun."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from ..geometry.segment import Point, Segment, cross
from ..layout.compiled import light

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
    starts = [np.array([path[at].start for at in some]) for path, some in zip(paths, choices, strict=True)]
    ends = [some if loop else np.array([path[-1].end]) for path, some, loop in zip(paths, starts, closed, strict=True)]
    # Of few, each is tried as the first of them: what is begun badly is not always mended.
    firsts = [None, *range(len(paths))] if 4 < len(paths) <= _FEW and all(closed) else [None]
    tried = [_shortened(_nearest_first(starts, ends, here, first), starts, ends, here, all(closed)) for first in firsts]
    _, order, begun = min(tried, key=lambda found: found[0])
    return [(int(path), choices[path][begun[path]]) for path in order]


def _shortened(
    order: Order, starts: Sequence[Points], ends: Sequence[Points], here: Point, both_ways: bool
) -> tuple[float, Order, list[int]]:
    """A way made shorter as far as that goes: its length, its order, and at which choice each path is begun."""
    best, begun = _begun(order, starts, ends, here)
    for _ in range(_TURNS if len(starts) <= _MANY else 0):
        into, out = (_places(some, begun, here) for some in (starts, ends))
        way = Way(order.copy(), into, out, both_ways)
        bettered(way)
        length, at = _begun(way.order, starts, ends, here)
        if length > best - 1e-9:
            break
        best, order, begun = length, way.order, at
    return best, order, begun


def _places(choices: Sequence[Points], begun: Sequence[int], here: Point) -> Places:
    """Each path's chosen place, and last where the way begins: rows of x and y."""
    chosen = np.array([*(some[at] for some, at in zip(choices, begun, strict=True)), here], dtype=complex)
    return np.column_stack([chosen.real, chosen.imag])


def _nearest_first(starts: Sequence[Points], ends: Sequence[Points], here: Point, first_path: int | None) -> Order:
    """Always the path next that can be begun nearest; the very first may be given."""
    points = np.concatenate(starts)
    owner = np.repeat(np.arange(len(starts)), [len(some) for some in starts])
    first = np.cumsum([0, *(len(some) for some in starts)])
    waiting = np.ones(len(points), dtype=bool)
    order: list[int] = []
    for _ in starts:
        may = waiting & (owner == first_path) if first_path is not None and not order else waiting
        nearest = int(np.argmin(np.where(may, np.abs(points - here), np.inf)))
        path = int(owner[nearest])
        waiting[first[path] : first[path + 1]] = False
        order.append(path)
        here = complex(ends[path][nearest - first[path]])
    return np.array(order, dtype=np.int64)


def _begun(order: Order, starts: Sequence[Points], ends: Sequence[Points], here: Point) -> tuple[float, list[int]]:
    """The length of the way in this order at its shortest, and at which choice each path then begins."""
    cost, before = np.zeros(1), np.array([here])
    came: list[npt.NDArray[np.intp]] = []
    for path in order:
        ways = cost[:, None] + np.abs(before[:, None] - starts[path][None, :])
        came.append(ways.argmin(axis=0))
        cost, before = ways.min(axis=0), ends[path]
    at = int(cost.argmin())
    begun = [0] * len(starts)
    for path, ways_in in zip(order[::-1], reversed(came), strict=True):
        begun[path] = at
        at = int(ways_in[at])
    return float(cost.min()), begun


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
