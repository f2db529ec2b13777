"""Cut-outs that meet nothing: they need no arrangement, they are simply holes in what they lie in."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from ..geometry.boolean import subtract
from ..geometry.chords import as_polygon
from ..geometry.loop import Loop, Outline
from ..geometry.rows import Numbers, SegmentRows
from ..geometry.segment import Segment
from ..remembered import Remembered

#: Boxes nearer to one another than this (mm) are left to the arrangement.
_NEAR = 0.01
#: With fewer than so many cut-outs the arrangement is quick enough.
_MANY = 40


def less(base: Sequence[Outline], removed: Sequence[Outline]) -> list[Outline]:
    """``base`` less the union of ``removed``, the largest piece first; as `subtract`, quick where most lie apart."""
    if len(removed) < _MANY:
        return subtract(base, removed)
    alone = _apart(base, removed)
    meeting = [outline for at, outline in enumerate(removed) if at not in alone]
    pieces = subtract(base, meeting) if meeting else list(base)
    holes = _in_pieces(pieces, [removed[at].outer for at in sorted(alone)])
    cut = [Outline(piece.outer, (*piece.cutouts, *inside)) for piece, inside in zip(pieces, holes, strict=True)]
    return sorted(cut, key=lambda piece: -piece.area) if len(cut) > 1 else cut


_TURNED = Remembered[Loop]()


def _turned(loop: Loop) -> Loop:
    """A loop run through backwards: the same one each time, so that what follows from it is known again."""
    return _TURNED.of(loop, (), loop.reversed)


def _apart(base: Sequence[Outline], removed: Sequence[Outline]) -> set[int]:
    """Those that have no openings, and whose boxes meet no other's and no edge of the base."""
    boxes = _boxes_of([[s for loop in outline.loops for s in loop] for outline in removed])
    grown = shapely.box(boxes[:, 0] - _NEAR, boxes[:, 1] - _NEAR, boxes[:, 2] + _NEAR, boxes[:, 3] + _NEAR)
    one, other = shapely.STRtree(grown).query(grown)
    edges = SegmentRows.of([s for outline in base for loop in outline.loops for s in loop]).boxes()
    met, _ = shapely.STRtree(shapely.box(*edges.T)).query(grown)
    meets = {*one[one != other].tolist(), *met.tolist()}
    return {at for at, outline in enumerate(removed) if not outline.cutouts and at not in meets}


def _boxes_of(groups: Sequence[Sequence[Segment]]) -> Numbers:
    each = SegmentRows.of([segment for group in groups for segment in group]).boxes()
    begins = np.cumsum([0, *(len(group) for group in groups[:-1])])
    low, high = np.minimum.reduceat(each, begins), np.maximum.reduceat(each, begins)
    boxes: Numbers = np.concatenate([low[:, :2], high[:, 2:]], axis=1)
    return boxes


def _in_pieces(pieces: Sequence[Outline], loops: Sequence[Loop]) -> list[list[Loop]]:
    """The loops as holes of the pieces that they lie in, those in none left out: none comes near an edge."""
    found: list[list[Loop]] = [[] for _ in pieces]
    if not loops:
        return found
    starts = shapely.points([(loop.segments[0].start.real, loop.segments[0].start.imag) for loop in loops])
    for piece, inside in zip(pieces, found, strict=True):
        room = as_polygon(piece, 0.005)
        shapely.prepare(room)
        inside.extend(_turned(loops[int(at)]) for at in np.flatnonzero(shapely.contains(room, starts)))
    return found
