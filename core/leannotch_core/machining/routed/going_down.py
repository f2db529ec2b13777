"""How a cutter gets down to the height of a pass: along a slope, in a helix beside the line, or straight."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from ...document.sizes import shown
from ...geometry.segment import Arc, Point, Segment, Source
from .depths import at_most
from .stroke import ClosedWay, Strokes, reversed_way, sloping, upright
from .zone import Zone, free_ahead

#: A stretch between tabs that is shorter (mm) is not gone to and fro on.
SHORTEST = 1.0

#: A cutter that may go straight down does not go round oftener than this instead.
MOST_ROUNDS = 20

_HELIX = Source("cutter", "helix")


def run_of(fall: float, angle: float) -> float:
    """How long (mm) a slope is that falls so far: fall / tan(angle)."""
    return fall / math.tan(math.radians(angle))


def down_round(
    line: ClosedWay, here: float, from_z: float, z: float, angle: float, zones: Sequence[Zone]
) -> tuple[Strokes, float]:
    """Down along a closed line from a place in no zone, and how far that has brought it.

    Where tabs stand in the way it goes to and fro before the next of them, and never down over one.
    """
    run = run_of(from_z - z, angle)
    at_most(run / line.length, f"a ramp of {angle:g} degrees round a line of {shown(line.length)}")
    if not zones:
        return sloping(line.onward(here, run), from_z, z), run
    free = max(min(free_ahead(zones, here, line.length), line.length), SHORTEST)
    legs = odd(math.ceil(run / free - 1e-9))
    stretch = list(line.onward(here, run / legs))
    return to_and_fro(stretch, from_z, z, legs), run / legs


def odd(legs: int) -> int:
    """So many, or one more: then it ends where the way goes on."""
    return max(1, int(at_most(legs, "going to and fro on a ramp")) | 1)


def to_and_fro(way: Sequence[Segment], from_z: float, z: float, legs: int) -> Strokes:
    """Down along a way and back on it, leg by leg."""
    found: Strokes = []
    for leg in range(legs):
        segments = reversed_way(way) if leg % 2 else list(way)
        found += sloping(
            segments, from_z + (z - from_z) * leg / legs, from_z + (z - from_z) * (leg + 1) / legs, how="ramp"
        )
    return found


def down_open(way: Sequence[Segment], from_z: float, z: float, angle: float) -> Strokes:
    """Down along an open way, ended where that begins: to and fro as often as it takes."""
    whole = sum(segment.length for segment in way)
    run = run_of(from_z - z, angle)
    legs = max(2, 2 * math.ceil(at_most(run / (2 * whole), "going to and fro on a line") - 1e-9))
    short = list(ClosedWay.of(way).onward(0.0, run / legs)) if run / legs < whole else list(way)
    return to_and_fro(short, from_z, z, legs)


def straight(at: Point, from_z: float, z: float) -> Strokes:
    """Down as a drill goes."""
    return [upright(at, from_z, z)]


def helix(at: Point, centre: Point, ccw: bool, from_z: float, z: float, angle: float) -> Strokes:
    """Down in whole turns about a centre, begun and ended at a place on its circle, no steeper than an angle."""
    radius = abs(at - centre)
    needed = at_most(run_of(from_z - z, angle) / (2 * math.pi * radius), f"a helix at {angle:g} degrees")
    turns = max(1, math.ceil(needed - 1e-9))
    across = 2 * centre - at
    half = [Arc(at, across, centre, ccw, _HELIX), Arc(across, at, centre, ccw, _HELIX)]
    return sloping(half * turns, from_z, z)


#: Whether a cutter that goes in a circle about a place, of a radius (mm), stays clear of what is to be kept.
HasRoom = Callable[[Point, float], bool]


def helix_beside(
    line: ClosedWay, here: float, left: bool, radius: float, has_room: HasRoom
) -> tuple[Point, Point, bool] | None:
    """Where on the waste side of a line a helix touches it: the place, its centre, and which way it goes round."""
    at, ahead = line.at(here), line.tangent(here)
    centre = at + ahead * (1j if left else -1j) * radius
    return (at, centre, left) if has_room(centre, radius) else None
