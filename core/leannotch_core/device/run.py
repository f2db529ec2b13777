"""A program carried out: how long each step takes on this machine, and where it stops with an alarm."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
import shapely
from shapely import Polygon, STRtree

from ..document.machine import Machine
from ..document.sizes import positive, shown
from ..drawings.gcode.state import ProgramStep
from ..drawings.gcode.words import BadBlock
from ..facts.bed import Bed, bed_of
from ..facts.stock import corners_of
from ..geometry.chords import Lines, as_lines
from ..geometry.loop import Bounds, joined_bounds
from ..geometry.segment import Line, Motion, Point, Segment, Source
from ..machining.clock import Numbers
from ..machining.stepped import step_times

#: What leaves the bed or the sheet by less (mm) does so by rounding.
ROUNDING = 0.001

_STANDS = Source("device", "stands")


@dataclass(frozen=True, slots=True)
class Alarm:
    """Why the machine stopped: the line of the program that it could not carry out, and a sentence; where it then is
    in its coordinates (mm), if it moved there.
    """

    line: int
    text: str
    at: Point | None = None


@dataclass(frozen=True, slots=True)
class LaidDown:
    """What lies on the bed, as one stands before it (mm): the sheet's corners, none where it is not told, and clips.

    ``thickness`` is the sheet's, 0 where it is not told, and ``tall`` how far clips stand up from it; ``cutters`` is
    how many are at hand, by their numbers from 1 on, 0 where that is not told.
    """

    corners: tuple[Point, ...] = ()
    clips: tuple[tuple[Point, ...], ...] = ()
    thickness: float = 0.0
    tall: float = math.inf
    cutters: int = 0


@dataclass(slots=True)
class MachineRun:
    """Steps that were carried out, and when each ended (s). Segments are in the machine's coordinates."""

    steps: list[ProgramStep]
    ends: Numbers
    alarms: list[Alarm] = field(default_factory=list)

    @property
    def seconds(self) -> float:
        return float(self.ends[-1]) if len(self.ends) else 0.0

    @property
    def length(self) -> dict[str, float]:
        """How far (mm) it worked, by operation."""
        found: dict[str, float] = defaultdict(float)
        for step in self.steps:
            if step.segment and works(step):
                found[step.operation] += step.segment.length
        return dict(found)

    @property
    def moves(self) -> float:
        """How far (mm) it moved without working."""
        return sum(step.segment.length for step in self.steps if step.segment and not works(step))

    @property
    def worked(self) -> list[Segment]:
        """What it works along."""
        return [step.segment for step in self.steps if step.segment and works(step)]

    @property
    def bounds(self) -> Bounds | None:
        """What it works within (mm); nothing where it works nowhere."""
        return joined_bounds(segment.bounds() for segment in self.worked) if self.worked else None


def works(step: ProgramStep) -> bool:
    """Whether the beam or the cutter does something on the way; over the sheet a cutter does not."""
    return step.feed is not None and step.power > 0 and min(step.from_z, step.z) <= 0


@dataclass(slots=True)
class Heard:
    """The steps of a program up to the first line that cannot be carried out, and what is wrong with that one."""

    steps: list[ProgramStep] = field(default_factory=list)
    fault: BadBlock | None = None

    @classmethod
    def of(cls, program: Iterable[ProgramStep]) -> Heard:
        heard = cls()
        try:
            for step in program:
                heard.steps.append(step)
        except BadBlock as fault:
            heard.fault = fault
        return heard

    def __iter__(self) -> Iterator[ProgramStep]:
        yield from self.steps
        if self.fault is not None:
            raise self.fault


def run(
    program: Iterable[ProgramStep], machine: Machine, origin: Point = 0, laid: LaidDown | None = None
) -> MachineRun:
    """Carries out a program whose origin lies at a place (mm) of the machine, until it ends or there is an alarm.

    Raises `NoBed` where the machine's own profile is wrong.
    """
    bed, alarms = bed_of(machine), []
    laid = laid or LaidDown()
    done, fault = _taken(program, origin, laid.thickness if machine.z_datum == "the spoilboard" else 0.0)
    if fault:
        alarms.append(fault)
    found = list(_checked(done, machine, bed, laid))
    if found:
        at, text = min(found, key=lambda one: one[0])
        way = done[at].segment
        alarms = [Alarm(done[at].line, text, way.start if way else None)]
        done = done[:at]
    return MachineRun(done, np.cumsum(step_times(done, machine)), alarms)


def _taken(program: Iterable[ProgramStep], origin: Point, down: float) -> tuple[list[ProgramStep], Alarm | None]:
    """The steps up to the first that cannot be read, where the program's origin lies elsewhere, its z 0 ``down`` mm
    below the face of the sheet.

    One that only goes up or down is a way from where it is to there.
    """
    place, steps, here = Motion(shift=origin), [], 0j
    try:
        for read in program:
            step = read._replace(from_z=read.from_z - down, z=read.z - down) if down else read
            way = step.segment or (Line(here, here, _STANDS) if step.z != step.from_z else None)
            here = way.end if way else here
            moved = way.moved(place) if way and origin else way
            steps.append(step if moved is step.segment else step._replace(segment=moved))
    except BadBlock as fault:
        return steps, Alarm(fault.line, fault.text)
    return steps, None


def _checked(steps: Sequence[ProgramStep], machine: Machine, bed: Bed, laid: LaidDown) -> Iterator[tuple[int, str]]:
    """For each thing that goes wrong the first step with it, by its place, and what is wrong."""
    yield from _routed(steps, machine, laid) if machine.kind == "router" else _beamed(steps)
    for at, step in enumerate(steps):
        if step.power and not machine.least <= step.power <= machine.most:
            yield at, f"S{step.power:g} is out of the range of {machine.least:g} to {machine.most:g}"
            break
    moving = [at for at, step in enumerate(steps) if step.segment]
    if not moving:
        return
    seen = bed.axes.back
    lines = as_lines([[s.moved(seen)] for at in moving if (s := steps[at].segment)], 0.05)
    yield from _leaves(lines, moving, bed)
    working = np.array([works(steps[at]) for at in moving])
    if laid.corners and working.any():
        sheet = Polygon([(p.real, p.imag) for p in laid.corners]).buffer(ROUNDING)
        out = np.flatnonzero(working & ~shapely.covered_by(lines, sheet))
        if len(out):
            x, y, *_ = lines[out[0]].difference(sheet).bounds
            yield moving[out[0]], f"it works outside the sheet, at x {x:.1f}, y {y:.1f} of the bed"
    # A cutter goes over clips that are lower than it is.
    low = np.array([machine.kind == "beam" or min(steps[at].from_z, steps[at].z) < laid.tall for at in moving])
    crossing = lines.copy()
    crossing[~low] = None
    tree = STRtree(crossing)
    for area in (*(corners_of(keep_out) for keep_out in machine.keep_outs), *laid.clips):
        shape = Polygon([(p.real, p.imag) for p in area])
        hit = tree.query(shape, predicate="intersects")
        if len(hit):
            x, y = shape.centroid.x, shape.centroid.y
            yield moving[int(hit.min())], f"it crosses the keep-out at x {x:.1f}, y {y:.1f} of the bed"


def _beamed(steps: Sequence[ProgramStep]) -> Iterator[tuple[int, str]]:
    at = next((at for at, step in enumerate(steps) if step.feed is None and step.segment and step.power > 0), None)
    if at is not None:
        yield at, "the beam is on in a rapid move; switch it off before it"


def _routed(steps: Sequence[ProgramStep], machine: Machine, laid: LaidDown) -> Iterator[tuple[int, str]]:
    """What a spindle must not do, in its depth."""
    under = [(at, step) for at, step in enumerate(steps) if min(step.from_z, step.z) < -ROUNDING]
    off = ((at, step) for at, step in under if step.feed is not None and step.power <= 0)
    back = ((at, step) for at, step in under if step.feed is not None and step.power > 0 and step.reverse)
    fast = ((at, step) for at, step in under if step.feed is None and not _only_up(step))
    if laid.cutters:
        other = next((at for at, step in enumerate(steps) if step.tool > laid.cutters and step.segment), None)
        if other is not None:
            yield other, f"it asks for cutter T{steps[other].tool}, and {laid.cutters} are at hand: say which that is"
    told = (
        ("it works with the spindle off", off),
        ("it works with the spindle turning backwards", back),
        ("it moves at speed below the face of the sheet", fast),
    )
    for text, found in told:
        for at, step in found:
            yield at, f"{text}, at z {min(step.from_z, step.z):.2f}"
            break
    most = machine.working.speed * 60
    quick = next((at for at, step in enumerate(steps) if step.feed and step.feed > most * 1.001), None)
    if quick is not None:
        yield quick, f"F{steps[quick].feed:g} is more than the {most:g} mm/min that it works at"
    if laid.thickness > 0:
        floor = -laid.thickness - positive(machine.spoilboard, {})
        deep = next((at for at, step in enumerate(steps) if step.z < floor - ROUNDING), None)
        if deep is not None:
            yield deep, f"z {steps[deep].z:.2f} is below the spoilboard's limit of {floor:.2f}"


def _only_up(step: ProgramStep) -> bool:
    return step.z >= step.from_z and (step.segment is None or step.segment.length == 0)


def _leaves(lines: Lines, moving: Sequence[int], bed: Bed) -> Iterator[tuple[int, str]]:
    left, bottom, right, top = shapely.bounds(lines).T
    over = np.stack([-left, -bottom, right - bed.width, top - bed.height])
    out = np.flatnonzero(over.max(axis=0) > ROUNDING)
    if len(out):
        side = int(over[:, out[0]].argmax())
        by = float(over[side, out[0]])
        yield moving[out[0]], f"it leaves the bed by {shown(by)} at the {('left', 'bottom', 'right', 'top')[side]}"


def walked(corners: Sequence[Point]) -> list[ProgramStep]:
    """The head goes round places (mm, of the machine) without working, from where it is homed and back there."""
    stops = [0, *corners, corners[0], 0] if corners else []
    return [ProgramStep(0, Line(a, b, _STANDS), None, 0.0, "walk-round") for a, b in pairwise(stops) if a != b]
