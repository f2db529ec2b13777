"""Holding tabs as they are found in a file: gaps of cut lines, across which a piece hangs in its sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely
from scipy.spatial import cKDTree
from shapely import STRtree

from ..drawings.chains import Chain, chained
from ..geometry.segment import Arc, Line, Segment, Source
from .chords import Point, as_lines

#: No gap that is wider (mm) is taken for a holding tab.
WIDEST = 15.0

#: The line must go on in the same direction behind it: the cosine of the largest turn.
_AHEAD = 0.9

_SOURCE = Source("proof", "holding tab")

#: So many ends near another are looked at; ends closer (mm) than this are joined.
_NEAR, CLOSED = 12, 0.01

#: A loose end: where it is, which way the line would go on, and its last segment.
End = tuple[Point, complex, Segment]


@dataclass(frozen=True, slots=True)
class Hanging:
    """A gap of a cut line, by its ends (mm), and what would be cut there if nothing were to hang."""

    start: Point
    end: Point
    across: Segment

    @property
    def middle(self) -> Point:
        return self.across.at(0.5)

    @property
    def length(self) -> float:
        return self.across.length


def without_gaps(chains: Sequence[Chain], meant: Sequence[Point] = ()) -> tuple[list[Chain], list[Hanging]]:
    """The chains with those closed that only holding tabs keep open; and these tabs.

    Two ends are one gap where each is the nearest to the other and the line goes on in its direction. An arc of a
    circle that stays open is no hole with a tab, unless there is one ``meant`` in its gap.
    """
    loose = [chain for chain in chains if not chain.closed]
    gaps = [gap for gap in _open_ones(_gaps(loose), chains) if _is_gap(gap, loose, meant)]
    if not gaps:
        return list(chains), []
    bridged = chained([*(s for chain in loose for s in chain.segments), *(gap.across for gap in gaps)])
    closed = [chain for chain in bridged if chain.closed]
    ends = {(gap.start, gap.end): gap for gap in gaps}
    used = [
        gap
        for chain in closed
        for segment in chain.segments
        if (gap := ends.get((segment.start, segment.end)) or ends.get((segment.end, segment.start)))
    ]
    # By their ends: on the way they may have been turned about.
    still = {_ends(s) for chain in bridged if not chain.closed for s in chain.segments}
    left = [chain for chain in loose if any(_ends(s) in still for s in chain.segments)]
    return [*(chain for chain in chains if chain.closed), *closed, *left], used


def _ends(segment: Segment) -> tuple[frozenset[Point], Point]:
    return frozenset((segment.start, segment.end)), segment.centre if isinstance(segment, Arc) else 0j


def _is_gap(gap: Hanging, loose: Sequence[Chain], meant: Sequence[Point]) -> bool:
    if any(abs(gap.middle - tab) <= WIDEST / 2 for tab in meant):
        return True
    if gap.length > WIDEST:
        return False
    own = next(
        (chain for chain in loose if {chain.segments[0].start, chain.segments[-1].end} == {gap.start, gap.end}), None
    )
    return own is None or not _on_one_circle(own)


def _on_one_circle(chain: Chain) -> bool:
    centres = [segment.centre for segment in chain.segments if isinstance(segment, Arc)]
    return len(centres) == len(chain.segments) and all(abs(centre - centres[0]) < CLOSED for centre in centres)


def _open_ones(gaps: Sequence[Hanging], chains: Sequence[Chain]) -> list[Hanging]:
    """The gaps across which no other line is cut: what shares a line with a neighbour hangs on nothing there."""
    if not gaps:
        return []
    lines = as_lines([chain.segments for chain in chains], 0.001)
    middles = shapely.points([[gap.middle.real, gap.middle.imag] for gap in gaps])
    covered = set(STRtree(lines).query(middles, predicate="dwithin", distance=CLOSED)[0].tolist())
    return [gap for at, gap in enumerate(gaps) if at not in covered]


def _gaps(loose: Sequence[Chain]) -> list[Hanging]:
    """Pairs of loose ends that face each other over a short way."""
    ends = [(chain.segments[0].start, -chain.segments[0].start_tangent, chain.segments[0]) for chain in loose]
    ends += [(chain.segments[-1].end, chain.segments[-1].end_tangent, chain.segments[-1]) for chain in loose]
    if len(ends) < 2:
        return []
    points = np.array([[point.real, point.imag] for point, _, _ in ends])
    away, which = cKDTree(points).query(points, k=min(_NEAR, len(ends)), distance_upper_bound=WIDEST)
    # Of the ends near by, the nearest to which the line goes on; it may be no nearer than that of a part beside it.
    best = [_best(ends, at, away[at], which[at]) for at in range(len(ends))]
    found = []
    for at, (other, across) in enumerate(best):
        if across and other > at and best[other][0] == at:
            found.append(Hanging(across.start, across.end, across))
    return found


def _best(
    ends: Sequence[End], at: int, away: npt.NDArray[np.float64], which: npt.NDArray[np.intp]
) -> tuple[int, Segment | None]:
    for distance, other in zip(away, which, strict=True):
        if other != at and other < len(ends) and distance > CLOSED:
            across = _across(ends[at], ends[other])
            if across:
                return int(other), across
    return -1, None


def _across(a: End, b: End) -> Segment | None:
    """What joins two ends: round the circle that both lie on, else straight on; nothing where neither goes on there."""
    (here, ahead, first), (there, toward, second) = a, b
    if isinstance(first, Arc) and isinstance(second, Arc) and abs(first.centre - second.centre) < 0.01:
        turns = (ahead * (here - first.centre).conjugate()).imag > 0
        return Arc(here, there, first.centre, turns, _SOURCE)
    way = (there - here) / abs(there - here)
    goes_on = (ahead * way.conjugate()).real > _AHEAD and (toward * way.conjugate()).real < -_AHEAD
    return Line(here, there, _SOURCE) if goes_on else None
