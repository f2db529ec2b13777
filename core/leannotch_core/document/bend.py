"""Bends: lines that a part is bent along after it is cut, and flanges on its edges; and how a stock takes them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .model import PRINTABLE, Id, Model, Owner, Side
from .sizes import Angle, Size

#: Where a leg's length ends at a bend: at the outside or the inside of the bent corner, or on the flat sheet at the
#: middle of the bend.
Measured = Literal["outside", "inside", "flat"]

Way = Literal["up", "down"]


class _Bent(Model):
    """``angle`` is turned from flat, in degrees: 0 is flat, 90 square. ``up`` is towards the drawn face.

    ``radius`` is that of the inside; radius and ``k`` are those of the stock where nothing is typed. ``length`` is
    ``measured`` as said. ``starter`` is the id of the starter that made it.
    """

    id: Id
    name: Annotated[str, Field(max_length=60), PRINTABLE] = ""
    length: Size
    measured: Measured = "outside"
    angle: Angle = Angle(text="90")
    way: Way = "up"
    radius: Size | None = None
    k: float | None = Field(default=None, gt=0, lt=1)
    starter: Owner = ""


class BendLine(_Bent):
    """A bend across the drawn outline.

    It lies ``length`` away, the way that it ``runs``, from the part's edge, or from the bend or shape ``of`` that id;
    ``turn`` (degrees) is how it is turned about its middle from lying square to that way.
    """

    kind: Literal["line"] = "line"
    runs: Literal["right", "left", "up", "down"] = "up"
    of: Literal[""] | Id = ""
    turn: Angle = Angle(text="0")


class Flange(_Bent):
    """An edge added to a ``side`` of the part, or to the end of the flange ``of`` that id.

    The side stays where it is drawn: there the bent flange has its outside. ``start`` and ``end`` (mm) stay free at
    the ends of the side, with a ``relief`` cut beside the bend, ``relief_width`` wide. With ``mitre`` its ends follow
    a neighbour's, ``gap`` apart once both are bent.
    """

    kind: Literal["flange"] = "flange"
    side: Side = "top"
    of: Literal[""] | Id = ""
    start: Size = Size(text="0")
    end: Size = Size(text="0")
    relief: Literal["round", "square", "none"] = "square"
    relief_width: Size = Size(text="thickness")
    mitre: bool = True
    gap: Size = Size(text="0.2")


Bend = Annotated[BendLine | Flange, Field(discriminator="kind")]


class KAt(Model):
    """The K factor where the inside radius is ``ratio`` times the thickness."""

    ratio: float = Field(gt=0, le=100)
    k: float = Field(gt=0, lt=1)


#: DIN 6935 (from memory): the neutral line lies k/2 of the thickness from the inside, k = 0.65 + lg(r/s)/2 up to
#: r/s = 5, and 1 above.
DIN_6935 = (
    KAt(ratio=0.5, k=0.25),
    KAt(ratio=1, k=0.325),
    KAt(ratio=1.5, k=0.369),
    KAt(ratio=2, k=0.4),
    KAt(ratio=3, k=0.444),
    KAt(ratio=5, k=0.5),
)


class KFromTable(Model):
    """K by radius over thickness, between the rows in proportion."""

    how: Literal["table"] = "table"
    rows: list[KAt] = Field(default=list(DIN_6935), min_length=1, max_length=20)


class KTyped(Model):
    """One K for all bends."""

    how: Literal["typed"] = "typed"
    k: float = Field(gt=0, lt=1)


class DeductionMeasured(Model):
    """The bend deduction (mm) known of one ``angle`` and inside ``radius``."""

    how: Literal["deduction"] = "deduction"
    deduction: Size
    angle: Angle = Angle(text="90")
    radius: Size


class StripBent(Model):
    """A test strip ``flat`` mm long, bent once; its two ``legs`` are measured outside."""

    how: Literal["strip"] = "strip"
    flat: Size
    legs: list[Size] = Field(min_length=2, max_length=2)
    angle: Angle = Angle(text="90")
    radius: Size


Neutral = Annotated[KFromTable | KTyped | DeductionMeasured | StripBent, Field(discriminator="how")]


class Sprung(Model):
    """A bend of which calipers read another angle than was ``put`` at the press, both turned from flat."""

    put: Angle
    got: Angle


class Bending(Model):
    """How a stock is bent. ``radius`` is the inside radius that its tool gives, as large as the sheet is thick where
    nothing is said; ``least_radius`` the smallest that it bears. ``die`` is the opening of the die (eight times the
    thickness where nothing is said, common practice), ``least_flange`` the shortest outside leg that rests on it.
    ``springs`` is how far bends sprang back over that die. Where a die and no radius is said, that follows from it.
    """

    radius: Size | None = None
    least_radius: Size | None = None
    die: Size | None = None
    least_flange: Size | None = None
    neutral: Neutral = KFromTable()
    springs: list[Sprung] = Field(default=[], max_length=12)
