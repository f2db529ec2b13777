"""Sheets made ready for their machine, as the browser draws and plays them.

Lines are drawn in the frame of the sheet, with y turned down from its lower edge; moves on the bed as it is seen.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import shapely
from leannotch_core.document.operations import FILLED, Stage
from leannotch_core.document.preparation import Task
from leannotch_core.document.setting import Setting
from leannotch_core.facts.stock import corners_of
from leannotch_core.handover.gcode import cutters_of
from leannotch_core.handover.svg import path_data
from leannotch_core.layout.sheets import motion
from leannotch_core.machining.jobs import JobKey
from leannotch_core.machining.played import Played, played
from leannotch_core.machining.prepared import cooled, prepare
from leannotch_core.machining.ready import Prepared, WorkedBy
from leannotch_core.machining.routed.told import unreached
from leannotch_core.machining.walk import Round, walk_round
from leannotch_core.remembered import remembered
from pydantic import BaseModel

from workshop.revisions import document_of, result_of


class JobShown(BaseModel):
    """The lines of one stage of one copy."""

    task: Task
    operation: str
    path: str


class CutterShown(BaseModel):
    """A cutter of the program, in the order of their use: its width in mm, and its flutes."""

    width: float
    flutes: int


class OrderRowShown(BaseModel):
    """A row of the running order: jobs by their places, lengths in mm, and the time in s."""

    stage: Stage
    operation: str
    part: str
    name: str
    jobs: list[int]
    lines: int
    length: float
    moved: float
    pierces: int
    seconds: float
    setting: Setting
    worked: WorkedBy | None = None


class AreaShown(BaseModel):
    """A keep-out of the bed, as ``x,y`` pairs with y turned down."""

    points: str


class SpotShown(BaseModel):
    """A place of the bed (mm), as one stands before it."""

    x: float
    y: float


class LiesShown(BaseModel):
    """What takes the sheet to the bed: turned by an angle, by its cosine and sine, and moved (mm), y up."""

    cos: float
    sin: float
    x: float
    y: float


class OnEdgeShown(BaseModel):
    """A holding tab, or where a cut is begun, on a copy of a part: a place of the sheet (mm)."""

    part: str
    copy_number: int
    x: float
    y: float
    along_x: float
    along_y: float


class CooledShown(BaseModel):
    """What keeping cuts beside thin webs apart costs (s), and how many neighbours of how many are cut before the other
    has rested for ``rests`` s; ``else_soon`` would be.
    """

    seconds: float
    rests: float
    soon: int
    else_soon: int
    pairs: int


class PreparedShown(BaseModel):
    """A sheet on the bed.

    ``datum`` is where the machine counts from, and ``x_runs`` and ``y_runs`` to where it counts.
    """

    version: int
    machine: str
    kind: str
    chosen: bool
    bed_width: float
    bed_height: float
    width: float
    height: float
    lies: LiesShown
    datum_x: float
    datum_y: float
    x_runs: str
    y_runs: str
    held_x: float
    held_y: float
    jobs: list[JobShown]
    rows: list[OrderRowShown]
    tabs: list[OnEdgeShown]
    starts: list[OnEdgeShown]
    box: list[SpotShown]
    hull: list[SpotShown]
    travel: str
    keep_outs: list[AreaShown]
    seconds: float
    own_seconds: float
    thickness: float
    clips_tall: float | None
    cutters: list[CutterShown]
    routed: bool
    cooled: CooledShown | None
    unreached: str


@remembered(most=16)
def prepared_sheet(revision_id: int, index: int) -> Prepared:
    return prepare(document_of(revision_id), result_of(revision_id), index)


def prepared_shown(revision_id: int, index: int, version: int) -> PreparedShown:
    document = document_of(revision_id)
    ready = prepared_sheet(revision_id, index)
    place = {job.key: at for at, job in enumerate(ready.plan.jobs)}
    datum, held = ready.bed.axes.back(0), ready.held
    return PreparedShown(
        version=version,
        machine=ready.machine.name,
        kind=ready.machine.kind,
        chosen=bool(document.machine),
        bed_width=ready.bed.width,
        bed_height=ready.bed.height,
        width=ready.plan.width,
        height=ready.plan.height,
        lies=LiesShown(
            cos=ready.lies.turn.real, sin=ready.lies.turn.imag, x=ready.lies.shift.real, y=ready.lies.shift.imag
        ),
        datum_x=datum.real,
        datum_y=datum.imag,
        x_runs=ready.machine.x_runs,
        y_runs=ready.machine.y_runs,
        held_x=held.real,
        held_y=held.imag,
        jobs=[
            JobShown(
                task=Task(stage=job.key.stage, part=job.key.part, copy_number=job.key.copy_number),
                operation=job.paths[0].operation,
                path=_lines(ready, at),
            )
            for at, job in enumerate(ready.plan.jobs)
        ],
        rows=[
            OrderRowShown(
                stage=row.stage,
                operation=row.operation,
                part=row.part,
                name=row.name,
                jobs=[place[key] for key in row.keys],
                lines=row.lines,
                length=row.length,
                moved=row.moved,
                pierces=row.pierces,
                seconds=row.seconds,
                setting=row.setting,
                worked=row.worked,
            )
            for row in ready.rows
        ],
        tabs=[_on_edge(tab.key, tab.middle, tab.gap.end - tab.gap.start) for tab in ready.plan.tabs],
        starts=[
            _on_edge(job.key, path.start, path.segments[0].start_tangent)
            for job in ready.plan.jobs
            if job.key.stage in ("inner", "outer")
            for path in job.paths
            if path.closed
        ],
        box=_round(ready, "box"),
        hull=_round(ready, "hull"),
        travel=_travel(ready),
        keep_outs=[
            AreaShown(points=" ".join(f"{p.real:g},{-p.imag:g}" for p in corners_of(keep_out)))
            for keep_out in ready.machine.keep_outs
        ],
        seconds=ready.seconds,
        own_seconds=ready.own_seconds,
        thickness=ready.thickness,
        clips_tall=ready.plan.rack.clips if ready.plan.rack else None,
        cutters=[CutterShown(width=one.diameter, flutes=one.flutes) for one in cutters_of(ready)],
        routed=ready.plan.rack is not None,
        cooled=_cooled(revision_id, index, ready),
        unreached=_unreached(ready, revision_id),
    )


def _cooled(revision_id: int, index: int, ready: Prepared) -> CooledShown | None:
    document = document_of(revision_id)
    found = cooled(document, result_of(revision_id), ready, index)
    if found is None:
        return None
    soon, of = found.soon
    return CooledShown(
        seconds=found.seconds, rests=ready.facts.heat.rests, soon=soon, else_soon=found.else_soon.soon, pairs=of
    )


def _unreached(ready: Prepared, revision_id: int) -> str:
    """What no cutter clears of the pockets of a sheet, as path data in the frame of it."""
    if ready.plan.rack is None:
        return ""
    words = []
    for placement, shape in unreached(ready.plan, ready.plan.rack, result_of(revision_id).parts):
        place = motion(placement)
        for ring in shapely.get_rings(shape):
            corners = [place(complex(x, y)) for x, y in shapely.get_coordinates(ring)[:-1]]
            words.append("M" + "L".join(f"{p.real:.3f} {-p.imag:.3f}" for p in corners) + "Z")
    return "".join(words)


def _round(ready: Prepared, how: Round) -> list[SpotShown]:
    """What the head goes round on the bed, before anything is cut."""
    seen = ready.bed.axes.back
    worked = [move.segment.moved(seen) for move in ready.moves if move.power is not None]
    return [SpotShown(x=corner.real, y=corner.imag) for corner in walk_round(worked, how)]


def _lines(ready: Prepared, at: int) -> str:
    """What is worked for a job, in the frame of the sheet: a filled engraving by its lines at their true gap."""
    paths = ready.plan.jobs[at].paths
    if ready.machine.kind != "beam" or paths[0].operation not in FILLED:
        return "".join(path_data(path.segments, 0.0, path.closed) for path in paths)
    back = ready.to_machine.back
    worked = (move.segment.moved(back) for move in ready.moves if move.job == at and move.power is not None)
    return "".join(f"M{s.start.real:.2f} {-s.start.imag:.2f}L{s.end.real:.2f} {-s.end.imag:.2f}" for s in worked)


def _on_edge(key: JobKey, at: complex, along: complex) -> OnEdgeShown:
    ahead = along / abs(along)
    return OnEdgeShown(
        part=key.part, copy_number=key.copy_number, x=at.real, y=at.imag, along_x=ahead.real, along_y=ahead.imag
    )


def _travel(ready: Prepared) -> str:
    """The way of the head between the lines, in the frame of the sheet."""
    paths = ready.plan.paths[: len(ready.plan.paths) - len(ready.plan.beside)]
    return "".join(
        f"M{a.end.real:.2f} {-a.end.imag:.2f}L{b.start.real:.2f} {-b.start.imag:.2f}" for a, b in pairwise(paths)
    )


@remembered(most=4)
def moves_shown(revision_id: int, index: int) -> Played:
    ready = prepared_sheet(revision_id, index)
    known = {one.id: one for one in ready.plan.rack.in_turn} if ready.plan.rack else {}
    return played(
        [move.segment for move in ready.moves],
        np.cumsum(ready.took),
        [move.power is not None for move in ready.moves],
        [move.job for move in ready.moves],
        ready.bed.axes.back,
        [move.z for move in ready.moves] if ready.plan.rack else (),
        # A pointed one is as wide as it cuts.
        [known[move.cutter].width_at(-min(move.z, move.from_z, -1e-3)) for move in ready.moves] if known else (),
    )
