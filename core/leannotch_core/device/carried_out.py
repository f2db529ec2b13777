"""A file carried out from its bytes, as plain values: for a process of its own, since anybody's file may be sent."""

from __future__ import annotations

from typing import Any

from ..bed import NoBed, bed_of
from ..document.machine import Machine
from ..drawings.apart import READING, Bounds, within
from ..drawings.drawing import BrokenFile
from ..machining.hatching import TooManyLines
from ..machining.played import played
from ..machining.walk import Round, walk_round
from .run import LaidDown, Run, run, walked, works
from .sent import read_sent

#: What carrying a file out may take.
CARRYING_OUT = Bounds(seconds=60, megabytes=1600)

Spots = list[tuple[float, float]]


def carried_out(
    data: bytes, name: str, profile: str, sheet: Spots, clips: list[Spots], x: float, y: float, walk: Round | None
) -> dict[str, Any]:
    """What a machine of a ``profile`` (JSON) does with a file, or with a walk round it, and every move of it.

    ``sheet`` and ``clips`` are corners on the bed (mm); the program's origin lies at ``x``, ``y`` of the machine.
    Raises `BrokenFile`.
    """
    machine = Machine.model_validate_json(profile)
    laid = LaidDown(_places(sheet), tuple(_places(clip) for clip in clips))
    try:
        with within(READING.seconds):
            program = list(read_sent(data, name, machine))
        done = run(program, machine, complex(x, y), laid)
        if walk:
            done = run(walked(walk_round(done.worked, walk)), machine, 0, laid)
        return {"report": report(done), "steps": len(done.steps), "played": _played(done, machine)}
    except (NoBed, TooManyLines) as error:
        raise BrokenFile(str(error)) from error


def _places(spots: Spots) -> tuple[complex, ...]:
    return tuple(complex(x, y) for x, y in spots)


def _played(done: Run, machine: Machine) -> dict[str, Any]:
    """Every move; what it belongs to is the line of the program."""
    moving = [(at, step, step.segment) for at, step in enumerate(done.steps) if step.segment]
    shown = played(
        [segment for _, _, segment in moving],
        done.ends[[at for at, _, _ in moving]],
        [works(step) for _, step, _ in moving],
        [step.line for _, step, _ in moving],
        bed_of(machine).axes.back,
    )
    return shown.model_dump()


def report(done: Run) -> dict[str, Any]:
    """What came of a run as plain JSON values: s and mm."""
    return {
        "seconds": round(done.seconds, 3),
        "length": {operation: round(length, 3) for operation, length in sorted(done.length.items())},
        "moves": round(done.moves, 3),
        "bounds": [round(value, 4) for value in done.bounds] if done.bounds else None,
        "alarms": [{"line": alarm.line, "text": alarm.text} for alarm in done.alarms],
    }
