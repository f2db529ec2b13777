"""Bend lines across a drawn outline: where they lie, from the edge, bend or shape that they are measured from."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..document.bend import Measured
from ..geometry.loop import Bounds, Outline, joined_bounds
from ..geometry.meet import meeting_points
from ..geometry.segment import Line, Source, dot, move
from .allowance import Allowance
from .laid import LaidBend

#: The directions that a distance runs in.
WAYS: dict[str, complex] = {"right": 1, "left": -1, "up": 1j, "down": -1j}


@dataclass(frozen=True, slots=True)
class LineSize:
    """A bend line in numbers: ``leg`` mm from where it is measured, ``turn`` in degrees."""

    id: str
    name: str
    bend: Allowance
    up: bool
    leg: float
    measured: Measured
    runs: str
    turn: float


def side_of(box: Bounds, runs: str) -> float:
    """How far along the way that it ``runs`` the far side of a box lies."""
    left, bottom, right, top = box
    return {"right": right, "left": -left, "up": top, "down": -bottom}[runs]


def edge_of(width: float, height: float, runs: str) -> float:
    """How far along the way that it ``runs`` the edge lies that a distance into the part begins at."""
    return {"right": 0.0, "left": -width, "up": 0.0, "down": -height}[runs]


def after(bend: LaidBend, size: LineSize) -> float:
    """How far along the way that a line runs its leg begins at another bend."""
    return dot(WAYS[size.runs], bend.middle) + bend.half - bend.bend.setback(size.measured)


def lay(size: LineSize, begins: float, region: Sequence[Outline]) -> LaidBend | None:
    """The bend line whose leg ``begins`` so far along the way that it runs; None where it misses the part."""
    way = WAYS[size.runs]
    at = begins + size.leg + size.bend.length / 2 - size.bend.setback(size.measured)
    box = joined_bounds(outline.bounds for outline in region)
    middle = complex(box[0] + box[2], box[1] + box[3]) / 2
    through = way * at + way * 1j * dot(way * 1j, middle)
    onward = way * move(size.turn).turn
    far = math.hypot(box[2] - box[0], box[3] - box[1]) + abs(through - middle) + 1
    line = Line(through - onward * 1j * far, through + onward * 1j * far, Source(size.id, "bend"))
    met = [p for outline in region for segment in outline.outer for p in meeting_points(line, segment)]
    if len(met) < 2:
        return None
    shares = sorted(line.share_of(point) for point in met)
    if (shares[-1] - shares[0]) * line.length < 1e-6:
        return None
    return LaidBend(size.id, size.name, size.bend, size.up, line.at(shares[0]), line.at(shares[-1]), onward)
