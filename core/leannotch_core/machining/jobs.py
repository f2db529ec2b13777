"""Jobs: what is done to each copy on a sheet, stage by stage, before anything is put in order."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from ..document.preparation import Stage
from ..document.sheet import Placement
from ..evaluate import EvaluatedPart
from ..geometry.loop import Outline
from ..geometry.offset import grow
from ..layout.sheets import motion
from .edges import Edges
from .lettered import marks, name_of
from .path import CutPath


class Key(NamedTuple):
    """One stage of one copy of a part."""

    stage: Stage
    part: str
    copy_number: int


@dataclass(frozen=True, slots=True)
class Job:
    """The lines of one stage of one copy, in the frame of the sheet. ``inside`` counts the parts that it lies in."""

    key: Key
    paths: tuple[CutPath, ...]
    inside: int = 0


#: Stages by the operation of their lines, but for cuts.
_STAGES: Mapping[str, Stage] = {"fill": "fill", "engrave": "engrave", "score": "score", "pocket": "pocket"}


@lru_cache(maxsize=2048)
def compensated(outline: Outline, kerf: float) -> Outline:
    """The cut line of a finished outline: outsides move out by half a kerf, cut-outs in.

    A cut-out narrower than the kerf closes up and is missing from the answer.
    """
    return grow([outline], kerf / 2)[0]


def loses_something(part: EvaluatedPart, kerf: float) -> bool:
    """Whether a cut-out or a pocket of the part is too narrow for the kerf (mm)."""
    whole = len(compensated(part.outline, kerf).cutouts) == len(part.outline.cutouts)
    return not whole or len(pockets(part, kerf)) < len(part.pockets)


def jobs_of(
    part: EvaluatedPart, placement: Placement, kerf: float, named: bool, inside: int, edges: Edges
) -> Iterator[Job]:
    """All that is done to a copy, in the order of the trade. ``kerf`` (mm) is what the lines make up for."""
    place = motion(placement)
    lined = [*marks(part), *(name_of(part, placement) if named else ()), *pockets(part, kerf)]
    by_stage: dict[Stage, list[CutPath]] = {stage: [] for stage in _STAGES.values()}
    for path in lined:
        by_stage[_STAGES[path.operation]].append(path)
    outer, *inner = edges.cut_lines(part, compensated(part.outline, kerf))
    by_stage["inner"] = inner
    if part.part.edge == "cut":
        by_stage["outer"] = [outer]
    elif part.part.edge != "nothing":
        by_stage["outer"] = [CutPath(part.part.edge, part.outline.outer.segments, True)]
    for stage, paths in by_stage.items():
        if paths:
            key = Key(stage, placement.part, placement.copy_number)
            yield Job(key, tuple(path.moved(place) for path in paths), inside)


def pockets(part: EvaluatedPart, kerf: float) -> list[CutPath]:
    """Outlines of the part's pockets, moved in by half the cutter: what is inside them is cleared at the machine."""
    shrunk = [(pocket, grow([pocket.outline], -kerf / 2)) for pocket in part.pockets]
    return [CutPath("pocket", found[0].outer.segments, True, pocket.depth) for pocket, found in shrunk if found]
