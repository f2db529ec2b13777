"""The proof of a project's own sheets: every piece against its intent, every fit against its prediction."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import TypeVar

import numpy as np
import shapely
from shapely import LineString, Polygon, STRtree
from shapely import Point as ShapelyPoint
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
from ..machining.plan import SheetPlan
from .bends import Bend, ProvedLeg, drawn_as_meant, legs
from .chords import Point, as_line, as_lines, as_polygon
from .deviation import deviation
from .sweep import TOLERANCE, Piece, Proof, prove, quarter

G = TypeVar("G", Polygon, LineString)

_BENDS = ("bend-up", "bend-down")

#: A proved size further than this (mm) from intent is a fault.
ALLOWED = 0.01


@dataclass(frozen=True, slots=True)
class ProvedPart:
    """One copy of a part: size as intended and as proved, and the largest deviation of its sides (mm).

    ``shape`` is the piece in the part's own frame; None where no piece came free. ``pockets`` are what was cleared
    in it, in the same frame; ``held`` on how many holding tabs it hangs. ``legs`` are those of its bends.
    """

    part: str
    name: str
    copy_number: int
    width: float
    height: float
    proved_width: float | None
    proved_height: float | None
    deviation: float | None
    shape: Polygon | None
    pockets: tuple[Polygon, ...] = ()
    held: int = 0
    legs: tuple[ProvedLeg, ...] = ()

    @property
    def good(self) -> bool:
        return self.deviation is not None and self.deviation <= ALLOWED


@dataclass(slots=True)
class SheetProof:
    """A sheet's proof: ``faults`` are sentences, each with a point on the sheet where there is one. ``sunk`` is what a
    cutter clears without going through, on the sheet.
    """

    proof: Proof
    parts: list[ProvedPart] = field(default_factory=list)
    faults: list[tuple[str, Point | None]] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    checks: list[tuple[str, bool]] = field(default_factory=list)
    sunk: list[Polygon] = field(default_factory=list)

    def check(self, what: str, fault: str = "", at: Point | None = None) -> None:
        """Notes a cross-check of the file, and the fault where it failed."""
        self.checks.append((what, not fault))
        if fault:
            self.faults.append((fault, at))


def prove_sheet(plan: SheetPlan, drawing: Drawing, result: Result) -> SheetProof:
    """Proves a sheet from the drawing that was read back from its written file."""
    proof = prove(drawing, plan.kerf if plan.compensated else 0.0)
    meant = any(path.operation == "cut" for path in plan.paths)
    # Where nothing is meant to be cut, that no line is cut is no fault.
    found = SheetProof(proof, faults=list(proof.faults) if meant else [], notes=list(proof.notes))
    _check_file(plan, drawing, found)
    free = [piece for piece in proof.pieces if piece.kind == "part"]
    kerf = plan.kerf if plan.compensated else 0.0
    cleared = [
        Polygon(as_line(line.segments, TOLERANCE).coords).buffer(kerf / 2, quad_segs=quarter(kerf / 2))
        for line in drawing.lines
        if operation_named(line.layer) == "pocket"
    ]
    bent = [(line.layer, LineString(_coordinates(line))) for line in drawing.lines if line.layer in _BENDS]
    if plan.bent and not bent:
        found.notes.append("The file has no bend lines; the legs of bent parts were not measured")
    taken = Taken(free)
    for placement in plan.placements:
        part = result.parts[placement.part]
        if part.part.edge != "cut":
            # It stays in the sheet; what is cut in it comes free all the same.
            for ring in placed(part.outline, placement).interiors:
                taken.at(Polygon(ring).representative_point())
            continue
        proved = prove_part(placement, taken, result, plan, found)
        sunk = _prove_pockets(placement, cleared, result, kerf, found)
        found.parts.append(replace(proved, pockets=sunk, legs=_prove_legs(placement, proved, bent, result, found)))
    for piece in taken.left():
        at = piece.shape.representative_point()
        found.faults.append((f"A piece of {piece.shape.area:.2f} mm² comes free that is no part", complex(at.x, at.y)))
    for name in plan.lost:
        found.faults.append((f"{name}: a cut-out is narrower than the kerf of {shown(plan.kerf)} and is lost", None))
    return found


class Taken:
    """The pieces that come free, each taken for one part at the most."""

    def __init__(self, pieces: Sequence[Piece]) -> None:
        self._pieces = pieces
        self._tree = STRtree([piece.shape for piece in pieces])
        self._taken: set[int] = set()

    def at(self, point: ShapelyPoint) -> Piece | None:
        """Takes the first piece with a point in it that is left."""
        here = (int(index) for index in sorted(self._tree.query(point, predicate="within")))
        index = next((index for index in here if index not in self._taken), None)
        if index is None:
            return None
        self._taken.add(index)
        return self._pieces[index]

    def left(self) -> list[Piece]:
        return [piece for index, piece in enumerate(self._pieces) if index not in self._taken]


def _check_file(plan: SheetPlan, drawing: Drawing, found: SheetProof) -> None:
    """The cross-checks of the file itself; each is told, whether it holds or not."""
    found.check("millimetres are stated", "" if drawing.unit_stated else "The file does not state its unit")
    silent = "" if drawing.says else "The file does not say who compensates for the kerf"
    wrong = (
        ""
        if drawing.says == statement(plan.kerf, plan.compensated)
        else "The file says otherwise about the kerf than was asked for"
    )
    found.check("it says who compensates for the kerf", silent or wrong)
    cuts = [line for line in drawing.lines if line.layer == "cut" and not line.lead]
    written = sum(path.operation == "cut" for path in plan.paths)
    lost = "" if len(cuts) == written else f"{len(cuts)} cut lines were read back of {written} that were written"
    found.check("one outline is one line", lost)
    found.checks.append(("every outline is closed", not found.proof.open_chains))
    found.checks.append(("no line is drawn twice", found.proof.doubled == 0))
    lines = [LineString(_coordinates(line)) for line in cuts]
    found.check("inner cuts come before outer ones", _order_fault(lines, found.proof))
    # A router lifts over its tabs: a drawing for it has none.
    if found.proof.hanging or (plan.tabs and plan.rack is None):
        found.check("holding tabs are where they were put, as wide as wanted", _tab_fault(plan, found.proof))
    marks = [LineString(_coordinates(line)) for line in drawing.lines if line.layer == "score"]
    crossing = bool(marks) and STRtree(lines).query(marks, predicate="crosses").size > 0
    found.check("names keep off the cut lines", "A score line crosses a cut" if crossing else "")


def _tab_fault(plan: SheetPlan, proof: Proof) -> str:
    """What is wrong with the tabs that were found, beside those that were meant."""
    meant = {(round(tab.middle.real, 1), round(tab.middle.imag, 1)) for tab in plan.tabs}
    if len(proof.hanging) != len(meant):
        return f"{len(proof.hanging)} holding tabs were found of {len(meant)} that were meant"
    for tab in proof.hanging:
        near = min(abs(tab.middle - wanted.middle) for wanted in plan.tabs)
        wide = tab.length - plan.kerf
        if near > ALLOWED + plan.tab_width / 100 or abs(wide - plan.tab_width) > ALLOWED:
            return f"A holding tab of {shown(wide)} stands where one of {shown(plan.tab_width)} was meant"
    return ""


def _order_fault(lines: Sequence[LineString], proof: Proof) -> str:
    """Whether an outline is cut before one that lies in it: holding tabs make several lines of one."""
    if len(proof.closed) < 2:
        return ""
    rings = as_lines([chain.segments for chain in proof.closed], TOLERANCE)
    middles = shapely.line_interpolate_point(lines, 0.5, normalized=True)
    of, which = STRtree(rings).query_nearest(middles, max_distance=ALLOWED, all_matches=False)
    first, last = np.full(len(rings), len(lines)), np.full(len(rings), -1)
    np.minimum.at(first, which, of)
    np.maximum.at(last, which, of)
    shapes = [Polygon(shapely.get_coordinates(ring)) for ring in rings]
    outer, inner = STRtree(shapes).query(shapes, predicate="contains_properly")
    return "An inner cut comes after the cut round it" if (last[inner] > first[outer]).any() else ""


def _coordinates(line: DrawnLine) -> list[tuple[float, float]]:
    points = [p for s in line.segments for p in (s.start, s.at(0.5))] + [line.segments[-1].end]
    return [(p.real, p.imag) for p in points]


def prove_part(placement: Placement, free: Taken, result: Result, plan: SheetPlan, found: SheetProof) -> ProvedPart:
    part = result.parts[placement.part]
    proved = came_free(placement, free, part, found)
    if proved.shape is None:
        return proved
    inner = placed(part.outline, placement).representative_point()
    called, at = f"{proved.name} {proved.copy_number}", complex(inner.x, inner.y)
    off = deviation(part.outline, proved.shape, plan.kerf if plan.compensated else 0.0)
    if off > ALLOWED:
        found.faults.append((f"{called} differs from intent by {off:.3f} mm", at))
    openings, meant = len(proved.shape.interiors), len(part.outline.cutouts)
    if openings != meant:
        found.faults.append((f"{called} has {openings} cut-outs of {meant}", at))
    return replace(proved, deviation=off)


def came_free(placement: Placement, free: Taken, part: EvaluatedPart, found: SheetProof) -> ProvedPart:
    """What comes free where a copy lies, and how large it is; a fault where nothing does."""
    inner = placed(part.outline, placement).representative_point()
    match = free.at(inner)
    left, bottom, right, top = part.outline.bounds
    proved = ProvedPart(
        placement.part, part.part.name, placement.copy_number, right - left, top - bottom, None, None, None, None
    )
    if match is None:
        found.faults.append((f"{proved.name} {proved.copy_number} does not come free", complex(inner.x, inner.y)))
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
        inner = as_polygon(pocket.outline, TOLERANCE).representative_point()
        match = next((shape for shape in own if shape.contains(inner)), None)
        at = motion(placement)(complex(inner.x, inner.y))
        called = f"A pocket of {part.part.name} {placement.copy_number}"
        if match is None:
            found.faults.append((f"{called} is not in the file", at))
            continue
        off = deviation(pocket.outline, match, kerf)
        if off > ALLOWED:
            found.faults.append((f"{called} differs from intent by {off:.3f} mm", at))
        shapes.append(match)
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
    called = f"{part.part.name} {placement.copy_number}"
    for bend, what in drawn_as_meant(bends, own):
        middle = motion(placement)((bend.start + bend.end) / 2)
        found.faults.append((f"{called}, {bend.name}: {what}", middle))
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
            found.faults.append((f"{called}, {bend.name}: its leg of {shown(leg.outside)} {told}", at))
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
    openings = _measured(mating.opening_at, parts)
    inserts = _measured(mating.insert_at, parts) if mating.insert_at else [mating.insert]
    return min(openings) - max(inserts) if openings and inserts else None


def _measured(gauge: Gauge, parts: Sequence[ProvedPart]) -> list[float]:
    found = [caliper(_at(p, p.shape, gauge), gauge) for p in parts if p.part == gauge.part and p.shape is not None]
    return [width for width in found if width is not None]


def _at(proved: ProvedPart, shape: Polygon, gauge: Gauge) -> Polygon:
    """What the calipers go into: the pocket that the gauge lies in, else the piece itself."""
    point = shapely.Point(gauge.point.real, gauge.point.imag)
    return next((pocket for pocket in proved.pockets if pocket.contains(point)), shape)
