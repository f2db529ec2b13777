"""Webs that a caliper can take: what stands between a cut-out and what is cut next to it."""

from __future__ import annotations

from collections.abc import Sequence

from ..geometry.loop import Loop
from ..geometry.segment import Line, Point, dot

#: Jaws need a straight stretch of both sides so long (mm), and no web is wider than they open beside a cut-out: common
#: practice, no source.
_JAW, _WIDEST = 2.0, 60.0

#: Directions that agree better than this are one.
_SQUARE = 1e-9


def web_beside(loop: Loop, loops: Sequence[Loop], towards: Point) -> tuple[Point, Point] | None:
    """From the side of a cut-out that looks ``towards`` a direction (of length 1) to the nearest cut beyond it; both
    are straight, square to it and beside each other. None where there is no such web.
    """
    own = [one for one in _square_to(loop, towards) if dot(one.start_tangent * 1j, towards) > 0]
    if not own:
        return None
    far = max(dot(one.start, towards) for one in own)
    found: list[tuple[float, Point]] = []
    for side in (one for one in own if dot(one.start, towards) > far - _SQUARE):
        for other in (one for some in loops for one in _square_to(some, towards)):
            wide = dot(other.start, towards) - far
            low, high = _shared(side, other, towards)
            if _SQUARE < wide < _WIDEST and high - low >= _JAW:
                found.append((wide, towards * complex(far, (low + high) / 2)))
    if not found:
        return None
    wide, start = min(found, key=lambda one: one[0])
    return start, start + wide * towards


def _square_to(loop: Loop, towards: Point) -> list[Line]:
    return [one for one in loop if isinstance(one, Line) and abs(dot(one.start_tangent, towards)) < _SQUARE]


def _shared(one: Line, other: Line, towards: Point) -> tuple[float, float]:
    """The stretch that two lines have in common, square to a direction."""
    a, b = (sorted(dot(end, 1j * towards) for end in (line.start, line.end)) for line in (one, other))
    return max(a[0], b[0]), min(a[1], b[1])
