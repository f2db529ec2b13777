"""Outlines that are equal, also where one of them is turned or, if the maker allows it, mirrored."""

from __future__ import annotations

import cmath
from collections.abc import Iterable, Iterator, Sequence
from itertools import islice

from ..geometry.loop import Loop, Outline
from ..geometry.segment import Motion, Point

#: Corners of equal outlines lie this close (mm) to one another.
SAME = 0.02


def motion_between(first: Outline, second: Outline, *, mirrored: bool = False, within: float = SAME) -> Motion | None:
    """What takes an outline onto one that is equal to it, None where they are not; also over, where ``mirrored``.

    Corners of equal ones lie ``within`` so many mm of one another.
    """
    return next(motions_between(first, second, mirrored=mirrored, within=within), None)


def motions_between(
    first: Outline, second: Outline, *, mirrored: bool = False, within: float = SAME
) -> Iterator[Motion]:
    """Every way to take an outline onto one that is equal to it: several, where it is equal to itself turned."""
    if len(first.loops) != len(second.loops) or abs(first.area - second.area) > reach(first, within):
        return
    for over in (False, True) if mirrored else (False,):
        yield from _motions(first, second, over, within)


def reach(outline: Outline, within: float = SAME) -> float:
    """By how much (mm²) what an outline equal to this one covers may differ."""
    return within * sum(loop.length for loop in outline.loops)


def _motions(first: Outline, second: Outline, over: bool, within: float) -> Iterator[Motion]:
    flipped = first.moved(Motion(mirrored=True)) if over else first
    a, b = _corners(flipped.outer), _corners(second.outer)
    if len(a) != len(b):
        return
    turns = _turns_of_discs(flipped, second) if flipped.outer.circle() else _turns(a, b, within)
    for turn in islice(turns, 2000):
        placed = flipped if turn == 1 else flipped.moved(Motion(turn))
        shift = _middle(second.outer) - _middle(placed.outer)
        moved = placed.moved(Motion(shift=shift))
        if lies_on(moved, second, within):
            yield Motion(turn, shift, mirrored=over)


def _corners(loop: Loop) -> list[Point]:
    return [segment.start for segment in loop]


def _middle(loop: Loop) -> Point:
    """A place that goes with a loop, however it is turned and wherever it begins: the middle of its corners."""
    circle = loop.circle()
    if circle:
        return circle[0]
    weight = sum(segment.length for segment in loop)
    return sum(((s.start + s.end) / 2 * s.length for s in loop), 0j) / weight


def _turns(a: Sequence[Point], b: Sequence[Point], within: float) -> Iterator[complex]:
    """The turns that take the sides of one run of corners onto those of another, in the order of both."""
    count = len(a)
    own = [a[(i + 1) % count] - a[i] for i in range(count)]
    other = [b[(i + 1) % count] - b[i] for i in range(count)]
    for shift in range(count):
        if all(abs(abs(own[i]) - abs(other[(i + shift) % count])) <= within for i in range(count)):
            longest = max(range(count), key=lambda i: abs(own[i]))
            turn = other[(longest + shift) % count] / own[longest]
            yield _clean(turn / abs(turn))


def _clean(turn: complex) -> complex:
    """A quarter turn exactly, where it is one but for rounding."""
    for exact in (1, 1j, -1, -1j):
        if abs(turn - exact) < 1e-6:
            return exact
    return turn


def _turns_of_discs(a: Outline, b: Outline) -> Iterator[complex]:
    """For discs: the turns that take one opening of the first onto any of the second."""
    if not a.cutouts:
        yield 1
        return
    at, centre, other = _middle(a.cutouts[0]), _middle(a.outer), _middle(b.outer)
    spoke = at - centre
    if abs(spoke) < SAME:
        yield 1
        return
    for loop in b.cutouts:
        towards = _middle(loop) - other
        if abs(abs(towards) - abs(spoke)) <= SAME:
            yield _clean(cmath.rect(1, cmath.phase(towards / spoke)))


def lies_on(moved: Outline, onto: Outline, within: float = SAME) -> bool:
    """Whether every loop lies on one of the other outline."""
    free = list(onto.loops)
    for loop in moved.loops:
        found = next((other for other in free if _one(loop, other, within)), None)
        if found is None:
            return False
        free.remove(found)
    return True


def apart(moved: Outline, onto: Outline) -> float:
    """How far (mm) a corner of an outline lies from the nearest one of another that it lies on."""
    corners = [corner for loop in onto.loops for corner in _corners(loop)]
    return max(min(abs(one - other) for other in corners) for loop in moved.loops for one in _corners(loop))


def _one(a: Loop, b: Loop, within: float) -> bool:
    first, second = a.circle(), b.circle()
    if first or second:
        return bool(first and second and abs(first[0] - second[0]) <= within and abs(first[1] - second[1]) <= within)
    if len(a.segments) != len(b.segments) or abs(a.area - b.area) > within * a.length:
        return False
    middles = [segment.at(0.5) for segment in b]
    corners = _corners(b)
    return all(_near(segment.start, corners, within) and _near(segment.at(0.5), middles, within) for segment in a)


def _near(point: Point, others: Iterable[Point], within: float) -> bool:
    return any(abs(point - other) <= within for other in others)
