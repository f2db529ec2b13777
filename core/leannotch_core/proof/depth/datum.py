"""Where z 0 is in anybody's program: as it says, as its maker says, or as its heights make it likely."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from ...document.machine import ZDatum
from ...document.sizes import shown
from ...document.statement import Z_STATED
from ..fault import Fault
from .program import ProgramWays, ReadProgram

#: What goes no deeper than this (mm) under z 0 is taken to end at it.
_AT_ZERO = 0.5


@dataclass(frozen=True, slots=True)
class Placed:
    """A program with the face of its sheet at 0, and what is told of that."""

    read: ReadProgram
    faults: list[Fault] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def with_datum(read: ReadProgram, datum: ZDatum | str, thickness: float) -> Placed:
    """The program as it lies in a sheet of a thickness (mm). ``datum`` is what its maker says, or nothing."""
    stated = next((Z_STATED[comment] for comment in read.told.comments if comment in Z_STATED), "")
    likely = _likely(read.way, thickness)
    faults: list[Fault] = []
    if datum and stated and datum != stated:
        faults.append(Fault("z-datum", f"The program says that its z 0 is {stated}, and it was to be {datum}"))
    taken = datum or stated or "the face of the sheet"
    notes = [f"Its z 0 was taken to be {taken}{'' if datum or stated else ', which it does not say'}."]
    if likely and likely != taken:
        low, high = _reach(read.way)
        what = f"it works from z {high:.2f} down to z {low:.2f} in a sheet of {shown(thickness)}"
        faults.append(Fault("z-datum", f"Its z 0 seems to be {likely}, not {taken}: {what}"))
    down = thickness if taken == "the spoilboard" else 0.0
    way = read.way.moved(lambda places: places, down=down)
    return Placed(replace(read, way=way), faults, notes)


def _reach(way: ProgramWays) -> tuple[float, float]:
    """The lowest and the highest height (mm) at which it works."""
    works: Sequence[float] = way.z[way.feed > 0].tolist() or [0.0]
    return min(works), max(works)


def _likely(way: ProgramWays, thickness: float) -> str:
    """What z 0 seems to be: nothing where its heights do not tell."""
    low, _ = _reach(way)
    level = (way.feed > 0) & (np.abs(way.z - way.from_z) < 1e-3) & (np.abs(way.end - way.start) > 1e-3)
    heights = way.z[level]
    if not len(heights):
        return ""
    above = float((heights > _AT_ZERO).mean())
    if low > -max(_AT_ZERO, 0.2 * thickness) and above > 0.3 and float(heights.max()) < thickness:
        return "the spoilboard"
    return "the face of the sheet" if low < -0.6 * thickness else ""
