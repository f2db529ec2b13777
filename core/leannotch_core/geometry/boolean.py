"""Union, subtraction and intersection of outlines, exact for lines and arcs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from .arrangement import select, select_each
from .loop import Loop, Outline


def _loops(outlines: Iterable[Outline]) -> list[Loop]:
    return [loop for outline in outlines for loop in outline.loops]


def union(*regions: Sequence[Outline]) -> list[Outline]:
    """All material of all regions. Edges that two regions share disappear."""
    return select([_loops(region) for region in regions], lambda w: np.asarray((w > 0).any(axis=1)))


def subtract(region: Sequence[Outline], tools: Sequence[Outline]) -> list[Outline]:
    """``region`` less the union of ``tools``, which may overlap each other.

    >>> from math import pi
    >>> from .loop import circle
    >>> from .segment import Source
    >>> disc, eye = (Outline(circle(0j, radius, Source(f"r{radius}", "edge"))) for radius in (10, 4))
    >>> [ring] = subtract([disc], [eye])
    >>> len(ring.cutouts), round(ring.area / pi, 6)
    (1, 84.0)
    """
    return select([_loops(region), _loops(tools)], lambda w: (w[:, 0] > 0) & (w[:, 1] <= 0))


def intersect(a: Sequence[Outline], b: Sequence[Outline]) -> list[Outline]:
    """The material that both regions have."""
    return select([_loops(a), _loops(b)], lambda w: np.asarray((w > 0).all(axis=1)))


def divide(region: Sequence[Outline], tools: Sequence[Outline]) -> tuple[list[Outline], list[Outline]]:
    """``region`` less the union of ``tools``, and what both have in common."""
    outside, common = select_each(
        [_loops(region), _loops(tools)],
        [lambda w: np.asarray((w[:, 0] > 0) & (w[:, 1] <= 0)), lambda w: np.asarray((w > 0).all(axis=1))],
    )
    return outside, common
