"""The moves of a router: every run with the way to it over the sheet, and home again."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby

import numpy as np

from ...document.machine import Machine
from ...geometry.segment import Line, Motion, Point, Source
from ..clock import Numbers, seconds
from ..program import Move
from ..settings import plunge_speed, ramp_speed
from .stroke import Stroke
from .work import Run

#: So near (mm) above the sheet, or above what was cut before, the cutter comes at speed.
ABOVE = 1.0

_WAY = Source("move", "between")


def routed_moves(runs: Sequence[Run], safe: float, machine: Machine, frame: Motion) -> list[Move]:
    """All moves for the runs in the machine's coordinates, begun and ended at its origin, at a safe height (mm).

    ``frame`` takes the sheet to the machine. For another cutter it goes home.
    """
    found: list[Move] = [_rapid(runs[0], 0, 0, 0.0, safe, machine)] if runs else []
    for _, some in groupby(runs, key=lambda run: run.cutter.id):
        here: Point = 0
        for run in some:
            found += _to(run, here, safe, machine, frame)
            found += (_stroke(run, stroke, frame) for stroke in run.strokes)
            here = found[-1].segment.end
            found.append(_rapid(run, here, here, found[-1].z, safe, machine))
        if abs(here) > 1e-6:
            found.append(_rapid(run, here, 0, safe, safe, machine))
    return found


def _to(run: Run, here: Point, safe: float, machine: Machine, frame: Motion) -> Iterator[Move]:
    """Over the sheet to where a run is begun, and down to it: at speed as far as nothing is touched."""
    there, first = frame(run.start), run.strokes[0]
    if abs(there - here) > 1e-6:
        yield _rapid(run, here, there, safe, safe, machine)
    above = min(ABOVE, safe)
    yield _rapid(run, there, there, safe, above, machine)
    if above - first.from_z > 1e-9:
        yield Move(
            Line(there, there, _WAY),
            plunge_speed(run.setting),
            run.setting.power,
            False,
            run.job,
            run.operation,
            above,
            first.from_z,
            run.cutter.id,
        )


def _rapid(run: Run, here: Point, there: Point, from_z: float, z: float, machine: Machine) -> Move:
    line = Line(here, there, _WAY)
    return Move(line, machine.moving.speed, None, True, run.job, run.operation, from_z, z, run.cutter.id)


def _stroke(run: Run, stroke: Stroke, frame: Motion) -> Move:
    setting = run.setting
    speeds = {"ramp": ramp_speed(setting), "plunge": plunge_speed(setting)}
    moved = stroke.moved(frame)
    return Move(
        moved.segment,
        speeds.get(stroke.how, setting.speed),
        setting.power,
        False,
        run.job,
        run.operation,
        moved.from_z,
        moved.z,
        run.cutter.id,
    )


def routed_times(found: Sequence[Move], machine: Machine) -> Numbers:
    """How long (s) each move takes; the first with a cutter waits until that turns."""
    took = np.zeros(len(found))
    at = 0
    for _, some in groupby(found, key=lambda move: move.cutter):
        group = list(some)
        paces = [(machine.moving if move.rapid else machine.working).acceleration for move in group]
        took[at : at + len(group)] = seconds(
            [move.segment for move in group],
            np.array([move.speed for move in group], dtype=np.float64),
            np.array(paces, dtype=np.float64),
            machine.corner,
            np.array([move.z - move.from_z for move in group]),
        )
        took[at] += machine.spins_up
        at += len(group)
    return took
