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
from .parking import Parking
from .stroke import Stroke
from .work import CutterRun

#: So near (mm) above the sheet, or above what was cut before, the cutter comes at speed.
ABOVE = 1.0

_WAY = Source("move", "between")


def routed_moves(
    runs: Sequence[CutterRun], safe: float, machine: Machine, frame: Motion, parking: Parking | None = None
) -> list[Move]:
    """All moves for the runs in the machine's coordinates, begun at its origin, at a safe height (mm) over the sheet.

    ``frame`` takes the sheet to the machine. Each cutter first of all is lifted where it stands, and goes to the
    parking place when it is done; without one it goes home at the safe height.
    """
    rest = parking or Parking(0, safe)
    found: list[Move] = []
    here: Point = 0
    for _, some in groupby(runs, key=lambda run: run.cutter.id):
        high = rest.height
        for at, run in enumerate(some):
            if at == 0:
                found.append(_rapid(run, here, here, high if found else 0.0, high, machine))
            found += _to(run, here, high, safe, machine, frame)
            found += (_stroke(run, stroke, frame) for stroke in run.strokes)
            here = found[-1].segment.end
            high = safe
            found.append(_rapid(run, here, here, found[-1].z, safe, machine))
        if rest.height > safe:
            found.append(_rapid(run, here, here, safe, rest.height, machine))
        if abs(here - rest.at) > 1e-6:
            found.append(_rapid(run, here, rest.at, rest.height, rest.height, machine))
            here = rest.at
    return found


def _to(run: CutterRun, here: Point, high: float, safe: float, machine: Machine, frame: Motion) -> Iterator[Move]:
    """Over the sheet to where a run is begun, and down to it: at speed as far as nothing is touched."""
    there, first = frame(run.start), run.strokes[0]
    if abs(there - here) > 1e-6:
        yield _rapid(run, here, there, high, high, machine)
    above = min(ABOVE, safe)
    yield _rapid(run, there, there, high, above, machine)
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


def _rapid(run: CutterRun, here: Point, there: Point, from_z: float, z: float, machine: Machine) -> Move:
    line = Line(here, there, _WAY)
    return Move(line, machine.moving.speed, None, True, run.job, run.operation, from_z, z, run.cutter.id)


def _stroke(run: CutterRun, stroke: Stroke, frame: Motion) -> Move:
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
