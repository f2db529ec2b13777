"""What a maker should know before a router starts: each with its number, at its place on the sheet."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise

import shapely
from shapely import STRtree
from shapely.geometry.base import BaseGeometry

from ...document.sheet import Placement
from ...document.sizes import shown
from ...document.stock import Stock
from ...evaluate import EvaluatedPart, Result
from ...facts.codes import FindingCode
from ...facts.cutters import RUBS, chip_load, chip_of
from ...facts.findings import Finding, Place, mend
from ...geometry.loop import Loop, Outline
from ...geometry.offset import grow
from ...geometry.segment import Point
from ...layout.sheets import motion, placed
from ...project.project import Project
from ..jobs import cut_line, drilled_apart
from ..plan import SheetPlan
from .pocket import WIDEST_RINGS
from .rack import Rack, depth_of
from .reach import CRUMB, uncut
from .work import CutterRun

#: So many findings of a kind are told one by one.
FEW = 4

#: Less than this (mm²) that stays of a pocket is not told.
TOLD = 1.0


def routed_findings(
    plan: SheetPlan, rack: Rack, result: Result, project: Project, stock: Stock, index: int, runs: Sequence[CutterRun]
) -> Iterator[Finding]:
    """All that is told of a routed sheet, beside what is told of any."""
    say = _Say(index)
    yield from _of_settings(say, rack, project, stock, runs)
    yield from _of_depths(say, plan, rack, result, project, stock)
    yield from _of_openings(say, plan, rack, result)
    yield from _of_pockets(say, plan, rack, result)
    yield from _of_neighbours(say, plan, rack, result)
    yield from _of_holding(say, plan, rack, result, project)


class _Say:
    """Makes findings of a sheet."""

    def __init__(self, index: int) -> None:
        self.index = index

    def warn(self, code: FindingCode, text: str, at: Point | None = None) -> Finding:
        x, y = (None, None) if at is None else (at.real, at.imag)
        place = Place(kind="preparation", id=str(self.index), x=x, y=y)
        return Finding(level="warning", code=code, text=text, place=place)

    def note(self, code: FindingCode, text: str, at: Point | None = None) -> Finding:
        return self.warn(code, text, at).model_copy(update={"level": "note"})


# Feeds and speeds


def _of_settings(say: _Say, rack: Rack, project: Project, stock: Stock, runs: Sequence[CutterRun]) -> Iterator[Finding]:
    used = {(run.cutter.id, run.setting): run for run in reversed(runs)}
    for run in reversed(list(used.values())):
        yield from _of_setting(say, run, rack, project, stock)
    changes = sum(a.cutter.id != b.cutter.id for a, b in pairwise(runs))
    if runs and changes >= len({run.cutter.id for run in runs}):
        text = f"The cutter is changed {changes} times; arranged by operation it is changed less often"
        yield say.note("many-changes", text)
    if rack.routing.clearing == "offsets" and rack.routing.stepover > WIDEST_RINGS:
        text = (
            f"Rings {100 * rack.routing.stepover:.0f} % of the cutter apart would leave ridges where they turn; they "
            f"are {100 * WIDEST_RINGS:.0f} % apart"
        )
        yield say.note("wide-rings", text)


def _of_setting(say: _Say, run: CutterRun, rack: Rack, project: Project, stock: Stock) -> Iterator[Finding]:
    cutter, setting, at = run.cutter, run.setting, run.start
    known = project.cutter(cutter.id)
    if known is None:
        return
    called = f"{cutter.name}, to {setting.operation}"
    chip = chip_of(setting.speed, setting.power, cutter.flutes)
    least, most = chip_load(known, cutter, stock.material, depth_of(run.operation, setting.stepdown, rack))
    own = any(load.material == stock.material for load in known.chip_loads)
    whose = "its own range" if own else "common practice"
    # What cuts with the point of a V, or of a ball, takes less than any other does.
    rubs = min(RUBS, least) if cutter.tip in ("ball", "V") else RUBS
    if chip < rubs or chip < least / 2:
        text = f"{called}: {chip:.3f} mm a tooth rubs more than it cuts; {least:.3f} to {most:.3f} is {whose}"
        yield say.warn("rubs", f"{text}. Go faster, or turn slower", at)
    elif chip < least - 5e-4:
        yield say.note("chip-load", f"{called}: {chip:.3f} mm a tooth is less than {least:.3f}, {whose}", at)
    elif chip > most + 5e-4:
        text = f"{called}: {chip:.3f} mm a tooth is more than {most:.3f}, {whose}"
        yield say.warn("chip-load", f"{text}. Go slower, or turn faster", at)
    if setting.power > cutter.top_rpm:
        yield say.warn("too-fast", f"{called}: {setting.power:g} rpm; it may turn at {cutter.top_rpm:g}", at)
    if setting.stepdown > cutter.cutting_length:
        text = f"{called}: a stepdown of {shown(setting.stepdown)} is more than it cuts, {shown(cutter.cutting_length)}"
        yield say.warn("deep-step", text, at)
    elif setting.stepdown > cutter.diameter + 1e-6:
        text = (
            f"{called}: a stepdown of {shown(setting.stepdown)} is more than its diameter of {shown(cutter.diameter)}"
        )
        yield say.warn("deep-step", text, at)


# Depths


def _of_depths(
    say: _Say, plan: SheetPlan, rack: Rack, result: Result, project: Project, stock: Stock
) -> Iterator[Finding]:
    facts = result.stocks[stock.id]
    through = facts.thickest + rack.overcut
    for cutter in {one.id: one for one in (rack.cut, *rack.drills)}.values():
        if through > cutter.cutting_length + 1e-6:
            text = f"{cutter.name} cuts {shown(cutter.cutting_length)} deep; through this sheet it is {shown(through)}"
            yield say.warn("too-deep", f"{text}. Choose a longer one")
    if plan.tabs and not 0 < rack.tab_height < facts.thickness:
        text = f"Holding tabs of {shown(rack.tab_height)} in a sheet of {shown(facts.thickness)}"
        yield say.warn("tab-height", f"{text}: they leave nothing, or all of it; type a height between")
    for part_id, spots in _first_places(plan).items():
        part = result.parts[part_id]
        for pocket in part.pockets:
            at = motion(spots)(pocket.outline.outer.segments[0].start)
            if pocket.depth >= facts.thickness - 1e-6:
                text = f"{part.part.name}: a pocket of {shown(pocket.depth)} goes through {shown(facts.thickness)}"
                yield say.warn("pocket-through", f"{text}; cut it out, or make it shallower", at)
            elif pocket.depth > rack.pockets.cutting_length:
                text = f"{part.part.name}: a pocket of {shown(pocket.depth)} is deeper than {rack.pockets.name} cuts"
                yield say.warn("too-deep", f"{text}, {shown(rack.pockets.cutting_length)}", at)
    clips = [barred for barred in project.layout.sheets[say.index].barred if barred.what == "clip"]
    machine = project.machine_of(project.machine)
    if rack.safe <= rack.clips and (clips or (machine and machine.keep_outs)):
        text = f"Clips stand {shown(rack.clips)} up, and the cutter crosses the sheet at {shown(rack.safe)}"
        yield say.warn("clips-too-high", f"{text}: it would run into them")


def _first_places(plan: SheetPlan) -> dict[str, Placement]:
    """For each part the first of its copies on the sheet."""
    return {placement.part: placement for placement in reversed(plan.placements)}


# What a cutter is too wide for


def _of_openings(say: _Say, plan: SheetPlan, rack: Rack, result: Result) -> Iterator[Finding]:
    for part_id, placement in _first_places(plan).items():
        part = result.parts[part_id]
        _, outline = drilled_apart(part.outline, rack)
        lost = len(cut_line(part, outline, rack.cut.radius, rack).cutouts) < len(outline.cutouts)
        loops = outline.cutouts if lost else ()
        narrow = [loop for loop in loops if not grow([Outline(loop.reversed())], -rack.cut.radius)]
        for loop in narrow[:FEW]:
            yield _narrow(say, part, loop, placement, rack)
        web = part.finished.web
        if web is not None and web < rack.cut.diameter and part.finished.web_at is not None:
            text = f"{part.part.name}: a web of {shown(web)} is thinner than the cutter of {shown(rack.cut.diameter)}"
            yield say.note("thin-web", f"{text}; it may break out", motion(placement)(part.finished.web_at))


def _narrow(say: _Say, part: EvaluatedPart, loop: Loop, placement: Placement, rack: Rack) -> Finding:
    left, bottom, right, top = loop.bounds
    size = f"{shown(right - left)} x {shown(top - bottom)}"
    text = f"{part.part.name}: a cut-out of {size} is narrower than {rack.cut.name}, {shown(rack.cut.diameter)}"
    at = motion(placement)(complex((left + right) / 2, (bottom + top) / 2))
    return say.warn("too-narrow", f"{text}; nothing is cut there", at)


def _of_pockets(say: _Say, plan: SheetPlan, rack: Rack, result: Result) -> Iterator[Finding]:
    """Pockets that the cutter does not get into, and what it leaves of the others."""
    last = rack.rest if rack.rest and rack.rest.radius < rack.pockets.radius else rack.pockets
    for part_id, placement in _first_places(plan).items():
        part = result.parts[part_id]
        missed = [pocket for pocket in part.pockets if not grow([pocket.outline], -last.radius)]
        for pocket in missed[:FEW]:
            left, bottom, right, top = pocket.outline.bounds
            size = f"{shown(right - left)} x {shown(top - bottom)}"
            text = f"{part.part.name}: a pocket of {size} is narrower than {last.name}, {shown(last.diameter)}"
            at = motion(placement)(complex((left + right) / 2, (bottom + top) / 2))
            yield say.warn("pocket-too-narrow", f"{text}; nothing is cleared there", at)
        if part.pockets and not missed:
            left_over = uncut(part.pockets, last.radius)
            if left_over.area > TOLD:
                largest = max(shapely.get_parts(left_over), key=lambda one: one.area).representative_point()
                text = f"{part.part.name}: {left_over.area:.1f} mm² of its pockets stay, in corners tighter than "
                at = motion(placement)(complex(largest.x, largest.y))
                yield say.note("pocket-corners", f"{text}{shown(last.radius)}, the radius of {last.name}", at)


# What lies beside, and what holds


def _of_neighbours(say: _Say, plan: SheetPlan, rack: Rack, result: Result) -> Iterator[Finding]:
    """Parts between which the cutter has no room."""
    shapes = [placed(result.parts[p.part].outline, p) for p in plan.placements]
    if not shapes:
        return
    first, second = STRtree(shapes).query(shapes, predicate="dwithin", distance=rack.cut.diameter - 1e-6)
    close = [(a, b) for a, b in zip(first.tolist(), second.tolist(), strict=True) if a < b]
    for a, b in close[:FEW]:
        gap = shown(float(shapely.distance(shapes[a], shapes[b])))
        line = shapely.shortest_line(shapes[a], shapes[b]).interpolate(0.5, normalized=True)
        names = " and ".join(_called(plan.placements[at], result) for at in (a, b))
        text = f"{names} lie {gap} apart; a cutter of {shown(rack.cut.diameter)} cuts into both"
        yield say.warn("no-room-between", f"{text}. Lay the sheet out again", complex(line.x, line.y))
    if not plan.gap_for_tabs:
        return
    # What hangs on a tab hangs in the waste, which has to stand between both grooves.
    held = {(tab.key.part, tab.key.copy_number) for tab in plan.tabs}
    hangs = [(placement.part, placement.copy_number) in held for placement in plan.placements]
    first, second = STRtree(shapes).query(shapes, predicate="dwithin", distance=2 * rack.cut.diameter - 1e-6)
    pairs = [(a, b) for a, b in zip(first.tolist(), second.tolist(), strict=True) if a < b and (hangs[a] or hangs[b])]
    for a, b in [pair for pair in pairs if pair not in close][:1]:
        gap = shown(float(shapely.distance(shapes[a], shapes[b])))
        line = shapely.shortest_line(shapes[a], shapes[b]).interpolate(0.5, normalized=True)
        names = " and ".join(_called(plan.placements[at], result) for at in (a, b))
        wide = f"{math.ceil(100 * plan.gap_for_tabs - 1e-6) / 100:g}"
        text = f"{names} lie {gap} apart; cut out, each cuts off the other's holding tabs"
        told = say.warn(
            "no-room-for-tabs", f"{text}. They need {wide} mm: lay the sheet out again", complex(line.x, line.y)
        )
        yield told.model_copy(update={"mends": (mend(f"Gap of {wide} mm", ("layout", "gap"), wide),)})


def _called(placement: Placement, result: Result) -> str:
    part = result.parts[placement.part].part
    return f"{part.name} {placement.copy_number}" if part.count > 1 else part.name


def _of_holding(say: _Say, plan: SheetPlan, rack: Rack, result: Result, project: Project) -> Iterator[Finding]:
    cut_out = [job for job in plan.jobs if job.key.stage == "outer" and job.paths[0].operation == "cut"]
    if not cut_out:
        return
    if project.preparation.holding.how == "none" and not plan.tabs:
        text = f"Nothing is held: {len(cut_out)} parts come loose in their last pass, beside a turning cutter"
        yield say.warn("not-held", f"{text}. Put holding tabs, or hold them from below", cut_out[0].paths[0].start)
        return
    count = Counter(tab.key for tab in plan.tabs)
    loose = [job for job in cut_out if not count[job.key]]
    for job in loose[:FEW]:
        part = result.parts[job.key.part].part
        text = f"{part.name} {job.key.copy_number} has no edge that is long enough for a holding tab of "
        yield say.warn("too-small-to-hold", f"{text}{shown(rack.tab_width)}; it comes loose", job.paths[0].start)


def unreached(plan: SheetPlan, rack: Rack, parts: Mapping[str, EvaluatedPart]) -> list[tuple[Placement, BaseGeometry]]:
    """What stays of the pockets of each copy, in the frame of its part."""
    last = rack.rest if rack.rest and rack.rest.radius < rack.pockets.radius else rack.pockets
    return [
        (placement, shape)
        for placement in plan.placements
        if parts[placement.part].pockets and (shape := uncut(parts[placement.part].pockets, last.radius)).area > CRUMB
    ]
