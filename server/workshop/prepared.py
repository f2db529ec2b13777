"""Sheets made ready for their machine, as the browser draws and plays them.

Lines are drawn in the frame of the sheet, with y turned down from its lower edge; moves on the bed as it is seen.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np
from leannotch_core.document.preparation import Stage, Task
from leannotch_core.document.setting import Setting
from leannotch_core.geometry.segment import Arc, Motion
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.prepared import Prepared, prepare
from leannotch_core.stock import corners_of
from pydantic import BaseModel

from workshop.revisions import document_of, result_of


class JobShown(BaseModel):
    """The lines of one stage of one copy; ``start`` is where the first of them begins."""

    task: Task
    operation: str
    path: str
    start_x: float
    start_y: float


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


class AreaShown(BaseModel):
    """A keep-out of the bed, as ``x,y`` pairs with y turned down."""

    points: str


class PreparedShown(BaseModel):
    """A sheet on the bed. ``lies`` is the SVG transform that takes the sheet there, y turned down in both.

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
    lies: str
    datum_x: float
    datum_y: float
    x_runs: str
    y_runs: str
    held_x: float
    held_y: float
    jobs: list[JobShown]
    rows: list[OrderRowShown]
    travel: str
    keep_outs: list[AreaShown]
    seconds: float


class MovesShown(BaseModel):
    """Every move on the bed, in order: when it ends (s), where (mm), and about which centre where it is an arc.

    ``turn`` is 1 for a counter-clockwise arc, -1 for a clockwise one, and 0 for a line; ``job`` is its place.
    """

    ends: list[float]
    x: list[float]
    y: list[float]
    centre_x: list[float]
    centre_y: list[float]
    turn: list[int]
    on: list[bool]
    job: list[int]


@lru_cache(maxsize=16)
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
        lies=_matrix(ready.lies),
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
                path="".join(path_data(path.segments, 0.0, path.closed) for path in job.paths),
                start_x=job.paths[0].start.real,
                start_y=job.paths[0].start.imag,
            )
            for job in ready.plan.jobs
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
            )
            for row in ready.rows
        ],
        travel=_travel(ready),
        keep_outs=[
            AreaShown(points=" ".join(f"{p.real:g},{-p.imag:g}" for p in corners_of(keep_out)))
            for keep_out in ready.machine.keep_outs
        ],
        seconds=ready.seconds,
    )


def _matrix(motion: Motion) -> str:
    """A move without a mirror as SVG has it, y turned down."""
    turn, shift = motion.turn, motion.shift
    return (
        f"matrix({turn.real:.9g} {-turn.imag:.9g} {turn.imag:.9g} {turn.real:.9g} {shift.real:.6f} {-shift.imag:.6f})"
    )


def _travel(ready: Prepared) -> str:
    """The way of the head between the lines, in the frame of the sheet."""
    paths = ready.plan.paths[: len(ready.plan.paths) - len(ready.plan.beside)]
    return "".join(
        f"M{a.end.real:.2f} {-a.end.imag:.2f}L{b.start.real:.2f} {-b.start.imag:.2f}" for a, b in pairwise(paths)
    )


@lru_cache(maxsize=4)
def moves_shown(revision_id: int, index: int) -> MovesShown:
    ready = prepared_sheet(revision_id, index)
    seen = ready.bed.axes.back
    segments = [move.segment.moved(seen) for move in ready.moves]
    centres = [s.centre if isinstance(s, Arc) else 0j for s in segments]
    return MovesShown(
        ends=np.round(np.cumsum(ready.took), 4).tolist(),
        x=[round(s.end.real, 3) for s in segments],
        y=[round(s.end.imag, 3) for s in segments],
        centre_x=[round(c.real, 3) for c in centres],
        centre_y=[round(c.imag, 3) for c in centres],
        turn=[(1 if s.ccw else -1) if isinstance(s, Arc) else 0 for s in segments],
        on=[move.power is not None for move in ready.moves],
        job=[move.job for move in ready.moves],
    )
