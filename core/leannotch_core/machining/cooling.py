"""Cuts beside thin webs, kept apart in time: while one of them cools, the beam works elsewhere."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiLineString, STRtree

from ..facts.stock import StockFacts
from ..geometry.chords import as_lines
from ..geometry.segment import Point, Segment
from ..project.cutting import machine_for
from ..project.project import Project
from .settings import setting_of

#: A web is thin up to so many times what the stock, or its heat, asks for: common practice, no source.
_THIN = 2.0

#: Chords by which cuts are held against each other leave them by at most so much (mm).
_CHORD = 0.05

#: Ends nearer than this (mm) are met.
_MET = 1e-6


class TooSoon(NamedTuple):
    """How many pairs of cuts beside each other follow too soon, of how many."""

    soon: int
    pairs: int


@dataclass(frozen=True, slots=True)
class Cooling:
    """Cuts nearer than ``near`` mm to one that has not rested for ``rests`` s are left for later. The beam cuts so many
    mm in a second, and the head moves between cuts at a speed (mm/s) of ``moving``.
    """

    rests: float
    near: float
    speed: float
    moving: float

    def kept_apart(
        self, cuts: Sequence[Sequence[Segment]], choices: Sequence[Sequence[int]], here: Point
    ) -> list[tuple[int, int]]:
        """Which cut comes when, and the segment that each begins with.

        Always the nearest one next that no hot one lies beside; where there is none, the one whose neighbours are
        coolest: the beam never waits.
        """
        beside, seconds = self.neighbours(cuts), np.array(self._seconds(cuts))
        begins = [(at, first) for at, some in enumerate(choices) for first in some]
        places = np.array([cuts[at][first].start for at, first in begins])
        own = np.array([at for at, _ in begins])
        cut_beside, left, now = np.full(len(cuts), -np.inf), np.ones(len(cuts), dtype=bool), 0.0
        order: list[tuple[int, int]] = []
        for _ in cuts:
            cool = left & (cut_beside <= now - self.rests)
            if not cool.any():
                cool = left & (cut_beside == cut_beside[left].min())
            far = np.where(cool[own], np.abs(places - here), np.inf)
            at, first = begins[int(np.argmin(far))]
            left[at] = False
            now += float(far.min()) / self.moving + float(seconds[at])
            cut_beside[beside[at]] = now
            order.append((at, first))
            closed = abs(cuts[at][0].start - cuts[at][-1].end) < _MET
            here = cuts[at][first].start if closed else cuts[at][-1].end
        return order

    def neighbours(self, cuts: Sequence[Sequence[Segment]]) -> list[list[int]]:
        """For each cut those that are beside it with no more than a thin web between."""
        shapes = _shapes(cuts)
        one, other = STRtree(shapes).query(shapes, predicate="dwithin", distance=self.near)
        beside: list[list[int]] = [[] for _ in cuts]
        for a, b in zip(one.tolist(), other.tolist(), strict=True):
            if a != b:
                beside[a].append(b)
        return beside

    def too_soon(self, cuts: Sequence[Sequence[Segment]]) -> TooSoon:
        """Of cuts in their order, those beside each other of which the second is begun before the first has rested."""
        beside, seconds = self.neighbours(cuts), self._seconds(cuts)
        begun, ended, now = [], [], 0.0
        for at, cut in enumerate(cuts):
            now += abs(cut[0].start - cuts[at - 1][-1].end) / self.moving if at else 0.0
            begun.append(now)
            now += seconds[at]
            ended.append(now)
        pairs = [(a, b) for a, others in enumerate(beside) for b in others if a < b]
        return TooSoon(sum(begun[b] - ended[a] < self.rests for a, b in pairs), len(pairs))

    def _seconds(self, cuts: Sequence[Sequence[Segment]]) -> list[float]:
        return [sum(segment.length for segment in cut) / self.speed for cut in cuts]


def _shapes(cuts: Sequence[Sequence[Segment]]) -> npt.NDArray[np.object_]:
    """Each cut as one shape; the lines of several may be one cut."""
    found = []
    for cut in cuts:
        lines: list[list[Segment]] = [[cut[0]]]
        for segment in cut[1:]:
            if abs(segment.start - lines[-1][-1].end) < _MET:
                lines[-1].append(segment)
            else:
                lines.append([segment])
        found.append(MultiLineString(list(as_lines(lines, _CHORD))))
    shapes: npt.NDArray[np.object_] = np.array(found, dtype=object)
    shapely.prepare(shapes)
    return shapes


def cooling_of(project: Project, facts: StockFacts, stock_id: str) -> Cooling | None:
    """How cuts of a stock in numbers are kept apart, where a beam is to do that. Raises `SizeError`."""
    stock = project.stock(stock_id)
    if not project.preparation.cooling or stock is None:
        return None
    machine = machine_for(project)
    setting = setting_of(stock, machine, "cut")
    thin = _THIN * max(facts.smallest_web, facts.heat.web_at(setting.at.dose))
    return Cooling(facts.heat.rests, thin + facts.kerf, setting.speed / setting.passes, machine.moving.speed)
