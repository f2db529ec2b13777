"""Scores and engravings: along lines, open or closed, at a depth."""

from __future__ import annotations

from collections.abc import Sequence

from ...geometry.segment import Segment
from .depths import passes
from .going_down import down_open, straight
from .stroke import Strokes, reversed_way, sloping


def along(segments: Sequence[Segment], depth: float, stepdown: float, plunges: bool, ramp: float) -> Strokes:
    """A line in passes to a depth (mm); an open one is followed back again in every other pass."""
    way, found, z = list(segments), list[Strokes](), 0.0
    closed = abs(way[0].start - way[-1].end) < 1e-6
    for height in passes(depth, stepdown):
        down = straight(way[0].start, z, height) if plunges else down_open(way, z, height, ramp)
        found.append([*down, *sloping(way, height, height)])
        way = way if closed else reversed_way(way)
        z = height
    return [stroke for strokes in found for stroke in strokes]
