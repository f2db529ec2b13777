"""A sheet that is ready for its machine: what is done row by row, with what, and how long it takes."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from pydantic import BaseModel, ConfigDict
from shapely import Polygon

from ..document.machine import Machine
from ..document.operations import Stage
from ..document.setting import Setting
from ..document.sheet import Barred
from ..document.stock import Stock
from ..evaluate import Result
from ..facts.bed import Bed
from ..facts.findings import Finding
from ..facts.stock import StockFacts
from ..geometry.segment import Motion, Point
from .clock import Numbers
from .jobs import JobKey
from .plan import SheetPlan
from .program import Move
from .routed.parking import Parking
from .routed.work import CutterRun, RoutedSettings
from .stepped import own_seconds


class WorkedBy(BaseModel):
    """By which cutter a row is done: what each tooth takes (mm), the range that is good, its edge's speed in m/min,
    and its feeds down (mm/s).
    """

    model_config = ConfigDict(frozen=True)

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
class PreparedRow:
    """Jobs of one stage of one part that follow each other. Lengths in mm; ``moved`` is the way between the lines."""

    stage: Stage
    operation: str
    part: str
    name: str
    keys: tuple[JobKey, ...]
    lines: int
    length: float
    moved: float
    pierces: int
    seconds: float
    setting: Setting
    worked: WorkedBy | None = None


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
    runs: list[CutterRun] = field(default_factory=list)
    rows: list[PreparedRow] = field(default_factory=list)
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
        """Of all moves, and of the lines that its machine adds to every program."""
        return float(self.took.sum()) + self.own_seconds

    @property
    def own_seconds(self) -> float:
        return own_seconds(self.machine)

    @property
    def to_machine(self) -> Motion:
        """Takes the sheet to the machine's coordinates."""
        return self.lies.then(self.bed.axes)


def called(key: JobKey, result: Result) -> str:
    """What a copy is called: its part, with its number where there are several."""
    part = result.parts[key.part].part
    return f"{part.name} {key.copy_number}" if part.count > 1 else part.name


def on_page(ready: Prepared) -> SheetPlan:
    """The plan as a drawing of the sheet; of the bed as one sees it, where the sheet lies not in its corner."""
    if ready.lies == Motion():
        return ready.plan
    plan = ready.plan
    jobs = tuple(replace(job, paths=tuple(path.moved(ready.lies) for path in job.paths)) for job in plan.jobs)
    beside = tuple(path.moved(ready.lies) for path in plan.beside)
    words = tuple(one.moved(ready.lies) for one in plan.words)
    return replace(plan, jobs=jobs, beside=beside, words=words, width=ready.bed.width, height=ready.bed.height)
