"""What a program does again and again, pass below pass: looked at once."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from .program import Points, ProgramWays
from .swept import SAME

Indices = npt.NDArray[np.intp]


def places_once(places: Points) -> tuple[Points, Indices]:
    """The places (mm) that differ by more than `SAME`, and for each of ``places`` the number of its own among them."""
    _, first, own = np.unique(np.round(places / SAME), return_index=True, return_inverse=True)
    return places[first], own


def ways_once(way: ProgramWays) -> tuple[ProgramWays, Indices]:
    """The ways that go from elsewhere to elsewhere or with another cutter, in order, and how often each is gone."""
    ends = np.column_stack([way.start.real, way.start.imag, way.end.real, way.end.imag])
    keys = np.column_stack([np.round(ends / SAME).astype(np.int64), way.tool])
    _, first, times = np.unique(keys, axis=0, return_index=True, return_counts=True)
    order = np.argsort(first)
    return way.some(first[order]), times[order]
