"""Lines that are drawn twice, wholly or in part: each stretch is kept once."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from ...geometry.segment import Arc, Line, Point, Segment, cross, dot
from ..chains import SNAP, SPECK, alike

#: Two lines run along each other where they share more than this (mm); less is two that meet end to end.
SHARED = 5 * SNAP


@dataclass(frozen=True, slots=True)
class Once:
    """Segments with every stretch once; how many repeated a stretch of another, and which stretches those are."""

    kept: list[Segment]
    doubled: int = 0
    twice: tuple[Segment, ...] = ()


def once(segments: Sequence[Segment]) -> Once:
    """The segments with every stretch once.

    Lines that share a part are divided where either of them ends, so that outlines of both can run along it.
    """
    if not segments:
        return Once([])
    groups = _Groups(len(segments))
    for first, second in alike(segments):
        # Chords of a fine curve lie on one line with their neighbours, but do not run along them; and what is no longer
        # than two ends of one node are apart lies along whatever meets there.
        shorter = min(segments[first].length, segments[second].length)
        if shorter > SPECK and _overlap(segments[first], segments[second]) > min(SHARED, shorter / 2):
            groups.join(first, second)
    kept: list[Segment] = []
    twice: list[Segment] = []
    doubled = 0
    for members in groups.all():
        for along in _carried([segments[i] for i in members]):
            found = _stretches(along) if len(along) > 1 else Once(along)
            kept += found.kept
            twice += found.twice
            doubled += found.doubled
    return Once(kept, doubled, tuple(twice))


def _overlap(first: Segment, second: Segment) -> float:
    """How long (mm) two segments on one line or circle run along each other."""
    spans = _spans([first, second], first if first.length >= second.length else second)
    own, other = ([(a, b) for a, b, of in spans if of == which] for which in (0, 1))
    return max(min(b, d) - max(a, c) for a, b in own for c, d in other)


class _Groups:
    """Things that are joined, directly or through others."""

    def __init__(self, count: int) -> None:
        self._head = list(range(count))

    def _first(self, index: int) -> int:
        while self._head[index] != index:
            self._head[index] = index = self._head[self._head[index]]
        return index

    def join(self, first: int, second: int) -> None:
        a, b = sorted((self._first(first), self._first(second)))
        self._head[b] = a

    def all(self) -> list[list[int]]:
        found: dict[int, list[int]] = {}
        for index in range(len(self._head)):
            found.setdefault(self._first(index), []).append(index)
        return list(found.values())


def _carried(members: Sequence[Segment]) -> Iterator[list[Segment]]:
    """Those on one line or circle with the longest, then what is left: a short one may have led to another line."""
    left = list(members)
    while left:
        carrier = max(left, key=lambda segment: segment.length)
        on = [segment for segment in left if _off(segment, carrier) <= 2 * SNAP]
        left = [segment for segment in left if _off(segment, carrier) > 2 * SNAP]
        yield on


def _off(segment: Segment, carrier: Segment) -> float:
    """How far (mm) the ends of a segment lie beside the line or circle of another."""
    if isinstance(carrier, Line):
        return max(abs(cross(carrier.start_tangent, end - carrier.start)) for end in (segment.start, segment.end))
    return max(abs(abs(end - carrier.centre) - carrier.radius) for end in (segment.start, segment.end))


def _stretches(members: Sequence[Segment]) -> Once:
    """Segments on one line or circle, cut where they end in one another, each stretch once."""
    carrier = max(members, key=lambda segment: segment.length)
    spans = _spans(members, carrier)
    shared_by = {
        i
        for a, b, i in spans
        if any(min(b, d) - max(a, c) > min(SHARED, (b - a) / 2, (d - c) / 2) for c, d, j in spans if j != i)
    }
    if not shared_by:
        return Once(list(members))
    kept = [segment for i, segment in enumerate(members) if i not in shared_by]
    shared = [(a, b) for a, b, i in spans if i in shared_by]
    at = _apart(sorted({end for span in shared for end in span}))
    times = [(a, b, sum(c - SNAP <= a and b <= d + SNAP for c, d in shared)) for a, b in pairwise(at)]
    stretches = [(a, b) for a, b, drawn in times if drawn]
    pieces = [*kept, *(_piece(carrier, a, b) for a, b in stretches)]
    twice = tuple(_piece(carrier, a, b) for a, b, drawn in times if drawn > 1)
    return Once(pieces, len(shared_by) - _runs(stretches, len(shared_by)), twice)


def _runs(stretches: Sequence[tuple[float, float]], most: int) -> int:
    """How many unbroken runs the stretches make: what would have been drawn by somebody who drew each once."""
    breaks = sum(1 for (_, end), (begin, _) in pairwise(stretches) if begin - end > SNAP)
    return min(most, breaks + 1)


def _apart(places: Sequence[float]) -> list[float]:
    kept = [places[0]]
    kept += [b for a, b in pairwise(places) if b - a > SNAP]
    return kept


def _spans(members: Sequence[Segment], carrier: Segment) -> list[tuple[float, float, int]]:
    """Where each segment begins and ends along the carrier, in mm from its start, and which one it is.

    Round a circle they are counted on from a place where nothing is drawn; where all of it is, those that cross the
    carrier's start come in two.
    """
    if isinstance(carrier, Line):
        along = carrier.start_tangent
        ends = [sorted(dot(along, point - carrier.start) for point in (one.start, one.end)) for one in members]
        return [(a, b, i) for i, (a, b) in enumerate(ends)]
    found = sorted((*_along_arc(one, carrier), i) for i, one in enumerate(members))
    whole = math.tau * carrier.radius
    far = max(end for _, end, _ in found) - whole
    for begin, end, _ in found:
        if begin > far + SNAP:
            return [(a, b, i) if a >= begin else (a + whole, b + whole, i) for a, b, i in found]
        far = max(far, end)
    over = [(a, b, i) for a, b, i in found if b > whole + SNAP]
    cut = [piece for a, b, i in over for piece in ((a, whole, i), (0.0, b - whole, i))]
    return [*(one for one in found if one not in over), *cut]


def _along_arc(segment: Segment, carrier: Arc) -> tuple[float, float]:
    assert isinstance(segment, Arc)
    first = segment.start if segment.ccw else segment.end
    begin = cmath.phase((first - carrier.centre) / (carrier.start - carrier.centre))
    if begin < -SNAP / carrier.radius:
        begin += math.tau
    return begin * carrier.radius, begin * carrier.radius + segment.length


def _piece(carrier: Segment, begin: float, end: float) -> Segment:
    if isinstance(carrier, Line):
        along = carrier.start_tangent
        return Line(carrier.start + along * begin, carrier.start + along * end, carrier.source)

    def at(place: float) -> Point:
        return carrier.centre + (carrier.start - carrier.centre) * cmath.rect(1, place / carrier.radius)

    return Arc(at(begin), at(end), carrier.centre, True, carrier.source)
