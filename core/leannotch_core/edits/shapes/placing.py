"""Shapes on a part placed exactly: from another point, from another shape, at a gap from a neighbour."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.model import Id, Side
from ...document.sizes import Size
from ...document.turned_over import moved_by
from ...geometry.loop import Bounds
from ...parts.cut_out import CutOut
from ...parts.nine import SHARES, Nine, nine_at, point_of
from ...project.project import Project
from .chosen import ChosenShapes, runs


class PlaceFrom(Edit):
    """Places a shape by another point of its own, or from another point, shape or flange; it stays where it is."""

    do: Literal["place from"]
    part: Id
    id: Id
    point: Nine
    origin: Nine
    on: Literal[""] | Id = ""
    x_of: Literal[""] | Id = ""
    y_of: Literal[""] | Id = ""

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, [self.id]).names} placed from elsewhere"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        cut = chosen.typed(self.id)
        asked = {"point": self.point, "origin": self.origin, "on": self.on, "x_of": self.x_of, "y_of": self.y_of}
        return chosen.each(lambda _: standing(chosen, cut.model_copy(update=asked)))


class SetGap(Edit):
    """Sets a shape at a gap from the side of another one (``of``), or of the part, that it faces with its own ``side``.

    It stands from there from then on, across or up, so that the gap stays.
    """

    do: Literal["set gap"]
    part: Id
    id: Id
    side: Side
    of: Literal[""] | Id
    gap: Size

    def label(self, project: Project) -> str:
        chosen = ChosenShapes(project, self.part, [self.id])
        return f"{chosen.names} {self.gap.text} from {chosen.called(self.of) if self.of else 'the edge'}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        chosen.mm(self.gap)
        cut, across = chosen.typed(self.id), self.side in ("left", "right")
        low = self.side in ("left", "bottom")
        # It faces the part's own side of that name, but the other side of a neighbour.
        theirs = (0 if low else 1) if not self.of else (1 if low else 0)
        mine = 0 if low else 1
        changed = cut.model_copy(
            update={
                "point": _with_share(cut.point, mine, across),
                "origin": _with_share(cut.origin, theirs, across),
                "x_of" if across else "y_of": self.of,
            }
        )
        changed = standing(chosen, changed)
        # Where its own point is not on its box, as of one that is turned or repeated, the rest is added.
        shape = chosen.shape(self.id)
        now = _facing(shape.box, self.side)
        box = chosen.shape(self.of).box if self.of else _of_part(chosen, cut.on)
        facing = _OTHER[self.side] if self.of else self.side
        target = _facing(box, facing)
        gap_now = (now - target) * (1 if low else -1)
        typed = chosen.mm(changed.x if across else changed.y)
        more = typed - gap_now
        size = self.gap if abs(more) < 1e-4 else moved_by(self.gap, more)
        return chosen.each(lambda _: changed.model_copy(update={"x" if across else "y": size}))


class LeaveOut(Edit):
    """Leaves one place of a repeat out, or takes it in again."""

    do: Literal["leave out"]
    part: Id
    id: Id
    place: int = Field(ge=0, le=14400)
    out: bool

    def label(self, project: Project) -> str:
        names = ChosenShapes(project, self.part, [self.id]).names
        return f"{names}, place {self.place + 1} {'left out' if self.out else 'taken in'}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        kept = {place for place in chosen.typed(self.id).left_out if place != self.place}
        places = sorted(kept | {self.place} if self.out else kept)
        return chosen.each(lambda cut: cut.model_copy(update={"left_out": places}))


_OTHER: dict[str, Side] = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}


def standing(chosen: ChosenShapes, cut: CutOut) -> CutOut:
    """A shape that stays where it is, with the distances that it has as it is placed now.

    A distance that comes to what it did stays as it was typed.
    """
    before = chosen.typed(cut.id)
    at = chosen.shape(cut.id).own_point(cut.point)
    start = complex(_origin(chosen, cut, cut.x_of).real, _origin(chosen, cut, cut.y_of).imag)
    signs, way = runs(cut), at - start
    x, y = way.real * signs.real, way.imag * signs.imag
    same_x = runs(before).real == signs.real and abs(chosen.mm(before.x) - x) < 1e-6
    same_y = runs(before).imag == signs.imag and abs(chosen.mm(before.y) - y) < 1e-6
    zero = Size(text="0", unit=chosen.project.unit)
    return cut.model_copy(
        update={"x": before.x if same_x else moved_by(zero, x), "y": before.y if same_y else moved_by(zero, y)}
    )


def _origin(chosen: ChosenShapes, cut: CutOut, of: str) -> complex:
    return point_of(chosen.shape(of).box if of else _of_part(chosen, cut.on), cut.origin)


def _of_part(chosen: ChosenShapes, on: str) -> Bounds:
    """What distances into the part are measured in: the part's rectangle, or the flange that a shape is on."""
    if not on:
        return (0.0, 0.0, chosen.drawn.width, chosen.drawn.height)
    if on not in chosen.drawn.legs:
        raise CannotApply(f"There is no flange “{on}” on {chosen.part.name} any more.")
    return chosen.drawn.legs[on]


def _facing(box: Bounds, side: Side) -> float:
    return box[("left", "bottom", "right", "top").index(side)]


def _with_share(nine: Nine, share: float, across: bool) -> Nine:
    """A point with another share across or up."""
    kept = complex(SHARES[nine])
    return nine_at(share, kept.imag) if across else nine_at(kept.real, share)
