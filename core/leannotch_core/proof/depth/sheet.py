"""The proof of a project's own program: every part, pocket and holding tab as the cutter leaves it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from ...document.sheet import Placement
from ...document.sizes import shown
from ...document.statement import statement
from ...document.sums import Unit
from ...evaluate import EvaluatedPart, Result
from ...geometry.segment import Segment
from ...layout.sheets import motion, placed
from ...machining.plan import SheetPlan
from ..chords import as_lines, as_polygon
from ..sheet_proof import ALLOWED, ProvedPart, SheetProof, Taken, came_free, own_frame, prove_part
from ..sweep import TOLERANCE, Proof
from .dangers import Limits, dangers
from .freed import Freed, freed
from .program import Read, Way
from .swept import Cutters, gone

#: Less than this (mm²) is a crumb.
CRUMB = 0.02


def prove_routed(
    plan: SheetPlan, read: Read, result: Result, thickness: float, cutters: Cutters, limits: Limits, unit: Unit
) -> SheetProof:
    """Proves a sheet from its program, whose ways are in the frame of the sheet; thickness in mm."""
    out = freed(read.way, thickness, cutters)
    found = SheetProof(Proof(plan.kerf, pieces=out.pieces))
    _check_words(plan, read, unit, found)
    _check_tabs(plan, out, found)
    harm = list(dangers(read.way, thickness, cutters, limits))
    found.check("nothing is done that breaks a cutter or throws a part")
    for danger in harm:
        found.check(danger.text.split(": ", 1)[-1], danger.text, danger.at)
    _prove_parts(plan, out, result, found)
    _prove_depths(plan, read.way, out, result, cutters, found)
    below = max(0.0, -float(read.way.z.min(initial=0.0)) - thickness)
    found.notes.append(f"The cutter goes {shown(below)} below the sheet, into the spoilboard.")
    return found


def _check_words(plan: SheetPlan, read: Read, unit: Unit, found: SheetProof) -> None:
    told = read.told
    found.check("its unit is stated", "" if told.unit_stated else "The program does not state its unit")
    said = statement(plan.kerf, plan.compensated, unit) in told.comments
    found.check("it says that the cutter's width is in it", "" if said else "The program does not say who compensates")
    found.check("it ends with M2", "" if told.ended else "The program does not end with M2 or M30")


def _check_tabs(plan: SheetPlan, out: Freed, found: SheetProof) -> None:
    if plan.rack is None or not (plan.tabs or out.tabs):
        return
    found.check("holding tabs are where they were put, as wide and as high as wanted", _tab_fault(plan, out))


def _tab_fault(plan: SheetPlan, out: Freed) -> str:
    wanted = {(round(tab.middle.real, 1), round(tab.middle.imag, 1)) for tab in plan.tabs}
    if len(out.tabs) != len(wanted):
        return f"{len(out.tabs)} holding tabs are left of {len(wanted)} that were meant"
    high = plan.rack.tab_height if plan.rack else 0.0
    for tab in out.tabs:
        near = min(abs(tab.middle - one.middle) for one in plan.tabs)
        # What is meant is the middle between two ends, on an arc a little beside the line.
        if near > 0.5 or abs(tab.width - plan.tab_width) > 0.05 or abs(tab.height - high) > ALLOWED:
            size = f"{shown(tab.width)} x {shown(tab.height)}"
            return f"A holding tab of {size} is left where one of {shown(plan.tab_width)} x {shown(high)} was meant"
    return ""


def _prove_parts(plan: SheetPlan, out: Freed, result: Result, found: SheetProof) -> None:
    """Every part's outline at its through depth, and what comes free beside them."""
    taken = Taken([piece for piece in out.pieces if piece.kind == "part"])
    on_line = {one.part for one in plan.rack.routing.on_line} if plan.rack else set()
    for placement in plan.placements:
        part = result.parts[placement.part]
        if part.part.edge != "cut":
            for ring in placed(part.outline, placement).interiors:
                taken.at(Polygon(ring).representative_point())
            continue
        if placement.part in on_line:
            found.parts.append(_on_line(placement, part, taken, plan, found))
        else:
            found.parts.append(prove_part(placement, taken, result, plan, found))
    for piece in taken.left():
        at = piece.shape.representative_point()
        found.faults.append((f"A piece of {piece.shape.area:.2f} mm² comes free that is no part", complex(at.x, at.y)))


def _on_line(placement: Placement, part: EvaluatedPart, taken: Taken, plan: SheetPlan, found: SheetProof) -> ProvedPart:
    """A part that the cutter takes half its width from, as it was asked to: told, and measured so."""
    called = f"{part.part.name} {placement.copy_number}"
    found.notes.append(f"{called} is cut on its line: half the cutter, {shown(plan.kerf / 2)}, is taken from it.")
    proved = came_free(placement, taken, part, found)
    return proved if proved.shape is None else replace(proved, deviation=0.0)


# Depths


class _Depths:
    """Proves what is sunk into the parts of a sheet, and that nothing else is cut into them."""

    def __init__(self, plan: SheetPlan, way: Way, out: Freed, cutters: Cutters, found: SheetProof) -> None:
        self._cutters, self._found = cutters, found
        self._through = out.through
        self._under = way.some(np.minimum(way.from_z, way.z) < -ALLOWED)
        self._reach = max(cutter.diameter for cutter in cutters.values())
        self._marks = _marks(plan)
        rack = plan.rack
        self._smallest = min((one.radius for one in (rack.pockets, rack.rest) if one), default=0.0) if rack else 0.0

    def prove(self, part: EvaluatedPart, placement: Placement) -> tuple[Polygon, ...]:
        """What was sunk into a copy, in the frame of its part."""
        called = f"{part.part.name} {placement.copy_number}"
        whole = placed(part.outline, placement)
        wanted = _pockets(part, placement)
        through = self._through.intersection(shapely.box(*whole.bounds))
        shapes: list[Polygon] = []
        for depth in sorted(wanted):
            shape = self._pocket(called, whole, wanted, depth, through)
            pieces = [piece for piece in shapely.get_parts(shape) if piece.area > CRUMB]
            self._found.sunk += pieces
            shapes += [own_frame(piece, placement) for piece in pieces]
        meant = shapely.union_all([*wanted.values(), self._marks.intersection(whole), through])
        face = gone(self._under.some(_near(self._under, whole.bounds, self._reach)), -ALLOWED, self._cutters)
        stray = face.intersection(whole.buffer(-2 * ALLOWED)).difference(meant.buffer(2 * ALLOWED))
        self._fault(f"{called}: something is cut that was not meant", stray)
        return tuple(shapes)

    def _pocket(
        self, called: str, whole: Polygon, wanted: dict[float, BaseGeometry], depth: float, through: BaseGeometry
    ) -> BaseGeometry:
        """What is gone just above the floor of pockets; faults where it is too much, too little or too deep."""
        want = wanted[depth]
        near = self._under.some(_near(self._under, want.bounds, self._reach))
        got = gone(near, -depth + ALLOWED / 2, self._cutters).intersection(whole)
        under = gone(near, -depth - ALLOWED, self._cutters).intersection(want.buffer(-ALLOWED))
        reached = want.buffer(-self._smallest).buffer(self._smallest, quad_segs=64)
        deeper = [shape for deep, shape in wanted.items() if deep > depth]
        name = f"A pocket of {called}, {shown(depth)} deep,"
        self._fault(f"{name} is not cleared everywhere", reached.intersection(whole).buffer(-ALLOWED).difference(got))
        self._fault(f"{name} is cut beyond its outline", got.difference(_round(want, through)))
        self._fault(f"{name} is cut below its floor", under.difference(_round(*deeper, through)))
        return got.intersection(want.buffer(1.0))

    def _fault(self, text: str, shape: BaseGeometry) -> None:
        if shape.buffer(-ALLOWED / 4).area > CRUMB:
            at = shape.representative_point()
            self._found.faults.append((f"{text}: {shape.area:.1f} mm²", complex(at.x, at.y)))


def _round(*shapes: BaseGeometry) -> BaseGeometry:
    """The shapes with as much round them as a proof allows."""
    return shapely.union_all([shape.buffer(ALLOWED) for shape in shapes])


def _prove_depths(plan: SheetPlan, way: Way, out: Freed, result: Result, cutters: Cutters, found: SheetProof) -> None:
    depths, before = _Depths(plan, way, out, cutters, found), len(found.faults)
    at = {(part.part, part.copy_number): number for number, part in enumerate(found.parts)}
    for placement in plan.placements:
        shapes = depths.prove(result.parts[placement.part], placement)
        number = at.get((placement.part, placement.copy_number))
        if shapes and number is not None:
            found.parts[number] = replace(found.parts[number], pockets=shapes)
    sunk = sum(len(result.parts[placement.part].pockets) for placement in plan.placements)
    if sunk and len(found.faults) == before:
        found.check(f"{sunk} pockets are as wide and as deep as meant, and nothing else is cut into a part")
    missing = _unmarked(plan, way, cutters)
    if missing is not None:
        found.faults.append(("A score or engraving is not cut as deep as it was meant", missing))


def _pockets(part: EvaluatedPart, placement: Placement) -> dict[float, BaseGeometry]:
    """What is to be gone at each depth (mm) of a copy's pockets, where it lies on the sheet."""
    place = motion(placement)
    outlines = [(pocket.depth, as_polygon(pocket.outline.moved(place), TOLERANCE)) for pocket in part.pockets]
    depths = sorted({depth for depth, _ in outlines})
    return {depth: shapely.union_all([shape for deep, shape in outlines if deep >= depth]) for depth in depths}


def _near(way: Way, bounds: tuple[float, float, float, float], reach: float) -> npt.NDArray[np.bool_]:
    left, bottom, right, top = bounds
    x0, x1 = np.minimum(way.start.real, way.end.real), np.maximum(way.start.real, way.end.real)
    y0, y1 = np.minimum(way.start.imag, way.end.imag), np.maximum(way.start.imag, way.end.imag)
    found = (x1 >= left - reach) & (x0 <= right + reach) & (y1 >= bottom - reach) & (y0 <= top + reach)
    return np.asarray(found)


def _mark_lines(plan: SheetPlan) -> Iterator[tuple[str, tuple[Segment, ...]]]:
    for job in plan.jobs:
        for path in job.paths:
            if path.operation in ("score", "engrave", "fill"):
                yield path.operation, path.segments


def _marks(plan: SheetPlan) -> BaseGeometry:
    """What is to be gone at the face for all marks of the sheet."""
    drawn = list(_mark_lines(plan))
    if not drawn or plan.rack is None:
        return Polygon()
    lines = as_lines([segments for _, segments in drawn], TOLERANCE)
    half = plan.rack.marks.width_at(plan.rack.mark_depth) / 2
    filled = [Polygon(line.coords) for line, (what, _) in zip(lines, drawn, strict=True) if what == "fill"]
    return shapely.union_all([*shapely.buffer(lines, half + ALLOWED), *filled])


def _unmarked(plan: SheetPlan, way: Way, cutters: Cutters) -> complex | None:
    """A place of a score or engraving that is not cut to its depth."""
    drawn = [segments for what, segments in _mark_lines(plan) if what != "fill"]
    if not drawn or plan.rack is None:
        return None
    lines = as_lines(drawn, TOLERANCE)
    got = gone(way, -plan.rack.mark_depth + ALLOWED, cutters).buffer(ALLOWED)
    shapely.prepare(got)
    missed = lines[~shapely.covers(got, lines)]
    if not len(missed):
        return None
    at = missed[0].interpolate(0.5, normalized=True)
    return complex(at.x, at.y)
