"""Sheets made ready for their machine, as the browser draws and plays them.

Lines are drawn in the frame of the sheet, with y turned down from its lower edge; moves on the bed as it is seen.
"""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import shapely
from leannotch_core.document.operations import FILLED
from leannotch_core.document.preparation import Task
from leannotch_core.facts.stock import corners_of
from leannotch_core.handover.gcode import cutters_of
from leannotch_core.handover.svg import path_data
from leannotch_core.layout.sheets import motion
from leannotch_core.machining.jobs import JobKey
from leannotch_core.machining.played import Played, played
from leannotch_core.machining.prepared import cooled, prepare
from leannotch_core.machining.ready import Prepared
from leannotch_core.machining.routed.told import unreached
from leannotch_core.machining.walk import WalkWay, walk_round
from leannotch_core.remembered import remembered
from shown.prepare import (
    AreaShown,
    CooledShown,
    CutterShown,
    JobShown,
    LiesShown,
    OnEdgeShown,
    OrderRowShown,
    PreparedShown,
    SpotShown,
)

from workshop.revisions import document_of, result_of


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


def _round(ready: Prepared, how: WalkWay) -> list[SpotShown]:
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
