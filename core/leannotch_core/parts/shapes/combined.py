"""Shapes joined to one: each stays as it was typed, and the outcome follows."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field

from ...document.model import Model
from ...document.sizes import Size, typed_in
from ...document.sums import Unit
from ...geometry.boolean import intersect, subtract, union
from ...geometry.loop import Outline
from ...geometry.segment import Motion, move
from .round_hole import RoundHole
from .shape import BaseHole, Pen, plain, under
from .simple import Simple


class Member(Model):
    """A shape of a combined one: its middle from the zero of that one, and how it goes with those before it."""

    hole: Simple
    x: Size = Size(text="0")
    y: Size = Size(text="0")
    turn: Size = Size(text="0")
    mirrored: bool = False
    how: Literal["add", "take away", "in common"] = "add"

    @property
    def lines(self) -> int:
        return self.hole.lines


class Combined(BaseHole):
    """Shapes joined to one, one after the other."""

    kind: Literal["combined"] = "combined"
    members: list[Member] = Field(min_length=1, max_length=40)

    @property
    def title(self) -> str:
        return "combined shape"

    @property
    def lines(self) -> int:
        return 2 * sum(member.lines for member in self.members)

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(
            members=[
                Member(hole=RoundHole(diameter=typed_in(unit, 20))),
                Member(hole=RoundHole(diameter=typed_in(unit, 14)), x=typed_in(unit, 6), how="take away"),
            ]
        )

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        region: list[Outline] = []
        for number, member in enumerate(self.members):
            shapes = self._placed(pen, number, member)
            if shapes is None:
                return None
            if not number or member.how == "add":
                region = union(region, shapes)
            elif member.how == "take away":
                region = subtract(region, shapes)
            else:
                region = intersect(region, union(shapes))
        if not region:
            pen.error(
                "nothing-left", "nothing is left of the shapes that it is made of; move one or change how", "members"
            )
            return None
        return tuple(region)

    def _placed(self, pen: Pen, number: int, member: Member) -> list[Outline] | None:
        own = under(pen, f"members/{number}", f"shape {number + 1} of it")
        x, y = own.read("x", member.x, called="across"), own.read("y", member.y, called="up")
        turn = own.read("turn", member.turn, plain)
        outlines = member.hole.outlines(under(own, "hole", ""))
        if x is None or y is None or turn is None or outlines is None:
            return None
        place = move(turn, complex(x, y))
        motion = Motion(-1, 0, mirrored=True).then(place) if member.mirrored else place
        return [outline.moved(motion) for outline in outlines]

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return sum(len(outline.cutouts) for outline in outlines)
