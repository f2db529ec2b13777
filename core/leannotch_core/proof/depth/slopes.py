"""Floors that slope: ways down or up at the feed that nothing afterwards makes level."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely

from ...document.sizes import shown
from ..fault import Fault
from .freed import THROUGH
from .program import ProgramWays
from .swept import SAME, Cutters, gone

#: Heights that differ by less (mm) are level.
_LEVEL = 0.01
#: Shorter slopes (mm) are where a tab begins or ends.
_SHORT = 1.0


def slopes(way: ProgramWays, thickness: float, cutters: Cutters) -> Iterator[Fault]:
    """The longest floor that is left sloping, with how many more there are."""
    fall, long = np.abs(way.z - way.from_z), np.abs(way.end - way.start)
    low = np.minimum(way.from_z, way.z)
    sloping = (way.feed > 0) & (fall > _LEVEL) & (long > _SHORT) & (low < -_LEVEL) & (low > -thickness + THROUGH)
    flat = way.some((way.feed > 0) & (np.abs(way.z - way.from_z) <= _LEVEL) | (long <= SAME))
    left: list[int] = []
    for level in np.unique(np.round(low[sloping], 2)).tolist():
        some = np.flatnonzero(sloping & (np.round(low, 2) == level))
        cleared = gone(flat, level + _LEVEL, cutters)
        shapely.prepare(cleared)
        ends = np.column_stack([way.start[some].real, way.start[some].imag, way.end[some].real, way.end[some].imag])
        left += some[~shapely.covers(cleared, shapely.linestrings(ends.reshape(-1, 2, 2)))].tolist()
    if left:
        at = max(left, key=lambda one: long[one])
        more = f", and so do {len(left) - 1} more ways" if len(left) > 1 else ""
        begun, ended = shown(-float(way.from_z[at])), shown(-float(way.z[at]))
        text = f"Line {int(way.line[at])}: a floor slopes from {begun} to {ended} deep{more}"
        yield Fault("depth", text, complex(way.start[at]))
