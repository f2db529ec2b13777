"""Where cuts are begun that nobody began by hand: clear of corners, and at a side of the part."""

from __future__ import annotations

from collections.abc import Mapping

from ..document.stock import LeadSide
from ..geometry.loop import Loop
from ..geometry.segment import Line, Point, Segment, dot
from .edge import OnEdge

#: A cut is begun away from corners on what is straight for at least so many mm: common practice, no source.
_LONG = 6.0

_TOWARDS: Mapping[LeadSide, Point] = {"left": -1, "right": 1, "bottom": -1j, "top": 1j}


def halved(loop: Loop) -> tuple[tuple[Segment, ...], tuple[int, ...]]:
    """The segments of a loop with its long lines in two halves, and the second of each pair: there it may be begun."""
    segments: list[Segment] = []
    begins: list[int] = []
    for segment in loop:
        if isinstance(segment, Line) and segment.length >= _LONG:
            middle = segment.at(0.5)
            segments += [segment.between(segment.start, middle), segment.between(middle, segment.end)]
            begins.append(len(segments) - 1)
        else:
            segments.append(segment)
    return tuple(segments), tuple(begins)


def at_side(number: int, loop: Loop, side: LeadSide, away: bool) -> OnEdge:
    """Where a loop, the ``number``th of its part, is begun that is begun at a side: on what lies furthest that way, in
    the middle of the longest where it is to keep ``away`` from corners, else at its beginning.
    """
    towards = _TOWARDS[side]
    reach = [max(dot(point, towards) for point in (one.start, one.end)) for one in loop]
    inner = [min(dot(point, towards) for point in (one.start, one.end)) for one in loop]
    furthest = max(reach)
    along = [at for at in range(len(reach)) if inner[at] > furthest - 1e-6]
    if along:
        best = max(along, key=lambda at: loop.segments[at].length)
    else:
        best = max(range(len(reach)), key=lambda at: dot(loop.segments[at].at(0.5), towards))
    return OnEdge(number, best, 0.5 if away or not along else 0.0)
