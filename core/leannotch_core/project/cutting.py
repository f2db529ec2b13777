"""What cuts in a project: a beam, or a cutter of its rack."""

from __future__ import annotations

from dataclasses import replace

from ..document.machine import Machine
from ..document.routing import RoutedAt
from ..document.sizes import length, shown
from ..document.stock import Stock
from ..document.sums import SizeError
from ..facts.cut_width import CutWidth, cut_width
from ..facts.cutters import CutterFacts, NoCutter, cutter_facts
from ..facts.findings import Place
from ..facts.profiles.shipped import shipped
from ..facts.reading import Reader
from .project import Project


def machine_for(project: Project) -> Machine:
    """The machine in use; without one, the laser that ships: what is told of it holds for one like it."""
    return project.machine_of(project.machine) or shipped()["laser"]


def is_routed(project: Project) -> bool:
    """Whether a cutter takes the kerf's place: the machine is a router, and one of the rack is chosen for it."""
    machine = project.machine_of(project.machine)
    return machine is not None and machine.kind == "router" and bool(project.preparation.routing.cutter)


def cutter_in_use(project: Project, stock: str = "") -> CutterFacts | None:
    """The cutter that cuts parts out; None with a beam, or where none is chosen. Raises `NoCutter`."""
    return cutter_of(project, project.preparation.routing.cutter, stock) if is_routed(project) else None


def cutter_of(project: Project, cutter_id: str, stock: str = "") -> CutterFacts:
    """A cutter of the rack in numbers, as wide as it really cuts a stock. Raises `NoCutter` or `UnknownFact`."""
    found = project.cutter(cutter_id)
    if found is None:
        raise NoCutter(f"The cutter “{cutter_id}” is not in the rack any more; choose another.")
    plain = cutter_facts(found)
    return replace(plain, diameter=width_in(project, plain, stock).width)


def width_in(project: Project, cutter: CutterFacts, stock_id: str) -> CutWidth:
    """How wide a cutter cuts a stock with the routing of now. Raises `UnknownFact`."""
    stock = project.stock(stock_id)
    own = stock.own(project.machine) if stock else None
    if own is None or not own.widths:
        return CutWidth(cutter.shank)
    return cut_width(own.widths, goes_round(project, stock, cutter.id), cutter.shank)


def goes_round(project: Project, stock: Stock | None, cutter: str) -> RoutedAt:
    """How a cutter goes round parts of a stock with the routing of now."""
    own = stock.own(project.machine) if stock else None
    routing = project.preparation.routing
    settings = own.settings if own else []
    steps = (one.stepdown for one in settings if (one.operation, one.cutter) == ("cut", cutter))
    try:
        finished = length(routing.finishing, {}) > 0
    except SizeError:
        finished = False
    return RoutedAt(cutter=cutter, direction=routing.direction, stepdown=next(steps, 0.0), finished=finished)


def check_width(project: Project, stock: Stock, reader: Reader) -> None:
    """Notes where what a cutter cuts was measured otherwise than it goes now."""
    cutter = project.cutter(project.preparation.routing.cutter) if is_routed(project) else None
    if cutter is None:
        return
    plain = cutter_facts(cutter)
    found = width_in(project, plain, stock.id)
    if found.elsewhere is None:
        return
    now = goes_round(project, stock, cutter.id)
    taken = "its shank" if found.width == plain.shank else "that width"
    text = (
        f"{stock.name}: what {cutter.name} cuts was measured {found.elsewhere}, and it goes {now}; {taken} of "
        f"{shown(found.width)} is taken. Measure parts that were cut so"
    )
    reader.note("cutter-width-elsewhere", text, Place(kind="stock", id=stock.id, field="kerf"))
