"""The proof of a project's own sheets: every piece against its intent, every fit against its prediction."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import reduce
from typing import TypeVar

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely.affinity import affine_transform

from ..bends.legs import legs_of
from ..document.operations import operation_named
from ..document.sheet import Placement
from ..document.sizes import shown
from ..document.statement import statement
from ..drawings.drawing import Drawing, DrawnLine
from ..evaluate import EvaluatedPart, Result
from ..joints.fit import Gauge, Mating
from ..layout.sheets import motion, placed
from ..machining.jobs import JobKey
from ..machining.plan import SheetPlan
from .against.fills import BurntPiece as FilledRow
from .against.fills import Filled, fill_faults
from .against.marks import Drawn, MeantLine, marks_faults
from .against.order import order_faults
from .against.outline import Beam, apart, left_by, uncut
from .against.own_lines import own_line_faults
from .against.power import MeantWork, power_faults
from .bends import Bend, ProvedLeg, drawn_as_meant, legs
from .chords import Point, as_line, as_polygon
from .depth.program import ReadProgram
from .fault import Fault
from .found import ALLOWED, Check, PiecesTaken, ProvedPart, SheetProof, check_left
from .oval import SweptOval
from .round_beam import TOLERANCE, quarter
from .sweep import Proof, in_turn, prove

G = TypeVar("G", Polygon, LineString)

_BENDS = ("bend-up", "bend-down")


@dataclass(frozen=True, slots=True)
class BeamProgram:
    """A beam's program as it was read, in the frame of the sheet, and what its rows were meant to do.

    ``begins`` and ``ends`` are the machine's own lines.
    """

    read: ReadProgram
    rows: Sequence[MeantWork] = ()
    filled: Sequence[Filled] = ()
    begins: Sequence[str] = ()
    ends: Sequence[str] = ()


def prove_sheet(plan: SheetPlan, drawing: Drawing, result: Result, program: BeamProgram | None = None) -> SheetProof:
    """Proves a sheet from the drawing that was read back from its written file; of a program with all that it does."""
    meant = any(path.operation == "cut" for path in plan.paths)
    oval = SweptOval(plan.beam.oval, plan.beam.turned)
    proof = prove(drawing, plan.beam.kerf, [tab.middle for tab in plan.tabs], oval)
    # Where nothing is meant to be cut, that no line is cut is no fault.
    found = SheetProof(proof, faults=[f for f in proof.faults if meant or f.code != "no-cuts"], notes=list(proof.notes))
    _check_words(plan, drawing, found)
    _check_lines(plan, drawing, found)
    _check_marks(plan, drawing, program, found)
    found.check("no-end", "it has its end", "" if drawing.ended else "The file breaks off: its end is not there")
    if program:
        check_program(program, found)
    free = [piece for piece in proof.pieces if piece.kind == "part"]
    kerf = plan.kerf if plan.compensated else 0.0
    cleared = [] if program else _cleared(drawing, kerf)
    bent = [(line.layer, LineString(_coordinates(line))) for line in drawing.lines if line.layer in _BENDS]
    if plan.bent and not bent and not any(path.operation in _BENDS for path in plan.beside):
        found.notes.append("The file has no bend lines, as was asked for; the legs of bent parts were not measured")
    elif plan.bent and program:
        found.notes.append("A program has no bend lines; the legs of bent parts were not measured")
    taken = PiecesTaken(free)
    for placement in plan.placements:
        part = result.parts[placement.part]
        if part.part.edge != "cut":
            # It stays in the sheet; what is cut in it comes free all the same.
            for ring in placed(part.outline, placement).interiors:
                taken.at(Polygon(ring).representative_point())
            continue
        proved = prove_part(placement, taken, result, plan, found)
        sunk = () if program else _prove_pockets(placement, cleared, result, kerf, found)
        found.parts.append(replace(proved, pockets=sunk, legs=_prove_legs(placement, proved, bent, result, found)))
    check_left(taken, found)
    for name in plan.lost:
        found.fault("lost", f"{name}: a cut-out is narrower than the kerf of {shown(plan.kerf)} and is lost")
    return found


def _cleared(drawing: Drawing, kerf: float) -> list[Polygon]:
    """What a cutter clears within each closed line that is drawn for a pocket."""
    lines = [line for line in drawing.lines if operation_named(line.layer) == "pocket" and len(line.segments) > 1]
    shapes = [Polygon(as_line(line.segments, TOLERANCE).coords) for line in lines]
    return [shape.buffer(kerf / 2, quad_segs=quarter(kerf / 2)) for shape in shapes]


def _check_words(plan: SheetPlan, drawing: Drawing, found: SheetProof) -> None:
    """What the file says of itself; each is told, whether it holds or not."""
    found.check("unit", "millimetres are stated", "" if drawing.unit_stated else "The file does not state its unit")
    silent = "" if drawing.says else "The file does not say who compensates for the kerf"
    wrong = (
        ""
        if drawing.says == statement(plan.kerf, plan.compensated)
        else "The file says otherwise about the kerf than was asked for"
    )
    found.check("kerf-statement", "it says who compensates for the kerf", silent or wrong)


def _check_lines(plan: SheetPlan, drawing: Drawing, found: SheetProof) -> None:
    cuts = [line for line in drawing.lines if line.layer == "cut" and not line.lead]
    written = sum(path.operation == "cut" for path in plan.paths)
    lost = "" if len(cuts) == written else f"{len(cuts)} cut lines were read back of {written} that were written"
    found.check("line-count", "one outline is one line", lost)
    found.checks.append(Check("open-line", "every outline is closed", not found.proof.open_chains))
    found.checks.append(Check("doubled", "no line is drawn twice", found.proof.doubled == 0))
    outlines = [chain.segments for chain in found.proof.closed]
    found.checked(
        "order",
        "marks come before cuts, inner cuts before outer ones, each outline as a whole",
        order_faults(in_turn(drawing), outlines, marks_first=not plan.sequence),
    )
    # A router lifts over its tabs: a drawing for it has none.
    if found.proof.hanging or (plan.tabs and plan.rack is None):
        what = "holding tabs are where they were put, as wide as wanted"
        found.check("tabs", what, *_tab_fault(plan, found.proof))


def _check_marks(plan: SheetPlan, drawing: Drawing, program: BeamProgram | None, found: SheetProof) -> None:
    """Everything that is not cut: in a drawing line by line, in a program what is filled row by row."""
    named = {(job.key.part, job.key.copy_number): called(job.key, plan) for job in plan.jobs}
    meant = [
        MeantLine(path.layer, named[job.key.part, job.key.copy_number], path.segments)
        for job in plan.jobs
        # The rest of a pocket is cleared within the same line.
        if job.key.stage != "rest"
        for path in job.paths
        if path.operation != "cut"
    ]
    if not program:
        meant += [MeantLine(path.layer, "The sheet", path.segments) for path in plan.beside]
    drawn = [Drawn(line.layer, line.segments) for line in drawing.lines if line.layer != "cut" and not line.lead]
    what = "every mark and bend line is where it was meant, and nothing else is"
    if not program:
        found.checked("mark-lost", what, marks_faults(meant, drawn))
        return
    filled = {one.layer for one in program.filled}
    lines = [one for one in meant if one.layer.partition("-")[0] not in filled]
    own = [one for one in drawn if one.layer not in filled]
    rows = [
        FilledRow(line.layer, side.start, side.end)
        for line in drawing.lines
        if line.layer in filled
        for side in line.segments
    ]
    found.checked("mark-lost", what, (*marks_faults(lines, own), *fill_faults(program.filled, rows)))


def called(key: JobKey, plan: SheetPlan) -> str:
    """What a copy is called in a sentence."""
    return f"{plan.names.get(key.part, key.part)} {key.copy_number}"


def check_program(program: BeamProgram, found: SheetProof) -> None:
    """What a beam's program does beside going along its lines."""
    found.checked("power", "every row has its speed, power and passes; the beam is off between", _power(program))
    told = program.read.told
    found.checked(
        "own-lines", "it begins and ends as its machine wants", own_line_faults(told, program.begins, program.ends)
    )


def _power(program: BeamProgram) -> Iterator[Fault]:
    yield from power_faults(program.read.way, program.rows)
    backwards = np.flatnonzero(program.read.way.reverse & (program.read.way.turns > 0))
    if len(backwards):
        way, at = program.read.way, int(backwards[0])
        text = f"Line {int(way.line[at])}: the beam is not switched on by the machine's own word for it"
        yield Fault("switches", text, complex(way.start[at]))


def _tab_fault(plan: SheetPlan, proof: Proof) -> tuple[str, Point | None]:
    """What is wrong with the tabs that were found, beside those that were meant, and where."""
    meant = {(round(tab.middle.real, 1), round(tab.middle.imag, 1)) for tab in plan.tabs}
    if len(proof.hanging) != len(meant):
        text = f"{len(proof.hanging)} holding tabs were found of {len(meant)} that were meant"
        found, wanted = [tab.middle for tab in proof.hanging], [tab.middle for tab in plan.tabs]
        return text, odd_one(found, wanted)
    for tab in proof.hanging:
        near = min(abs(tab.middle - wanted.middle) for wanted in plan.tabs)
        wide = tab.length - plan.kerf
        if near > ALLOWED + plan.tab_width / 100 or abs(wide - plan.tab_width) > ALLOWED:
            text = f"A holding tab of {shown(wide)} stands where one of {shown(plan.tab_width)} was meant"
            return text, tab.middle
    return "", None


def odd_one(some: Sequence[Point], others: Sequence[Point]) -> Point | None:
    """The place of either list that is furthest from all of the other."""
    off = [
        (min((abs(a - b) for b in those), default=np.inf), a)
        for these, those in ((some, others), (others, some))
        for a in these
    ]
    return max(off, key=lambda one: one[0])[1] if off else None


def _coordinates(line: DrawnLine) -> list[tuple[float, float]]:
    points = [p for s in line.segments for p in (s.start, s.at(0.5))] + [line.segments[-1].end]
    return [(p.real, p.imag) for p in points]


def prove_part(
    placement: Placement, free: PiecesTaken, result: Result, plan: SheetPlan, found: SheetProof
) -> ProvedPart:
    """Holds what comes free at a copy's place against its intent; what is not so is told in ``found``."""
    part = result.parts[placement.part]
    proved = came_free(placement, free, part, found)
    if proved.shape is None:
        return proved
    inner = placed(part.outline, placement).representative_point()
    name, at = f"{proved.name} {proved.copy_number}", complex(inner.x, inner.y)
    place = motion(placement)
    oval = SweptOval(plan.beam.oval, plan.beam.turned).turned_by(place.turn, place.mirrored)
    beam = beam_of(part, plan)._replace(oval=oval)
    off = apart(left_by(part.outline, beam), proved.shape)
    openings, meant = len(proved.shape.interiors), len(part.outline.cutouts)
    if openings != meant:
        found.fault(
            "openings", f"{name} has {openings} cut-outs of {meant}", place(off.at) if off.distance > ALLOWED else at
        )
    elif off.distance > ALLOWED:
        spot = f"at x {off.at.real:.2f}, y {off.at.imag:.2f} of it"
        found.fault("differs", f"{name} differs from intent by {off.distance:.3f} mm, {spot}", place(off.at))
    # A cut-out that is lost as a whole has been told by its count.
    for notch in uncut(part.outline, beam) if openings == meant and not (beam.on_outer or beam.on_inner) else ():
        spot = notch.representative_point()
        text = f"{name}: {notch.area:.2f} mm² of a notch stay, {shown(plan.kerf)} does not get into it"
        found.fault("lost", text, place(complex(spot.x, spot.y)))
    return replace(proved, deviation=off.distance)


def beam_of(part: EvaluatedPart, plan: SheetPlan) -> Beam:
    """What cuts a part, as the proof knows it."""
    radius = plan.kerf / 2 if plan.compensated else 0.0
    if plan.rack is None:
        return Beam(radius, sharp=True)
    on = {one.stage for one in plan.rack.routing.on_line if one.part == part.part.id}
    drilled = [
        (circle[0], drill.diameter)
        for circle in (loop.circle() for loop in part.outline.cutouts)
        if circle and (drill := plan.rack.drill_for(2 * circle[1]))
    ]
    return Beam(radius, tuple(drilled), "outer" in on, "inner" in on, plan.rack.routing.corners == "sharp")


def came_free(placement: Placement, free: PiecesTaken, part: EvaluatedPart, found: SheetProof) -> ProvedPart:
    """What comes free where a copy lies, and how large it is; a fault where nothing does."""
    inner = placed(part.outline, placement).representative_point()
    match = free.at(inner)
    left, bottom, right, top = part.outline.bounds
    proved = ProvedPart(
        placement.part, part.part.name, placement.copy_number, right - left, top - bottom, None, None, None, None
    )
    if match is None:
        found.fault("not-free", f"{proved.name} {proved.copy_number} does not come free", complex(inner.x, inner.y))
        return proved
    shape = own_frame(match.shape, placement)
    x_min, y_min, x_max, y_max = shape.bounds
    width, height = float(x_max - x_min), float(y_max - y_min)
    return replace(proved, proved_width=width, proved_height=height, shape=shape, held=match.held)


def _prove_pockets(
    placement: Placement, cleared: Sequence[Polygon], result: Result, kerf: float, found: SheetProof
) -> tuple[Polygon, ...]:
    """What the cutter clears for each pocket of a copy, in the part's own frame; faults where it differs."""
    part = result.parts[placement.part]
    own = [own_frame(shape, placement) for shape in cleared] if part.pockets else []
    shapes = []
    for pocket in part.pockets:
        inside = as_polygon(pocket.outline, TOLERANCE)
        inner, place = inside.representative_point(), motion(placement)
        name = f"A pocket of {part.part.name} {placement.copy_number}"
        within = [shape for shape in own if shape.buffer(-ALLOWED).intersects(inside)]
        if not within:
            found.fault("pocket", f"{name} is not in the file", place(complex(inner.x, inner.y)))
            continue
        # Lines within others leave islands standing.
        got = reduce(lambda a, b: a.symmetric_difference(b), sorted(within, key=lambda one: -one.area))
        radius = kerf / 2
        wanted = inside.buffer(-radius, quad_segs=quarter(radius)).buffer(radius, quad_segs=quarter(radius))
        off = apart(wanted, got)
        if off.distance > ALLOWED:
            found.fault("pocket", f"{name} differs from intent by {off.distance:.3f} mm", place(off.at))
        shapes += [piece for piece in shapely.get_parts(got) if isinstance(piece, Polygon)]
    return tuple(shapes)


def _prove_legs(
    placement: Placement,
    proved: ProvedPart,
    drawn: Sequence[tuple[str, LineString]],
    result: Result,
    found: SheetProof,
) -> tuple[ProvedLeg, ...]:
    """The legs of a bent copy by the bend lines of the file; faults where a line is not as meant, or a leg differs."""
    part = result.parts[placement.part]
    if part.folded is None or proved.shape is None or not drawn:
        return ()
    bends = [
        Bend(b.id, b.name, b.start, b.end, b.bend.angle, b.bend.radius, b.bend.k, b.bend.thickness, b.up)
        for b in part.bends
        if b.half > 0
    ]
    # On a part that lies on its face the other layer is meant.
    other = {"bend-up": "bend-down", "bend-down": "bend-up"} if placement.mirrored else {}
    near = [(other.get(layer, layer), own_frame(line, placement)) for layer, line in drawn]
    own = [(layer, line) for layer, line in near if line.distance(proved.shape) < ALLOWED]
    name = f"{part.part.name} {placement.copy_number}"
    for bend, what in drawn_as_meant(bends, own):
        middle = motion(placement)((bend.start + bend.end) / 2)
        found.fault("bend-line", f"{name}, {bend.name}: {what}", middle)
    measured = {(bend, left): size for bend, left, size in legs(proved.shape, bends, [line for _, line in own])}
    by_id = {bend.id: bend for bend in bends}
    rows = []
    for leg in legs_of(part.folded):
        bend = by_id[leg.bend.id]
        left = ((bend.end - bend.start) * 1j * leg.bend.onward.conjugate()).real > 0
        size = measured.get((bend.id, leg.onward == left))
        rows.append(ProvedLeg(bend.id, bend.name, leg.onward, leg.outside, size))
        if size is None or abs(size - leg.outside) > ALLOWED:
            told = "cannot be measured" if size is None else f"is {shown(size)} outside once it is bent"
            at = motion(placement)((bend.start + bend.end) / 2)
            found.fault("leg", f"{name}, {bend.name}: its leg of {shown(leg.outside)} {told}", at)
    return tuple(rows)


def own_frame(shape: G, placement: Placement) -> G:
    """A piece or a line on its sheet, taken back to the frame of its part."""
    back = motion(placement).turn.conjugate()
    shift, over = -back * complex(placement.x, placement.y), -1 if placement.mirrored else 1
    matrix = [back.real, -back.imag, back.imag * over, back.real * over, shift.real, shift.imag * over]
    return affine_transform(shape, matrix)


# The fit ledger


def caliper(shape: Polygon, gauge: Gauge) -> float | None:
    """Width (mm) of the opening or the material at the gauge: between the nearest edges on both sides."""
    reach = gauge.direction * 1000
    a, b = gauge.point - reach, gauge.point + reach
    met = shapely.get_coordinates(LineString([(a.real, a.imag), (b.real, b.imag)]).intersection(shape.boundary))
    along = [((complex(x, y) - gauge.point) * gauge.direction.conjugate()).real for x, y in met]
    above, below = [d for d in along if d > 0], [d for d in along if d < 0]
    return min(above) - max(below) if above and below else None


def proved_gap(mating: Mating, parts: Sequence[ProvedPart]) -> float | None:
    """The tightest gap (mm) among all copies of both parts; None if either did not come free."""
    openings = measured_at(mating.opening_at, parts)
    inserts = measured_at(mating.insert_at, parts) if mating.insert_at else [mating.insert]
    # Calipers do not reach into round corners.
    return min(openings) - max(inserts) - mating.root if openings and inserts else None


def measured_at(gauge: Gauge, parts: Sequence[ProvedPart]) -> list[float]:
    """What calipers would read (mm) at a gauge, of each copy that came free."""
    found = [caliper(_at(p, p.shape, gauge), gauge) for p in parts if p.part == gauge.part and p.shape is not None]
    return [width for width in found if width is not None]


def _at(proved: ProvedPart, shape: Polygon, gauge: Gauge) -> Polygon:
    """What the calipers go into: the pocket that the gauge lies in, else the piece itself."""
    point = shapely.Point(gauge.point.real, gauge.point.imag)
    return next((pocket for pocket in proved.pockets if pocket.contains(point)), shape)
