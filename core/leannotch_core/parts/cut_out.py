"""Shapes on a part: cut out, added, kept, sunk, marked on it or only drawn under it, once or many times."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from ..document.model import PRINTABLE, Id, Model, Owner
from ..document.operations import MARKS
from ..document.sizes import Size
from .nine import Nine
from .repeats.grid import Grid
from .repeats.kinds import Repeat
from .shapes.kinds import Hole

#: What shapes on a part do along their lines, with nothing taken away.
LINED = (*MARKS, "reference")

#: How many places a twin makes of one.
_TWINS = {"none": 1, "left and right": 2, "up and down": 2, "both": 4}


#: What a shape on a part may do there.
Does = Literal["cut out", "add", "keep", "pocket", "fill", "score", "engrave", "reference"]


class CutOut(Model):
    """A shape on a part.

    It is placed by ``point``, one of the nine of its own box before it is turned (``middle`` is where it is drawn
    about): ``x`` across and ``y`` up from ``origin``, one of the nine points of the part's rectangle, or of the flange
    that it is ``on``, from the outside of its bend to its edge. Across it may instead stand from the shape ``x_of``,
    up from the shape ``y_of``; then ``origin`` is a point of all that shape's box. Distances run into the part, and
    away from another shape. It is turned about its point.

    What it ``does``: it is cut out; added to the part; kept as the only material; sunk as a pocket ``depth`` deep;
    engraved all over (``fill``); scored or engraved along its lines; or drawn as a reference, which no machine sees.

    Each place of its ``repeat`` may have a ``twin``, mirrored in the part's middle line; places ``left_out`` are
    numbered from 0 through all of them. ``groups`` are those that it moves with, the outermost first. ``starter`` is
    the id of the starter that made it.
    """

    id: Id
    name: Annotated[str, Field(max_length=60), PRINTABLE] = ""
    hole: Hole
    point: Nine = "middle"
    origin: Nine = "bottom left"
    x: Size
    y: Size
    on: Literal[""] | Id = ""
    x_of: Literal[""] | Id = ""
    y_of: Literal[""] | Id = ""
    turn: Size = Size(text="0")
    mirrored: bool = False
    does: Does = "cut out"
    depth: Size = Size(text="thickness/2")
    repeat: Repeat = Grid()
    twin: Literal["none", "left and right", "up and down", "both"] = "none"
    left_out: list[Annotated[int, Field(ge=0, le=14400)]] = Field(default=[], max_length=400)
    groups: list[Id] = Field(default=[], max_length=6)
    hidden: bool = False
    starter: Owner = ""

    @property
    def copies(self) -> int:
        return self.repeat.copies * _TWINS[self.twin]

    @property
    def lines(self) -> int:
        return self.copies * self.hole.lines

    @property
    def stands_from(self) -> frozenset[str]:
        """The shapes that it is placed from."""
        return frozenset({self.x_of, self.y_of} - {""})


def names_of(cutouts: Sequence[CutOut]) -> dict[str, str]:
    """What the shapes on a part are called: by their own names, or by what they are and their number on the part."""
    return {cut.id: cut.name or f"{cut.hole.title} {number}" for number, cut in enumerate(cutouts, 1)}


def called(cutouts: Sequence[CutOut], cut_id: str) -> str:
    """What one shape on a part is called."""
    return names_of(cutouts).get(cut_id, cut_id)
