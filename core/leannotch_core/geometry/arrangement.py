"""Cuts loops where they meet and keeps the pieces that bound a wanted region.

Every boolean and every offset is one question put to the same arrangement: given how often each group of
loops winds round the left and the right side of a piece, is exactly one of the two sides inside? The pieces
are stretches of the original segments, so an arc stays its own circle and a source is never lost.
"""

from __future__ import annotations

import cmath
import math
from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from .loop import Loop, Outline, simplified
from .meet import heading, meeting_points
from .segment import TOUCH, Arc, Line, Point, Segment

#: Takes the winding numbers of all groups, shape ``(pieces, groups)``; tells which sides are inside.
Rule = Callable[[npt.NDArray[np.int_]], npt.NDArray[np.bool_]]


def select(groups: Sequence[Iterable[Loop]], rule: Rule) -> list[Outline]:
    """The region where ``rule`` holds, as outlines of lines and arcs.

    Where edges of two groups lie on one another, the earlier group's source is kept.
    """
    segments: list[Segment] = []
    owners: list[int] = []
    for index, loops in enumerate(groups):
        for loop in loops:
            for segment in loop:
                segments.append(segment)
                owners.append(index)
    if not segments:
        return []
    pieces, counts = _pieces(segments, owners, len(groups))
    heads = _chain_heads(pieces, counts)
    seen_from, chain = np.unique(heads, return_inverse=True)
    left = _windings(pieces, counts, seen_from)[chain]
    inside_left, inside_right = rule(left), rule(left - counts)
    kept = [
        piece if on_left else piece.reversed()
        for piece, on_left, on_right in zip(pieces, inside_left, inside_right, strict=True)
        if on_left != on_right
    ]
    return nested(_stitched(kept))


Indices = npt.NDArray[np.intp]

#: Up to so many segments, all pairs of boxes are compared at once; of more, so many pairs are told at a time.
AT_ONCE, BLOCK = 1500, 1_000_000


def close_pairs(segments: Sequence[Segment], apart: float = TOUCH) -> tuple[Indices, Indices]:
    """Indices of the pairs of segments whose boxes are at most ``apart`` mm apart: the only ones that can meet."""
    firsts, seconds = zip(*near_pairs(segments, apart), strict=True)
    return np.concatenate(firsts), np.concatenate(seconds)


def near_pairs(segments: Sequence[Segment], apart: float) -> Iterable[tuple[Indices, Indices]]:
    """As `close_pairs`, a block at a time: of lines that all cross there are more pairs than memory holds."""
    left, bottom, right, top = np.array([segment.bounds() for segment in segments]).T
    reach = 2 * apart
    if len(segments) <= AT_ONCE:
        near = (left[:, None] <= right + reach) & (left <= right[:, None] + reach)
        near &= (bottom[:, None] <= top + reach) & (bottom <= top[:, None] + reach)
        first, second = np.nonzero(np.triu(near, 1))
        yield first, second
        return
    order = np.argsort(left, kind="stable")
    ends = np.searchsorted(left[order], right[order] + reach, side="right")
    firsts: list[Indices] = []
    seconds: list[Indices] = []
    waiting = 0
    for place, end in enumerate(ends):
        i, others = order[place], order[place + 1 : end]
        meets = (bottom[others] <= top[i] + reach) & (top[others] >= bottom[i] - reach)
        seconds.append(others[meets])
        firsts.append(np.full(len(seconds[-1]), i))
        waiting += len(seconds[-1])
        if waiting > BLOCK or place == len(ends) - 1:
            yield np.concatenate(firsts), np.concatenate(seconds)
            firsts, seconds, waiting = [], [], 0


def _cuts(segments: Sequence[Segment]) -> dict[int, list[Point]]:
    """Where each segment is met by others away from its own ends."""
    first, second = close_pairs(segments)
    start = np.array([segment.start for segment in segments])
    end = np.array([segment.end for segment in segments])
    straight = np.array([isinstance(segment, Line) for segment in segments])
    along = end - start
    turn = (along[first].conjugate() * along[second]).imag
    size = np.abs(along)
    product = size[first] * size[second]
    plain = straight[first] & straight[second] & (np.abs(turn) > 1e-9 * product)
    cuts: dict[int, list[Point]] = defaultdict(list)

    def cut(index: int, point: Point) -> None:
        if abs(point - segments[index].start) > TOUCH and abs(point - segments[index].end) > TOUCH:
            cuts[index].append(point)

    # Pairs of lines at an angle, nearly all there are, are met in one go.
    a, b = first[plain], second[plain]
    apart, turn = start[b] - start[a], turn[plain]
    share_a = (apart.conjugate() * along[b]).imag / turn
    share_b = (apart.conjugate() * along[a]).imag / turn
    slack = TOUCH * product[plain] / np.abs(turn)
    over_a, over_b = slack / size[a], slack / size[b]
    hit = (share_a >= -over_a) & (share_a <= 1 + over_a) & (share_b >= -over_b) & (share_b <= 1 + over_b)
    # Neighbours in a loop meet in their common corner, which is no cut.
    inner = (np.abs(share_a - 0.5) < 0.5 - over_a) | (np.abs(share_b - 0.5) < 0.5 - over_b)
    for k in np.nonzero(hit & inner)[0]:
        i, j = int(a[k]), int(b[k])
        point = segments[i].at(float(share_a[k]))
        cut(i, point)
        cut(j, point)
    for i, j in zip(first[~plain].tolist(), second[~plain].tolist(), strict=True):
        for point in meeting_points(segments[i], segments[j]):
            cut(i, point)
            cut(j, point)
    return cuts


class _Vertices:
    """Gives points that touch one common point."""

    _cell = 80 * TOUCH

    def __init__(self) -> None:
        self._cells: dict[tuple[int, int], Point] = {}

    def snap(self, point: Point) -> Point:
        x, y = point.real / self._cell, point.imag / self._cell
        column, row = round(x), round(y)
        columns, rows = self._near(x, column), self._near(y, row)
        for i in columns:
            for j in rows:
                found = self._cells.get((i, j))
                if found is not None and abs(found - point) <= 4 * TOUCH:
                    return found
        self._cells[column, row] = point
        return point

    def _near(self, value: float, cell: int) -> tuple[int, ...]:
        """The cells within touching distance: nearly always only the point's own."""
        rest = value - cell
        if abs(rest) < 0.45:
            return (cell,)
        return (cell, cell + 1) if rest > 0 else (cell, cell - 1)


@dataclass(slots=True)
class _Piece:
    segment: Segment
    middle: Point
    counts: list[int]


def _pieces(segments: list[Segment], owners: list[int], groups: int) -> tuple[list[Segment], npt.NDArray[np.int_]]:
    """Stretches between meeting points, each once, with how often each group runs along it (signed)."""
    cuts = _cuts(segments)
    vertices = _Vertices()
    found: dict[tuple[float, float, float, float], list[_Piece]] = defaultdict(list)
    pieces: list[_Piece] = []
    for index, (segment, owner) in enumerate(zip(segments, owners, strict=True)):
        for stretch in _stretches(segment, cuts.get(index, []), vertices):
            _count(stretch, owner, groups, found, pieces)
    counts = np.array([piece.counts for piece in pieces], dtype=np.int_).reshape(len(pieces), groups)
    used = np.asarray(counts.any(axis=1))
    return [piece.segment for piece, use in zip(pieces, used, strict=True) if use], counts[used]


def _stretches(segment: Segment, cuts: list[Point], vertices: _Vertices) -> Iterable[Segment]:
    here, last = vertices.snap(segment.start), vertices.snap(segment.end)
    if not cuts:
        if here != last:
            yield segment.between(here, last)
        return
    inner = [vertices.snap(point) for point in sorted(cuts, key=segment.share_of)]
    for stop in (*(p for p in inner if p not in (here, last)), last):
        if stop != here:
            yield segment.between(here, stop)
            here = stop


def _count(
    stretch: Segment,
    owner: int,
    groups: int,
    found: dict[tuple[float, float, float, float], list[_Piece]],
    pieces: list[_Piece],
) -> None:
    a, b = stretch.start, stretch.end
    forward = (a.real, a.imag) < (b.real, b.imag)
    first, last = (a, b) if forward else (b, a)
    middle = stretch.at(0.5)
    twins = found[first.real, first.imag, last.real, last.imag]
    for twin in twins:
        if abs(twin.middle - middle) <= 10 * TOUCH:
            twin.counts[owner] += 1 if twin.segment.start == a else -1
            return
    piece = _Piece(stretch, middle, [0] * groups)
    piece.counts[owner] = 1
    twins.append(piece)
    pieces.append(piece)


def _chain_heads(pieces: Sequence[Segment], counts: npt.NDArray[np.int_]) -> Indices:
    """For each piece, one of those that run on into one another where nothing else meets them.

    Their left sides are one and the same side, so that only one of them need be looked from.
    """
    arriving: dict[Point, list[int]] = defaultdict(list)
    leaving: dict[Point, list[int]] = defaultdict(list)
    for index, piece in enumerate(pieces):
        leaving[piece.start].append(index)
        arriving[piece.end].append(index)
    rows = [row.tobytes() for row in counts]
    onward = {
        into[0]: out[0]
        for point, into in arriving.items()
        if len(into) == 1 and len(out := leaving.get(point, [])) == 1 and rows[into[0]] == rows[out[0]]
    }
    head = list(range(len(pieces)))
    begun = set(onward.values())
    for first in [i for i in onward if i not in begun] + list(onward):
        here = first
        while (here := onward.pop(here, -1)) >= 0:
            head[here] = head[first]
    return np.array(head, dtype=np.intp)


def _figures(pieces: Sequence[Segment]) -> Indices:
    """For each piece the number of the figure it belongs to: pieces that hang together by their ends."""
    parent = list(range(len(pieces)))

    def root(index: int) -> int:
        while parent[index] != index:
            parent[index] = index = parent[parent[index]]
        return index

    first_at: dict[Point, int] = {}
    for index, piece in enumerate(pieces):
        for point in (piece.start, piece.end):
            parent[root(index)] = root(first_at.setdefault(point, index))
    roots = np.array([root(index) for index in range(len(pieces))], dtype=np.intp)
    return np.unique(roots, return_inverse=True)[1]


def _boxes(pieces: Sequence[Segment], figures: Indices) -> npt.NDArray[np.float64]:
    """``(left, bottom, right, top)`` of each figure, a row each."""
    bounds = np.array([piece.bounds() for piece in pieces])
    boxes = np.tile([np.inf, np.inf, -np.inf, -np.inf], (int(figures.max()) + 1, 1))
    np.minimum.at(boxes[:, :2], figures, bounds[:, :2])
    np.maximum.at(boxes[:, 2:], figures, bounds[:, 2:])
    boxes += [-TOUCH, -TOUCH, TOUCH, TOUCH]
    return boxes


def _windings(pieces: Sequence[Segment], counts: npt.NDArray[np.int_], seen_from: Indices) -> npt.NDArray[np.int_]:
    """How often each group winds round the left side of the pieces ``seen_from``, shape ``(those, groups)``.

    Sums the angles under which the pieces are seen from each piece's middle: exact for arcs, and with none of
    the special cases of a ray that hits a corner. A figure whose box does not hold the middle winds round it no
    time, so that many separate shapes cost little more than each alone.
    """
    figures = _figures(pieces)
    boxes = _boxes(pieces, figures)
    by_figure = np.argsort(figures, kind="stable")
    sizes = np.bincount(figures, minlength=len(boxes))
    begins = np.cumsum(sizes) - sizes
    middle = np.array([pieces[index].at(0.5) for index in seen_from])
    seen = _Seen(pieces)
    windings = np.zeros((len(seen_from), counts.shape[1]))
    for eyes, inside in _looking_into(middle, boxes, sizes):
        much = sizes[inside]
        eye = np.repeat(eyes, much)
        within = np.arange(len(eye)) - np.repeat(np.cumsum(much) - much, much)
        piece = by_figure[np.repeat(begins[inside], much) + within]
        angle = seen.angles(middle[eye], piece)
        angle = np.where(piece == seen_from[eye], angle % (2 * np.pi), angle)
        for group in range(counts.shape[1]):
            windings[:, group] += np.bincount(eye, angle * counts[piece, group], minlength=len(seen_from))
    return np.rint(windings / (2 * np.pi)).astype(np.int_)


def _looking_into(
    middle: npt.NDArray[np.complex128], boxes: npt.NDArray[np.float64], sizes: Indices
) -> Iterable[tuple[Indices, Indices]]:
    """Pairs of a middle and a figure whose box holds it, in blocks of at most about two million pieces."""
    rows = max(1, 2_000_000 // len(boxes))
    for low in range(0, len(middle), rows):
        x, y = middle.real[low : low + rows, None], middle.imag[low : low + rows, None]
        inside = (boxes[:, 0] <= x) & (x <= boxes[:, 2]) & (boxes[:, 1] <= y) & (y <= boxes[:, 3])
        eyes, figures = np.nonzero(inside)
        cuts = np.nonzero(np.diff(np.cumsum(sizes[figures]) // 2_000_000))[0] + 1
        yield from zip(np.split(eyes + low, cuts), np.split(figures, cuts), strict=True)


class _Seen:
    """Under which angle pieces are seen from points."""

    def __init__(self, pieces: Sequence[Segment]) -> None:
        arcs = [piece if isinstance(piece, Arc) else None for piece in pieces]
        self._start = np.array([piece.start for piece in pieces])
        self._end = np.array([piece.end for piece in pieces])
        self._centre = np.array([arc.centre if arc else 0 for arc in arcs], dtype=complex)
        # No point lies within a line's circle.
        self._radius = np.array([arc.radius if arc else -1.0 for arc in arcs])
        self._ccw = np.array([arc is not None and arc.ccw for arc in arcs])

    def angles(self, eye: npt.NDArray[np.complex128], piece: Indices) -> npt.NDArray[np.float64]:
        """The signed angle under which each piece is seen from the eye beside it."""
        angle = np.angle((self._end[piece] - eye) * (self._start[piece] - eye).conjugate())
        within = np.abs(eye - self._centre[piece]) < self._radius[piece]
        # From inside its circle an arc is seen under the angle that it turns by, never the other way round.
        turn = angle % (2 * np.pi)
        return np.where(within, np.where(self._ccw[piece], turn, -(-angle % (2 * np.pi))), angle)


def _stitched(pieces: list[Segment]) -> list[Loop]:
    """Loops with the inside on the left. Where loops touch in a corner, each keeps to its own material."""
    leaving: dict[Point, list[int]] = defaultdict(list)
    for index, piece in enumerate(pieces):
        leaving[piece.start].append(index)
    free = [True] * len(pieces)
    loops: list[Loop] = []
    for index in range(len(pieces)):
        if not free[index]:
            continue
        chain = [pieces[index]]
        free[index] = False
        while chain[-1].end != chain[0].start:
            choices = [i for i in leaving[chain[-1].end] if free[i]]
            if not choices:
                break
            best = choices[0] if len(choices) == 1 else _leftmost(chain[-1], choices, pieces)
            free[best] = False
            chain.append(pieces[best])
        if chain[-1].end == chain[0].start and len(chain) > 1:
            loops.append(simplified(chain))
    return loops


def _leftmost(arriving: Segment, choices: list[int], pieces: list[Segment]) -> int:
    """The piece met first when turning clockwise from where we came: it bounds the same material."""
    back = heading(-arriving.end_tangent)

    def turn(index: int) -> tuple[float, float]:
        piece = pieces[index]
        clockwise = (back - heading(piece.start_tangent)) % (2 * np.pi)
        curvature = 0.0 if isinstance(piece, Line) else (1 if piece.ccw else -1) / piece.radius
        return round(clockwise, 7), -curvature

    return min(choices, key=turn)


def nested(loops: Sequence[Loop]) -> list[Outline]:
    """Outlines from loops, largest first: each clockwise loop becomes a cut-out of the smallest loop round it."""
    outers = sorted((loop for loop in loops if loop.area > 0), key=lambda loop: loop.area)
    holes: list[list[Loop]] = [[] for _ in outers]
    for loop in loops:
        if loop.area > 0:
            continue
        inside = loop.segments[0].at(0.5)
        for outer, kept in zip(outers, holes, strict=True):
            if -loop.area < outer.area and contains(outer, inside):
                kept.append(loop)
                break
    outlines = [Outline(outer, tuple(kept)) for outer, kept in zip(outers, holes, strict=True)]
    return outlines[::-1]


def contains(loop: Loop, point: Point) -> bool:
    """Whether ``point`` (mm, not on the loop itself) lies inside a counter-clockwise loop."""
    angle = 0.0
    for segment in loop:
        a, b = segment.start - point, segment.end - point
        seen = cmath.phase(b * a.conjugate())
        if isinstance(segment, Arc) and abs(point - segment.centre) < segment.radius:
            seen = seen % math.tau if segment.ccw else -(-seen % math.tau)
        angle += seen
    return round(angle / math.tau) != 0
