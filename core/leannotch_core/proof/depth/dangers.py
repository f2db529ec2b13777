"""What breaks cutters and throws parts: ways that a program must not take, each at its line and its place."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree

from ...document.sizes import shown
from ..fault import Fault
from .program import ProgramWays
from .swept import SAME, Cutters, SweptCutter, below, swept_by

#: Heights and places are written to a ten-thousandth: a short slope is known no better (mm).
_WRITTEN = 3e-4
#: What moves less deep (mm) than this moves on the face.
_FACE = 1e-3
#: A cutter has room where all but so much (mm) round it is gone already.
_ROOM = 0.02
#: So many ways of a kind are looked at one by one.
MOST = 4000

Which = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class Limits:
    """What a cutter and a machine take: the steepest way down into material (degrees) for cutters that do not plunge,
    the largest chip load (mm a tooth) by cutter, and how far below the sheet (mm) it may go. 0 is no limit.
    """

    steepest: float = 45.0
    chip: dict[int, float] | None = None
    spoilboard: float = 0.0


def dangers(way: ProgramWays, thickness: float, cutters: Cutters, limits: Limits) -> Iterator[Fault]:
    """All of a kind that are found, the first of each; nothing where all is well."""
    under = np.minimum(way.from_z, way.z) < -_FACE
    if not under.any():
        return
    earlier = _Earlier(way, cutters)
    yield from _first(way, np.flatnonzero(under & (way.feed > 0) & (way.turns <= 0)), "it works with the spindle off")
    rapid = np.flatnonzero(under & (way.feed <= 0) & ~_only_up(way))
    yield from _through(way, rapid, earlier, "it moves at speed through material")
    blunt = np.array([not cutters[tool].plunges for tool in way.tool.tolist()], dtype=bool)
    fall, long = way.from_z - way.z, np.abs(way.end - way.start)
    steep = fall > long * math.tan(math.radians(limits.steepest)) + _WRITTEN
    down = np.flatnonzero(under & (way.feed > 0) & blunt & steep)
    yield from _through(
        way, down, earlier, f"a cutter that does not plunge goes down steeper than {limits.steepest:g}°"
    )
    if limits.chip:
        yield from _overloaded(way, under, cutters, limits.chip)
    if limits.spoilboard:
        deep = np.flatnonzero(way.z < -thickness - limits.spoilboard - _FACE)
        yield from _first(way, deep, f"it goes more than {shown(limits.spoilboard)} below the sheet")


def _only_up(way: ProgramWays) -> npt.NDArray[np.bool_]:
    found: npt.NDArray[np.bool_] = (np.abs(way.end - way.start) <= SAME) & (way.z >= way.from_z)
    return found


def _first(way: ProgramWays, which: Which, text: str) -> Iterator[Fault]:
    if len(which):
        at = int(which[0])
        more = f", and so do {len(which) - 1} more" if len(which) > 1 else ""
        yield Fault("danger", f"Line {int(way.line[at])}: {text}{more}", complex(way.start[at]))


def _through(way: ProgramWays, which: Which, earlier: _Earlier, text: str) -> Iterator[Fault]:
    """The first of some ways that goes where something stands yet."""
    for at in which[:MOST].tolist():
        if not earlier.has_cleared(at):
            yield Fault("danger", f"Line {int(way.line[at])}: {text}", complex(way.start[at]))
            return


class _Earlier:
    """What was cleared before a way came."""

    def __init__(self, way: ProgramWays, cutters: Cutters) -> None:
        self._way, self._cutters = way, cutters
        ends = np.column_stack([way.start.real, way.start.imag, way.end.real, way.end.imag]).reshape(-1, 2, 2)
        still = way.start == way.end
        # A line without a length is near nothing.
        drawn = np.where(still, shapely.points(way.start.real, way.start.imag), shapely.linestrings(ends))
        self._tree = STRtree(drawn)
        self._widest = max(cutter.diameter for cutter in cutters.values())

    def has_cleared(self, at: int) -> bool:
        way, cutter = self._way, self._cutters[int(self._way.tool[at])]
        level = float(min(way.from_z[at], way.z[at]))
        reach = (cutter.diameter + self._widest) / 2
        taken = self._tree.geometries[at]
        near = self._tree.query(taken, predicate="dwithin", distance=reach)
        near = np.sort(near[(near < at)])
        some = way.some(near)
        low = below(some.some(some.feed > 0), level + _FACE)
        cleared = [
            swept_by(low.some(low.tool == tool), _radius(self._cutters[tool])) for tool in set(low.tool.tolist())
        ]
        room = shapely.buffer(taken, _radius(cutter) - _ROOM)
        return bool(cleared) and bool(shapely.union_all(cleared).covers(room))


def _radius(cutter: SweptCutter) -> float:
    return cutter.diameter / 2


def _overloaded(
    way: ProgramWays, under: npt.NDArray[np.bool_], cutters: Cutters, most: dict[int, float]
) -> Iterator[Fault]:
    """The first way into material with more on each tooth than its cutter takes."""
    teeth = np.array([cutters[tool].flutes for tool in way.tool.tolist()], dtype=float)
    limit = np.array([most.get(tool, math.inf) for tool in way.tool.tolist()])
    with np.errstate(divide="ignore", invalid="ignore"):
        chip = np.where(way.turns > 0, way.feed / (way.turns * teeth), 0.0)
    over = np.flatnonzero(under & (way.feed > 0) & (chip > limit * 1.002))
    if len(over):
        at = int(over[0])
        text = f"each tooth takes {chip[at]:.3f} mm, more than {limit[at]:.3f}"
        yield Fault("danger", f"Line {int(way.line[at])}: {text}", complex(way.start[at]))
