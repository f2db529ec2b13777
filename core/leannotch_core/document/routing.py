"""How a router cuts: with which cutters, how it goes down, and in which direction."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .model import Id, Model
from .sizes import Angle, Size

Direction = Literal["climb", "conventional"]

Entry = Literal["ramp", "helix", "straight"]


class RoutedAt(Model):
    """How a cutter went round: in which direction, by steps of so many mm (0 where nobody said), and whether the last
    was taken in a pass of its own.
    """

    cutter: Id
    direction: Direction
    stepdown: float = Field(default=0, ge=0, le=200)
    finished: bool = False

    def __str__(self) -> str:
        steps = f", steps of {self.stepdown:g} mm" if self.stepdown else ""
        return f"{self.direction}{steps}{', with a finishing pass' if self.finished else ''}"


class OnLine(Model):
    """Cuts of a part whose middle line the cutter follows, so that half its width is taken from the part."""

    part: Id
    stage: Literal["inner", "outer"]


class Routing(Model):
    """``cutter`` cuts parts out. Pockets and marks have it too unless they have another; ``rest`` clears of a pocket
    what its cutter is too wide for, and ``drills`` make those round holes that are just as wide as they are.

    A through cut goes ``overcut`` below the thickest reading. The last ``finishing`` beside a cut is taken in a pass
    of its own. ``stepover`` is a share of the diameter. Nothing moves at speed below ``safe`` over the sheet, and
    ``clips`` is how far clips stand up from it.
    """

    cutter: Literal[""] | Id = ""
    pockets: Literal[""] | Id = ""
    rest: Literal[""] | Id = ""
    marks: Literal[""] | Id = ""
    drills: list[Id] = Field(default=[], max_length=8)
    overcut: Size = Size(text="0.1")
    direction: Direction = "climb"
    finishing: Size = Size(text="0")
    entry: Entry = "ramp"
    ramp: Angle = Angle(text="3")
    lead: Size = Size(text="0")
    goes: Literal["one after the other", "pass by pass"] = "one after the other"
    corners: Literal["round", "sharp"] = "round"
    clearing: Literal["offsets", "zigzag"] = "offsets"
    stepover: float = Field(default=0.4, ge=0.02, le=0.95)
    peck: Size = Size(text="4")
    mark_depth: Size = Size(text="0.4")
    safe: Size = Size(text="5")
    clips: Size = Size(text="4")
    on_line: list[OnLine] = Field(default=[], max_length=2000)
