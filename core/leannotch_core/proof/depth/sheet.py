"""The proof of a project's own program: every part, pocket and holding tab as the cutter leaves it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from ...document.machine import Machine
from ...document.operations import MARKS
from ...document.sheet import Placement
from ...document.sizes import shown
from ...document.statement import Z_STATED, statement
from ...evaluate import EvaluatedPart, Result
from ...layout.sheets import motion, placed
from ...machining.plan import SheetPlan
from ..against.fills import region_of
from ..against.marks import MeantLine, lost_along
from ..against.own_lines import own_line_faults
from ..chords import as_lines, as_polygon
from ..fault import Code, Fault
from ..found import ALLOWED, PiecesTaken, SheetProof, check_left
from ..round_beam import TOLERANCE
from ..sheet_proof import beam_of, called, odd_one, own_frame, prove_part
from ..sweep import Proof
from .dangers import Limits, dangers
from .directions import Edge, direction_faults
from .freed import Freed, freed
from .order import CopyOnSheet, routed_order_faults
from .passes import Takes, pass_faults
from .program import ProgramWays, ReadProgram
from .swept import Cutters, gone, lines

#: Less than this (mm²) is a crumb.
CRUMB = 0.02
#: A way that leaves what is cut through in the end by so much (mm), for longer than this, goes where nothing is meant.
_BESIDE = 0.1
#: Ways that fall by no more than this share of their length are level.
_LEVEL = 0.005
#: A holding tab may be left so far (mm) from where it was meant, as that is the middle between two ends, on an arc a
#: little beside the line; and so much wider or narrower. Ours.
_TAB_ASIDE, _TAB_WIDER = 0.5, 0.05
#: Places that are told of one kind of fault.
_TOLD = 5


class Depths(NamedTuple):
    """How thick the sheet is (mm): on the whole, and as deep as it must be gone through everywhere."""

    thickness: float
    deepest: float


def _other_cutters(way: ProgramWays, cutters: Cutters) -> Iterator[Fault]:
    """Cutters that work in a program and are not among those that are meant."""
    for tool in np.unique(way.tool[way.feed > 0]).tolist():
        if tool not in cutters:
            at = int(np.flatnonzero((way.tool == tool) & (way.feed > 0))[0])
            meant = ", ".join(f"T{number}" for number in sorted(cutters))
            text = f"Line {int(way.line[at])}: it works with cutter T{tool}; the rack has {meant}"
            yield Fault("cutter", text, complex(way.start[at]))


def prove_routed(
    plan: SheetPlan,
    read: ReadProgram,
    result: Result,
    depths: Depths,
    cutters: Cutters,
    limits: Limits,
    takes: Mapping[int, Takes],
    machine: Machine,
) -> SheetProof:
    """Proves a sheet from its program, whose ways are in the frame of the sheet, with its face at 0."""
    way, thickness = read.way, depths.thickness
    others = list(_other_cutters(way, cutters))
    # Of one that is not known the proof goes on as if it were the last one, so that all else is told too.
    cutters = {**cutters, **{int(tool): cutters[max(cutters)] for tool in np.unique(way.tool) if tool not in cutters}}
    out = freed(way, thickness, cutters, depths.deepest)
    found = SheetProof(Proof(plan.kerf, pieces=out.pieces))
    _check_words(plan, read, machine, found)
    _check_tabs(plan, out, found)
    found.checked("cutter", "every cutter that it asks for is on the rack", others)
    found.checked(
        "danger", "nothing is done that breaks a cutter or throws a part", dangers(way, thickness, cutters, limits)
    )
    found.checked(
        "pass-depth",
        "depth, feed and spindle of every pass are as meant",
        pass_faults(way, takes, cutters, machine.spins_up),
    )
    edges = list(_edges(plan, result))
    meant = plan.rack.routing.direction if plan.rack else "climb"
    found.checked("direction", f"every edge is cut {meant}", direction_faults(way, edges, cutters, meant))
    _prove_parts(plan, out, result, found)
    found.checked(
        "order",
        "pockets and marks come before cuts, inner cuts before outer ones",
        _order(plan, way, result, out, cutters),
    )
    _prove_depths(plan, way, out, result, cutters, found)
    below = max(0.0, -float(way.z.min(initial=0.0)) - thickness)
    found.notes.append(
        f"The cutter goes {shown(below)} below the sheet, into the spoilboard; z 0 is {machine.z_datum}."
    )
    return found


def _check_words(plan: SheetPlan, read: ReadProgram, machine: Machine, found: SheetProof) -> None:
    told = read.told
    found.check("unit", "its unit is stated", "" if told.unit_stated else "The program does not state its unit")
    said = statement(plan.kerf, plan.compensated, machine.unit) in told.comments
    silent = "" if said else "The program does not say who compensates"
    found.check("kerf-statement", "it says that the cutter's width is in it", silent)
    stated = next((Z_STATED[comment] for comment in told.comments if comment in Z_STATED), None)
    other = (
        f"The program says that its z 0 is {stated}, and on {machine.name} it is {machine.z_datum}" if stated else ""
    )
    wrong = other if stated != machine.z_datum else ""
    unsaid = "" if stated else f"The program does not say that its z 0 is {machine.z_datum}"
    found.check("z-datum", "it says where z 0 is", unsaid or wrong)
    found.check("no-end", "it ends with M2", "" if told.ended else "The program does not end with M2 or M30")
    own = own_line_faults(told, machine.begins, machine.ends)
    found.checked("own-lines", "it begins and ends as its machine wants", own)


def _check_tabs(plan: SheetPlan, out: Freed, found: SheetProof) -> None:
    if plan.rack is None or not (plan.tabs or out.tabs):
        return
    found.check("tabs", "holding tabs are where they were put, as wide and as high as wanted", *_tab_fault(plan, out))


def _tab_fault(plan: SheetPlan, out: Freed) -> tuple[str, complex | None]:
    wanted = {(round(tab.middle.real, 1), round(tab.middle.imag, 1)) for tab in plan.tabs}
    if len(out.tabs) != len(wanted):
        text = f"{len(out.tabs)} holding tabs are left of {len(wanted)} that were meant"
        cut_off = _cut_by_neighbours(plan)
        where = odd_one([tab.middle for tab in out.tabs], [tab.middle for tab in plan.tabs])
        return (f"{text}; {cut_off}" if cut_off else text), where
    high = plan.rack.tab_height if plan.rack else 0.0
    for tab in out.tabs:
        near = min(abs(tab.middle - one.middle) for one in plan.tabs)
        off = abs(tab.width - plan.tab_width)
        if near > _TAB_ASIDE or off > _TAB_WIDER or abs(tab.height - high) > ALLOWED:
            size = f"{shown(tab.width)} x {shown(tab.height)}"
            wide = f"{shown(plan.tab_width)} x {shown(high)}"
            return f"A holding tab of {size} is left where one of {wide} was meant", tab.middle
    return "", None


def _cut_by_neighbours(plan: SheetPlan) -> str:
    """That parts lie so near each other that what is cut out of one cuts through the tabs of the next."""
    if plan.rack is None or not plan.tabs:
        return ""
    room = plan.gap_for_tabs
    return f"with holding tabs parts lie at least {shown(room)} apart" if room else ""


def _prove_parts(plan: SheetPlan, out: Freed, result: Result, found: SheetProof) -> None:
    """Every part's outline at its through depth, and what comes free beside them."""
    taken = PiecesTaken([piece for piece in out.pieces if piece.kind == "part"])
    for placement in plan.placements:
        part = result.parts[placement.part]
        if part.part.edge != "cut":
            for ring in placed(part.outline, placement).interiors:
                taken.at(Polygon(ring).representative_point())
            continue
        beam = beam_of(part, plan)
        if beam.on_outer or beam.on_inner:
            half = shown(plan.kerf / 2)
            name = f"{part.part.name} {placement.copy_number}"
            found.notes.append(f"{name} is cut on its line: half the cutter, {half}, is taken from it.")
        found.parts.append(prove_part(placement, taken, result, plan, found))
    check_left(taken, found)


# Directions and order


def _edges(plan: SheetPlan, result: Result) -> Iterator[Edge]:
    """All edges that a cutter runs beside: of outlines, of cut-outs, and of pockets."""
    for placement in plan.placements:
        part = result.parts[placement.part]
        beam, name = beam_of(part, plan), f"{part.part.name} {placement.copy_number}"
        place, outer, *inner = motion(placement), part.outline.outer, *part.outline.cutouts
        loops = [*((f"The outline of {name}", outer) for _ in range(not beam.on_outer and part.part.edge == "cut"))]
        loops += [(f"A cut-out of {name}", loop) for loop in inner if not beam.on_inner]
        loops += [(f"A pocket of {name}", loop) for pocket in part.pockets for loop in pocket.outline.loops]
        for whose, loop in loops:
            yield Edge(whose, as_lines([[side.moved(place) for side in loop.segments]], TOLERANCE)[0])


def _order(plan: SheetPlan, way: ProgramWays, result: Result, out: Freed, cutters: Cutters) -> Iterator[Fault]:
    """Marks and pockets of a copy before it is cut into, its inner cuts before its outline, and what lies in a cut-out
    before that: by when each is gone through for the last, and for the first time.
    """
    copies = [
        CopyOnSheet(
            f"{result.parts[p.part].part.name} {p.copy_number}",
            placed(result.parts[p.part].outline, p),
            beam_of(result.parts[p.part], plan),
        )
        for p in plan.placements
        if result.parts[p.part].part.edge == "cut"
    ]
    return routed_order_faults(copies, way, out.level, cutters)


# Depths


class _Depths:
    """Proves what is sunk into the parts of a sheet, and that nothing else is cut into them."""

    def __init__(self, plan: SheetPlan, way: ProgramWays, out: Freed, cutters: Cutters, found: SheetProof) -> None:
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
        inside = whole.buffer(-2 * ALLOWED)
        near = self._under.some(_near(self._under, whole.bounds, self._reach))
        face = gone(near, -ALLOWED, self._cutters, of=inside)
        stray = face.intersection(inside).difference(meant.buffer(2 * ALLOWED))
        self._fault("stray-cut", f"{called}: something is cut that was not meant", stray)
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
        self._fault(
            "pocket", f"{name} is not cleared everywhere", reached.intersection(whole).buffer(-ALLOWED).difference(got)
        )
        self._fault("pocket", f"{name} is cut beyond its outline", got.difference(_round(want, through)))
        self._fault("pocket", f"{name} is cut below its floor", under.difference(_round(*deeper, through)))
        return got.intersection(want.buffer(1.0))

    def _fault(self, code: Code, text: str, shape: BaseGeometry) -> None:
        if shape.buffer(-ALLOWED / 4).area > CRUMB:
            at = shape.representative_point()
            self._found.fault(code, f"{text}: {shape.area:.1f} mm²", complex(at.x, at.y))


def _round(*shapes: BaseGeometry) -> BaseGeometry:
    """The shapes with as much round them as a proof allows."""
    return shapely.union_all([shape.buffer(ALLOWED) for shape in shapes])


def _prove_depths(
    plan: SheetPlan, way: ProgramWays, out: Freed, result: Result, cutters: Cutters, found: SheetProof
) -> None:
    depths, before = _Depths(plan, way, out, cutters, found), len(found.faults)
    at = {(part.part, part.copy_number): number for number, part in enumerate(found.parts)}
    for placement in plan.placements:
        shapes = depths.prove(result.parts[placement.part], placement)
        number = at.get((placement.part, placement.copy_number))
        if shapes and number is not None:
            found.parts[number] = replace(found.parts[number], pockets=shapes)
    found.checked("stray-cut", "nothing is cut beside what was meant", _in_the_waste(plan, way, out, result, cutters))
    sunk = sum(len(result.parts[placement.part].pockets) for placement in plan.placements)
    if sunk and len(found.faults) == before:
        found.check("pocket", f"{sunk} pockets are as wide and as deep as meant, and nothing else is cut into a part")
    found.checked("mark-lost", "every mark is cut where it was meant, to its depth", _unmarked(plan, way, cutters))


def _in_the_waste(plan: SheetPlan, way: ProgramWays, out: Freed, result: Result, cutters: Cutters) -> Iterator[Fault]:
    """Level ways under the face that leave the parts, and along which nothing is cut through in the end."""
    radius = min((cutters[tool].diameter for tool in np.unique(way.tool).tolist()), default=0.0) / 2
    widest = max((cutter.diameter for cutter in cutters.values()), default=0.0)
    parts = [placed(result.parts[p.part].outline, p) for p in plan.placements]
    # A pocket that is open at an edge is cleared from beyond it.
    pockets = [shape.buffer(widest) for p in plan.placements for shape in _pockets(result.parts[p.part], p).values()]
    middles = out.through.buffer(_BESIDE - radius)
    allowed = shapely.union_all([middles, *parts, *pockets, _marks(plan)]).buffer(ALLOWED)
    shapely.prepare(allowed)
    level = np.abs(way.z - way.from_z) <= _LEVEL * np.abs(way.end - way.start)
    low = lines(way.some((way.z < -ALLOWED) & level & (way.feed > 0)))
    strays = shapely.difference([line for line in low if not allowed.covers(line)], allowed)
    for stray in strays[shapely.length(strays) > _BESIDE][:_TOLD]:
        at = stray.representative_point()
        yield Fault("stray-cut", f"{shown(stray.length)} are cut beside what was meant", complex(at.x, at.y))


def _pockets(part: EvaluatedPart, placement: Placement) -> dict[float, BaseGeometry]:
    """What is to be gone at each depth (mm) of a copy's pockets, where it lies on the sheet."""
    place = motion(placement)
    outlines = [(pocket.depth, as_polygon(pocket.outline.moved(place), TOLERANCE)) for pocket in part.pockets]
    depths = sorted({depth for depth, _ in outlines})
    return {depth: shapely.union_all([shape for deep, shape in outlines if deep >= depth]) for depth in depths}


def _near(way: ProgramWays, bounds: tuple[float, float, float, float], reach: float) -> npt.NDArray[np.bool_]:
    left, bottom, right, top = bounds
    x0, x1 = np.minimum(way.start.real, way.end.real), np.maximum(way.start.real, way.end.real)
    y0, y1 = np.minimum(way.start.imag, way.end.imag), np.maximum(way.start.imag, way.end.imag)
    found = (x1 >= left - reach) & (x0 <= right + reach) & (y1 >= bottom - reach) & (y0 <= top + reach)
    return np.asarray(found)


def _mark_lines(plan: SheetPlan) -> Iterator[MeantLine]:
    for job in plan.jobs:
        for path in job.paths:
            if path.operation in MARKS:
                yield MeantLine(path.operation, called(job.key, plan), path.segments)


def _fills(plan: SheetPlan) -> Iterator[tuple[str, BaseGeometry]]:
    """What is to be cleared of the marks of each copy, whose it is first."""
    for job in plan.jobs:
        loops = [path.segments for path in job.paths if path.operation == "fill" and path.closed]
        if loops:
            yield called(job.key, plan), region_of(loops)


def _marks(plan: SheetPlan) -> BaseGeometry:
    """What is to be gone at the face for all marks of the sheet."""
    drawn = [one for one in _mark_lines(plan) if one.layer != "fill"]
    filled = [region for _, region in _fills(plan)]
    if plan.rack is None or not (drawn or filled):
        return Polygon()
    half = plan.rack.marks.width_at(plan.rack.mark_depth) / 2
    along = list(as_lines([one.sides for one in drawn], TOLERANCE)) if drawn else []
    return shapely.union_all([*shapely.buffer(along, half + ALLOWED), *filled])


def _unmarked(plan: SheetPlan, way: ProgramWays, cutters: Cutters) -> Iterator[Fault]:
    """Lines along which the middle of no cutter goes at their depth, and what of a filling stays."""
    if plan.rack is None:
        return
    deep = plan.rack.mark_depth
    drawn = [one for one in _mark_lines(plan) if one.layer != "fill"]
    level = (way.feed > 0) & (np.abs(way.z + deep) <= ALLOWED) & (np.abs(way.from_z + deep) <= ALLOWED)
    yield from lost_along([MeantLine("mark", one.called, one.sides) for one in drawn], lines(way.some(level)))
    half = plan.rack.marks.width_at(deep) / 2
    for name, region in _fills(plan):
        # What the cutter does not get into stays, as it does in corners of pockets.
        reached = region.buffer(-half - ALLOWED).buffer(half, quad_segs=64)
        near = way.some(_near(way, region.bounds, 2 * half + 1.0))
        left = reached.difference(gone(near, -deep + 2 * ALLOWED, cutters).buffer(ALLOWED))
        if left.area > max(CRUMB, 0.01 * reached.area):
            at = left.representative_point()
            yield Fault(
                "mark-lost", f"{name}: {left.area:.1f} mm² of what is to be filled are not cut", complex(at.x, at.y)
            )
