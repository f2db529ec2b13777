"""Common lines: where outlines of neighbours are a kerf apart, their cut lines are one, and it is cut once."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

from ..drawings.chains import SNAP, alike
from ..geometry.segment import Line, Segment, dot
from .holding import between
from .jobs import Job
from .path import CutPath

#: A stretch of a path, from where to where along it (mm).
Stretch = tuple[float, float]


def with_common_lines(jobs: Sequence[Job]) -> list[Job]:
    """The jobs without what an earlier cut has cut already: a path that shares a side with one is cut as its rest."""
    lines = [
        (job, path, at, segment)
        for job, one in enumerate(jobs)
        for path, line in enumerate(one.paths)
        if line.operation == "cut" and line.closed
        for at, segment in enumerate(line.segments)
    ]
    shared: dict[tuple[int, int], list[Stretch]] = defaultdict(list)
    for a, b in alike([segment for *_, segment in lines]):
        first_cut, then = sorted((lines[a], lines[b]), key=_when)
        early, (job, path, at, late) = first_cut[3], then
        if _when(first_cut) == _when(then) or not (isinstance(late, Line) and isinstance(early, Line)):
            continue
        begin, end = sorted((_along(late, early.start), _along(late, early.end)))
        begin, end = max(begin, 0.0), min(end, late.length)
        if end - begin > SNAP:
            first = sum(segment.length for segment in jobs[job].paths[path].segments[:at])
            shared[job, path].append((first + begin, first + end))
    rests = [
        replace(one, paths=tuple(p for path, line in enumerate(one.paths) for p in _rest(line, shared[job, path])))
        for job, one in enumerate(jobs)
    ]
    # One that has neighbours all round is free when these are.
    return [job for job in rests if job.paths]


def _when(line: tuple[int, int, int, Segment]) -> tuple[int, int]:
    return line[0], line[1]


def _along(line: Line, point: complex) -> float:
    return dot(line.start_tangent, point - line.start)


def _rest(path: CutPath, shared: Sequence[Stretch]) -> list[CutPath]:
    """What of a closed path is left to cut, in stretches; all of it where nothing is shared."""
    if not shared:
        return [path]
    whole, free, here = path.length, [], 0.0
    for begin, end in sorted(shared):
        if begin - here > SNAP:
            free.append((here, begin))
        here = max(here, end)
    if whole - here > SNAP:
        free.append((here, whole))
    stretches = [tuple(between(path.segments, begin, end)) for begin, end in free]
    # What runs on over the beginning of the path is one stretch.
    if len(free) > 1 and free[0][0] == 0.0 and free[-1][1] == whole:
        stretches = [stretches[-1] + stretches[0], *stretches[1:-1]]
    return [replace(path, segments=stretch, closed=False) for stretch in stretches]
