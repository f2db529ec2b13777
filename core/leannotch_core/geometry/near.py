"""Which segments lie near each other, by their boxes alone; nothing of it says where they meet."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from .rows import Indices, SegmentRows

#: Up to so many segments, all pairs of boxes are compared at once; of more, so many pairs are told at a time.
AT_ONCE, BLOCK = 1500, 1_000_000


def near_pairs(rows: SegmentRows, apart: float) -> Iterable[tuple[Indices, Indices]]:
    """Pairs of segments whose boxes are at most ``apart`` mm apart: the only ones that can meet.

    A block at a time: of lines that all cross there are more pairs than memory holds.
    """
    left, bottom, right, top = rows.boxes().T
    reach = 2 * apart
    if len(rows) <= AT_ONCE:
        near = (left[:, None] <= right + reach) & (left <= right[:, None] + reach)
        near &= (bottom[:, None] <= top + reach) & (bottom <= top[:, None] + reach)
        first, second = np.nonzero(np.triu(near, 1))
        yield first, second
        return
    order = np.argsort(left, kind="stable")
    ends = np.searchsorted(left[order], right[order] + reach, side="right")
    firsts: list[Indices] = []
    seconds: list[Indices] = []
    waiting = 0
    for place, end in enumerate(ends):
        i, others = order[place], order[place + 1 : end]
        meets = (bottom[others] <= top[i] + reach) & (top[others] >= bottom[i] - reach)
        seconds.append(others[meets])
        firsts.append(np.full(len(seconds[-1]), i))
        waiting += len(seconds[-1])
        if waiting > BLOCK or place == len(ends) - 1:
            yield np.concatenate(firsts), np.concatenate(seconds)
            firsts, seconds, waiting = [], [], 0
