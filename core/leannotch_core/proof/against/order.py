"""In which order lines are worked: marks before cuts, inner cuts before outer ones, what lies in a cut-out first, and
each outline as a whole. Which line lies in which follows from the lines themselves.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree

from ..chords import Point, Side, as_lines, lengths, places
from ..fault import Fault

#: A line is one of an outline where it runs along it within this (mm).
ON = 0.02

#: So many faults are told one by one.
FEW = 6

Shapes = npt.NDArray[Any]


@dataclass(frozen=True, slots=True)
class WorkedLine:
    """A line as it is worked, one after the other; one that is ``cut`` goes through the sheet."""

    sides: Sequence[Side]
    cut: bool

    @property
    def middle(self) -> Point:
        """A place on it: the middle of its longest side, on the arc itself where it is one."""
        longest = self.sides[int(np.argmax(lengths(self.sides)))]
        return complex(places([longest], np.array([0.5]))[0])


def order_faults(
    worked: Sequence[WorkedLine], outlines: Sequence[Sequence[Side]], marks_first: bool
) -> Iterator[Fault]:
    """What is worked too late or too early among lines in the order in which they are worked.

    ``outlines`` are closed, bridged where holding tabs are. A machine that has the operations in an order of its own
    is not asked for marks first.
    """
    if not outlines or not worked:
        return
    rings = as_lines(outlines, 0.0002)
    shapes = shapely.polygons([shapely.linearrings(shapely.get_coordinates(ring)) for ring in rings])
    middles = [one.middle for one in worked]
    spots = shapely.points([[at.real, at.imag] for at in middles])
    which = _ring_of(rings, spots, [one.cut for one in worked])
    own: dict[int, list[int]] = defaultdict(list)
    for at, ring in enumerate(which):
        if ring >= 0:
            own[ring].append(at)
    around = _around(shapes)
    found = [
        *_inner_late(own, around, middles),
        *_in_goes(own, which, middles),
        *(_marks_late(worked, shapes, own, spots, around) if marks_first else ()),
    ]
    yield from found[:FEW]
    if len(found) > FEW:
        yield Fault("order", f"And {len(found) - FEW} more come too late or too early", found[FEW].at)


def _ring_of(rings: Shapes, spots: Shapes, cut: Sequence[bool]) -> list[int]:
    """The outline that each line is of; -1 of lines that are of none."""
    found = np.full(len(spots), -1)
    of, ring = STRtree(rings).query_nearest(spots, max_distance=ON, all_matches=False)
    found[of] = ring
    found[~np.array(cut, dtype=bool)] = -1
    return [int(one) for one in found]


def _around(shapes: Shapes) -> dict[int, int]:
    """For each outline the innermost one that it lies in."""
    outer, inner = STRtree(shapes).query(shapes, predicate="contains_properly")
    area, found = shapely.area(shapes), dict[int, int]()
    for around, within in zip(outer.tolist(), inner.tolist(), strict=True):
        if within not in found or area[around] < area[found[within]]:
            found[within] = around
    return found


def _inner_late(own: dict[int, list[int]], around: dict[int, int], middles: Sequence[Point]) -> Iterator[Fault]:
    for inner, outer in sorted(around.items()):
        if own[inner] and own[outer] and max(own[inner]) > min(own[outer]):
            yield Fault(
                "order", "An inner cut comes after the cut round it; then it lies loose", middles[max(own[inner])]
            )


def _in_goes(own: dict[int, list[int]], which: Sequence[int], middles: Sequence[Point]) -> Iterator[Fault]:
    """Outlines that are left for another one before they are done."""
    for ring, lines in sorted(own.items()):
        between = [at for at in range(lines[0], lines[-1]) if which[at] not in (ring, -1)] if lines else []
        if between:
            yield Fault("order", "An outline is left for another cut before it is done", middles[between[0]])


def _marks_late(
    worked: Sequence[WorkedLine], shapes: Shapes, own: dict[int, list[int]], spots: Shapes, around: dict[int, int]
) -> Iterator[Fault]:
    """Marks on what has been cut, or cut into, already: the innermost outline about a mark, and those within that."""
    marks = np.array([at for at, one in enumerate(worked) if not one.cut], dtype=int)
    if not len(marks):
        return
    inside = STRtree(shapes).query(spots[marks], predicate="within")
    area = shapely.area(shapes)
    holes = defaultdict(list)
    for inner, outer in around.items():
        holes[outer].append(inner)
    innermost: dict[int, int] = {}
    for mark, ring in zip(inside[0].tolist(), inside[1].tolist(), strict=True):
        if mark not in innermost or area[ring] < area[innermost[mark]]:
            innermost[mark] = ring
    for mark, ring in sorted(innermost.items()):
        cuts = [at for one in (ring, *holes[ring]) for at in own[one]]
        if cuts and min(cuts) < marks[mark]:
            at = spots[marks[mark]]
            yield Fault("order", "A mark is made on a part that has been cut into already", complex(at.x, at.y))
