"""A measured value beside what it is held against."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Figure:
    """A measured value beside what it is held against; ``ratio`` is the one over the other."""

    what: str
    value: float
    against: str
    limit: float

    @property
    def ratio(self) -> float:
        return self.value / self.limit


class _Run:
    """How much of everything is measured: all of it, or as little as shows that it can be."""

    share = 1.0


def measure(share: float) -> None:
    """From here on so much of everything is measured; where it is not all, every entry once and as small as it goes."""
    _Run.share = share


def many(number: int, least: int = 4) -> int:
    """So many of something, or as few of it as will do."""
    return number if _Run.share == 1 else max(least, round(number * _Run.share))


def median_ms(work: Callable[[], object], times: int = 9) -> float:
    """Median time of ``work`` in milliseconds."""
    taken = []
    for _ in range(many(times, 1)):
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return statistics.median(taken)
