"""The program of a sheet: every move of the machine with its speed and power, whatever it is written as."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ..document.machine import Machine, Pace
from ..document.operations import FILLED
from ..document.setting import Setting
from ..geometry.segment import Line, Motion, Point, Segment, Source
from .clock import Numbers, seconds
from .hatching import hatched
from .jobs import Job
from .path import CutPath

#: The setting of an operation on a part, by the part's id and the operation.
Settings = Callable[[str, str], Setting]

_MOVE = Source("move", "between")
_LEAD = Source("lead-in", "line")
_RUN_UP = Source("fill", "run-up")


@dataclass(frozen=True, slots=True)
class Move:
    """One move: along a segment (mm) at a speed (mm/s), the beam on with its power in percent, or off.

    ``rapid`` ones are as fast as the machine moves. ``job`` is the place of its job in the plan. A ``cutter`` goes from
    one height (mm) to another meanwhile, and turns at ``power`` revolutions a minute.
    """

    segment: Segment
    speed: float
    power: float | None
    rapid: bool
    job: int
    operation: str
    from_z: float = 0.0
    z: float = 0.0
    cutter: str = ""

    @property
    def length(self) -> float:
        return math.hypot(self.segment.length, self.z - self.from_z)


def moves(jobs: Sequence[Job], settings: Settings, machine: Machine, frame: Motion) -> list[Move]:
    """All moves for the jobs, in the machine's coordinates, begun and ended at its origin.

    ``frame`` takes the sheet to the machine. Raises `TooManyLines`.
    """
    found: list[Move] = []
    here: Point = 0
    for at, job in enumerate(jobs):
        for move in _of_job(job, at, settings, machine, frame):
            if abs(move.segment.start - here) > 1e-6:
                found.append(_rapid(here, move.segment.start, machine, at, move.operation))
            found.append(move)
            here = move.segment.end
    if found and abs(here) > 1e-6:
        found.append(_rapid(here, 0, machine, len(jobs) - 1, found[-1].operation))
    return found


def _rapid(here: Point, there: Point, machine: Machine, job: int, operation: str) -> Move:
    return Move(Line(here, there, _MOVE), machine.moving.speed, None, True, job, operation)


def _of_job(job: Job, at: int, settings: Settings, machine: Machine, frame: Motion) -> Iterator[Move]:
    paths = [path.moved(frame) for path in job.paths]
    if machine.kind == "beam" and paths[0].operation in FILLED:
        # What is deeper within something shallow is gone over once more.
        for depth in sorted({path.depth or 0.0 for path in paths}):
            some = [path for path in paths if (path.depth or 0.0) == depth]
            yield from _filled(some, at, settings(job.key.part, paths[0].operation), machine)
        return
    for path in paths:
        setting = settings(job.key.part, path.operation)
        if path.lead is not None:
            lead = Line(path.lead, path.start, _LEAD)
            yield Move(lead, setting.speed, setting.power, False, at, path.operation)
        for done in range(setting.passes):
            # An open line is followed back again, so that the head does not go all the way to its beginning.
            back = not path.closed and done % 2
            segments = [s.reversed() for s in reversed(path.segments)] if back else path.segments
            for segment in segments:
                yield Move(segment, setting.speed, setting.power, False, at, path.operation)


def _filled(paths: Sequence[CutPath], at: int, setting: Setting, machine: Machine) -> Iterator[Move]:
    """Rows of lines with a run-up before and behind each: the beam burns only where the head is at full speed."""
    operation = paths[0].operation
    rows = hatched([path.segments for path in paths if path.closed], setting.gap)
    up = run_up(setting.speed, machine.working)
    for _ in range(setting.passes):
        here: Point | None = None
        for row in rows:
            ahead = 1 if row[0].end.real > row[0].start.real else -1
            stops = [row[0].start - ahead * up, *(p for line in row for p in (line.start, line.end))]
            stops.append(row[-1].end + ahead * up)
            if here is not None:
                yield Move(Line(here, stops[0], _RUN_UP), setting.speed, None, False, at, operation)
            for place, (start, end) in enumerate(pairwise(stops)):
                if abs(end - start) > 1e-9:
                    power = setting.power if place % 2 else None
                    yield Move(Line(start, end, _RUN_UP), setting.speed, power, False, at, operation)
            here = stops[-1]


def run_up(speed: float, working: Pace) -> float:
    """How far (mm) the head runs until it is at a speed (mm/s)."""
    return speed * speed / (2 * working.acceleration)


def times(found: Sequence[Move], machine: Machine) -> Numbers:
    """How long (s) each move takes; it is the clock that the machine runs by."""
    accelerations = [(machine.moving if move.rapid else machine.working).acceleration for move in found]
    return seconds(
        [move.segment for move in found],
        np.array([move.speed for move in found], dtype=np.float64),
        np.array(accelerations, dtype=np.float64),
        machine.corner,
    )
