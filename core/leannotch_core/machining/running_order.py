"""The running order: which job comes when, by the rule of the trade or as the maker put it, and what is wrong with it.

Engraving comes before scoring, pockets and cuts; inner cuts before the outline that frees the part; a part inside
another's cut-out before that cut-out; and among those the way is short.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from itertools import groupby

from ..document.operations import TURN
from ..document.preparation import Preparation, Task
from ..geometry.segment import Point
from .cooling import Cooling
from .jobs import Job, JobKey
from .path import CutPath
from .way import shortest_way

#: What goes through the sheet.
CUTS = ("inner", "outer")

#: A copy of a part: its id, and its number.
Copy = tuple[str, int]


def in_order(jobs: Sequence[Job], preparation: Preparation, cooling: Cooling | None = None) -> list[Job]:
    """The jobs as they are done: by the rule, but for those that were put in an order by hand; cuts that lie near each
    other are kept apart in time by a ``cooling``.
    """
    return by_hand(_by_rule(jobs, preparation.arrange, cooling), preparation.order)


def _by_rule(jobs: Sequence[Job], arrange: str, cooling: Cooling | None) -> list[Job]:
    """Operation after operation all over the sheet, or one part after the other."""
    groups: dict[int, list[Job]] = {}
    if arrange == "part":
        return _part_by_part(jobs, cooling)
    for job in jobs:
        groups.setdefault(_rank(job), []).append(job)
    ordered: list[Job] = []
    for rank in sorted(groups):
        ordered += _short(groups[rank], ordered[-1].paths[-1].end if ordered else 0, cooling)
    return ordered


def _rank(job: Job) -> int:
    stage = TURN[job.key.stage]
    # The deepest come first of all cuts, each outline after its own inner cuts.
    return stage if job.key.stage not in ("inner", "outer") else 1000 - 2 * job.inside + (job.key.stage == "outer")


def _part_by_part(jobs: Sequence[Job], cooling: Cooling | None) -> list[Job]:
    copies: dict[Copy, list[Job]] = {}
    for job in jobs:
        copies.setdefault((job.key.part, job.key.copy_number), []).append(job)
    # A copy stands in the way by the last that is done to it: its outline.
    last = {done[-1].key: done for done in copies.values()}
    ordered: list[Job] = []
    for inside in sorted({job.inside for job in jobs}, reverse=True):
        level = [done[-1] for done in copies.values() if done[-1].inside == inside]
        for job in _short(level, ordered[-1].paths[-1].end if ordered else 0, cooling):
            ordered += last[job.key]
    return ordered


def _short(jobs: Sequence[Job], here: Point, cooling: Cooling | None) -> list[Job]:
    """The jobs in an order that makes the way between them short; one of many lines may be begun at any of these."""
    segments = [[segment for path in job.paths for segment in path.segments] for job in jobs]
    choices = [_starts(job.paths) for job in jobs]
    # One of many lines is left somewhere near where it is begun.
    closed = [len(job.paths) > 1 or job.paths[0].closed for job in jobs]
    if cooling and jobs[0].key.stage in CUTS:
        way = cooling.kept_apart(segments, choices, here)
    else:
        way = shortest_way(segments, choices, closed, here)
    # What is one line is begun where the whole way is shortest with it.
    return [_begun(jobs[at], first) if len(jobs[at].paths) == 1 else jobs[at] for at, first in way]


def _starts(paths: Sequence[CutPath]) -> list[int]:
    found, first = [], 0
    for path in paths:
        found += [first + start for start in path.starts]
        first += len(path.segments)
    return found


def _begun(job: Job, first: int) -> Job:
    return replace(job, paths=(job.paths[0].begun(first),))


def by_hand(jobs: Sequence[Job], wanted: Sequence[Task]) -> list[Job]:
    """The jobs with those that are ``wanted`` in that order, and all others behind the one they come after by rule."""
    known = {job.key: job for job in jobs}
    keys = [JobKey(task.stage, task.part, task.copy_number) for task in wanted]
    ordered = [known[key] for key in dict.fromkeys(keys) if key in known]
    placed = {job.key for job in ordered}
    if not placed:
        return list(jobs)
    followers: dict[JobKey | None, list[Job]] = {}
    before: JobKey | None = None
    for job in jobs:
        if job.key in placed:
            before = job.key
        else:
            followers.setdefault(before, []).append(job)
    found = list(followers.get(None, ()))
    for job in ordered:
        found += [job, *followers.get(job.key, ())]
    return found


def lines_of(job: Job, here: Point, cooling: Cooling | None = None) -> list[CutPath]:
    """The lines of a job in an order, and begun at places, that make the way between them short; a ``cooling`` keeps
    cuts apart in time that lie near each other.
    """
    paths = job.paths
    if len(paths) == 1 and not paths[0].begins:
        return list(paths)
    segments, choices = [p.segments for p in paths], [p.starts for p in paths]
    if cooling and job.key.stage in CUTS:
        way = cooling.kept_apart(segments, choices, here)
    else:
        way = shortest_way(segments, choices, [p.closed for p in paths], here)
    return [paths[at].begun(first) for at, first in way]


def rows(jobs: Iterable[Job]) -> list[list[Job]]:
    """Jobs of one stage of one part that follow each other."""
    return [list(run) for _, run in groupby(jobs, key=lambda job: (job.key.stage, job.key.part))]


def too_early(jobs: Sequence[Job], within: Mapping[Copy, Copy]) -> list[tuple[JobKey, JobKey]]:
    """Jobs that are done when they must not be yet, each with one that has to come before it.

    ``within`` tells for a copy that lies in a cut-out of another which one that is.
    """
    place = {job.key: at for at, job in enumerate(jobs)}
    own: dict[Copy, list[JobKey]] = {}
    for key in place:
        own.setdefault((key.part, key.copy_number), []).append(key)
    found = []
    for copy, keys in own.items():
        # Marks may change places among each other; nothing is marked on what has been cut.
        for late in (key for key in keys if key.stage in ("inner", "outer")):
            earlier = [key for key in keys if TURN[key.stage] < TURN[late.stage]]
            found += [(late, key) for key in earlier if place[key] > place[late]][:1]
        frees = JobKey("inner", *within[copy]) if copy in within else None
        if frees in place:
            found += [(frees, key) for key in keys if place[key] > place[frees]][:1]
    return sorted(found, key=lambda pair: place[pair[0]])
