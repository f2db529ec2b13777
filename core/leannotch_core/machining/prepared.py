"""A sheet made ready for its machine: what it does row by row, how long that takes, and what is wrong with it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace

import shapely
from shapely import Polygon, STRtree

from ..bed import Bed, NoBed, bed_of, lying
from ..cutters import NoCutter, chip_load, chip_of, cutting_speed, is_routed
from ..document.machine import Machine, Work
from ..document.preparation import OnBed, Stage
from ..document.setting import Setting
from ..document.sheet import Barred
from ..document.sizes import shown
from ..document.stock import Stock
from ..evaluate import Result
from ..findings import Finding, Place
from ..geometry.chords import as_lines
from ..geometry.segment import Motion, Point
from ..layout.sheets import placed
from ..profiles.shipped import shipped
from ..project import Project
from ..remembered import Remembered
from ..stock import StockFacts, corners_of
from .clock import Numbers
from .jobs import Job, Key
from .plan import CannotPlan, SheetPlan, plan_sheet
from .program import Move, moves, times
from .routed.moves import routed_moves, routed_times
from .routed.parking import Parking, parking
from .routed.rack import Rack, depth_of
from .routed.told import routed_findings
from .routed.work import RoutedSettings, Run, Sheet, Workshop
from .running_order import rows, too_early
from .settings import WORKS, plunge_speed, ramp_speed, setting_of

#: What a stage is called in a sentence.
CALLED: dict[Stage, str] = {
    "fill": "filled engraving",
    "engrave": "engraving",
    "score": "scoring",
    "pocket": "pockets",
    "rest": "rest of pockets",
    "drill": "drilling",
    "inner": "inner cuts",
    "outer": "outline",
}


@dataclass(frozen=True, slots=True)
class Worked:
    """By which cutter, what each of its teeth takes (mm), from where to where that is good, and at how many m/min."""

    cutter: str
    name: str
    chip: float
    least: float
    most: float
    speed: float
    plunge: float
    ramp: float
    passes: int


@dataclass(frozen=True, slots=True)
class Row:
    """Jobs of one stage of one part that follow each other. Lengths in mm; ``moved`` is the way between the lines."""

    stage: Stage
    operation: str
    part: str
    name: str
    keys: tuple[Key, ...]
    lines: int
    length: float
    moved: float
    pierces: int
    seconds: float
    setting: Setting
    worked: Worked | None = None


@dataclass(slots=True)
class Prepared:
    """A sheet on its machine, with its stock and the ``facts`` of that.

    ``lies`` takes the sheet to the bed as it is seen, where it is ``held`` by a corner or a mark; ``moves`` are in the
    machine's coordinates, and ``took`` is how long (s) each takes. ``clips`` are what the head must not cross, on the
    bed as it is seen, ``barred`` what is in the way on the sheet itself, and ``parked`` where a router stands while
    nothing is cut.
    """

    plan: SheetPlan
    stock: Stock
    facts: StockFacts
    machine: Machine
    bed: Bed
    lies: Motion
    held: Point
    settings: RoutedSettings
    moves: list[Move]
    took: Numbers
    runs: list[Run] = field(default_factory=list)
    rows: list[Row] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    clips: list[Polygon] = field(default_factory=list)
    barred: list[Barred] = field(default_factory=list)
    parked: Parking | None = None

    @property
    def thickness(self) -> float:
        """As it measures on the whole, mm."""
        return self.facts.thickness

    @property
    def z_zero(self) -> float:
        """How high (mm) the face of the sheet lies in the machine's heights."""
        return self.facts.thickness if self.machine.z_datum == "the spoilboard" else 0.0

    @property
    def seconds(self) -> float:
        return float(self.took.sum())

    @property
    def to_machine(self) -> Motion:
        """Takes the sheet to the machine's coordinates."""
        return self.lies.then(self.bed.axes)


def machine_for(project: Project) -> Machine:
    """The machine in use; without one, the laser that ships: what is told of it holds for one like it."""
    return project.machine_of(project.machine) or shipped()["laser"]


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
    facts, frame = result.stocks[stock.id], lies.then(bed.axes)
    clips = _clips(project, index, machine, lies)
    parked: Parking | None = None
    runs: list[Run] = []
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
        found = moves(plan.jobs, lambda part, operation: settings(part, _work(operation), ""), machine, frame)
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
        _order_findings(ready, result, index),
        _tab_findings(ready, result, index),
        _bed_findings(ready, index, clips),
        routed_findings(plan, plan.rack, result, project, stock, index, runs) if plan.rack else (),
    )
    ready.findings = [finding for some in told for finding in some]
    return ready


_PLANS = Remembered[SheetPlan]()


def _planned(project: Project, result: Result, index: int) -> SheetPlan:
    """The plan of a sheet: settings and where it lies do not change it, so it is kept from one edit to the next."""
    other = project.preparation.model_copy(update={"on_bed": OnBed(), "gathered": []})
    machine = project.machine_of(project.machine)
    sheet, lying = project.layout.sheets[index], [p for p in project.layout.placements if p.sheet == index]
    ids = {placement.part for placement in lying}
    parts = [part for part_id, part in result.parts.items() if part_id in ids]
    told = (machine.name, machine.sequence) if machine else ("", [])
    called = project.name, told, is_routed(project), project.cutters
    given = (index, called, other, project.hand_over, lying, parts, result.stocks.get(sheet.stock))
    return _PLANS.of(sheet, given, lambda: plan_sheet(project, result, index))


def on_page(ready: Prepared) -> SheetPlan:
    """The plan as a drawing of the sheet; of the bed as one sees it, where the sheet lies not in its corner."""
    if ready.lies == Motion():
        return ready.plan
    plan = ready.plan
    jobs = tuple(replace(job, paths=tuple(path.moved(ready.lies) for path in job.paths)) for job in plan.jobs)
    beside = tuple(path.moved(ready.lies) for path in plan.beside)
    words = tuple(one.moved(ready.lies) for one in plan.words)
    return replace(plan, jobs=jobs, beside=beside, words=words, width=ready.bed.width, height=ready.bed.height)


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


def deepest(facts: StockFacts, machine: Machine) -> float:
    """How far (mm) it is from the face to the sheet's back: where it is thickest, but for one who counts from there."""
    return facts.thickness if machine.z_datum == "the spoilboard" else facts.thickest


def _runs(
    plan: SheetPlan, rack: Rack, result: Result, stock: Stock, machine: Machine, settings: RoutedSettings
) -> list[Run]:
    facts = result.stocks[stock.id]
    kept = [placed(result.parts[p.part].outline, p) for p in plan.placements]
    by_copy = {(p.part, p.copy_number): p for p in plan.placements}
    places = {job.key: by_copy[job.key.part, job.key.copy_number] for job in plan.jobs}
    work = Workshop(rack, Sheet(facts.thickness, deepest(facts, machine)), settings, kept)
    return work.runs(plan.jobs, result.parts, places)


def _parked(plan: SheetPlan, rack: Rack, machine: Machine, bed: Bed, lies: Motion, clips: Sequence[Polygon]) -> Parking:
    corners = [lies(complex(x, y)) for x, y in ((0, 0), (plan.width, 0), (plan.width, plan.height), (0, plan.height))]
    widest = max(one.radius for one in rack.in_turn)
    return parking(bed, corners, clips, widest, rack.safe, rack.clips if clips else 0.0)


def _rows(ready: Prepared, result: Result, project: Project) -> Iterator[Row]:
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
        yield Row(
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
            setting=done.setting if done else ready.settings(first.key.part, _work(operation), cutter),
            worked=_worked(done, project, ready) if done else None,
        )


def _worked(run: Run, project: Project, ready: Prepared) -> Worked:
    known, deep = project.cutter(run.cutter.id), depth_of(run.operation, run.setting.stepdown, ready.plan.rack)
    least, most = chip_load(known, run.cutter, ready.stock.material, deep) if known else (0.0, 0.0)
    return Worked(
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


def _heights(run: Run, ready: Prepared) -> set[float]:
    """The heights (mm) at which a job is worked level, but for the tops of its holding tabs."""
    same = [stroke for one in ready.runs if one.job == run.job for stroke in one.strokes]
    level = {round(stroke.z, 3) for stroke in same if stroke.how == "feed" and stroke.z == stroke.from_z}
    tops = {round(ready.plan.rack.tab_height - ready.thickness, 3)} if ready.plan.rack and ready.plan.tabs else set()
    return (level - tops) or {0.0}


def _work(operation: str) -> Work:
    return next((work for work in WORKS if work == operation), "cut")


def _pierces(found: Sequence[Move], which: Sequence[int]) -> int:
    """How often the beam comes on."""
    on = [found[at].power is not None for at in which]
    return sum(now and not before for before, now in zip([False, *on], on, strict=False))


def called(key: Key, result: Result) -> str:
    part = result.parts[key.part].part
    return f"{part.name} {key.copy_number}" if part.count > 1 else part.name


def _order_findings(ready: Prepared, result: Result, index: int) -> Iterator[Finding]:
    faults = too_early(ready.plan.jobs, dict(ready.plan.within))
    for late, early in faults[:3]:
        if (late.part, late.copy_number) == (early.part, early.copy_number):
            why = f"{called(late, result)}: its {CALLED[late.stage]} comes before its {CALLED[early.stage]}"
            what = "then it lies loose" if late.stage == "outer" else "mark it before anything is cut out"
        else:
            why = f"{called(late, result)} is cut open before {called(early, result)}, which lies in it, is done"
            what = "then that lies loose"
        yield _finding(index, "cut-too-early", f"{why}; {what}", ready, late)
    if len(faults) > 3:
        yield _finding(index, "cut-too-early", f"And {len(faults) - 3} more come too early", ready, faults[3][0])


def _tab_findings(ready: Prepared, result: Result, index: int) -> Iterator[Finding]:
    """Parts that hang on one tab, which lets them tilt, or on none while others hang."""
    if not ready.plan.tabs:
        return
    count = Counter(tab.key for tab in ready.plan.tabs)
    few = [job.key for job in ready.plan.jobs if job.key.stage == "outer" and count[job.key] < 2]
    for key in few[:3]:
        hangs = "on one holding tab" if count[key] else "on no holding tab"
        yield _finding(
            index, "few-tabs", f"{called(key, result)} hangs {hangs}; two are the least that hold", ready, key
        )
    if len(few) > 3:
        yield _finding(index, "few-tabs", f"And {len(few) - 3} more hang on fewer than two", ready, few[3])


def _finding(index: int, code: str, text: str, ready: Prepared, key: Key | None = None) -> Finding:
    job: Job | None = next((job for job in ready.plan.jobs if job.key == key), None)
    start = job.paths[0].start if job else None
    x, y = (None, None) if start is None else (start.real, start.imag)
    return Finding(level="warning", code=code, text=text, place=Place(kind="preparation", id=str(index), x=x, y=y))


def _bed_findings(ready: Prepared, index: int, clips: Sequence[Polygon]) -> Iterator[Finding]:
    """What leaves the bed, and what the head or a line crosses on it."""
    yield from _sheet_off_bed(ready, index)
    if not ready.moves:
        return
    to_bed = ready.bed.axes.back
    lines = as_lines([[move.segment.moved(to_bed)] for move in ready.moves], 0.1)
    left, bottom, right, top = shapely.total_bounds(lines)
    over = {"left": -left, "bottom": -bottom, "right": right - ready.bed.width, "top": top - ready.bed.height}
    side = max(over, key=lambda side: over[side])
    if over[side] > 1e-6:
        text = f"What is cut leaves the bed of {ready.machine.name} by {shown(over[side])} at the {side}"
        yield _finding(index, "leaves-bed", f"{text}; lay the sheet elsewhere on it, or lay out anew", ready)
    tree = STRtree(lines)
    # A keep-out of the machine that bars a sheet is known by both.
    for clip in {clip.wkt: clip for clip in shapely.set_precision(list(clips), 0.01)}.values():
        hit = sorted(tree.query(clip, predicate="intersects"))
        if hit:
            move = ready.moves[hit[0]]
            what = "The head" if move.power is None else f"A line to {move.operation}"
            at = clip.centroid
            text = (
                f"{what} crosses a keep-out at x {at.x:.0f}, y {at.y:.0f} of the bed; lay the sheet or part elsewhere"
            )
            yield _finding(index, "crosses-keep-out", text, ready, ready.plan.jobs[move.job].key)


def _sheet_off_bed(ready: Prepared, index: int) -> Iterator[Finding]:
    """A sheet that does not lie on the bed wholly; it may hang over, as long as nothing is cut there."""
    corners = [ready.lies(complex(x, y)) for x in (0, ready.plan.width) for y in (0, ready.plan.height)]
    across, up = [corner.real for corner in corners], [corner.imag for corner in corners]
    over = {"left": -min(across), "bottom": -min(up)}
    over |= {"right": max(across) - ready.bed.width, "top": max(up) - ready.bed.height}
    side = max(over, key=lambda side: over[side])
    if over[side] > 1e-6:
        size = f"{shown(ready.plan.width)} x {shown(ready.plan.height)}"
        bed = f"the bed of {ready.machine.name}, {shown(ready.bed.width)} x {shown(ready.bed.height)}"
        text = f"Sheet {index + 1} of {size} reaches {shown(over[side])} over {bed}, at the {side}"
        yield _finding(index, "sheet-off-bed", text, ready).model_copy(update={"level": "note"})


def _clips(project: Project, index: int, machine: Machine, lies: Motion) -> list[Polygon]:
    """What the head must not cross, as it is seen on the bed: keep-outs of the machine, and clips on the sheet."""
    fixed = [corners_of(keep_out) for keep_out in machine.keep_outs]
    held = [b.corners for b in project.layout.sheets[index].barred if b.what == "clip"]
    clips = [*fixed, *([lies(complex(corner.x, corner.y)) for corner in corners] for corners in held)]
    return [Polygon([(point.real, point.imag) for point in corners]) for corners in clips]
