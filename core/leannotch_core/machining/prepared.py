"""A sheet made ready for its machine: what it does row by row, how long that takes, and what is wrong with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from shapely import Polygon

from ..document.machine import Machine
from ..document.operations import WORKS, work_of
from ..document.preparation import OnBed
from ..document.stock import Stock
from ..evaluate import Result
from ..facts.bed import Bed, NoBed, bed_of, lying
from ..facts.cutters import NoCutter, chip_load, chip_of, cutting_speed
from ..facts.stock import StockFacts, corners_of
from ..geometry.segment import Motion
from ..layout.sheets import placed
from ..project.cutting import is_routed, machine_for
from ..project.project import Project
from ..remembered import Remembered
from .cooling import TooSoon, cooling_of
from .plan import CannotPlan, SheetPlan, plan_sheet
from .program import Move, moves, times
from .ready import Prepared, PreparedRow, WorkedBy
from .ready_checks import bed_findings, heat_findings, order_findings, tab_findings
from .routed.moves import routed_moves, routed_times
from .routed.parking import Parking, parking
from .routed.rack import Rack, depth_of
from .routed.told import routed_findings
from .routed.work import CutterRun, RoutedSettings, SheetDepth, Workshop
from .running_order import CUTS, rows
from .settings import plunge_speed, ramp_speed, setting_of


def prepare(project: Project, result: Result, index: int) -> Prepared:
    """Sheet ``index`` made ready. Raises `CannotPlan` or `TooManyLines`."""
    plan = _planned(project, result, index)
    machine = machine_for(project)
    stock = project.stock(project.layout.sheets[index].stock)
    if stock is None:
        raise CannotPlan(f"Sheet {index + 1} is of a stock that is not in the project; lay out again.")
    try:
        bed = bed_of(machine)
        lies, held = lying(project.preparation.on_bed, machine, bed, plan.width, plan.height)
    except NoBed as error:
        raise CannotPlan(str(error)) from error
    settings = settings_of(project, stock, machine, plan.rack)
    facts, frame = facts_of_sheet(plan, result, stock), lies.then(bed.axes)
    clips = _clips(project, index, machine, lies)
    parked: Parking | None = None
    runs: list[CutterRun] = []
    if plan.rack:
        try:
            runs = _runs(plan, plan.rack, result, stock, machine, settings)
        except NoCutter as error:
            raise CannotPlan(str(error)) from error
        parked = _parked(plan, plan.rack, machine, bed, lies, clips)
        found = routed_moves(runs, plan.rack.safe, machine, frame, parked)
        took = routed_times(found, machine)
    else:
        # Without a cutter a router is told of as if its lines were a beam's.
        found = moves(plan.jobs, lambda part, operation: settings(part, work_of(operation), ""), machine, frame)
        took = times(found, machine)
    ready = Prepared(
        plan,
        stock,
        facts,
        machine,
        bed,
        lies,
        held,
        settings,
        found,
        took,
        runs,
        clips=clips,
        parked=parked,
        barred=project.layout.sheets[index].barred,
    )
    ready.rows = list(_rows(ready, result, project))
    told = (
        order_findings(ready, result, index),
        tab_findings(ready, result, index),
        bed_findings(ready, index, clips),
        routed_findings(plan, plan.rack, result, project, stock, index, runs)
        if plan.rack
        else heat_findings(ready, result, index),
    )
    ready.findings = [finding for some in told for finding in some]
    return ready


_PLANS = Remembered[SheetPlan]()


def _planned(project: Project, result: Result, index: int) -> SheetPlan:
    """The plan of a sheet: settings and where it lies do not change it, so it is kept from one edit to the next.

    How it lies turned does where a beam is wider one way.
    """
    facts = result.stocks.get(project.layout.sheets[index].stock)
    turned = OnBed(turn=project.preparation.on_bed.turn) if facts and facts.oval else OnBed()
    other = project.preparation.model_copy(update={"on_bed": turned, "gathered": []})
    machine = project.machine_of(project.machine)
    sheet, lying = project.layout.sheets[index], [p for p in project.layout.placements if p.sheet == index]
    ids = {placement.part for placement in lying}
    parts = [part for part_id, part in result.parts.items() if part_id in ids]
    told = (machine.name, machine.sequence) if machine else ("", [])
    called = project.name, told, is_routed(project), project.cutters
    stock = project.stock(sheet.stock)
    own = stock.own(project.machine) if stock else None
    widths = own.widths if own else []
    cooling = cooling_of(project, facts, sheet.stock) if facts else None
    given = (index, called, widths, cooling, other, project.hand_over, lying, parts, facts)
    return _PLANS.of(sheet, given, lambda: plan_sheet(project, result, index))


@dataclass(frozen=True, slots=True)
class Cooled:
    """What it costs (s) to keep cuts beside thin webs apart in time, and how many pairs of them follow too soon all the
    same; ``else_soon`` would, were the way short.
    """

    seconds: float
    soon: TooSoon
    else_soon: TooSoon


def cooled(project: Project, result: Result, ready: Prepared, index: int) -> Cooled | None:
    """What cooling costs and gives on a sheet; None where cuts are not kept apart."""
    stock = project.layout.sheets[index].stock
    cooling = cooling_of(project, ready.facts, stock)
    if cooling is None or ready.plan.rack:
        return None
    at_once = project.preparation.model_copy(update={"cooling": False})
    other = prepare(project.model_copy(update={"preparation": at_once}), result, index)
    soon, else_soon = (
        cooling.too_soon([p.segments for job in one.plan.jobs for p in job.paths if job.key.stage in CUTS])
        for one in (ready, other)
    )
    return Cooled(ready.seconds - other.seconds, soon, else_soon)


def settings_of(project: Project, stock: Stock, machine: Machine, rack: Rack | None = None) -> RoutedSettings:
    """The settings of a stock on a machine by cutter, but for those parts that have their own."""
    cutters = [project.cutter(one.id) for one in rack.in_turn] if rack else [None]
    common = {
        (work, cutter.id if cutter else ""): setting_of(stock, machine, work, cutter, depth_of(work, 0.0, rack))
        for work in WORKS
        for cutter in cutters
    }
    own = {(part.id, s.operation, s.cutter): s for part in project.parts for s in part.settings}
    return lambda part, operation, cutter: own.get((part, operation, cutter)) or common[operation, cutter]


def facts_of_sheet(plan: SheetPlan, result: Result, stock: Stock) -> StockFacts:
    """The stock of a sheet, as thick at the most as the thickest part that lies on it."""
    found = result.stocks[stock.id]
    thickest = max((result.parts[one.part].stock.thickest for one in plan.placements), default=found.thickest)
    return replace(found, thickest=max(found.thickest, thickest))


def deepest(facts: StockFacts, machine: Machine) -> float:
    """How far (mm) it is from the face to the sheet's back: where it is thickest, but for one who counts from there."""
    return facts.thickness if machine.z_datum == "the spoilboard" else facts.thickest


def _runs(
    plan: SheetPlan, rack: Rack, result: Result, stock: Stock, machine: Machine, settings: RoutedSettings
) -> list[CutterRun]:
    facts = facts_of_sheet(plan, result, stock)
    kept = [placed(result.parts[p.part].outline, p) for p in plan.placements]
    by_copy = {(p.part, p.copy_number): p for p in plan.placements}
    places = {job.key: by_copy[job.key.part, job.key.copy_number] for job in plan.jobs}
    work = Workshop(rack, SheetDepth(facts.thickness, deepest(facts, machine)), settings, kept)
    return work.runs(plan.jobs, result.parts, places)


def _parked(plan: SheetPlan, rack: Rack, machine: Machine, bed: Bed, lies: Motion, clips: Sequence[Polygon]) -> Parking:
    corners = [lies(complex(x, y)) for x, y in ((0, 0), (plan.width, 0), (plan.width, plan.height), (0, plan.height))]
    widest = max(one.radius for one in rack.in_turn)
    return parking(bed, corners, clips, widest, rack.safe, rack.clips if clips else 0.0)


def _rows(ready: Prepared, result: Result, project: Project) -> Iterator[PreparedRow]:
    cutter = ready.plan.rack.cut.id if ready.plan.rack else ""
    place = {job.key: at for at, job in enumerate(ready.plan.jobs)}
    by_run = {run.job: run for run in ready.runs}
    by_job: list[list[int]] = [[] for _ in ready.plan.jobs]
    for at, move in enumerate(ready.moves):
        by_job[move.job].append(at)
    for run in rows(ready.plan.jobs):
        first = run[0]
        which = [at for job in run for at in by_job[place[job.key]]]
        operation = first.paths[0].operation
        done = by_run.get(place[first.key])
        yield PreparedRow(
            stage=first.key.stage,
            operation=operation,
            part=first.key.part,
            name=result.parts[first.key.part].part.name,
            keys=tuple(job.key for job in run),
            lines=sum(len(job.paths) for job in run),
            length=sum(ready.moves[at].length for at in which if ready.moves[at].power is not None),
            moved=sum(ready.moves[at].length for at in which if ready.moves[at].power is None),
            pierces=_pierces(ready.moves, which),
            seconds=float(ready.took[which].sum()),
            setting=done.setting if done else ready.settings(first.key.part, work_of(operation), cutter),
            worked=_worked(done, project, ready) if done else None,
        )


def _worked(run: CutterRun, project: Project, ready: Prepared) -> WorkedBy:
    known, deep = project.cutter(run.cutter.id), depth_of(run.operation, run.setting.stepdown, ready.plan.rack)
    least, most = chip_load(known, run.cutter, ready.stock.material, deep) if known else (0.0, 0.0)
    return WorkedBy(
        cutter=run.cutter.id,
        name=run.cutter.name,
        chip=chip_of(run.setting.speed, run.setting.power, run.cutter.flutes),
        least=least,
        most=most,
        speed=cutting_speed(run.cutter.width_at(deep), run.setting.power),
        plunge=plunge_speed(run.setting),
        ramp=ramp_speed(run.setting),
        passes=len(_heights(run, ready)),
    )


def _heights(run: CutterRun, ready: Prepared) -> set[float]:
    """The heights (mm) at which a job is worked level, but for the tops of its holding tabs."""
    same = [stroke for one in ready.runs if one.job == run.job for stroke in one.strokes]
    level = {round(stroke.z, 3) for stroke in same if stroke.how == "feed" and stroke.z == stroke.from_z}
    tops = {round(ready.plan.rack.tab_height - ready.thickness, 3)} if ready.plan.rack and ready.plan.tabs else set()
    return (level - tops) or {0.0}


def _pierces(found: Sequence[Move], which: Sequence[int]) -> int:
    """How often the beam comes on."""
    on = [found[at].power is not None for at in which]
    return sum(now and not before for before, now in zip([False, *on], on, strict=False))


def _clips(project: Project, index: int, machine: Machine, lies: Motion) -> list[Polygon]:
    """What the head must not cross, as it is seen on the bed: keep-outs of the machine, and clips on the sheet."""
    fixed = [corners_of(keep_out) for keep_out in machine.keep_outs]
    held = [b.corners for b in project.layout.sheets[index].barred if b.what == "clip"]
    clips = [*fixed, *([lies(complex(corner.x, corner.y)) for corner in corners] for corners in held)]
    return [Polygon([(point.real, point.imag) for point in corners]) for corners in clips]
