"""Lines that cross without an end there: what is open divides what it crosses, and is divided by it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from ...geometry.pieces import Asked, meetings
from ...geometry.rows import Flags, Indices, SegmentRows
from ...geometry.segment import Point, Segment
from ..chains import SNAP
from .ends import Joins, Loose, Net, joins, loose, net
from .outlines import bridges

#: What becomes of lines that cross: marks stay as they are, and of what is cut each room is an outline, or all that
#: hangs together is one.
Crossing = Literal["as drawn", "rooms", "whole"]


#: Lines that cross at more places than these are no drawing of rooms, and stay as they are.
MOST_CROSSINGS = 5_000


class Meshed(NamedTuple):
    """Lines as a net, with the loose ends of it that are joined, and the places where lines were divided.

    Where there are too many places, none is divided.
    """

    net: Net
    joined: Joins
    crossings: tuple[Point, ...] = ()
    too_many: bool = False


def meshed(drawn: Loose, within: float, apart: Sequence[Point] = (), crossing: Crossing = "rooms") -> Meshed:
    """A net whose ends join ``within`` so many mm, in which lines that hang together are divided where they cross.

    So is what a line that encloses nothing crosses. Outlines that run round once stay as they are where they cross
    themselves, and where they overlap others, unless all that crosses is one whole.
    """
    made = net(drawn, within)
    joined = joins(made, within, apart)
    if crossing == "as drawn" or len(drawn.segments) < 2:
        return Meshed(made, joined)
    of = np.array(joined.nodes_of(made), dtype=int).reshape(-1, 2)
    if crossing == "rooms" and _runs_round(of):
        return Meshed(made, joined)
    segments, places = _divided(drawn.segments, None if crossing == "whole" else _divides(drawn, made, of))
    if len(places) > MOST_CROSSINGS:
        return Meshed(made, joined, too_many=True)
    if not places:
        return Meshed(made, joined)
    made = net(loose(segments, places), within)
    return Meshed(made, joins(made, within, apart), places)


def _runs_round(of: Indices) -> bool:
    """Whether nothing but outlines that run round once is drawn: at every node two ends meet."""
    ends = np.bincount(of.ravel(), minlength=1)
    return bool(((ends == 0) | (ends == 2)).all())


def _divides(drawn: Loose, made: Net, of: Indices) -> Asked:
    """Which pairs of the drawn segments divide one another where they cross; ``of`` are the nodes of the net's."""
    origin, many = np.array(made.origin, dtype=int), len(made.places)
    ends = coo_array((np.ones(len(of)), (of[:, 0], of[:, 1])), shape=(many, many))
    _, hangs_with = connected_components(ends, directed=False)
    crowded = np.zeros(many, dtype=bool)
    crowded[hangs_with[np.bincount(of.ravel(), minlength=many) > 2]] = True
    bunch, tail = np.full(len(drawn.segments), -1), np.zeros(len(drawn.segments), dtype=bool)
    own = hangs_with[of[:, 0]]
    bunch[origin] = np.where(crowded[own], own, -1)
    tail[origin[bridges(of.tolist())]] = True

    def asked(first: Indices, second: Indices) -> Flags:
        together = (bunch[first] == bunch[second]) & (bunch[first] >= 0)
        found: Flags = tail[first] | tail[second] | together
        return found

    return asked


def _divided(segments: Sequence[Segment], asked: Asked | None) -> tuple[list[Segment], tuple[Point, ...]]:
    """Segments cut wherever one crosses another of those asked for, and where; given up where that is too often."""
    cuts: dict[int, list[Point]] = defaultdict(list)
    places: list[Point] = []
    for first, second, where in meetings(segments, SegmentRows.of(segments), asked):
        if len(places) + len(where) > MOST_CROSSINGS:
            return list(segments), (*places, *where.tolist())
        for i, j, point in zip(first.tolist(), second.tolist(), where.tolist(), strict=True):
            within = [k for k in (i, j) if _inside(segments[k], point)]
            for k in within:
                cuts[k].append(point)
            places += [point] if within else []
    return [piece for k, segment in enumerate(segments) for piece in _cut(segment, cuts.get(k, []))], tuple(places)


def _inside(segment: Segment, point: Point) -> bool:
    return min(abs(point - segment.start), abs(point - segment.end)) > SNAP


def _cut(segment: Segment, points: Sequence[Point]) -> list[Segment]:
    if not points:
        return [segment]
    stops = [segment.start]
    for point in sorted(points, key=segment.share_of):
        if abs(point - stops[-1]) > SNAP:
            stops.append(point)
    return [segment.between(a, b) for a, b in pairwise([*stops, segment.end])]
