"""Segments cut where they meet: stretches from vertex to vertex, each once, with who runs along it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from .meet import meeting_points
from .near import near_pairs
from .rows import Flags, Indices, Points, SegmentRows
from .segment import TOUCH, Segment

Counts = npt.NDArray[np.int_]


@dataclass(frozen=True, slots=True)
class Pieces:
    """Stretches of segments; ``origin`` is the segment of each, ``begin`` and ``finish`` number its vertices.

    ``counts`` has a row for each piece: how often each group runs along it, less how often it runs against it.
    """

    rows: SegmentRows
    origin: Indices
    begin: Indices
    finish: Indices
    counts: Counts

    def __len__(self) -> int:
        return len(self.begin)

    def segment(self, index: int, segments: Sequence[Segment], forward: bool) -> Segment:
        """A piece as a line or arc of its own, the other way round where not ``forward``."""
        whole: Segment = segments[self.origin[index]]
        start, end = complex(self.rows.start[index]), complex(self.rows.end[index])
        if start != whole.start or end != whole.end:
            whole = whole.between(start, end)
        return whole if forward else whole.reversed()


def pieces_of(segments: Sequence[Segment], owners: Indices, groups: int) -> Pieces:
    """The pieces of segments that belong to groups, in the order in which they were drawn."""
    whole = SegmentRows.of(segments)
    at, where = _cuts(segments, whole)
    points = np.concatenate([whole.start, whole.end, where])
    vertex = _alike(points, 4 * TOUCH, np.zeros(len(points), dtype=np.intp))
    spots = points[_first_of(vertex)]
    origin, begin, finish = _stretches(whole, at, where, vertex)
    made = whole.between(origin, spots[begin], spots[finish])
    same = _same(made, begin, finish)
    first = _first_of(same)
    counts = np.zeros((len(first), groups), dtype=np.int_)
    np.add.at(counts, (same, owners[origin]), np.where(begin == begin[first][same], 1, -1))
    used = np.flatnonzero(counts.any(axis=1))
    used = used[np.argsort(first[used])]
    kept = first[used]
    rows = made.between(kept, made.start[kept], made.end[kept])
    return Pieces(rows, origin[kept], begin[kept], finish[kept], counts[used])


def _cuts(segments: Sequence[Segment], rows: SegmentRows) -> tuple[Indices, Points]:
    """Segments that are met by others away from their own ends, and where."""
    met = list(meetings(segments, rows))
    at = np.concatenate([one for first, second, _ in met for one in (first, second)])
    points = np.concatenate([where for _, _, where in met for _ in range(2)])
    away = (np.abs(points - rows.start[at]) > TOUCH) & (np.abs(points - rows.end[at]) > TOUCH)
    return at[away], points[away]


#: Which of some pairs of segments are looked at.
Asked = Callable[[Indices, Indices], Flags]


def meetings(
    segments: Sequence[Segment], rows: SegmentRows, asked: Asked | None = None
) -> Iterable[tuple[Indices, Indices, Points]]:
    """Pairs of segments that meet, of those ``asked`` for, and where; not those that share an end and no more."""
    for first, second in near_pairs(rows, TOUCH):
        if asked is not None:
            one = asked(first, second)
            yield from _met(segments, rows, first[one], second[one])
        else:
            yield from _met(segments, rows, first, second)


def _met(
    segments: Sequence[Segment], rows: SegmentRows, first: Indices, second: Indices
) -> Iterable[tuple[Indices, Indices, Points]]:
    at_an_angle = _at_an_angle(rows, first, second)
    yield _lines_meet(rows, first[at_an_angle], second[at_an_angle])
    rest = np.flatnonzero(~at_an_angle)
    rest = rest[~_cannot_meet(rows, first[rest], second[rest])]
    yield _others_meet(segments, first[rest], second[rest])


def _at_an_angle(rows: SegmentRows, first: Indices, second: Indices) -> Flags:
    """Which pairs are lines that are not parallel: nearly all there are."""
    along = rows.end - rows.start
    size = np.abs(along)
    turn = (along[first].conjugate() * along[second]).imag
    return ~rows.arc[first] & ~rows.arc[second] & (np.abs(turn) > 1e-9 * size[first] * size[second])


def _lines_meet(rows: SegmentRows, a: Indices, b: Indices) -> tuple[Indices, Indices, Points]:
    """Pairs of lines at an angle are met in one go."""
    along = rows.end - rows.start
    size = np.abs(along)
    apart, turn = rows.start[b] - rows.start[a], (along[a].conjugate() * along[b]).imag
    share_a = (apart.conjugate() * along[b]).imag / turn
    share_b = (apart.conjugate() * along[a]).imag / turn
    slack = TOUCH * size[a] * size[b] / np.abs(turn)
    over_a, over_b = slack / size[a], slack / size[b]
    hit = (share_a >= -over_a) & (share_a <= 1 + over_a) & (share_b >= -over_b) & (share_b <= 1 + over_b)
    # Neighbours in a loop meet in their common corner, which is no cut.
    inner = (np.abs(share_a - 0.5) < 0.5 - over_a) | (np.abs(share_b - 0.5) < 0.5 - over_b)
    met = np.flatnonzero(hit & inner)
    return a[met], b[met], rows.start[a[met]] + along[a[met]] * share_a[met]


def _cannot_meet(rows: SegmentRows, a: Indices, b: Indices) -> Flags:
    """Pairs other than lines at an angle whose carriers are surely too far apart, though their boxes touch."""
    along = rows.end - rows.start
    size = np.maximum(np.abs(along), 1e-300)
    room = 10 * TOUCH
    bent_a, bent_b = rows.arc[a], rows.arc[b]
    aside = np.abs((along[a].conjugate() * (rows.start[b] - rows.start[a])).imag) / size[a]
    parallel = ~bent_a & ~bent_b & (aside > room + 1e-9 * size[b])
    if not rows.bent:
        return np.asarray(parallel)
    line, arc = np.where(bent_a, b, a), np.where(bent_a, a, b)
    height = np.abs(((rows.centre[arc] - rows.start[line]).conjugate() * along[line]).imag) / size[line]
    beside = (bent_a != bent_b) & (height > rows.radius[arc] + room)
    distance = np.abs(rows.centre[a] - rows.centre[b])
    outside = distance > rows.radius[a] + rows.radius[b] + room
    within = distance < np.abs(rows.radius[a] - rows.radius[b]) - room
    round_ones = bent_a & bent_b & (outside | within)
    return np.asarray(parallel | beside | round_ones | _halves(rows, a, b))


def _halves(rows: SegmentRows, a: Indices, b: Indices) -> Flags:
    """Pairs that are the two arcs of one circle: they meet in their ends, which is no cut."""
    ends = (rows.start[a] == rows.end[b]) & (rows.end[a] == rows.start[b])
    same = (rows.centre[a] == rows.centre[b]) & (rows.ccw[a] == rows.ccw[b])
    return np.asarray(rows.arc[a] & rows.arc[b] & ends & same)


def _others_meet(segments: Sequence[Segment], a: Indices, b: Indices) -> tuple[Indices, Indices, Points]:
    met = [
        (i, j, point)
        for i, j in zip(a.tolist(), b.tolist(), strict=True)
        for point in meeting_points(segments[i], segments[j])
    ]
    first, second = (np.array([one[end] for one in met], dtype=np.intp) for end in (0, 1))
    return first, second, np.array([point for _, _, point in met], dtype=complex)


def _alike(points: Points, within: float, group: Indices) -> Indices:
    """A number for each point: the same for those of one ``group`` that hang together by steps of ``within`` mm."""
    # Twice along each axis: what the first round takes together, the second may tell apart.
    for axis in (points.real, points.imag, points.real, points.imag):
        order = np.lexsort((axis, group))
        places, groups = axis[order], group[order]
        apart = (places[1:] - places[:-1] > within) | (groups[1:] != groups[:-1])
        group = np.zeros(len(points), dtype=np.intp)
        group[order[1:]] = np.cumsum(apart)
    return group


def _first_of(group: Indices) -> Indices:
    """The first place at which each number stands."""
    first = np.full(int(group.max(initial=-1)) + 1, len(group), dtype=np.intp)
    np.minimum.at(first, group, np.arange(len(group)))
    return first


def _stretches(rows: SegmentRows, at: Indices, where: Points, vertex: Indices) -> tuple[Indices, Indices, Indices]:
    """Each segment from vertex to vertex: which segment, and the vertices that it begins and ends at.

    ``vertex`` numbers the segments' starts, then their ends, then the points ``where`` segments ``at`` are cut.
    """
    many = len(rows)
    first, last, cut = vertex[:many], vertex[many : 2 * many], vertex[2 * many :]
    inner = (cut != first[at]) & (cut != last[at])
    at, where, cut = at[inner], where[inner], cut[inner]
    every = np.arange(many)
    owner = np.concatenate([every, at, every])
    stop = np.concatenate([first, cut, last])
    share = np.concatenate([np.full(many, -np.inf), rows.shares(at, where), np.full(many, np.inf)])
    order = np.lexsort((share, owner))
    owner, stop = owner[order], stop[order]
    real = (owner[1:] == owner[:-1]) & (stop[1:] != stop[:-1])
    return owner[:-1][real], stop[:-1][real], stop[1:][real]


def _same(made: SegmentRows, begin: Indices, finish: Indices) -> Indices:
    """A number for each stretch: the same for those that lie on one another, whichever way they run."""
    ends = np.minimum(begin, finish) * (int(max(begin.max(initial=0), finish.max(initial=0))) + 1)
    _, same, many = np.unique(ends + np.maximum(begin, finish), return_inverse=True, return_counts=True)
    # Between two vertices there may be a line, and arcs to either side of it.
    return _alike(made.middles(), 10 * TOUCH, same) if (many > 1).any() else same
