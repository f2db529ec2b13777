"""Reliefs for round cutters: the inside corners of an opening cut out far enough for a square insert to seat."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..geometry.loop import Outline, circle
from ..geometry.segment import Point, Source
from ..parts.sides import SideFrame

ReliefKind = Literal["none", "dog-bone", "T-bone, long side", "T-bone, short side"]

#: A relief is this much larger in radius than the cutter (mm). At the cutter's own radius its centre line would
#: be a stroke in and out on itself: a line drawn twice.
ROOM = 0.05


@dataclass(frozen=True, slots=True)
class Relief:
    """A kind of relief and the radius (mm) of its circle."""

    kind: ReliefKind
    radius: float


def corner_relief(relief: Relief, corner: Point, long: complex, short: complex, shape: str) -> Outline:
    """A circle through ``corner``; ``long`` and ``short`` run from it along the two sides of the opening.

    Dog-bone: centre on the bisector of the opening; T-bone: centre on the chosen side. Both at one radius from
    the corner.
    """
    if relief.kind == "dog-bone":
        direction = (long + short) / abs(long + short)
    else:
        direction = long if relief.kind == "T-bone, long side" else short
    return Outline(circle(corner + direction * relief.radius, relief.radius, Source(shape, "relief")))


def notch_reliefs(
    relief: Relief | None, frame: SideFrame, begin: float, end: float, depth: float, shape: str
) -> list[Outline]:
    """Circles at the floor corners of a notch; an end that opens to the side of the part has none."""
    if relief is None:
        return []
    found = []
    for at, inside, closed in ((begin, 1, begin > 1e-9), (end, -1, end < frame.length - 1e-9)):
        if closed:
            across, out = frame.along * inside, -frame.inward
            long, short = (across, out) if end - begin >= depth else (out, across)
            found.append(corner_relief(relief, frame.point(at, depth), long, short, shape))
    return found


def slot_reliefs(
    relief: Relief | None, middle: Point, along: complex, length: float, width: float, shape: str
) -> list[Outline]:
    """Circles at the four corners of a slot about ``middle`` whose ``length`` runs along ``along``."""
    if relief is None:
        return []
    found = []
    for x, y in ((1, 1), (1, -1), (-1, 1), (-1, -1)):
        corner = middle + along * complex(x * length / 2, y * width / 2)
        sides = (-x * along, -y * along * 1j)
        long, short = sides if length >= width else sides[::-1]
        found.append(corner_relief(relief, corner, long, short, shape))
    return found
