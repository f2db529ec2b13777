"""What cuts in a project: a beam, or a cutter of its rack."""

from __future__ import annotations

from ..facts.cutters import CutterFacts, NoCutter, cutter_facts
from .project import Project


def is_routed(project: Project) -> bool:
    """Whether a cutter takes the kerf's place: the machine is a router, and one of the rack is chosen for it."""
    machine = project.machine_of(project.machine)
    return machine is not None and machine.kind == "router" and bool(project.preparation.routing.cutter)


def cutter_in_use(project: Project) -> CutterFacts | None:
    """The cutter that cuts parts out; None with a beam, or where none is chosen. Raises `NoCutter`."""
    return cutter_of(project, project.preparation.routing.cutter) if is_routed(project) else None


def cutter_of(project: Project, cutter_id: str) -> CutterFacts:
    """A cutter of the project's rack in numbers. Raises `NoCutter`."""
    found = project.cutter(cutter_id)
    if found is None:
        raise NoCutter(f"The cutter “{cutter_id}” is not in the rack any more; choose another.")
    return cutter_facts(found)
