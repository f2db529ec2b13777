"""A stroke drawn by hand becomes few points for a smooth curve to run through."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from .segment import Point

Points = npt.NDArray[np.complex128]

#: A point through which a curve runs, and whether it turns sharply there.
Knot = tuple[Point, bool]

#: A stroke that turns by more than this (radians) within its smoothing has a corner there.
_SHARP = math.radians(55)


def knots_of_stroke(drawn: Sequence[Point], smoothing: float, closed: bool) -> list[Knot]:
    """Points for a smooth curve that stays about ``smoothing`` mm from a stroke, with its sharp turns as corners.

    A ``closed`` one runs on from its end to its beginning. Raises `ValueError` where there is nothing to follow.
    """
    stroke = _evenly(_apart(np.array(drawn, dtype=np.complex128)), smoothing, closed)
    if len(stroke) < (3 if closed else 2):
        raise ValueError("The stroke is too short to follow; draw a longer one.")
    stroke = _smoothed(stroke, closed)
    corners = _corners(stroke, smoothing, closed)
    return [(complex(stroke[at]), at in corners) for at in _kept(stroke, smoothing, corners, closed)]


def _apart(drawn: Points) -> Points:
    """The stroke without points that lie on the one before."""
    if len(drawn) == 0:
        return drawn
    apart: Points = drawn[np.append(True, np.abs(np.diff(drawn)) > 1e-6)]
    return apart


def _evenly(drawn: Points, smoothing: float, closed: bool) -> Points:
    """Points in even steps along the stroke."""
    if len(drawn) < 2:
        return drawn
    line = np.append(drawn, drawn[0]) if closed else drawn
    along = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(line)))])
    count = int(min(2000, max(8, along[-1] / max(smoothing / 4, 0.02))))
    places = np.linspace(0, along[-1], count + 1)
    even = np.interp(places, along, line.real) + 1j * np.interp(places, along, line.imag)
    return even[:-1] if closed else even


def _smoothed(stroke: Points, closed: bool) -> Points:
    """Weighed with its neighbours within the smoothing, so that a trembling hand is not followed."""
    reach = 4
    weights = np.exp(-0.5 * (np.arange(-reach, reach + 1) / 2.0) ** 2)
    weights /= weights.sum()
    if closed:
        padded = np.concatenate([stroke[-reach:], stroke, stroke[:reach]])
    else:
        # Mirrored in its ends, which stay where they are.
        padded = np.concatenate(
            [2 * stroke[0] - stroke[reach:0:-1], stroke, 2 * stroke[-1] - stroke[-2 : -reach - 2 : -1]]
        )
    return np.convolve(padded, weights, mode="valid")


def _corners(stroke: Points, smoothing: float, closed: bool) -> set[int]:
    """Where the stroke turns most sharply, one of each turn."""
    reach, count = 6, len(stroke)
    if count < 3 * reach:
        return set()
    at = np.arange(count)
    before, after = (at - reach) % count, (at + reach) % count
    turn = np.abs(np.angle((stroke[after] - stroke) / (stroke - stroke[before])))
    if not closed:
        turn[:reach] = turn[-reach:] = 0
    found: set[int] = set()
    for index in np.argsort(-turn):
        if turn[index] < _SHARP:
            break
        if all(min(abs(index - c), count - abs(index - c)) > 2 * reach for c in found):
            found.add(int(index))
    return found


def _kept(stroke: Points, smoothing: float, corners: set[int], closed: bool) -> list[int]:
    """Places of the stroke that a polyline within twice the smoothing needs, split where it is farthest off."""
    count = len(stroke)
    if closed:
        first = min(corners) if corners else 0
        opposite = int(np.argmax(np.abs(stroke - stroke[first])))
        fixed = sorted(corners | {first, opposite})
        ends = [*fixed, fixed[0] + count]
    else:
        ends = sorted(corners | {0, count - 1})
    kept: list[int] = []
    for begin, end in pairwise(ends):
        kept.append(begin)
        kept.extend(_split(stroke, begin, end, 2 * smoothing))
    if not closed:
        kept.append(ends[-1])
    return list(dict.fromkeys(at % count for at in kept))


def _split(stroke: Points, begin: int, end: int, within: float) -> list[int]:
    """Douglas and Peucker's splitting (1973; from memory) of one stretch, its ends left out."""
    found: list[int] = []
    open_stretches = [(begin, end)]
    count = len(stroke)
    while open_stretches:
        a, b = open_stretches.pop()
        if b - a < 2:
            continue
        inner = np.arange(a + 1, b)
        start, chord = stroke[a % count], stroke[b % count] - stroke[a % count]
        ways = stroke[inner % count] - start
        length = abs(chord)
        off = np.abs((np.conj(chord) * ways).imag) / length if length > 1e-9 else np.abs(ways)
        worst = int(np.argmax(off))
        if off[worst] > within:
            middle = int(inner[worst])
            found.append(middle)
            open_stretches += [(a, middle), (middle, b)]
    return sorted(found)
