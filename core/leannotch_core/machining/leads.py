"""Lead-ins: a cut is begun on the waste, and runs from there to where its outline begins."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from shapely import LineString, Polygon, STRtree

from ..geometry.segment import Point
from .jobs import Job
from .path import CutPath

#: A lead-in may come as near (mm) to what is to be kept as the beam that makes it, within this.
NEAR = 1e-3


def with_leads(jobs: Sequence[Job], kept: Sequence[Polygon], lead_of: Callable[[str], float], kerf: float) -> list[Job]:
    """The jobs with a lead-in, so many mm long for a part, to each cut that has room for one.

    ``kept`` are the finished parts on the sheet: none of them may be burnt, nor what stands across a narrow cut-out.
    """
    tree = STRtree(list(kept))
    return [
        replace(job, paths=tuple(_led(path, tree, lead, kerf) for path in job.paths))
        if job.key.stage in ("inner", "outer") and (lead := lead_of(job.key.part)) > 0
        else job
        for job in jobs
    ]


def _led(path: CutPath, tree: STRtree, lead: float, kerf: float) -> CutPath:
    # Between holding tabs a line has no end that nobody sees.
    if not path.closed:
        return path
    start = _beside(path, lead)
    way = LineString([(start.real, start.imag), (path.start.real, path.start.imag)])
    beam = max(kerf / 2 - NEAR, NEAR)
    near = tree.query(way, predicate="dwithin", distance=beam)
    return path if near.size else replace(path, lead=start)


def _beside(path: CutPath, lead: float) -> Point:
    """A point on the waste, square to where the path begins: of outlines and cut-outs it lies on the right."""
    first = path.segments[0].start_tangent
    along = first + path.segments[-1].end_tangent
    along = along / abs(along) if abs(along) > 1e-6 else first
    return path.start - 1j * along * lead
