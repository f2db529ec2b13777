"""A file carried out from its bytes, as plain values: for a process of its own, since anybody's file may be sent."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from ..document.machine import Machine
from ..drawings.apart import within
from ..drawings.bounds import READING, Bounds
from ..drawings.drawing import BrokenFile
from ..drawings.gcode.state import ProgramStep
from ..facts.bed import NoBed, bed_of
from ..facts.cutters import chip_of
from ..geometry.segment import Arc, Segment
from ..machining.hatching import TooManyLines
from ..machining.played import played
from ..machining.walk import WalkWay, walk_round
from .engaged import engaged
from .run import Heard, LaidDown, MachineRun, run, walked, works
from .sent import read_sent

#: What carrying a file out may take.
CARRYING_OUT = Bounds(seconds=60, megabytes=1600)

#: The width (mm) and the flutes of a cutter that nobody told of.
USUAL_CUTTER = (6.0, 2)

Spots = list[tuple[float, float]]


@dataclass(frozen=True, slots=True)
class BedLoad:
    """What lies on the bed (mm), and the cutters that are put in one after the other: their widths and their flutes.

    ``sheet`` and ``clips`` are corners, ``tall`` is how far clips stand up from the sheet.
    """

    sheet: Spots = field(default_factory=list)
    clips: list[Spots] = field(default_factory=list)
    thickness: float = 0.0
    tall: float = math.inf
    cutters: list[tuple[float, int]] = field(default_factory=list)


def carried_out(
    data: bytes, name: str, profile: str, on_bed: BedLoad, x: float, y: float, walk: WalkWay | None
) -> dict[str, Any]:
    """What a machine of a ``profile`` (JSON) does with a file, or with a walk round it, and every move of it.

    The program's origin lies at ``x``, ``y`` (mm) of the machine. Raises `BrokenFile`.
    """
    machine = Machine.model_validate_json(profile)
    clips = tuple(_places(clip) for clip in on_bed.clips)
    laid = LaidDown(_places(on_bed.sheet), clips, on_bed.thickness, on_bed.tall, len(on_bed.cutters))
    try:
        with within(READING.seconds):
            program = Heard.of(read_sent(data, name, machine, complex(x, y)))
        done = run(program, machine, complex(x, y), laid)
        if walk:
            done = run(walked(walk_round(done.worked, walk)), machine, 0, laid)
        played = _played(done, machine, on_bed.cutters)
        return {"report": report(done), "steps": len(done.steps), "played": played, "stops": _stops(done)}
    except (NoBed, TooManyLines) as error:
        raise BrokenFile(str(error)) from error


def _places(spots: Spots) -> tuple[complex, ...]:
    return tuple(complex(x, y) for x, y in spots)


def _stops(done: MachineRun) -> list[dict[str, Any]]:
    """Where the program waits: when (s), at which line, and for which cutter."""
    return [
        {"at": float(end), "line": step.line, "tool": step.tool}
        for step, end in zip(done.steps, done.ends, strict=True)
        if step.stops
    ]


def _played(done: MachineRun, machine: Machine, cutters: Sequence[tuple[float, int]]) -> dict[str, Any]:
    """Every move; what it belongs to is the line of the program. Of a router with its depth and its load."""
    moving = [(at, step, step.segment) for at, step in enumerate(done.steps) if step.segment]
    shown = played(
        [segment for _, _, segment in moving],
        done.ends[[at for at, _, _ in moving]],
        [works(step) for _, step, _ in moving],
        [step.line for _, step, _ in moving],
        bed_of(machine).axes.back,
    )
    if machine.kind == "router" and moving:
        steps = [step for _, step, _ in moving]
        wide = [_cutter(cutters, step.tool)[0] for step in steps]
        shown = shown.model_copy(
            update={
                "z": [round(step.z, 3) for step in steps],
                "wide": wide,
                "chip": [round(_chip(step, _cutter(cutters, step.tool)[1]), 4) for step in steps],
                "engaged": [round(width, 2) for width in _engaged(steps, wide)],
            }
        )
    return shown.model_dump()


def _cutter(cutters: Sequence[tuple[float, int]], tool: int) -> tuple[float, int]:
    """Its width (mm) and its flutes; of one that is not told a usual one."""
    return cutters[min(tool, len(cutters)) - 1] if cutters else USUAL_CUTTER


def _chip(step: ProgramStep, flutes: int) -> float:
    return chip_of(step.feed / 60, step.power, flutes) if step.feed and step.power else 0.0


def _engaged(steps: Sequence[ProgramStep], wide: Sequence[float]) -> list[float]:
    ways = [
        [(segment.at(share), step.from_z + (step.z - step.from_z) * share) for share in _shares(segment)]
        for step in steps
        if (segment := step.segment)
    ]
    return engaged(ways, wide)


def _shares(segment: Segment) -> list[float]:
    """Along a line its ends; along an arc places that are near each other."""
    count = max(1, math.ceil(abs(segment.sweep) / 0.1)) if isinstance(segment, Arc) else 1
    return [at / count for at in range(count + 1)]


def report(done: MachineRun) -> dict[str, Any]:
    """What came of a run as plain JSON values: s and mm."""
    return {
        "seconds": round(done.seconds, 3),
        "length": {operation: round(length, 3) for operation, length in sorted(done.length.items())},
        "moves": round(done.moves, 3),
        "bounds": [round(value, 4) for value in done.bounds] if done.bounds else None,
        "alarms": [{"line": alarm.line, "text": alarm.text} for alarm in done.alarms],
    }
