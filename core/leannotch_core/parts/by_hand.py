"""Curves drawn by hand, and pieces of a curve drawn anew or made straight."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from ..geometry.biarc import bezier, smooth_through
from ..geometry.segment import Point
from ..geometry.stroke import Knot, knots_of_stroke

#: Steps in which each stretch between two knots is looked at.
_STEPS = 24


def redrawn(knots: Sequence[Knot], drawn: Sequence[Point], smoothing: float) -> list[Knot]:
    """A closed curve with the piece that a stroke runs beside replaced by the stroke, from its beginning to its end.

    The curve is cut where it is nearest to the stroke's ends. Raises `ValueError` where the stroke is too short.
    """
    return _replaced(knots, knots_of_stroke(drawn, smoothing, closed=False), drawn)


def straightened(knots: Sequence[Knot], begin: Point, end: Point) -> list[Knot]:
    """A closed curve with the shorter piece between the places nearest to two points made straight."""
    return _replaced(knots, [(begin, True), (end, True)], [begin, end])


def _replaced(knots: Sequence[Knot], piece: Sequence[Knot], drawn: Sequence[Point]) -> list[Knot]:
    walk = _walk(knots)
    first, last = _nearest(walk, piece[0][0]), _nearest(walk, piece[-1][0])
    if first == last:
        raise ValueError("Both ends lie at one place of the outline; draw along a longer piece.")
    onward = _between(walk, first, last)
    back = _between(walk, last, first)
    middle = drawn[len(drawn) // 2] if len(drawn) > 2 else None
    if middle is not None:
        gone_onward = min(abs(p - middle) for p in onward) <= min(abs(p - middle) for p in back)
    else:
        gone_onward = _length(onward) <= _length(back)
    # Round the way that stays, from the end of the piece to its beginning, and then along the piece.
    start, stop = (last, first) if gone_onward else (first, last)
    along = list(piece) if gone_onward else list(reversed(piece))
    stays = _held(knots, walk, start, stop)
    along[0], along[-1] = (walk[stop][0], True), (walk[start][0], True)
    return [*stays, *along]


def _held(knots: Sequence[Knot], walk: Sequence[tuple[Point, int]], start: int, stop: int) -> list[Knot]:
    """The knots from one place of the walk to another, with one more halfway to the first and the last of them.

    A curve runs through its neighbours' chord at a knot; without these it would swing out where the piece begins.
    """
    steps = (stop - start) % len(walk)
    passed = [at for at in range(1, steps) if (start + at) % _STEPS == 0]
    inner = [(at, knots[walk[(start + at) % len(walk)][1]]) for at in passed]
    for at in {(passed[0] if passed else steps) // 2, (steps + (passed[-1] if passed else 0)) // 2}:
        if 2 <= at <= steps - 2 and at not in passed:
            inner.append((at, (walk[(start + at) % len(walk)][0], False)))
    return [knot for _, knot in sorted(inner, key=lambda one: one[0])]


def _walk(knots: Sequence[Knot]) -> list[tuple[Point, int]]:
    """Points along the curve, each with the knot before it."""
    found = []
    for index, piece in enumerate(smooth_through(knots)):
        curve = bezier(*piece)
        straight = knots[index][1] and knots[(index + 1) % len(knots)][1]
        for step in range(_STEPS):
            share = step / _STEPS
            point = piece[0] + (piece[3] - piece[0]) * share if straight else curve(share)[0]
            found.append((point, index))
    return found


def _nearest(walk: Sequence[tuple[Point, int]], point: Point) -> int:
    return min(range(len(walk)), key=lambda at: abs(walk[at][0] - point))


def _between(walk: Sequence[tuple[Point, int]], begin: int, end: int) -> list[Point]:
    count = (end - begin) % len(walk)
    return [walk[(begin + at) % len(walk)][0] for at in range(count + 1)]


def _length(points: Sequence[Point]) -> float:
    return sum(abs(b - a) for a, b in pairwise(points))
