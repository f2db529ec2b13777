"""Drilling: straight down at a place, in pecks, between which the chips come out."""

from __future__ import annotations

import math

from ...geometry.segment import Point
from .depths import at_most
from .stroke import Strokes, upright

#: A round hole as wide as the cutter, to within this (mm), is drilled: its edge is then off by half of it at most.
NEAR = 0.02


def drilled(at: Point, depth: float, peck: float) -> Strokes:
    """Down to a depth (mm), each time by a peck more, and out of the hole after each."""
    count = max(1, math.ceil(at_most(depth / peck, "drilling in pecks") - 1e-6)) if peck > 0 else 1
    found: Strokes = []
    for number in range(count):
        z = -depth * (number + 1) / count
        # It goes back through what is drilled already, at the feed.
        found += [upright(at, 0.0, z), upright(at, z, 0.0)]
    return found
