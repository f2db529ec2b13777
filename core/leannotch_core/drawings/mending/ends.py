"""Ends that meet, and ends that nearly meet: what is joined within a tolerance, and what is not clear."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from shapely import STRtree
from shapely import points as shapely_points

from ...geometry.near import near_pairs
from ...geometry.rows import SegmentRows
from ...geometry.segment import Point, Segment
from ..chains import SNAP, SPECK

#: What is no larger than this (mm) was drawn by mistake where lines cross: less than any kerf.
LITTLE = 0.05

#: An end of a segment: its index, and whether it is its start.
End = tuple[int, bool]


@dataclass(frozen=True, slots=True)
class Net:
    """Segments with the nodes that they run between; ``of`` has the start's and the end's node of each.

    ``origin`` has which of the drawn segments each is of; ``specks`` are where segments lay that lead nowhere: no
    longer than ends may be apart to be one node. ``over`` are short ends that ran on past where lines cross.
    """

    segments: tuple[Segment, ...]
    of: tuple[tuple[int, int], ...]
    places: tuple[Point, ...]
    origin: tuple[int, ...]
    specks: tuple[Point, ...] = ()
    over: tuple[Point, ...] = ()

    def loose(self) -> list[int]:
        """Nodes at which only one segment ends."""
        ends = np.bincount(np.array(self.of, dtype=int).ravel(), minlength=len(self.places))
        return [int(node) for node in np.flatnonzero(ends == 1)]

    def middle(self, pair: tuple[int, int]) -> Point:
        """Half way between two nodes."""
        return (self.places[pair[0]] + self.places[pair[1]]) / 2


@dataclass(frozen=True, slots=True)
class Upon:
    """A loose end that lies upon another segment: at which share of it, where, and how far (mm) from its ends."""

    share: float
    point: Point
    away: float


@dataclass(frozen=True, slots=True)
class Loose:
    """Segments as they were drawn, each with the ends that lie upon it, and where they were divided as they crossed.

    Where there are neither, they make the same net whatever is joined, which is ``known`` once it was made.
    """

    segments: tuple[Segment, ...]
    upon: dict[int, list[Upon]]
    crossings: tuple[Point, ...] = ()
    known: list[Net] = field(default_factory=list)


def loose(segments: Sequence[Segment], crossings: tuple[Point, ...] = ()) -> Loose:
    """The segments with the loose ends that lie upon them, within `SNAP`."""
    upon: dict[int, list[Upon]] = defaultdict(list)
    if len(segments) > 1:
        rows = SegmentRows.of(segments)
        lonely = _lonely(rows)
        for first, second in near_pairs(rows, SNAP):
            for own, other in ((first, second), (second, first)):
                for points, alone in ((rows.start, lonely[0]), (rows.end, lonely[1])):
                    which = np.flatnonzero(alone[own])
                    onto, at = other[which], points[own[which]]
                    share = rows.shares(onto, at)
                    for target, point, where in zip(onto.tolist(), at.tolist(), share.tolist(), strict=True):
                        whole = segments[target]
                        if 0 < where < 1 and abs(whole.at(where) - point) <= SNAP:
                            away = min(abs(point - whole.start), abs(point - whole.end))
                            upon[target].append(Upon(where, point, away))
    along = {target: sorted(ends, key=lambda end: end.share) for target, ends in upon.items()}
    return Loose(tuple(segments), along, crossings)


def net(drawn: Loose, within: float = SNAP) -> Net:
    """The segments as a net: ends within `SNAP` are one node.

    An end upon another segment divides it there, unless it is so near to an end of it that the two may be joined.
    """
    if drawn.known:
        return drawn.known[0]
    divided = [
        (piece, i) for i, segment in enumerate(drawn.segments) for piece in _cut(segment, drawn.upon.get(i, ()), within)
    ]
    cells: dict[tuple[int, int], list[int]] = defaultdict(list)
    places: list[Point] = []

    def node(point: Point) -> int:
        column, row = round(point.real / SNAP / 2), round(point.imag / SNAP / 2)
        for x in (column - 1, column, column + 1):
            for y in (row - 1, row, row + 1):
                for known in cells.get((x, y), ()):
                    if abs(places[known] - point) <= SNAP:
                        return known
        places.append(point)
        cells[column, row].append(len(places) - 1)
        return len(places) - 1

    ran = [(segment, (node(segment.start), node(segment.end)), i) for segment, i in divided]
    specks = [segment.start for segment, (a, b), _ in ran if a == b and segment.length <= SPECK]
    kept = [one for one in ran if one[1][0] != one[1][1] or one[0].length > SPECK]
    kept, over = _without_overshoots(kept, {node(point) for point in drawn.crossings}, max(within, LITTLE))
    made = Net(
        tuple(segment for segment, _, _ in kept),
        tuple(ends for _, ends, _ in kept),
        tuple(places),
        tuple(i for _, _, i in kept),
        tuple(specks),
        over,
    )
    if not drawn.upon and not drawn.crossings:
        drawn.known.append(made)
    return made


#: A segment with its nodes, and which of the drawn ones it is of.
_Ran = tuple[Segment, tuple[int, int], int]


def _without_overshoots(ran: list[_Ran], crossings: set[int], most: float) -> tuple[list[_Ran], tuple[Point, ...]]:
    """Without pieces of at most so many mm that run on past a crossing and lead nowhere; and where those lay."""
    ends = Counter(node for _, nodes, _ in ran for node in nodes)

    def leads_nowhere(one: _Ran) -> bool:
        segment, (a, b), _ = one
        return segment.length <= most and ((ends[a] == 1 and b in crossings) or (ends[b] == 1 and a in crossings))

    over = {id(one) for one in ran if leads_nowhere(one)} if crossings else set()
    # Two little pieces between the same places are one: which of them lies left cannot be told.
    once: set[frozenset[int]] = set()
    for one in ran:
        if one[0].length <= LITTLE and one[1][0] != one[1][1] and id(one) not in over:
            if frozenset(one[1]) in once:
                over.add(id(one))
            once.add(frozenset(one[1]))
    return [one for one in ran if id(one) not in over], tuple(one[0].start for one in ran if id(one) in over)


def _cut(segment: Segment, upon: Sequence[Upon], within: float) -> list[Segment]:
    points = [end.point for end in upon if end.away > max(SNAP, within)]
    stops = [segment.start, *points, segment.end]
    return [segment.between(a, b) for a, b in pairwise(stops) if abs(a - b) > SNAP] if points else [segment]


def _lonely(rows: SegmentRows) -> tuple[np.ndarray, np.ndarray]:
    """Which starts and ends have no other end within `SNAP`."""
    ends = np.concatenate([rows.start, rows.end])
    dots = shapely_points(ends.real, ends.imag)
    own, _ = STRtree(dots).query(dots, predicate="dwithin", distance=SNAP)
    alone = np.bincount(own, minlength=len(ends)) == 1
    return alone[: len(rows)], alone[len(rows) :]


@dataclass(frozen=True, slots=True)
class Joins:
    """Loose ends that are joined, as pairs of nodes, and the nodes of which each could be joined to two others.

    ``left`` are pairs that could be joined and stay as they are.
    """

    pairs: tuple[tuple[int, int], ...] = ()
    unclear: tuple[int, ...] = ()
    left: tuple[tuple[int, int], ...] = ()

    def nodes_of(self, drawn: Net) -> list[tuple[int, int]]:
        """The nodes of each segment, those that are joined as one."""
        one = {b: a for a, b in self.pairs}
        return [(one.get(a, a), one.get(b, b)) for a, b in drawn.of]


def joins(drawn: Net, within: float, apart: Sequence[Point] = ()) -> Joins:
    """The loose ends that lie at most ``within`` mm from just one other; one that has a choice is never joined.

    A gap whose middle is one of those ``apart`` stays open.
    """
    alone = drawn.loose()
    if len(alone) < 2 or within <= SNAP:
        return Joins()
    at = np.array([drawn.places[node] for node in alone])
    dots = shapely_points(at.real, at.imag)
    first, second = STRtree(dots).query(dots, predicate="dwithin", distance=within)
    others = first != second
    first, second = first[others], second[others]
    choices = np.bincount(first, minlength=len(alone))
    clear = (choices[first] == 1) & (choices[second] == 1) & (first < second)
    ends = np.array(alone)
    pairs = list(zip(ends[first[clear]].tolist(), ends[second[clear]].tolist(), strict=True))
    unclear = tuple(ends[choices > 1].tolist())
    left = {pair for pair in pairs if near_any(drawn.middle(pair), apart)}
    return Joins(tuple(pair for pair in pairs if pair not in left), unclear, tuple(left))


def near_any(point: Point, places: Sequence[Point]) -> bool:
    """Whether a point is one of some places, within what is taken for one."""
    return any(abs(point - place) <= SNAP for place in places)


def narrowest(drawn: Net, joined: Joins) -> float | None:
    """The least distance (mm) between two loose ends that were not joined; None where there are no two."""
    gone = {node for pair in joined.pairs for node in pair}
    at = np.array([drawn.places[node] for node in drawn.loose() if node not in gone])
    if len(at) < 2:
        return None
    dots = shapely_points(at.real, at.imag)
    first, second = STRtree(dots).query_nearest(dots, exclusive=True, all_matches=False)
    return float(np.abs(at[first] - at[second]).min())
