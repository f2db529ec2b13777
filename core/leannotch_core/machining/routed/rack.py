"""What a project's router works with, in numbers: which cutter does what, and how each goes through the sheet."""

from __future__ import annotations

from dataclasses import dataclass

from ...document.operations import MARKS, Stage
from ...document.preparation import Holding
from ...document.routing import Routing
from ...document.sizes import number
from ...document.sums import SizeError
from ...facts.cutters import CutterFacts, NoCutter, length_of
from ...project.cutting import cutter_of, is_routed
from ...project.project import Project
from .drill import NEAR

#: The steepest slope (degrees) that is called one.
STEEPEST = 45.0
FLATTEST = 0.2


@dataclass(frozen=True, slots=True)
class Rack:
    """The cutters by what they do, and lengths in mm; ``ramp`` is in degrees.

    ``tab_height`` is how much a holding tab leaves of the sheet, ``tab_width`` how wide that is.
    """

    routing: Routing
    cut: CutterFacts
    pockets: CutterFacts
    rest: CutterFacts | None
    marks: CutterFacts
    drills: tuple[CutterFacts, ...]
    overcut: float
    finishing: float
    ramp: float
    lead: float
    peck: float
    mark_depth: float
    safe: float
    clips: float
    tab_height: float
    tab_width: float
    sloping_tabs: bool

    def cutter_for(self, stage: Stage, diameter: float = 0.0) -> CutterFacts:
        """Which cutter does a stage; of the drills the one that is nearest to a diameter (mm)."""
        if stage in MARKS:
            return self.marks
        if stage == "pocket":
            return self.pockets
        if stage == "rest" and self.rest:
            return self.rest
        if stage == "drill":
            return min((self.cut, *self.drills), key=lambda one: abs(one.diameter - diameter))
        return self.cut

    def drill_for(self, diameter: float) -> CutterFacts | None:
        """The cutter that makes a round hole of a diameter (mm) by going straight down; None where there is none."""
        nearest = self.cutter_for("drill", diameter)
        return nearest if nearest.plunges and abs(nearest.diameter - diameter) <= NEAR else None

    @property
    def in_turn(self) -> list[CutterFacts]:
        """All that are used, each once."""
        found = (self.marks, self.pockets, self.rest, *self.drills, self.cut)
        return list({one.id: one for one in found if one}.values())


def rack_of(project: Project, stock: str) -> Rack | None:
    """What a sheet of a stock is routed with; None with a beam, or where no cutter is chosen. Raises `NoCutter`."""
    if not is_routed(project):
        return None
    routing = project.preparation.routing

    def cutter(cutter_id: str) -> CutterFacts:
        return cutter_of(project, cutter_id or routing.cutter, stock)

    numbers = read(routing, project.preparation.holding)
    return Rack(
        routing=routing,
        cut=cutter(routing.cutter),
        pockets=cutter(routing.pockets),
        rest=cutter(routing.rest) if routing.rest else None,
        marks=cutter(routing.marks),
        drills=tuple(cutter(drill) for drill in routing.drills),
        sloping_tabs=project.preparation.holding.ends == "sloping",
        **numbers,
    )


def read(routing: Routing, holding: Holding) -> dict[str, float]:
    """The lengths and the slope of a routing. Raises `NoCutter` with what is wrong and how to mend it."""
    lengths = {
        "overcut": ("Overcut", routing.overcut),
        "finishing": ("Finishing allowance", routing.finishing),
        "lead": ("Lead-in", routing.lead),
        "peck": ("Peck", routing.peck),
        "mark_depth": ("Depth of marks", routing.mark_depth),
        "safe": ("Safe height", routing.safe),
        "clips": ("Height of clips", routing.clips),
        "tab_height": ("Height of holding tabs", holding.height),
        "tab_width": ("Width of holding tabs", holding.width),
    }
    numbers = {name: length_of(called, size) for name, (called, size) in lengths.items()}
    if numbers["safe"] <= 0:
        raise NoCutter("A safe height of 0 would drag the cutter over the sheet; type more than 0.")
    if numbers["mark_depth"] <= 0:
        raise NoCutter("Marks of no depth are none; type a depth of more than 0.")
    try:
        ramp = number(routing.ramp)
    except SizeError as error:
        raise NoCutter(f"Ramp: {error}.") from error
    if not FLATTEST <= ramp <= STEEPEST:
        raise NoCutter(
            f"A ramp of {ramp:g} degrees is no slope that a cutter goes down; type one from {FLATTEST:g} to "
            f"{STEEPEST:g} degrees, or choose to go straight down."
        )
    return numbers | {"ramp": ramp}


def depth_of(operation: str, stepdown: float, rack: Rack | None) -> float:
    """How deep (mm) a cutter is in what it cuts: marks as deep as they are, all else by a stepdown; 0 if unknown."""
    if rack and operation in MARKS:
        return min(rack.mark_depth, stepdown or rack.mark_depth)
    return stepdown
