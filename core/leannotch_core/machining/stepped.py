"""How long a machine takes for the steps of a program, and for the lines that its profile adds to every one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..document.machine import Machine
from ..drawings.gcode.state import ProgramStep
from ..drawings.gcode.steps import steps
from ..drawings.gcode.words import BadBlock, Dialect
from .clock import Numbers, seconds

#: What stands before a profile's own lines in every program, as far as it changes what they do.
_BEFORE = ("G21 G90",)


def step_times(taken: Sequence[ProgramStep], machine: Machine) -> Numbers:
    """How long (s) each step takes; the machine stands still while it waits."""
    took = np.array([step.wait for step in taken], dtype=np.float64)
    first = 0
    waits = [at for at, step in enumerate(taken) if step.wait] + [len(taken)]
    for wait in waits:
        moving = [at for at in range(first, wait) if taken[at].segment]
        took[moving] += _moving([taken[at] for at in moving], machine)
        first = wait + 1
    return took


def _moving(taken: Sequence[ProgramStep], machine: Machine) -> Numbers:
    speeds, accelerations = [], []
    for step in taken:
        pace = machine.moving if step.feed is None else machine.working
        speeds.append(pace.speed if step.feed is None else min(step.feed / 60, pace.speed))
        accelerations.append(pace.acceleration)
    segments = [step.segment for step in taken if step.segment]
    rises = np.array([step.z - step.from_z for step in taken], dtype=np.float64)
    return seconds(segments, np.array(speeds), np.array(accelerations), machine.corner, rises)


def own_seconds(machine: Machine) -> float:
    """How long (s) the profile's own lines take, begun and ended at the machine's origin; 0 where none can be read.

    A machine that reads drawings only gets none of them.
    """
    if machine.program is None:
        return 0.0
    return sum(_own_seconds(machine, own) for own in (machine.begins, machine.ends))


def _own_seconds(machine: Machine, own: Sequence[str]) -> float:
    program = "\n".join([*_BEFORE, *own])
    try:
        taken = list(steps(program, dialect=Dialect.of(machine)))
    except BadBlock:
        # The proof stops at it, and says so.
        return 0.0
    return float(step_times(taken, machine).sum())
