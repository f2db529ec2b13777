"""Floors: what a program sinks into a sheet without going through, each with its outline and its depth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import Polygon

from ...said import Said
from .freed import THROUGH, TabLeft
from .program import ProgramWays
from .swept import SAME, Cutters, gone

#: Heights nearer than this (mm) are one floor.
_ONE = 2e-3
#: Slivers along walls that were cut in several passes are no wider than this (mm).
_SLIVER = 0.02
#: A program with more floors than these is a relief, and is not measured floor by floor.
MOST = 200


class TooManyFloors(Said):
    """A program that is a relief; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Floor:
    """A piece of a floor, and how deep it lies (mm)."""

    shape: Polygon
    depth: float


def floors(way: ProgramWays, thickness: float, cutters: Cutters, tabs: Sequence[TabLeft]) -> list[Floor]:
    """All floors, the highest first; the tops of holding tabs are none. Raises `TooManyFloors`."""
    levels = _levels(way, thickness)
    if len(levels) > MOST:
        raise TooManyFloors(
            f"The program works at {len(levels)} heights; at most {MOST} floors are measured one by one."
        )
    stand = shapely.union_all([tab.line.buffer(_widest(cutters) / 2 + _SLIVER) for tab in tabs]) if tabs else Polygon()
    found: list[Floor] = []
    regions = [gone(way, level + _ONE / 2, cutters) for level in levels]
    for at, level in enumerate(levels):
        deeper = regions[at + 1] if at + 1 < len(levels) else gone(way, -thickness + THROUGH, cutters)
        floor = regions[at].difference(deeper).difference(stand)
        opened = floor.buffer(-_SLIVER).buffer(_SLIVER)
        found += [Floor(piece, -level) for piece in shapely.get_parts(opened) if piece.area > _SLIVER]
    return found


def _levels(way: ProgramWays, thickness: float) -> list[float]:
    """The heights (mm) at which it works level, from the face down, but for what goes through."""
    flat = (way.feed > 0) & (way.z < -_ONE) & (np.abs(way.z - way.from_z) < _ONE / 10)
    flat &= (np.abs(way.end - way.start) > SAME) & (way.z > -thickness + THROUGH)
    heights = np.unique(np.round(way.z[flat] / _ONE))[::-1] * _ONE
    return [float(height) for height in heights]


def _widest(cutters: Cutters) -> float:
    return max(cutter.diameter for cutter in cutters.values())
