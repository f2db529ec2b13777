"""Shapes duplicated, pasted from another part or project, and taken away."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.ids import free_id
from ...document.model import Id, Millimetres, Model
from ...document.sizes import Size, in_digits, is_bare
from ...document.sums import Unit
from ...document.turned_over import moved_by
from ...geometry.segment import Point
from ...parts.cut_out import CutOut, names_of
from ...parts.nine import SHARES, nine_at
from ...project.project import Project
from ..items import name_of, part_of
from .chosen import ChosenShapes, runs


class DuplicateShapes(Edit):
    """Puts copies of shapes on their part, so far from them; what was placed from one another still is."""

    do: Literal["duplicate shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)
    new: list[Id] = Field(min_length=1, max_length=500)
    x: Size = Size(text="0")
    y: Size = Size(text="0")

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} duplicated"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        if len(self.new) != len(self.ids):
            raise CannotApply(f"{len(self.ids)} shapes are to be copied, and {len(self.new)} new ids are given.")
        by = complex(chosen.mm(self.x), chosen.mm(self.y))
        moved = {cut.id: cut for cut in chosen.shifted(dict.fromkeys(chosen.ids, by))}
        copies = _renamed([moved[one] for one in self.ids], dict(zip(self.ids, self.new, strict=True)), chosen)
        return chosen.with_shapes([*chosen.part.cutouts, *copies])


class Copied(Model):
    """A shape as it was copied: where its point stood (mm, in its part's frame), and what its sizes came to there."""

    shape: CutOut
    x: Millimetres
    y: Millimetres
    values: dict[str, float] = Field(default={}, max_length=2000)


class PasteShapes(Edit):
    """Puts copied shapes on a part, as far from its lower left corner as they were from theirs.

    With ``exactly``, as from another project, sizes that would come to something else here become plain numbers.
    """

    do: Literal["paste shapes"]
    part: Id
    copied: list[Copied] = Field(min_length=1, max_length=500)
    new: list[Id] = Field(min_length=1, max_length=500)
    x: Size = Size(text="0")
    y: Size = Size(text="0")
    exactly: bool = False

    def label(self, project: Project) -> str:
        count = len(self.copied)
        return f"{count} {'shape' if count == 1 else 'shapes'} pasted on {name_of(project, self.part)}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [])
        if len(self.new) != len(self.copied):
            raise CannotApply(f"{len(self.copied)} shapes are pasted, and {len(self.new)} new ids are given.")
        by = complex(chosen.mm(self.x), chosen.mm(self.y))
        ids = {one.shape.id: new for one, new in zip(self.copied, self.new, strict=True)}
        shapes = [self._placed(chosen, one, by, set(ids)) for one in self.copied]
        fresh = _renamed(shapes, ids, chosen)
        if self.exactly:
            values = {new: one.values for one, new in zip(self.copied, self.new, strict=True)}
            fresh = _as_there(chosen, fresh, values)
        return chosen.with_shapes([*chosen.part.cutouts, *fresh])

    def _placed(self, chosen: ChosenShapes, one: Copied, by: Point, inside: set[str]) -> CutOut:
        """The shape where it is pasted; from one that is pasted with it, it stays as it was placed."""
        shape, at = one.shape, complex(one.x, one.y) + by
        placed = shape
        for across, of in ((True, shape.x_of), (False, shape.y_of)):
            if of in inside:
                continue
            if of or self.exactly:
                placed = from_low_side(placed, across, at.real if across else at.imag, chosen.project.unit)
            else:
                name = "x" if across else "y"
                more = by.real * runs(shape).real if across else by.imag * runs(shape).imag
                placed = placed.model_copy(update={name: moved_by(getattr(placed, name), more)})
        return placed


def from_low_side(cut: CutOut, across: bool, place: float, unit: Unit) -> CutOut:
    """The shape with its point at a place (mm) from the part's left side, or from the bottom one."""
    kept = complex(SHARES[cut.origin])
    origin = nine_at(0, kept.imag) if across else nine_at(kept.real, 0)
    size = moved_by(Size(text="0", unit=unit), place)
    fields = {"x": size, "x_of": ""} if across else {"y": size, "y_of": ""}
    return cut.model_copy(update={"origin": origin, **fields})


class RemoveShapes(Edit):
    """Takes shapes away. What was placed from one of them stays where it is, placed from the part."""

    do: Literal["remove shapes"]
    part: Id
    ids: list[Id] = Field(min_length=1, max_length=500)

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, self.ids).names} removed"

    def said(self, before: Project, after: Project) -> str:
        chosen, now = ChosenShapes(before, self.part, self.ids), names_of(part_of(after, self.part).cutouts)
        left = [now[cut.id] for cut in self._left(chosen)]
        if not left:
            return ""
        more = f" and {len(left) - 4} more" if len(left) > 4 else ""
        return f"What stood from what is gone now stands from the part by plain numbers: {', '.join(left[:4])}{more}."

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        orphans = {cut.id: self._from_part(chosen, cut) for cut in self._left(chosen)}
        return chosen.with_shapes([orphans.get(c.id, c) for c in chosen.part.cutouts if c.id not in chosen.ids])

    def _left(self, chosen: ChosenShapes) -> list[CutOut]:
        gone = set(chosen.ids)
        return [cut for cut in chosen.part.cutouts if cut.id not in gone and cut.stands_from & gone]

    def _from_part(self, chosen: ChosenShapes, cut: CutOut) -> CutOut:
        at, gone = chosen.shape(cut.id).at, set(chosen.ids)
        placed = cut
        for across, of, place in ((True, cut.x_of, at.real), (False, cut.y_of, at.imag)):
            if of in gone:
                placed = from_low_side(placed, across, place, chosen.project.unit)
        return placed


def _renamed(shapes: Sequence[CutOut], ids: Mapping[str, str], chosen: ChosenShapes) -> list[CutOut]:
    """Shapes under new ids, in groups of their own, placed from one another as the old ones were."""
    taken = {group for cut in chosen.part.cutouts for group in cut.groups}
    groups: dict[str, str] = {}

    def renamed(cut: CutOut) -> CutOut:
        for group in cut.groups:
            if group not in groups:
                groups[group] = free_id("group", taken)
        return cut.model_copy(
            update={
                "id": ids[cut.id],
                "x_of": ids.get(cut.x_of, cut.x_of),
                "y_of": ids.get(cut.y_of, cut.y_of),
                "groups": [groups[group] for group in cut.groups],
                "starter": "",
            }
        )

    return [renamed(cut) for cut in shapes]


def _as_there(chosen: ChosenShapes, fresh: Sequence[CutOut], values: Mapping[str, Mapping[str, float]]) -> list[CutOut]:
    """Shapes with every size that would come to something else than it did where it was copied as a plain number."""
    return [_settled(chosen, cut, values[cut.id]) for cut in fresh]


def _settled(chosen: ChosenShapes, cut: CutOut, there: Mapping[str, float]) -> CutOut:
    def settled(thing: Any, at: str) -> Any:
        if isinstance(thing, Size):
            wanted = there.get(at)
            if wanted is None or is_bare(thing) or any(abs(one - wanted) < 1e-9 for one in chosen.comes_to(thing)):
                return thing
            return Size(text=in_digits(wanted))
        if isinstance(thing, Model):
            names = type(thing).model_fields
            return thing.model_copy(update={n: settled(getattr(thing, n), f"{at}/{n}".strip("/")) for n in names})
        if isinstance(thing, list):
            return [settled(item, f"{at}/{number}") for number, item in enumerate(thing)]
        return thing

    # Sizes of its shape are read by their own names alone.
    names = type(cut).model_fields
    return cut.model_copy(update={n: settled(getattr(cut, n), "" if n == "hole" else n) for n in names})
