"""Passes: how deep each goes, all of them by the same."""

from __future__ import annotations

import math

from ...document.sizes import shown
from ...facts.cutters import NoCutter

#: So many passes of one thing, or turns on the way down, are made at the most: beyond them a number was mistyped.
MOST = 1000


def passes(depth: float, stepdown: float, begun: float = 0.0) -> list[float]:
    """The heights (mm, below 0) of the passes from one depth to another: ceil(depth / stepdown) equal ones.

    Raises `NoCutter` where there is no end to them.
    """
    needed = (depth - begun) / stepdown
    count = max(1, math.ceil(at_most(needed, f"{shown(depth - begun)} in steps of {shown(stepdown)}") - 1e-6))
    return [-(begun + (depth - begun) * (at + 1) / count) for at in range(count)]


def at_most(count: float, what: str) -> float:
    """So many of something. Raises `NoCutter` where they are too many to be meant."""
    if not count <= MOST:
        raise NoCutter(f"{what[:1].upper()}{what[1:]} comes to more than {MOST} times; type a larger step.")
    return count
