"""Places on the edge of a part: kept by the side that they lie on, so that they stay there when sizes change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..document.preparation import EdgePlace
from ..geometry.loop import Loop
from ..geometry.segment import Point


@dataclass(frozen=True, slots=True)
class OnEdge:
    """A point of one of several loops: which loop, which of its segments, and the share of that segment's length."""

    loop: int
    segment: int
    share: float


def point_of(loops: Sequence[Loop], at: OnEdge) -> Point:
    """The point of a place on loops."""
    return loops[at.loop].segments[at.segment].at(at.share)


def found(loops: Sequence[Loop], place: EdgePlace) -> OnEdge | None:
    """Where a place lies on the loops of a part now; nothing where its side is not there any more."""
    for number, loop in enumerate(loops):
        side = _side(loop, place.shape, place.side)
        if not side:
            continue
        along = _along(loop, side)
        wanted = place.share * (along[-1] + loop.segments[side[-1]].length)
        # In a notch that was cut since, it lies at the nearest of the notch's corners.
        nearest = min(range(len(side)), key=lambda at: _off(wanted - along[at], loop.segments[side[at]].length))
        segment = loop.segments[side[nearest]]
        return OnEdge(number, side[nearest], min(max((wanted - along[nearest]) / segment.length, 0.0), 1.0))
    return None


def place_at(loops: Sequence[Loop], at: OnEdge) -> EdgePlace:
    """What keeps a point of the loops where it is."""
    loop = loops[at.loop]
    segment = loop.segments[at.segment]
    side = _side(loop, segment.source.shape, segment.source.side)
    along = _along(loop, side)
    whole = along[-1] + loop.segments[side[-1]].length
    share = (along[side.index(at.segment)] + at.share * segment.length) / whole
    return EdgePlace(shape=segment.source.shape, side=segment.source.side, share=min(max(share, 0.0), 1.0))


def nearest(loops: Sequence[Loop], point: Point) -> OnEdge:
    """The point of the loops that is nearest to one given (mm)."""
    candidates = [
        (abs(segment.at(share) - point), OnEdge(number, place, share))
        for number, loop in enumerate(loops)
        for place, segment in enumerate(loop.segments)
        for share in (0.0, min(max(segment.share_of(point), 0.0), 1.0), 1.0)
    ]
    return min(candidates, key=lambda one: one[0])[1]


def _side(loop: Loop, shape: str, side: str) -> list[int]:
    """The segments of a side, by their places in the loop, from its beginning to its end."""
    here = [at for at, s in enumerate(loop.segments) if (s.source.shape, s.source.side) == (shape, side)]
    if len(here) < 2:
        return here
    # It begins where the way from the end of its piece before is longest: over a notch that is never as long.
    gaps = [abs(loop.segments[here[at]].start - loop.segments[here[at - 1]].end) for at in range(len(here))]
    first = max(range(len(here)), key=lambda at: gaps[at])
    return here[first:] + here[:first]


def _along(loop: Loop, side: Sequence[int]) -> list[float]:
    """How far (mm) from the side's beginning each of its segments begins, straight over what was cut from it."""
    along = [0.0]
    for before, after in pairwise(side):
        segment = loop.segments[before]
        along.append(along[-1] + segment.length + abs(loop.segments[after].start - segment.end))
    return along


def _off(ahead: float, length: float) -> float:
    """How far a place so far ahead of a segment's beginning is from the segment."""
    return max(-ahead, ahead - length, 0.0)
