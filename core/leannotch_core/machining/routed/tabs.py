"""Holding tabs: the cutter is lifted over them, so that they are left standing."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ...facts.cutters import NoCutter
from .going_down import SHORTEST, down_open
from .stroke import ClosedWay, Stroke, Strokes, sloping, upright
from .zone import Zone, free_ahead

#: The slope (degrees) of sloping ends: common practice, no source.
SLOPE = 45.0


@dataclass(frozen=True, slots=True)
class LiftedTabs:
    """Tabs of a closed line: their middles along it, how long the cutter is lifted over each, and to what height.

    ``sloping`` ends rise at `SLOPE`. Where the cutter does not ``plunge`` it goes down to and fro behind a tab, along a
    ``ramp`` (degrees).
    """

    middles: tuple[float, ...]
    lifted: float
    top: float
    sloping: bool
    plunges: bool
    ramp: float

    def zones(self, z: float, length: float) -> list[Zone]:
        """Where it is lifted in a pass at a height; none where the pass goes over the tabs anyway."""
        if z >= self.top - 1e-9:
            return []
        run = (self.top - z) / math.tan(math.radians(SLOPE))
        up, down = (run if self.sloping else 0.0), (run if self.sloping and self.plunges else 0.0)
        found = []
        for middle in sorted(middle % length for middle in self.middles):
            start, end = middle - self.lifted / 2, middle + self.lifted / 2
            found.append(Zone(start, end, up, down))
        apart = _apart(found, length)
        if apart and apart[0].down + apart[0].end - apart[0].start + apart[0].up > length - SHORTEST:
            raise NoCutter("Holding tabs stand so near each other that nothing is cut between them; put fewer.")
        return apart


def _apart(zones: Sequence[Zone], length: float) -> list[Zone]:
    """Zones between which the cutter would not come down again are one."""
    found: list[Zone] = []
    for zone in zones:
        if found and found[-1].end + found[-1].down > zone.start - zone.up:
            found[-1] = Zone(found[-1].start, zone.end, found[-1].up, zone.down)
        else:
            found.append(zone)
    if len(found) > 1 and found[-1].end + found[-1].down - length > found[0].start - found[0].up:
        first = found.pop(0)
        found[-1] = Zone(found[-1].start, first.end + length, found[-1].up, first.down)
    return found


def behind(zones: Sequence[Zone], here: float, length: float) -> float:
    """How far it is from a place within a zone, or before one, to where the cutter is down again behind it."""
    ends = [(zone.end + zone.down - here) % length for zone in zones]
    return min(ends, default=0.0)


def over(
    line: ClosedWay, here: float, far: float, z: float, zones: Sequence[Zone], standing: LiftedTabs | None
) -> Strokes:
    """The way from a place so far along a line at a height, lifted over the zones on it.

    It begins and ends in no zone.
    """
    found: Strokes = []
    top = standing.top if standing else 0.0
    for begin, end, zone in _met(line, here, far, zones):
        if zone is None:
            found += sloping(line.onward(begin, end - begin), z, z)
            continue
        found += _rise(line, begin, zone, z, top)
        found += sloping(line.onward(begin + zone.up, zone.end - zone.start), top, top)
        behind_it = begin + zone.up + zone.end - zone.start
        if standing and not standing.plunges:
            free = min(free_ahead(zones, behind_it + 1e-9, line.length), (top - z) * 20)
            found += down_open(list(line.onward(behind_it, max(free, SHORTEST))), top, z, standing.ramp)
        else:
            found += _fall(line, behind_it, zone, z, top)
    return found


def _rise(line: ClosedWay, begin: float, zone: Zone, z: float, top: float) -> Iterator[Stroke]:
    if zone.up:
        yield from sloping(line.onward(begin, zone.up), z, top)
    else:
        yield upright(line.at(begin), z, top)


def _fall(line: ClosedWay, begin: float, zone: Zone, z: float, top: float) -> Iterator[Stroke]:
    if zone.down:
        yield from sloping(line.onward(begin, zone.down), top, z)
    else:
        yield upright(line.at(begin), top, z)


def _met(line: ClosedWay, here: float, far: float, zones: Sequence[Zone]) -> Iterator[tuple[float, float, Zone | None]]:
    """The stretches of a way, as from where to where it is along the line, and in which zone if any."""
    met = []
    for zone in zones:
        size = zone.up + (zone.end - zone.start) + zone.down
        start = here + (zone.start - zone.up - here) % line.length
        while start + size <= here + far + 1e-6:
            met.append((start, start + size, zone))
            start += line.length
    last = here
    for start, end, zone in sorted(met, key=lambda one: one[0]):
        if start - last > 1e-9:
            yield last, start, None
        yield start, end, zone
        last = end
    if here + far - last > 1e-9:
        yield last, here + far, None
