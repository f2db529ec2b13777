"""How many outlines close within a tolerance, without drawing them: to be told while it is dragged."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from ...geometry.segment import Point
from .dividing import Crossing, meshed
from .ends import Loose


class Count(NamedTuple):
    """Closed outlines, gaps that are joined, and ends that stay loose."""

    closed: int
    joined: int
    loose: int


def count(drawn: Loose, within: float, apart: Sequence[Point] = (), crossing: Crossing = "rooms") -> Count:
    """The count for a joining tolerance in mm.

    Lines that cross nowhere enclose as many rooms as they have edges more than nodes, and one for every piece
    (Euler's formula); tails that lead nowhere change nothing of it.
    """
    made, joined, *_ = meshed(drawn, within, apart, crossing)
    if not made.segments:
        return Count(0, 0, 0)
    node = np.arange(len(made.places))
    for a, b in joined.pairs:
        node[b] = a
    ends = node[np.array(made.of, dtype=int)]
    used, ends = np.unique(ends, return_inverse=True)
    ends = ends.reshape(-1, 2)
    graph = coo_array((np.ones(len(ends)), (ends[:, 0], ends[:, 1])), shape=(len(used), len(used)))
    pieces = connected_components(graph, directed=False, return_labels=False)
    alone = int((np.bincount(ends.ravel(), minlength=len(used)) == 1).sum())
    return Count(int(len(ends) - len(used) + pieces), len(joined.pairs), alone)
