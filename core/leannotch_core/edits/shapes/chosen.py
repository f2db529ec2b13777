"""The shapes on a part that an edit is about, as they stand and as they were typed."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import suppress

from ...document.edit import CannotApply, Changes
from ...document.sizes import Size, length, number
from ...document.sums import SizeError
from ...document.turned_over import moved_by
from ...evaluate import EvaluatedPart, evaluate
from ...geometry.loop import Bounds, joined_bounds
from ...parts.cut_out import CutOut, called
from ...parts.nine import inward, outward
from ...parts.on_part import CutOutShape
from ...parts.part import Part
from ...project.project import Project
from ..items import part_of, put


class ChosenShapes:
    """Some shapes on a part. Raises `CannotApply` where the part or a shape is not there, or cannot be built."""

    def __init__(self, project: Project, part_id: str, ids: Sequence[str]) -> None:
        self.project, self.part = project, part_of(project, part_id)
        self.ids = list(dict.fromkeys(ids))
        self._result = evaluate(project)
        self._typed = {cut.id: cut for cut in self.part.cutouts}
        for cut_id in self.ids:
            self.typed(cut_id)

    def typed(self, cut_id: str) -> CutOut:
        if cut_id not in self._typed:
            raise CannotApply(f"“{cut_id}” is not on {self.part.name} any more.")
        return self._typed[cut_id]

    @property
    def drawn(self) -> EvaluatedPart:
        drawn = self._result.parts.get(self.part.id)
        if drawn is None:
            raise CannotApply(f"{self.part.name} cannot be built as it is; mend that first.")
        return drawn

    def shape(self, cut_id: str) -> CutOutShape:
        """A shape in place."""
        found = next((shape for shape in self.drawn.cutouts if shape.id == cut_id), None)
        if found is None:
            raise CannotApply(f"{self.called(cut_id)} cannot be drawn as it is; mend that first.")
        return found

    def called(self, cut_id: str) -> str:
        return called(self.part.cutouts, cut_id)

    @property
    def names(self) -> str:
        """What they are called, for the history."""
        names = [self.called(one) for one in self.ids[:3]]
        return ", ".join(names) + (f" and {len(self.ids) - 3} more" if len(self.ids) > 3 else "")

    def box(self, ids: Iterable[str]) -> Bounds:
        return joined_bounds(self.shape(one).box for one in ids)

    def mm(self, size: Size) -> float:
        """A typed length, with the names that the part's sizes may use."""
        try:
            return length(size, self._names())
        except SizeError as error:
            raise CannotApply(f"{error}.") from error

    def value(self, path: str) -> float:
        """What a size of the document came to, by its path."""
        return self._result.values[path]

    def comes_to(self, size: Size) -> list[float]:
        """What a size may come to here: as a length (mm), and as a plain number."""
        found = []
        with suppress(SizeError):
            found.append(length(size, self._names()))
        with suppress(SizeError):
            found.append(number(size))
        return found

    def degrees(self, size: Size) -> float:
        try:
            return number(size)
        except SizeError as error:
            raise CannotApply(f"{error}.") from error

    def _names(self) -> Mapping[str, float]:
        drawn = self.drawn
        own = {"width": drawn.width, "height": drawn.height, "thickness": drawn.stock.thickness}
        clearance = self._result.names.get(f"{self.part.stock}.clearance", 0.0)
        return {**self._result.names, **own, "kerf": drawn.stock.kerf, "clearance": clearance}

    def units(self) -> list[list[str]]:
        """The chosen ones in what moves as one: groups, and those that are in none."""
        groups: dict[str, list[str]] = {}
        for one in self.ids:
            inside = self.typed(one).groups
            groups.setdefault(f"group {inside[0]}" if inside else one, []).append(one)
        return list(groups.values())

    def shifted(self, shifts: Mapping[str, complex]) -> list[CutOut]:
        """The part's shapes with some moved (mm); what stands from another one goes with it, and is not moved twice."""
        gone: dict[tuple[str, bool], float] = {}

        def goes(cut_id: str, across: bool) -> float:
            """How far a shape goes in the end; found by a walk, as a chain of them may be long."""
            way, at = [], cut_id
            while at and at not in shifts and (at, across) not in gone:
                way.append(at)
                at = (self._typed[at].x_of if across else self._typed[at].y_of) if at in self._typed else ""
            shift = shifts.get(at, 0j)
            far = gone.get((at, across), shift.real if across else shift.imag)
            gone.update({(one, across): far for one in way})
            return far

        def changed(cut: CutOut) -> CutOut:
            more = shifts[cut.id] - complex(goes(cut.x_of, True), goes(cut.y_of, False))
            signs = runs(cut)
            x, y = moved_by(cut.x, more.real * signs.real), moved_by(cut.y, more.imag * signs.imag)
            return cut.model_copy(update={"x": x, "y": y})

        return [changed(cut) if cut.id in shifts else cut for cut in self.part.cutouts]

    def with_shapes(self, cutouts: Sequence[CutOut]) -> Changes:
        """The project's parts with other shapes on this one."""
        part: Part = self.part.model_copy(update={"cutouts": list(cutouts)})
        return {"parts": put(self.project.parts, part)}

    def each(self, change: Callable[[CutOut], CutOut]) -> Changes:
        """The project's parts with each of the chosen ones changed."""
        return self.with_shapes([change(cut) if cut.id in self.ids else cut for cut in self.part.cutouts])


def runs(cut: CutOut) -> complex:
    """Which way positive distances of a shape run, across and up."""
    across = outward(cut.origin) if cut.x_of else inward(cut.origin)
    up = outward(cut.origin) if cut.y_of else inward(cut.origin)
    return complex(across.real, up.imag)
