"""Edits of how sheets are prepared for the machine."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Literal

from pydantic import Field

from ..document.edit import CannotApply, Changes, Edit
from ..document.keep_out import SheetPoint
from ..document.limits import MOST_OF_A_PART
from ..document.model import Id
from ..document.preparation import HeldPart, Preparation, StartPoint
from ..document.sizes import Size, shown
from ..evaluate import EvaluatedPart, evaluate
from ..facts.cutters import cutter_facts
from ..facts.findings import Finding, Mend
from ..geometry.loop import Loop
from ..geometry.segment import Point
from ..layout.sheets import motion
from ..machining.edge import OnEdge, found, nearest, place_at, point_of
from ..machining.edges import tabs_of
from ..machining.holding import clear_of_ends, width_of
from ..machining.routed.rack import rack_of, read
from ..project.project import Project
from .items import name_of

#: What each field of a preparation is called in the history.
_CALLED = {
    "arrange": "Running order arranged anew",
    "order": "Running order changed",
    "starts": "Start points moved",
    "lead": "Lead-in changed",
    "begun": "Cuts begun elsewhere",
    "cooling": "Thin webs let cool",
    "common_lines": "Common lines changed",
    "holding": "Holding tabs changed",
    "held": "Holding tabs put by hand",
    "on_bed": "Sheet laid elsewhere on the bed",
    "gathered": "Parts gathered",
    "routing": "How the router cuts changed",
}

#: A start that is put as near (mm) to a corner as this is put on it: there nobody sees it.
SNAP = 1.5


class SetPreparation(Edit):
    do: Literal["set preparation"] = "set preparation"
    preparation: Preparation

    def label(self, project: Project) -> str:
        before = project.preparation
        changed = [name for name in _CALLED if getattr(before, name) != getattr(self.preparation, name)]
        return _CALLED[changed[0]] if changed else "Prepared as before"

    def changes(self, project: Project) -> Changes:
        after = project.model_copy(update={"preparation": self.preparation})
        read(self.preparation.routing, self.preparation.holding)
        rack_of(after, "")
        return {"preparation": self.preparation}


class _OnCopy(Edit):
    """Something on the edge of a part, shown by a place on one of its copies: it holds for all of them."""

    part: Id
    copy_number: int = Field(ge=1, le=MOST_OF_A_PART)

    def part_of(self, project: Project) -> EvaluatedPart:
        part = evaluate(project).parts.get(self.part)
        if part is None:
            raise CannotApply(f"“{name_of(project, self.part)}” cannot be built; mend it first.")
        return part

    def on_part(self, project: Project, at: SheetPoint) -> Point:
        """A place of the sheet in the frame of the part that lies there."""
        for placement in project.layout.placements:
            if (placement.part, placement.copy_number) == (self.part, self.copy_number):
                return motion(placement).back(complex(at.x, at.y))
        raise CannotApply(f"{name_of(project, self.part)} {self.copy_number} is not laid out.")


class MoveStart(_OnCopy):
    """Begins the cut of an outline or cut-out at the place nearest to one on the sheet, on a corner if that is near."""

    do: Literal["move start"]
    to: SheetPoint

    def label(self, project: Project) -> str:
        return f"Start point of {name_of(project, self.part)} moved"

    def changes(self, project: Project) -> Changes:
        loops = self.part_of(project).outline.loops
        at = nearest(loops, self.on_part(project, self.to))
        segment = loops[at.loop].segments[at.segment]
        along = at.share * segment.length
        if min(along, segment.length - along) < SNAP:
            at = OnEdge(at.loop, at.segment, 0.0 if along < segment.length / 2 else 1.0)
        starts = [s for s in project.preparation.starts if s.part != self.part or _loop_of(loops, s) != at.loop]
        starts.append(StartPoint(part=self.part, at=place_at(loops, at)))
        return {"preparation": project.preparation.model_copy(update={"starts": starts})}


def _loop_of(loops: Sequence[Loop], start: StartPoint) -> int | None:
    there = found(loops, start.at)
    return there.loop if there else None


class LetStartsGo(Edit):
    """Lets the cuts of a part begin where the way is short again."""

    do: Literal["let starts go"]
    part: Id

    def label(self, project: Project) -> str:
        return f"Start points of {name_of(project, self.part)} let go"

    def changes(self, project: Project) -> Changes:
        starts = [start for start in project.preparation.starts if start.part != self.part]
        return {"preparation": project.preparation.model_copy(update={"starts": starts})}


class MoveTab(_OnCopy):
    """Moves the holding tab nearest to a place; adds one where none is said, and takes it away with nowhere to go."""

    do: Literal["move tab"]
    at: SheetPoint | None = None
    to: SheetPoint | None = None

    def label(self, project: Project) -> str:
        what = "taken away" if self.to is None else "added" if self.at is None else "moved"
        return f"Holding tab of {name_of(project, self.part)} {what}"

    def changes(self, project: Project) -> Changes:
        part = self.part_of(project)
        loops = part.outline.loops
        tabs = tabs_of(project.preparation, part, loops)
        if self.at is not None and tabs:
            here = self.on_part(project, self.at)
            tabs.remove(min(tabs, key=lambda tab: abs(point_of(loops, tab) - here)))
        if self.to is not None:
            tabs.append(self._room(project, loops, tabs, self.to))
        return _held(project, HeldPart(part=self.part, tabs=[place_at(loops, tab) for tab in tabs]))

    def _room(self, project: Project, loops: Sequence[Loop], tabs: Sequence[OnEdge], to: SheetPoint) -> OnEdge:
        """Where on the edge a tab can stand that is wanted there. Raises `CannotApply`."""
        width = width_of(project.preparation.holding)
        at = nearest(loops, self.on_part(project, to))
        clear = clear_of_ends(loops, at, width)
        if clear is None:
            long = shown(loops[at.loop].segments[at.segment].length)
            raise CannotApply(f"The edge is {long} long there; a holding tab of {shown(width)} needs a longer one.")
        here = point_of(loops, clear)
        if any(abs(point_of(loops, tab) - here) < 3 * width for tab in tabs):
            raise CannotApply("A holding tab stands there already; put the other one further away.")
        return clear


class LetTabsGo(Edit):
    """Lets the holding tabs of a part stand where they are put by themselves."""

    do: Literal["let tabs go"]
    part: Id

    def label(self, project: Project) -> str:
        return f"Holding tabs of {name_of(project, self.part)} let go"

    def changes(self, project: Project) -> Changes:
        held = [own for own in project.preparation.held if own.part != self.part]
        return {"preparation": project.preparation.model_copy(update={"held": held})}


def _held(project: Project, part: HeldPart) -> Changes:
    others = [own for own in project.preparation.held if own.part != part.part]
    return {"preparation": project.preparation.model_copy(update={"held": [*others, part]})}


def with_mends(finding: Finding, project: Project) -> Finding:
    """A finding of a prepared sheet with what would settle it."""
    mends = _MENDS.get(finding.code)
    found = mends(project) if mends else None
    return finding.model_copy(update={"mends": (found,)}) if found else finding


def _by_the_rule(project: Project) -> Mend:
    by_rule = project.preparation.model_copy(update={"order": []})
    return Mend(label="Put it in the order of the rule", command=SetPreparation(preparation=by_rule))


def _with_tabs(project: Project) -> Mend:
    holding = project.preparation.holding.model_copy(update={"how": "by count", "count": 4, "width": Size(text="5")})
    held = project.preparation.model_copy(update={"holding": holding})
    return Mend(label="Put four holding tabs on each part", command=SetPreparation(preparation=held))


def _over_clips(project: Project) -> Mend:
    routing = project.preparation.routing
    higher = Size(text=f"({routing.clips.text}) + 3", unit=routing.clips.unit)
    safe = routing.model_copy(update={"safe": higher})
    prepared = project.preparation.model_copy(update={"routing": safe})
    return Mend(label="Go 3 mm over the clips", command=SetPreparation(preparation=prepared))


def _smaller_cutter(project: Project) -> Mend | None:
    """The next smaller cutter of the rack for parts and cut-outs."""
    sizes = {cutter.id: cutter_facts(cutter).diameter for cutter in project.cutters if cutter.tip != "V"}
    now = sizes.get(project.preparation.routing.cutter, 0.0)
    smaller = [cutter for cutter in project.cutters if cutter.id in sizes and sizes[cutter.id] < now]
    if not smaller:
        return None
    best = max(smaller, key=lambda cutter: sizes[cutter.id])
    routing = project.preparation.routing.model_copy(update={"cutter": best.id})
    prepared = project.preparation.model_copy(update={"routing": routing})
    return Mend(label=f"Cut with {best.name}", command=SetPreparation(preparation=prepared))


_MENDS: Mapping[str, Callable[[Project], Mend | None]] = {
    "cut-too-early": _by_the_rule,
    "not-held": _with_tabs,
    "clips-too-high": _over_clips,
    "too-narrow": _smaller_cutter,
}
