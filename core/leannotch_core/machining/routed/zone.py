"""Stretches of a line over which the cutter is lifted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Zone:
    """Where a tab stands along a closed line (mm): from where to where the cutter is at the height of its top.

    It may go up over a slope before that, and down over one behind it.
    """

    start: float
    end: float
    up: float = 0.0
    down: float = 0.0


def free_ahead(zones: Sequence[Zone], here: float, length: float) -> float:
    """How far it is from a place to where the next zone begins; 0 within one, all the way round without any."""
    found = length
    for zone in zones:
        start, end = zone.start - zone.up, zone.end + zone.down
        if (here - start) % length < (end - start) - 1e-9:
            return 0.0
        found = min(found, (start - here) % length)
    return found
