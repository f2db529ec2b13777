"""Jobs: what is done to each copy on a sheet, stage by stage, before anything is put in order."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

from ..document.operations import STAGES, TURN, Stage
from ..document.sheet import Placement
from ..evaluate import EvaluatedPart
from ..geometry.beam import Oval
from ..geometry.loop import Loop, Outline
from ..geometry.offset import Corner, grow
from ..geometry.shallow import without_shallow
from ..layout.sheets import motion
from ..remembered import remembered
from .edges import Edges
from .lettered import marks, name_of
from .path import CutPath
from .routed.rack import Rack
from .routed.reach import has_rest


class JobKey(NamedTuple):
    """One stage of one copy of a part."""

    stage: Stage
    part: str
    copy_number: int


@dataclass(frozen=True, slots=True)
class Job:
    """The lines of one stage of one copy, in the frame of the sheet. ``inside`` counts the parts that it lies in."""

    key: JobKey
    paths: tuple[CutPath, ...]
    inside: int = 0


#: Stages by the operation of their lines, but for cuts.
_LINED: Mapping[str, Stage] = {stage: stage for stage, row in STAGES.items() if stage == row.work}


@remembered(most=2048)
def compensated(outline: Outline, beam: float | Oval, corner: Corner = "sharp") -> Outline:
    """The cut line of a finished outline: outsides move out by the beam's radius (mm) or as far as an oval one reaches,
    cut-outs in.

    A cut-out narrower than the beam closes up and is missing from the answer.
    """
    return grow([outline], beam, corner)[0]


@dataclass(frozen=True, slots=True)
class BeamOnSheet:
    """How wide a beam or cutter cuts (mm): ``kerf`` is the mean, and by ``oval`` it is wider across than along a way
    that lies ``turned`` so many degrees from the sheet's x.
    """

    kerf: float
    oval: float = 0.0
    turned: float = 0.0

    def on(self, placement: Placement) -> float | Oval:
        """Its radius (mm), or as it lies in the frame of a part that lies so."""
        if not self.oval:
            return self.kerf / 2
        own = motion(placement).back
        way = own(cmath.rect(1.0, math.radians(self.turned))) - own(0)
        along, across = (self.kerf - self.oval / 2) / 2, (self.kerf + self.oval / 2) / 2
        return Oval(along, across, math.degrees(cmath.phase(way)))


#: What a file makes up for that leaves it to the machine.
ON_THE_LINE = BeamOnSheet(0.0)


def loses_something(part: EvaluatedPart, placement: Placement, beam: BeamOnSheet, rack: Rack | None = None) -> bool:
    """Whether a cut-out or a pocket of a copy is too narrow for the beam or the cutter."""
    _, outline = drilled_apart(part.outline, rack)
    whole = len(cut_line(part, outline, beam.on(placement), rack).cutouts) == len(outline.cutouts)
    return not whole or any(
        not grow([pocket.outline], -(rack.pockets.diameter if rack else beam.kerf) / 2) for pocket in part.pockets
    )


def jobs_of(
    part: EvaluatedPart,
    placement: Placement,
    beam: BeamOnSheet,
    named: bool,
    inside: int,
    edges: Edges,
    rack: Rack | None = None,
) -> Iterator[Job]:
    """All that is done to a copy, in the order of the trade. The ``beam`` is what the lines make up for; with a
    ``rack`` it is a router that does it.
    """
    place = motion(placement)
    lined = [*marks(part), *(name_of(part, placement) if named else ()), *pockets(part, beam.kerf)]
    drilled, whole = drilled_apart(part.outline, rack)
    by_stage: dict[Stage, list[CutPath]] = {stage: [] for stage in _LINED.values()}
    for path in (*lined, *drilled):
        by_stage[_LINED[path.operation]].append(path)
    if rack and by_stage["pocket"] and has_rest(part.pockets, rack):
        by_stage["rest"] = by_stage["pocket"]
    outer, *inner = edges.cut_lines(part, cut_line(part, whole, beam.on(placement), rack), beam.on(placement))
    by_stage["inner"] = inner
    if part.part.edge == "cut":
        by_stage["outer"] = [outer]
    elif part.part.edge != "nothing":
        by_stage["outer"] = [CutPath(part.part.edge, part.outline.outer.segments, True)]
    for stage, paths in sorted(by_stage.items(), key=lambda one: TURN[one[0]]):
        if paths:
            key = JobKey(stage, placement.part, placement.copy_number)
            yield Job(key, tuple(_writable(path).moved(place) for path in paths), inside)


def _writable(path: CutPath) -> CutPath:
    """A path that any machine follows: without arcs about places that are further off than any bed is long."""
    return replace(path, segments=tuple(without_shallow(path.segments)))


def drilled_apart(outline: Outline, rack: Rack | None) -> tuple[list[CutPath], Outline]:
    """The round holes that are just as wide as a cutter, and the outline with the others."""
    if rack is None:
        return [], outline
    found: list[Loop] = []
    left: list[Loop] = []
    for loop in outline.cutouts:
        circle = loop.circle()
        near = circle and rack.drill_for(2 * circle[1])
        (found if near else left).append(loop)
    return [CutPath("drill", loop.segments, True) for loop in found], Outline(outline.outer, tuple(left))


def cut_line(part: EvaluatedPart, outline: Outline, beam: float | Oval, rack: Rack | None) -> Outline:
    """What is followed for a part's edges: beside them, but for those that the cutter runs on."""
    beside = compensated(outline, beam, "round" if rack and rack.routing.corners == "round" else "sharp")
    on = {one.stage for one in rack.routing.on_line if one.part == part.part.id} if rack else set()
    outer = outline.outer if "outer" in on else beside.outer
    return Outline(outer, outline.cutouts if "inner" in on else beside.cutouts)


def pockets(part: EvaluatedPart, kerf: float) -> list[CutPath]:
    """Outlines of the part's pockets, moved in by half the cutter: what is inside them is cleared at the machine."""
    shrunk = [(pocket, grow([pocket.outline], -kerf / 2)) for pocket in part.pockets]
    return [
        CutPath("pocket", loop.segments, True, pocket.depth)
        for pocket, found in shrunk
        for outline in found
        for loop in outline.loops
    ]
