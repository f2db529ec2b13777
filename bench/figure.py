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


def median_ms(work: Callable[[], object], times: int = 9) -> float:
    """Median time of ``work`` in milliseconds."""
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return statistics.median(taken)
