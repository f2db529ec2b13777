"""From loose lines to outlines: which lines join, which are drawn twice, which stay open."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from ..geometry.near import near_pairs
from ..geometry.rows import SegmentRows
from ..geometry.segment import Arc, Line, Point, Segment, cross, dot

#: Ends closer than this (mm) are joined, and lines closer than this are one line drawn twice.
SNAP = 0.01
#: Segments up to this long (mm) say nothing of where they go: either end may lie `SNAP` from the place that they share.
SPECK = 2 * SNAP


@dataclass(frozen=True, slots=True)
class Chain:
    """Segments that follow one another; ``closed`` when the last one ends where the first began."""

    segments: tuple[Segment, ...]
    closed: bool


def without_doubles(segments: Sequence[Segment]) -> tuple[list[Segment], list[Segment]]:
    """The segments, each once, and those that repeat a stretch of another."""
    doubled: set[int] = set()
    for i, j in sorted(alike(segments)):
        first, second = min(i, j), max(i, j)
        if first in doubled or second in doubled:
            continue
        longer, shorter = segments[first], segments[second]
        if _shared(longer, shorter) > 5 * SNAP:
            doubled.add(second if shorter.length <= longer.length + SNAP else first)
    kept = [s for i, s in enumerate(segments) if i not in doubled]
    return kept, [segments[i] for i in sorted(doubled)]


def alike(segments: Sequence[Segment]) -> Iterable[tuple[int, int]]:
    """Pairs of segments on one line, or on one circle, within `SNAP`: only they can share a stretch."""
    start, end = (np.array([getattr(segment, name) for segment in segments]) for name in ("start", "end"))
    arcs = np.array([isinstance(segment, Arc) for segment in segments])
    centre = np.array([segment.centre if isinstance(segment, Arc) else 0 for segment in segments], dtype=complex)
    radius = np.abs(start - centre)
    with np.errstate(divide="ignore", invalid="ignore"):
        along = (end - start) / np.abs(end - start)
    for a, b in near_pairs(SegmentRows.of(segments), SNAP):
        off = [np.abs((along[a].conjugate() * (point[b] - start[a])).imag) for point in (start, end)]
        on_line = ~arcs[a] & ~arcs[b] & (np.maximum(*off) <= SNAP)
        on_circle = arcs[a] & arcs[b]
        on_circle &= (np.abs(centre[a] - centre[b]) <= SNAP) & (np.abs(radius[a] - radius[b]) <= SNAP)
        same = on_line | on_circle
        yield from zip(a[same].tolist(), b[same].tolist(), strict=True)


def _shared(a: Segment, b: Segment) -> float:
    """How long (mm) two segments run along each other within `SNAP`."""
    if isinstance(a, Line) and isinstance(b, Line):
        along = a.start_tangent
        if max(abs(cross(along, b.start - a.start)), abs(cross(along, b.end - a.start))) > SNAP:
            return 0.0
        ends = sorted((dot(along, b.start - a.start), dot(along, b.end - a.start)))
        return min(a.length, ends[1]) - max(0.0, ends[0])
    if isinstance(a, Arc) and isinstance(b, Arc):
        if abs(a.centre - b.centre) > SNAP or abs(a.radius - b.radius) > SNAP:
            return 0.0
        inside = [a.at(a.share_of(b.at(step / 8))) for step in range(1, 8) if 0 <= a.share_of(b.at(step / 8)) <= 1]
        return len(inside) / 7 * b.length
    return 0.0


def chained(segments: Sequence[Segment]) -> list[Chain]:
    """Joins segments end to end, in whatever direction they were drawn. Loops come out closed."""
    ends: dict[tuple[int, int], list[tuple[int, bool]]] = defaultdict(list)
    for index, segment in enumerate(segments):
        ends[_cell(segment.start)].append((index, True))
        ends[_cell(segment.end)].append((index, False))
    free = [True] * len(segments)
    chains = []
    for index in range(len(segments)):
        if not free[index]:
            continue
        free[index] = False
        run = [segments[index]]
        _extend(run, segments, ends, free)
        if not _meets(run):
            run = [segment.reversed() for segment in reversed(run)]
            _extend(run, segments, ends, free)
        chains.append(Chain(tuple(run), _meets(run)))
    return chains


def _meets(run: Sequence[Segment]) -> bool:
    if abs(run[-1].end - run[0].start) > SNAP:
        return False
    return len(run) > 1 or run[0].length > math.pi * SNAP


def _cell(point: Point) -> tuple[int, int]:
    return round(point.real / SNAP / 2), round(point.imag / SNAP / 2)


def _extend(
    run: list[Segment],
    segments: Sequence[Segment],
    ends: dict[tuple[int, int], list[tuple[int, bool]]],
    free: list[bool],
) -> None:
    while not (len(run) > 1 and _meets(run)):
        here = run[-1].end
        column, row = _cell(here)
        near = [
            (abs((segments[i].start if at_start else segments[i].end) - here), i, at_start)
            for x in (column - 1, column, column + 1)
            for y in (row - 1, row, row + 1)
            for i, at_start in ends.get((x, y), ())
            if free[i]
        ]
        if not near or min(near)[0] > SNAP:
            return
        _, index, at_start = min(near)
        free[index] = False
        run.append(segments[index] if at_start else segments[index].reversed())
