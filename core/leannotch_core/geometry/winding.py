"""How often each group of loops winds round the sides of pieces."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

import numpy as np

from .pieces import Counts, Pieces
from .rows import Indices, Numbers, Points
from .segment import TOUCH

#: Up to so many pieces it costs more to tell figures apart than to look at all pieces.
FEW = 200


def left_windings(pieces: Pieces) -> Counts:
    """How often each group winds round the left side of each piece, shape ``(pieces, groups)``."""
    seen_from, chain = np.unique(_chain_heads(pieces), return_inverse=True)
    return _windings(pieces, seen_from)[chain]


def _chain_heads(pieces: Pieces) -> Indices:
    """For each piece, one of those that run on into one another where nothing else meets them.

    Their left sides are one and the same side, so that only one of them need be looked from.
    """
    arriving: dict[int, list[int]] = defaultdict(list)
    leaving: dict[int, list[int]] = defaultdict(list)
    for index, (begin, finish) in enumerate(zip(pieces.begin.tolist(), pieces.finish.tolist(), strict=True)):
        leaving[begin].append(index)
        arriving[finish].append(index)
    rows = [row.tobytes() for row in pieces.counts]
    onward = {
        into[0]: out[0]
        for vertex, into in arriving.items()
        if len(into) == 1 and len(out := leaving.get(vertex, [])) == 1 and rows[into[0]] == rows[out[0]]
    }
    head = list(range(len(pieces)))
    begun = set(onward.values())
    for first in [i for i in onward if i not in begun] + list(onward):
        here = first
        while (here := onward.pop(here, -1)) >= 0:
            head[here] = head[first]
    return np.array(head, dtype=np.intp)


def _figures(pieces: Pieces) -> Indices:
    """For each piece the number of the figure it belongs to: pieces that hang together by their vertices."""
    if len(pieces) <= FEW:
        return np.zeros(len(pieces), dtype=np.intp)
    begin, finish = pieces.begin, pieces.finish
    label = np.arange(int(max(begin.max(), finish.max())) + 1)
    while (label[begin] != label[finish]).any():
        # Each figure that two pieces show to be one with another takes the lower number, then all of it does.
        low = np.minimum(label[begin], label[finish])
        np.minimum.at(label, label[begin], low)
        np.minimum.at(label, label[finish], low)
        while (label != label[label]).any():
            label = label[label]
    return np.unique(label[begin], return_inverse=True)[1]


def _boxes(pieces: Pieces, figures: Indices) -> Numbers:
    """``(left, bottom, right, top)`` of each figure, a row each."""
    bounds = pieces.rows.boxes()
    boxes = np.tile([np.inf, np.inf, -np.inf, -np.inf], (int(figures.max()) + 1, 1))
    np.minimum.at(boxes[:, :2], figures, bounds[:, :2])
    np.maximum.at(boxes[:, 2:], figures, bounds[:, 2:])
    boxes += [-TOUCH, -TOUCH, TOUCH, TOUCH]
    return boxes


def _windings(pieces: Pieces, seen_from: Indices) -> Counts:
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
    middle = pieces.rows.middles()[seen_from]
    windings = np.zeros((len(seen_from), pieces.counts.shape[1]))
    for eyes, inside in _looking_into(middle, boxes, sizes):
        much = sizes[inside]
        eye = np.repeat(eyes, much)
        within = np.arange(len(eye)) - np.repeat(np.cumsum(much) - much, much)
        piece = by_figure[np.repeat(begins[inside], much) + within]
        angle = _angles(pieces, middle[eye], piece)
        angle = np.where(piece == seen_from[eye], angle % (2 * np.pi), angle)
        for group in range(pieces.counts.shape[1]):
            turned = angle * pieces.counts[piece, group]
            windings[:, group] += np.bincount(eye, turned, minlength=len(seen_from))
    return np.rint(windings / (2 * np.pi)).astype(np.int_)


def _looking_into(middle: Points, boxes: Numbers, sizes: Indices) -> Iterable[tuple[Indices, Indices]]:
    """Pairs of a middle and a figure whose box holds it, in blocks of at most about two million pieces."""
    rows = max(1, 2_000_000 // len(boxes))
    for low in range(0, len(middle), rows):
        x, y = middle.real[low : low + rows, None], middle.imag[low : low + rows, None]
        inside = (boxes[:, 0] <= x) & (x <= boxes[:, 2]) & (boxes[:, 1] <= y) & (y <= boxes[:, 3])
        eyes, figures = np.nonzero(inside)
        cuts = np.nonzero(np.diff(np.cumsum(sizes[figures]) // 2_000_000))[0] + 1
        yield from zip(np.split(eyes + low, cuts), np.split(figures, cuts), strict=True)


def _angles(pieces: Pieces, eye: Points, piece: Indices) -> Numbers:
    """The signed angle under which each piece is seen from the eye beside it."""
    rows = pieces.rows
    angle = np.angle((rows.end[piece] - eye) * (rows.start[piece] - eye).conjugate())
    if not rows.bent:
        return angle
    within = rows.arc[piece] & (np.abs(eye - rows.centre[piece]) < rows.radius[piece])
    # From inside its circle an arc is seen under the angle that it turns by, never the other way round.
    turn = angle % (2 * np.pi)
    return np.where(within, np.where(rows.ccw[piece], turn, -(-angle % (2 * np.pi))), angle)
