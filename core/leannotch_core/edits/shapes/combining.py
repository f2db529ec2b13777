"""Shapes joined to one whose shapes stay as they were typed, and taken apart again."""

from __future__ import annotations

import cmath
import math
from typing import Literal

from pydantic import Field

from ...document.edit import CannotApply, Changes, Edit
from ...document.ids import free_id
from ...document.model import Id
from ...document.sizes import Size
from ...document.turned_over import moved_by, turned_by
from ...geometry.segment import Motion, Point, move
from ...parts.cut_out import CutOut
from ...parts.shapes.combined import Combined, Member
from ...project.project import Project
from .chosen import ChosenShapes
from .copying import RemoveShapes, from_low_side


class CombineShapes(Edit):
    """Joins shapes to one that does what the first of them did: all together, the first less the others, or what they
    have in common.
    """

    do: Literal["combine shapes"]
    part: Id
    ids: list[Id] = Field(min_length=2, max_length=40)
    how: Literal["add", "take away", "in common"]

    def label(self, project: Project) -> str:
        words = {"add": "joined", "take away": "taken from the first", "in common": "cut to what they have in common"}
        return f"{ChosenShapes(project, self.part, self.ids).names} {words[self.how]}"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, self.ids)
        first = chosen.typed(chosen.ids[0])
        for one in chosen.ids:
            cut = chosen.typed(one)
            if isinstance(cut.hole, Combined):
                raise CannotApply(f"{chosen.called(one)} is combined already; take it apart first.")
            if cut.copies > 1 or chosen.shape(one).open_lines:
                why = "stands in many places" if cut.copies > 1 else "encloses nothing"
                raise CannotApply(f"{chosen.called(one)} {why}, so it cannot be combined; take it alone, or close it.")
        zero = chosen.shape(first.id).own_point("middle")
        members = [self._member(chosen, one, zero) for one in chosen.ids]
        hole = Combined(members=members)
        whole = from_low_side(from_low_side(first, True, zero.real, project.unit), False, zero.imag, project.unit)
        whole = whole.model_copy(update={"hole": hole, "point": "middle", "turn": Size(text="0"), "mirrored": False})
        rest = RemoveShapes(do="remove shapes", part=self.part, ids=chosen.ids[1:]).changes(project)
        [part] = [part for part in rest["parts"] if part.id == self.part]
        return chosen.with_shapes([whole if cut.id == first.id else cut for cut in part.cutouts])

    def _member(self, chosen: ChosenShapes, cut_id: str, zero: Point) -> Member:
        cut, at = chosen.typed(cut_id), chosen.shape(cut_id).own_point("middle") - zero
        nothing = Size(text="0", unit=chosen.project.unit)
        return Member.model_validate(
            {
                "hole": cut.hole,
                "x": moved_by(nothing, at.real),
                "y": moved_by(nothing, at.imag),
                "turn": cut.turn,
                "mirrored": cut.mirrored,
                "how": self.how if cut_id != chosen.ids[0] else "add",
            }
        )


class TakeApart(Edit):
    """A combined shape as the shapes that it is made of, each where it stood."""

    do: Literal["take apart"]
    part: Id
    id: Id

    def label(self, project: Project) -> str:
        return f"{ChosenShapes(project, self.part, [self.id]).names} taken apart"

    def changes(self, project: Project) -> Changes:
        chosen = ChosenShapes(project, self.part, [self.id])
        cut = chosen.typed(self.id)
        if not isinstance(cut.hole, Combined):
            raise CannotApply(f"{chosen.called(self.id)} is not made of other shapes.")
        taken = {one.id for one in chosen.part.cutouts}
        frame = chosen.shape(self.id).frame
        apart = [self._alone(chosen, cut, frame, number) for number in range(len(cut.hole.members))]
        named = [one.model_copy(update={"id": free_id(f"{self.id}"[:34], taken)}) for one in apart[1:]]
        cutouts = [
            one for known in chosen.part.cutouts for one in ([apart[0], *named] if known.id == cut.id else [known])
        ]
        return chosen.with_shapes(cutouts)

    def _alone(self, chosen: ChosenShapes, cut: CutOut, frame: Motion, number: int) -> CutOut:
        assert isinstance(cut.hole, Combined)
        member, path = cut.hole.members[number], f"parts/{self.part}/cutouts/{cut.id}/members/{number}/"
        x, y, turn = (chosen.value(f"{path}{name}") for name in ("x", "y", "turn"))
        over = Motion(-1, 0, mirrored=True) if cut.mirrored else Motion()
        inner = (Motion(-1, 0, mirrored=True) if member.mirrored else Motion()).then(move(turn, complex(x, y)))
        whole = inner.then(over).then(frame)
        at = whole(0)
        # What is left of the way there, once it is turned over, is a turn.
        plain = whole.turn if not whole.mirrored else -whole.turn
        degrees = math.degrees(cmath.phase(plain))
        alone = cut.model_copy(
            update={
                "hole": member.hole,
                "point": "middle",
                "turn": turned_by(Size(text="0"), round(degrees, 6)),
                "mirrored": whole.mirrored,
                "name": "",
            }
        )
        return from_low_side(
            from_low_side(alone, True, at.real, chosen.project.unit), False, at.imag, chosen.project.unit
        )
