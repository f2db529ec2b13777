"""The cutter swept: what of a sheet is gone at a level."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry.base import BaseGeometry

from ..round_beam import passed_over
from .program import Numbers, ProgramWays

#: The chords of a cutter leave its circle by at most this (mm).
ROUND = 5e-4

#: Ways that are the same to within this (mm) are swept once.
SAME = 1e-4


@dataclass(frozen=True, slots=True)
class SweptCutter:
    """A cutter as the proof knows it: its diameter (mm), and what its tip is; ``angle`` is the whole one of a V."""

    diameter: float
    tip: str = "flat"
    angle: float = 60.0
    plunges: bool = True
    flutes: int = 2

    def reach(self, above: float) -> float:
        """How far from its middle (mm) it cuts, so far above its tip."""
        radius = self.diameter / 2
        if self.tip == "V":
            return min(radius, above * math.tan(math.radians(self.angle / 2)))
        if self.tip == "ball" and above < radius:
            return math.sqrt(max(0.0, radius**2 - (radius - above) ** 2))
        return radius


Cutters = Mapping[int, SweptCutter]


def below(way: ProgramWays, level: float) -> ProgramWays:
    """What of the ways goes at a level or under it; those that cross it are cut off there."""
    low = np.minimum(way.from_z, way.z)
    some = way.some(low <= level)
    fall = some.z - some.from_z
    with np.errstate(divide="ignore", invalid="ignore"):
        share = (level - some.from_z) / fall
    first = np.where(some.from_z > level, share, 0.0)
    last = np.where(some.z > level, share, 1.0)
    along = some.end - some.start
    return replace(
        some,
        # What is not cut off keeps its ends to the last bit, so that neighbours still meet there.
        start=np.where(first > 0, some.start + along * first, some.start),
        end=np.where(last < 1, some.start + along * last, some.end),
        from_z=some.from_z + fall * first,
        z=some.from_z + fall * last,
    )


def gone(way: ProgramWays, level: float, cutters: Cutters, of: BaseGeometry | None = None) -> BaseGeometry:
    """The region of the sheet that is cut away at a level (mm, the face at 0): what the cutters swept there.

    Where only what is gone ``of`` a region counts, ways from which nothing reaches it are left out.
    """
    low = below(way, level)
    regions = [_swept(low.some(low.tool == tool), level, cutters[tool], of) for tool in np.unique(low.tool).tolist()]
    return shapely.union_all(regions) if regions else shapely.Polygon()


def _swept(way: ProgramWays, level: float, cutter: SweptCutter, of: BaseGeometry | None) -> BaseGeometry:
    if cutter.tip in ("ball", "V"):
        # By how far it is under the level; along a slope it is taken as it is halfway.
        under = np.round(level - (way.from_z + way.z) / 2, 3)
        deep = np.unique(under).tolist()
        parts = [swept_by(way.some(under == depth), cutter.reach(float(depth)), of) for depth in deep]
        return shapely.union_all(parts) if parts else shapely.Polygon()
    return swept_by(way, cutter.diameter / 2, of)


def swept_by(way: ProgramWays, radius: float, of: BaseGeometry | None = None) -> BaseGeometry:
    """All that a round tool of a radius (mm) passes over on its ways, or at least what it does ``of`` a region."""
    if radius <= 0 or not len(way):
        return shapely.Polygon()
    # Where it only goes down, it drills.
    still = np.abs(way.end - way.start) <= SAME
    spots = np.unique(np.round(way.start[still] / SAME)) * SAME
    drawn = np.array([*lines(way.some(~still)), *shapely.points(spots.real, spots.imag)], dtype=object)
    if of is not None:
        # Drawn with chords it reaches a little less far than it does.
        drawn = drawn[shapely.dwithin(of, drawn, radius)]
    found: BaseGeometry = shapely.union_all(passed_over(drawn, radius, _quarter(radius)))
    return found


def _quarter(radius: float) -> int:
    """Chords for a quarter of a cutter, within what a proof in depth needs."""
    return 4 if radius <= ROUND else max(4, math.ceil(math.pi / 4 / math.acos(1 - ROUND / radius)))


def lines(way: ProgramWays) -> npt.NDArray[Any]:
    """Ways that follow each other as lines; what goes where something went before is left out."""
    way = _once(way)
    joined = np.abs(way.end[:-1] - way.start[1:]) <= SAME
    chain = np.concatenate([[0], np.cumsum(~joined)]) if len(way) else np.zeros(0, dtype=int)
    stops = np.flatnonzero(np.concatenate([~joined, [True]])) if len(way) else np.zeros(0, dtype=int)
    points = np.insert(way.start, stops + 1, way.end[stops])
    owner = np.insert(chain, stops + 1, chain[stops])
    found: npt.NDArray[Any] = shapely.linestrings(np.column_stack([points.real, points.imag]), indices=owner)
    return found


def _once(way: ProgramWays) -> ProgramWays:
    ends = np.column_stack([way.start.real, way.start.imag, way.end.real, way.end.imag])
    keys = np.round(ends / SAME).astype(np.int64)
    back = (keys[:, 0] > keys[:, 2]) | ((keys[:, 0] == keys[:, 2]) & (keys[:, 1] > keys[:, 3]))
    turned = np.where(back[:, None], keys[:, [2, 3, 0, 1]], keys)
    _, first = np.unique(turned, axis=0, return_index=True)
    return way.some(np.sort(first))


class Deepest:
    """How deep the middle of the cutter has been anywhere."""

    def __init__(self, way: ProgramWays) -> None:
        self._way = way
        self._left, self._right = np.minimum(way.start.real, way.end.real), np.maximum(way.start.real, way.end.real)
        self._low, self._high = np.minimum(way.start.imag, way.end.imag), np.maximum(way.start.imag, way.end.imag)

    def within(self, at: complex, near: float) -> float:
        """The lowest height (mm) within so many mm of a place; 0 where it never was."""
        beside = (self._left <= at.real + near) & (self._right >= at.real - near)
        beside &= (self._low <= at.imag + near) & (self._high >= at.imag - near)
        some = self._way.some(beside)
        close = _apart(some, at) <= near
        return float(min(some.from_z[close].min(initial=0.0), some.z[close].min(initial=0.0)))


def _apart(way: ProgramWays, at: complex) -> Numbers:
    along = way.end - way.start
    long = np.abs(along)
    with np.errstate(divide="ignore", invalid="ignore"):
        share = ((at - way.start) * along.conj()).real / long**2
    share = np.clip(np.where(long > 0, share, 0.0), 0.0, 1.0)
    found: Numbers = np.abs(way.start + along * share - at)
    return found
