"""Arcs so shallow that their centres lie beyond every bed: chords stand for them, within a stated tolerance.

No machine follows an arc about a point hundreds of metres away better than chords, and no file can hold that point.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from itertools import pairwise

from .segment import Arc, Line, Point, Segment, Source

#: From this radius (mm) on an arc is followed by chords.
SHALLOW = 20_000.0
#: Such chords leave their arc by at most this (mm).
RISE = 0.001
#: No arc is followed by more chords than these.
_MOST = 20_000


def without_shallow(segments: Iterable[Segment]) -> Iterator[Segment]:
    """The segments, chords in place of arcs with a radius of `SHALLOW` mm and more."""
    for segment in segments:
        if isinstance(segment, Arc) and segment.radius >= SHALLOW:
            yield from chords(segment)
        else:
            yield segment


def chords(arc: Arc, tolerance: float = RISE) -> list[Segment]:
    """An arc as chords: of length c each leaves it by c² / 8R (mm), its rise.

    >>> arc = Arc(10 + 0j, -10 + 0j, 0j, True, Source("half", "edge"))
    >>> len(chords(arc, tolerance=0.1))
    12
    """
    longest = math.sqrt(8 * arc.radius * tolerance)
    count = max(1, math.ceil(arc.length / longest))
    stops = [arc.start, *(arc.at(at / count) for at in range(1, count)), arc.end]
    return [Line(a, b, arc.source) for a, b in pairwise(stops)]


def along_ellipse(
    centre: Point, axis: complex, other: complex, begin: float, sweep: float, ends: tuple[Point, Point], source: Source
) -> list[Segment]:
    """A piece of a huge ellipse as chords, from its first angle on so far round (radians), between its known ends.

    ``axis`` and ``other`` are its half axes (mm). A piece is taken to rise over its chord as on its widest circle.
    """
    radius = max(abs(axis), abs(other))
    longest = math.sqrt(8 * min(abs(axis), abs(other)) ** 2 / radius * RISE)
    count = max(1, min(_MOST, math.ceil(abs(sweep) * radius / longest)))
    angles = [begin + sweep * at / count for at in range(1, count)]
    stops = [ends[0], *(centre + axis * math.cos(angle) + other * math.sin(angle) for angle in angles), ends[1]]
    return [Line(a, b, source) for a, b in pairwise(stops)]
