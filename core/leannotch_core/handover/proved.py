"""A sheet's file written, read back from its bytes, and proved; and any other file, as if it were the sheet's own."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from ..device.run import LaidDown, run
from ..device.sent import of_drawing
from ..document.formats import is_program
from ..document.hand_over import HandOver
from ..document.operations import FILLED, work_of
from ..document.sizes import positive
from ..document.sums import SizeError
from ..drawings.drawing import BrokenFile
from ..drawings.gcode.state import ProgramStep
from ..drawings.gcode.steps import steps
from ..drawings.gcode.words import Dialect
from ..evaluate import Result
from ..facts.cutters import CutterFacts, NoCutter, chip_load
from ..geometry.segment import Segment
from ..machining.hatching import TooManyLines
from ..machining.jobs import Job
from ..machining.plan import CannotPlan
from ..machining.prepared import deepest
from ..machining.ready import Prepared
from ..machining.routed.rack import Rack, depth_of
from ..machining.settings import plunge_speed, ramp_speed
from ..project.project import Project
from ..proof.against.fills import Filled
from ..proof.against.power import MeantWork
from ..proof.depth.dangers import Limits
from ..proof.depth.passes import CutterSetting, Takes
from ..proof.depth.sheet import Depths, prove_routed
from ..proof.depth.swept import SweptCutter
from ..proof.faces import prove_faces
from ..proof.fault import Fault
from ..proof.found import SheetProof
from ..proof.sheet_proof import BeamProgram, called, prove_sheet
from ..proof.sweep import Proof
from .formats import WRITERS
from .gcode import cutters_of, write_gcode
from .read_back import read_back, read_program_back


@dataclass(frozen=True, slots=True)
class WrittenSheet:
    """The files of a sheet, one, or for a router one for each cutter, with the proof of these very bytes."""

    files: dict[str, bytes]
    proof: SheetProof

    @property
    def data(self) -> bytes:
        return next(iter(self.files.values()))


def written(project: Project, result: Result, ready: Prepared, kind: str, wanted: HandOver) -> WrittenSheet:
    """Raises `CannotPlan` where the sheet cannot be written so."""
    files = _files(ready, kind, wanted)
    return WrittenSheet(files, proved(project, result, ready, kind, list(files.values())))


def _files(ready: Prepared, kind: str, wanted: HandOver) -> dict[str, bytes]:
    if not is_program(kind) or ready.plan.rack is None:
        return {"": WRITERS[kind].write(ready, wanted)}
    used = cutters_of(ready)
    if wanted.programs == "one a cutter" and len(used) > 1:
        return {one.id: write_gcode(ready, one.id) for one in used}
    return {"": write_gcode(ready)}


def proved(project: Project, result: Result, ready: Prepared, kind: str, files: Sequence[bytes]) -> SheetProof:
    """The proof of files as those of a sheet: several are a router's, one for each cutter in turn.

    Raises `BrokenFile` where they cannot be read, `CannotPlan` where the sheet asks for what cannot be.
    """
    if is_program(kind) and ready.plan.rack:
        proof = _routed(project, result, ready, ready.plan.rack, files)
    else:
        drawing = read_back(files[0], kind, ready)
        beam = _beam_program(ready, files[0]) if is_program(kind) else None
        proof = prove_sheet(ready.plan, drawing, result, beam)
        prove_faces(ready.plan, drawing, result, ready.facts.walls, proof)
    if project.machine_of(project.machine) is None:
        # Which machine it is for is not known.
        return proof
    if is_program(kind):
        programs = [steps(data.decode("utf-8", "replace"), dialect=Dialect.of(ready.machine)) for data in files]
        proof.checked("alarm", f"{ready.machine.name} carries it out", _alarms(ready, programs))
    elif ready.machine.kind == "beam" and kind in ready.machine.reads:
        # As the machine has it: on its bed, each line called as it is told.
        on_bed = [replace(line, segments=tuple(s.moved(ready.lies) for s in line.segments)) for line in drawing.lines]
        program = of_drawing(replace(drawing, lines=on_bed), ready.machine, edges_alone=True)
        proof.checked("alarm", f"{ready.machine.name} carries it out", _alarms(ready, [program]))
    return proof


def proved_anyhow(project: Project, result: Result, ready: Prepared, kind: str, files: Sequence[bytes]) -> SheetProof:
    """As `proved`; that a file cannot be read is one of its faults. Raises `CannotPlan`."""
    try:
        return proved(project, result, ready, kind, files)
    except BrokenFile as error:
        return SheetProof(Proof(ready.plan.kerf), faults=[Fault("unreadable", str(error).rstrip("."))])


# A router's


def _routed(project: Project, result: Result, ready: Prepared, rack: Rack, files: Sequence[bytes]) -> SheetProof:
    used = cutters_of(ready)
    read = read_program_back(files, ready)
    shapes = {number: _shape(one) for number, one in enumerate(used, 1)} or {1: _shape(rack.cut)}
    takes = {number: _takes(ready, rack, one) for number, one in enumerate(used, 1)}
    limits = _limits(project, ready, rack, used)
    depths = Depths(ready.thickness, deepest(ready.facts, ready.machine))
    return prove_routed(ready.plan, read, result, depths, shapes, limits, takes, ready.machine)


def _shape(one: CutterFacts) -> SweptCutter:
    tip = one.tip if one.tip in ("ball", "V") else "flat"
    return SweptCutter(one.diameter, tip, one.angle, one.plunges, one.flutes)


def _takes(ready: Prepared, rack: Rack, cutter: CutterFacts) -> Takes:
    """What is meant of a cutter: the settings of all that it does on the sheet."""
    found, deepest = set[CutterSetting](), 0.0
    for one in ready.runs:
        if one.cutter.id != cutter.id:
            continue
        speeds = one.setting.speed, ramp_speed(one.setting), plunge_speed(one.setting)
        found.add(CutterSetting(one.setting.power, *(60 * speed for speed in speeds)))
        deepest = max(deepest, one.setting.stepdown or cutter.diameter)
    peck = rack.peck or math.inf
    return Takes(
        sorted(found, key=lambda one: one.feed), deepest or math.inf, peck, cutter.cutting_length, cutter.top_rpm
    )


def _limits(project: Project, ready: Prepared, rack: Rack, used: list[CutterFacts]) -> Limits:
    chip: dict[int, float] = {}
    for number, one in enumerate(used, 1):
        known = project.cutter(one.id)
        if known:
            runs = [run for run in ready.runs if run.cutter.id == one.id]
            deep = [depth_of(run.operation, run.setting.stepdown, rack) for run in runs]
            chip[number] = max(
                (chip_load(known, one, ready.stock.material, depth)[1] for depth in deep), default=math.inf
            )
    try:
        below = positive(ready.machine.spoilboard, {})
    except SizeError as error:
        raise NoCutter(f"{ready.machine.name}, spoilboard: {error}.") from error
    return Limits(rack.ramp + 0.05, chip, below)


# A beam's


def _beam_program(ready: Prepared, data: bytes) -> BeamProgram:
    """A program as it was read, and what each of its rows was meant to do."""
    machine = ready.machine
    return BeamProgram(
        read_program_back([data], ready),
        list(_rows(ready)),
        list(_filled(ready)),
        machine.begins,
        machine.ends,
    )


def _rows(ready: Prepared) -> Iterator[MeantWork]:
    """Each line with its speed and power; of what is filled the whole region."""
    most = ready.machine.most
    for job in ready.plan.jobs:
        name = called(job.key, ready.plan)
        for path in job.paths:
            setting = ready.settings(job.key.part, work_of(path.operation), "")
            rates = 60 * setting.speed, most * setting.power / 100
            if path.operation not in FILLED:
                yield MeantWork(f"{name}, to {path.operation}", path.segments, *rates, setting.passes)
            if path.lead is not None:
                yield MeantWork.lead(f"{name}, its lead-in", path.lead, path.start, *rates)
    for one in _filled(ready):
        setting = ready.settings(one.part, work_of(one.layer), "")
        yield MeantWork.filled(f"{one.called}, to {one.layer}", one, 60 * setting.speed, most * setting.power / 100)


def _filled(ready: Prepared) -> Iterator[Filled]:
    for job in ready.plan.jobs:
        if job.paths[0].operation not in FILLED:
            continue
        for loops, layer in _loops(job):
            setting = ready.settings(job.key.part, work_of(job.paths[0].operation), "")
            yield Filled(layer, called(job.key, ready.plan), job.key.part, loops, setting.gap, setting.passes)


def _loops(job: Job) -> Iterator[tuple[list[Sequence[Segment]], str]]:
    for depth in sorted({path.depth or 0.0 for path in job.paths}):
        some: list[Sequence[Segment]] = [
            path.segments for path in job.paths if path.closed and (path.depth or 0.0) == depth
        ]
        if some:
            yield some, job.paths[0].operation


# On the machine


def laid_down(ready: Prepared) -> LaidDown:
    """The sheet as it lies on the bed of its machine, with its clips."""
    plan = ready.plan
    corners = ((0, 0), (plan.width, 0), (plan.width, plan.height), (0, plan.height))
    clips = tuple(tuple(complex(x, y) for x, y in clip.exterior.coords[:-1]) for clip in ready.clips)
    tall = plan.rack.clips if plan.rack else math.inf
    return LaidDown(tuple(ready.lies(complex(x, y)) for x, y in corners), clips, ready.thickness, tall)


def _alarms(ready: Prepared, programs: Sequence[Iterable[ProgramStep]]) -> Iterator[Fault]:
    """What the machine would stop at, told where it is on the sheet."""
    for program in programs:
        try:
            done = run(program, ready.machine, 0, laid_down(ready))
        except TooManyLines as error:
            raise CannotPlan(str(error)) from error
        for alarm in done.alarms:
            at = None if alarm.at is None else ready.to_machine.back(alarm.at)
            yield Fault("alarm", f"{ready.machine.name} stops at line {alarm.line}: {alarm.text}", at)
