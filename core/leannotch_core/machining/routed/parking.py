"""Where a router stands while its cutter is changed, and in the end: off the sheet, and above all that holds it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import shapely
from shapely import Polygon

from ...facts.bed import Bed
from ...geometry.segment import Point

#: It stands so far (mm) from the sheet and from clips, beside half the cutter: room for a hand with a spanner.
ROOM = 10.0

#: It passes so far (mm) over what stands up from the sheet.
OVER = 2.0


@dataclass(frozen=True, slots=True)
class Parking:
    """A place in the machine's coordinates and a height over the face of the sheet, mm."""

    at: Point
    height: float


def parking(
    bed: Bed, sheet: Sequence[Point], clips: Sequence[Polygon], radius: float, safe: float, clips_stand: float
) -> Parking:
    """The place nearest to the machine's origin that is off the sheet and clear of clips, for a cutter of a radius.

    ``sheet`` are its corners on the bed as it is seen. Where the bed has no such room it stands at the origin, over
    whatever lies there. All in mm.
    """
    height = max(safe, clips_stand + OVER)
    lies, home = Polygon([(corner.real, corner.imag) for corner in sheet]), bed.axes.back(0)
    kept_clear = shapely.union_all([shape.buffer(radius + ROOM / 2) for shape in (lies, *clips)])
    free = [
        at for at in _places(bed, lies, radius + ROOM) if not kept_clear.intersects(shapely.Point(at.real, at.imag))
    ]
    best = min(free, key=lambda at: (round(abs(at - home), 6), at.real, at.imag), default=home)
    return Parking(bed.axes(best), height)


def _places(bed: Bed, lies: Polygon, away: float) -> Iterator[Point]:
    """The origin's own corner, those of the bed, and places beside the middles and corners of the sheet, on the bed."""
    left, bottom, right, top = lies.bounds
    across = (0.0, left - away, (left + right) / 2, right + away, bed.width)
    up = (0.0, bottom - away, (bottom + top) / 2, top + away, bed.height)
    for x in across:
        for y in up:
            if 0 <= x <= bed.width and 0 <= y <= bed.height:
                yield complex(x, y)
