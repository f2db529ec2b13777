"""Profiles: an outline or cut-out followed pass by pass to its full depth, its tabs left standing."""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...document.routing import Direction, Entry
from ...geometry.segment import Arc, Point, Segment, Source
from .going_down import (
    MOST_ROUNDS,
    SHORTEST,
    HasRoom,
    down_round,
    helix,
    helix_beside,
    odd,
    run_of,
    straight,
    to_and_fro,
)
from .stroke import ClosedWay, Strokes, reversed_way, sloping
from .tabs import LiftedTabs, behind, over
from .zone import Zone, free_ahead

_LEAD = Source("cutter", "lead")


@dataclass(frozen=True, slots=True)
class Manner:
    """How profiles are cut: ``ramp`` is the steepest slope (degrees), ``lead`` the radius (mm) of arcs on the waste.

    ``radius`` is that of the cutter (mm), and ``has_room`` tells where it would touch what is to be kept.
    """

    entry: Entry
    ramp: float
    direction: Direction
    lead: float
    radius: float
    plunges: bool
    has_room: HasRoom


def in_direction(segments: Sequence[Segment], direction: Direction) -> tuple[Segment, ...]:
    """A closed line with what is to be kept on its left, as it is cut: climb has the material on the right."""
    return tuple(reversed_way(segments)) if direction == "climb" else tuple(segments)


def profiled(
    segments: Sequence[Segment],
    heights: Sequence[float],
    standing: LiftedTabs | None,
    manner: Manner,
) -> list[Strokes]:
    """A closed line, as `in_direction` gives it, in passes at heights (mm), each of them by itself.

    Without leads each begins where the one before it ended.
    """
    line = ClosedWay.of(segments)
    arcs = _leads(line, 0.0, manner) if manner.lead > 0 else None
    if arcs and not (standing and free_ahead(standing.zones(heights[-1], line.length), 0.0, line.length) <= 0):
        return _with_leads(line, arcs, heights, standing, manner)
    found: list[Strokes] = []
    here, z = 0.0, 0.0
    for height in heights:
        way: Strokes = []
        zones = standing.zones(height, line.length) if standing else []
        before = standing.zones(z, line.length) if standing else []
        if zones and free_ahead(zones, here, line.length) < min(2 * manner.radius, line.length / 8):
            on = behind(zones, here, line.length) + SHORTEST
            # On to where it can go down; at the height before, where everything is cut already.
            way += over(line, here, on, z, before, standing) if z < 0 else []
            here += on
        down, moved = _down(line, here, z, height, zones, manner)
        way += down
        here += moved
        way += over(line, here, line.length, height, zones, standing)
        found.append(way)
        z = height
    return found


def _down(
    line: ClosedWay, here: float, z: float, height: float, zones: Sequence[Zone], manner: Manner
) -> tuple[Strokes, float]:
    if manner.entry == "straight" and manner.plunges:
        return straight(line.at(here), z, height), 0.0
    if manner.entry == "helix":
        beside = helix_beside(line, here, manner.direction == "climb", 0.9 * manner.radius, manner.has_room)
        if beside:
            at, centre, ccw = beside
            return helix(at, centre, ccw, z, height, manner.ramp), 0.0
    if manner.plunges and run_of(z - height, manner.ramp) > MOST_ROUNDS * line.length:
        return straight(line.at(here), z, height), 0.0
    return down_round(line, here, z, height, manner.ramp, zones)


def _leads(line: ClosedWay, place: float, manner: Manner) -> tuple[Arc, Arc] | None:
    """Quarters of a circle on the waste side, into the line and out of it; None where there is no room for them."""
    at, ahead = line.at(place), line.tangent(place)
    left = manner.direction == "climb"
    side = 1j if left else -1j
    # Out of a corner it would run into the part: it is left in the direction in which it was come to.
    back = line.tangent(line.length - 2e-7)
    centre_in, centre_out = at + ahead * side * manner.lead, at + back * side * manner.lead
    quarter = cmath.rect(1.0, math.pi / 2 * (1 if left else -1))
    begin: Point = centre_in + (at - centre_in) / quarter
    end: Point = centre_out + (at - centre_out) * quarter
    arcs = Arc(begin, at, centre_in, left, _LEAD), Arc(at, end, centre_out, left, _LEAD)
    spots = [arc.at(share) for arc in arcs for share in (0.25, 0.5, 0.75, 1.0)] + [begin]
    clear = all(manner.has_room(spot, 0.0) for spot in spots if abs(spot - at) > 1e-6)
    return arcs if clear else None


def _with_leads(
    line: ClosedWay,
    arcs: tuple[Arc, Arc],
    heights: Sequence[float],
    standing: LiftedTabs | None,
    manner: Manner,
) -> list[Strokes]:
    """Each pass by itself: down on the arc that leads in, all round, and out by the other arc."""
    into, out = arcs
    found, z = [], 0.0
    for height in heights:
        zones = standing.zones(height, line.length) if standing else []
        if manner.entry == "straight" and manner.plunges:
            way, left = [*straight(into.start, z, height), *sloping([into], height, height)], height
        else:
            legs = odd(math.ceil(run_of(z - height, manner.ramp) / into.length - 1e-9))
            way = to_and_fro([into], z, height, legs)
            # Where the arc begins it was last before its last leg, and no deeper than it was then.
            left = z + (height - z) * (legs - 1) / legs
        way += over(line, 0.0, line.length, height, zones, standing)
        found.append([*way, *sloping([out], height, height)])
        z = left
    return found


def gentle(manner: Manner) -> Manner:
    """The same without its arcs, for a line round which there is no room."""
    return replace(manner, lead=0.0)
