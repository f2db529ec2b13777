"""How a round beam or cutter is drawn with chords."""

from __future__ import annotations

import math

#: Chords of the sweep leave the true curve by at most this (mm).
TOLERANCE = 0.0002


def quarter(radius: float) -> int:
    """Chords for a quarter of a round beam of ``radius`` mm, within the tolerance."""
    return 4 if radius <= TOLERANCE else max(4, math.ceil(math.pi / 4 / math.acos(1 - TOLERANCE / radius)))
