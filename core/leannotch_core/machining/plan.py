"""The plan of a sheet: which lines the beam or cutter follows, by operation and in order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from ..document.operations import ORDER
from ..document.sheet import Placement
from ..document.sizes import length
from ..document.stock import NEVER_BURNED
from ..document.sums import SizeError
from ..evaluate import EvaluatedPart, Result
from ..facts.cutters import NoCutter
from ..facts.stock import StockFacts
from ..geometry.arrangement import contains
from ..geometry.segment import Line, Point, Source
from ..layout.sheets import motion, placed
from ..layout.spacing import room_for_tabs
from ..project.project import Project
from ..said import Said
from .bend_lines import WrittenWords, bend_lines, bend_words
from .common_lines import with_common_lines
from .cooling import Cooling, cooling_of
from .edges import Edges
from .holding import LeftOut, NotHeld, opened, width_of, with_tabs_apart
from .jobs import ON_THE_LINE, BeamOnSheet, Job, JobKey, jobs_of, loses_something
from .leads import with_leads
from .path import CutPath
from .routed.rack import Rack, rack_of
from .running_order import Copy, in_order, lines_of


@dataclass(frozen=True, slots=True)
class Tab:
    """A holding tab: the job whose line it interrupts, and where."""

    key: JobKey
    gap: LeftOut

    @property
    def middle(self) -> Point:
        return (self.gap.start + self.gap.end) / 2


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """Everything that goes into one sheet's file. ``compensated``: the file holds the kerf, not the machine.

    ``jobs`` are what is done, in order, each with its lines as they are followed; ``beside`` are lines for people.
    ``within`` tells for a copy that lies in a cut-out of another which one that is. ``tabs`` are what holds parts and
    waste in the sheet, each ``tab_width`` mm wide. With a ``rack`` a router cuts: lines run over its tabs, and only in
    the program is it lifted there. ``bent`` are copies to be bent afterwards, ``words`` what is written for that.
    ``names`` are those of the parts by their ids, ``gap_for_tabs`` (mm) is how far apart a router's parts lie that hang
    on tabs, and ``sequence`` is that of a machine that has its own, and the ``beam`` is
    what a compensated file makes up for.
    """

    name: str
    width: float
    height: float
    kerf: float
    compensated: bool
    jobs: tuple[Job, ...]
    placements: tuple[Placement, ...]
    lost: tuple[str, ...]
    beside: tuple[CutPath, ...] = ()
    within: tuple[tuple[Copy, Copy], ...] = ()
    tabs: tuple[Tab, ...] = ()
    tab_width: float = 0.0
    rack: Rack | None = None
    bent: tuple[tuple[Placement, EvaluatedPart], ...] = ()
    words: tuple[WrittenWords, ...] = ()
    names: Mapping[str, str] = field(default_factory=dict)
    gap_for_tabs: float = 0.0
    beam: BeamOnSheet = ON_THE_LINE
    sequence: tuple[str, ...] = ()

    @property
    def paths(self) -> tuple[CutPath, ...]:
        """What a drawing has; the rest of a pocket is cleared within the line of that."""
        return (*(path for job in self.jobs if job.key.stage != "rest" for path in job.paths), *self.beside)


class CannotPlan(Said):
    """A sheet that cannot be planned; the message is a sentence to show."""


def plan_sheet(project: Project, result: Result, index: int) -> SheetPlan:
    """The plan of sheet ``index`` as the project's hand-over asks for it. Raises `CannotPlan`."""
    sheet = project.layout.sheets[index]
    stock = _stock(project, result, index)
    kerf = stock.kerf
    _refuse_what_is_never_burned(project, sheet.stock)
    try:
        edges, width = Edges(project.preparation), width_of(project.preparation.holding)
        lead = length(project.preparation.lead, {})
        rack = rack_of(project, sheet.stock)
    except (NotHeld, SizeError, NoCutter) as error:
        raise CannotPlan(str(error)) from error
    in_file = project.hand_over.kerf == "in the file"
    beam = BeamOnSheet(kerf, stock.oval, -project.preparation.on_bed.turn) if in_file else ON_THE_LINE
    named = project.hand_over.names == "score"
    placements = tuple(
        p
        for p in project.layout.placements
        if p.sheet == index and not p.cut and (part := result.parts.get(p.part)) and p.copy_number <= part.part.count
    )
    around = _around(placements, result)
    jobs = [
        job
        for placement, outside in zip(placements, around, strict=True)
        for job in jobs_of(result.parts[placement.part], placement, beam, named, len(outside), edges, rack)
    ]
    bent = tuple((p, result.parts[p.part]) for p in placements if result.parts[p.part].folded)
    bends = project.hand_over.bends
    tangents = bends == "centre and tangents"
    drawn = [line for p, part in bent if bends != "leave out" for line in bend_lines(part, p, tangents)]
    lost = [p for p in placements if in_file and loses_something(result.parts[p.part], p, beam, rack)]
    cooling = None if rack else cooling_of(project, stock, sheet.stock)
    ordered = in_order(jobs, project.preparation, cooling)
    followed, tabs = _followed(ordered, width + kerf, rack is not None, cooling)
    if rack is None:
        # A cutter that goes round outer corners leaves no line in common, and it has leads of its own.
        followed = with_common_lines(followed) if project.preparation.common_lines else followed
        leads = {p.part: _lead(result.parts[p.part], lead) for p in placements}
        if max(leads.values(), default=0.0) > 0:
            kept = [placed(result.parts[p.part].outline, p) for p in placements]
            followed = with_leads(followed, kept, leads.__getitem__, kerf)
    return SheetPlan(
        name=", ".join([project.name, f"sheet {index + 1}", *_machine(project)]),
        width=sheet.width,
        height=sheet.height,
        kerf=kerf,
        compensated=in_file,
        jobs=tuple(followed),
        placements=placements,
        lost=tuple(result.parts[p.part].part.name for p in lost),
        beside=(*drawn, *((_check_square(sheet.height),) if project.hand_over.check_square else ())),
        within=tuple(
            ((p.part, p.copy_number), (placements[at].part, placements[at].copy_number))
            for p, outside in zip(placements, around, strict=True)
            for at in outside[-1:]
        ),
        tabs=tuple(tabs),
        tab_width=width,
        rack=rack,
        bent=bent,
        words=tuple(w for p, part in bent if project.hand_over.bend_words for w in bend_words(part, p)),
        names={p.part: result.parts[p.part].part.name for p in placements},
        beam=beam,
        gap_for_tabs=room_for_tabs(kerf, stock.smallest_web)[1] if rack and tabs else 0.0,
        sequence=tuple(machine.sequence) if (machine := project.machine_of(project.machine)) else (),
    )


def _lead(part: EvaluatedPart, lead: float) -> float:
    """How long (mm) the lead-ins of a part are: where its edges show, at least as its stock wants them."""
    return max(lead, part.stock.heat.lead) if part.part.shows else lead


def _refuse_what_is_never_burned(project: Project, stock_id: str) -> None:
    stock, machine = project.stock(stock_id), project.machine_of(project.machine)
    why = NEVER_BURNED.get(stock.material) if stock else None
    if stock and why and machine and machine.kind == "beam":
        raise CannotPlan(
            f"{stock.name} is {stock.material}, and {machine.name} must never cut that: {why}. Cut it with a router, "
            "or take another stock."
        )


def _followed(jobs: Sequence[Job], gap: float, lifted: bool, cooling: Cooling | None) -> tuple[list[Job], list[Tab]]:
    """The jobs with their lines as they are followed, each from where the one before it ends, and their tabs.

    ``gap`` (mm) is how much of a line is left out for a holding tab; what is ``lifted`` over them runs on.
    """
    here, found, tabs = 0j, [], []
    for job in jobs:
        lines: list[CutPath] = []
        for line in lines_of(job, here, cooling):
            apart = with_tabs_apart(line, gap)
            stretches, gaps = opened(apart, gap)
            lines += [apart] if lifted else stretches
            tabs += [Tab(job.key, one) for one in gaps]
        here = lines[-1].end
        found.append(Job(job.key, tuple(lines), job.inside))
    return found, tabs


def _around(placements: Sequence[Placement], result: Result) -> list[list[int]]:
    """For each copy those that it lies in, by their places in the list: the outermost first."""
    outers = [result.parts[p.part].outline.outer.moved(motion(p)) for p in placements]
    boxes = np.array([outer.bounds for outer in outers]).reshape(-1, 4)
    left, bottom, right, top = boxes.T
    found = []
    for at, outer in enumerate(outers):
        point = outer.segments[0].at(0.5)
        near = (left < point.real) & (point.real < right) & (bottom < point.imag) & (point.imag < top)
        outside = [int(other) for other in np.flatnonzero(near) if other != at and contains(outers[other], point)]
        found.append(sorted(outside, key=lambda other: -outers[other].area))
    return found


def _machine(project: Project) -> list[str]:
    machine = project.machine_of(project.machine)
    return [machine.name] if machine else []


def _stock(project: Project, result: Result, index: int) -> StockFacts:
    stock_id = project.layout.sheets[index].stock
    if stock_id in result.stocks:
        return result.stocks[stock_id]
    stock = project.stock(stock_id)
    if stock is None:
        raise CannotPlan(f"Sheet {index + 1} is of a stock “{stock_id}” that is not in the project; lay out again.")
    why = next((f.text for f in result.errors if f.place.kind == "stock" and f.place.id == stock_id), stock.name)
    raise CannotPlan(f"Sheet {index + 1} cannot be cut. {why}. Mend the stock first.")


def layers(plan: SheetPlan, sequence: Sequence[str] = ()) -> dict[str, list[CutPath]]:
    """The plan's lines by layer, in the order of operations; those of a sequence come first, in its order."""
    found: dict[str, list[CutPath]] = {}
    order = [*sequence, *(name for name in ORDER if name not in sequence)]
    for path in sorted(plan.paths, key=lambda path: (order.index(path.operation), path.depth or 0.0)):
        found.setdefault(path.layer, []).append(path)
    return found


def _check_square(height: float) -> CutPath:
    """100 mm to measure on any print or machine; above the sheet, where it is in nobody's way."""
    corners = [complex(x, y) + 1j * (height + 10) for x, y in ((0, 0), (100, 0), (100, 100), (0, 100))]
    source = Source("check square", "side")
    sides = tuple(Line(a, b, source) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True))
    return CutPath("reference", sides, True)
