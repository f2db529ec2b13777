"""A part as it was typed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..document.bend import Bend
from ..document.limits import MOST_OF_A_PART
from ..document.model import PRINTABLE, Face, Id, Model, Name, Owner
from ..document.setting import Setting
from ..document.sizes import Size
from .corners import CornerTaken
from .cut_out import CutOut
from .shapes.kinds import Shape
from .shapes.part_outline import PartOutline
from .standing import Standing


class Rim(Model):
    """How far a part's drawn outline is grown, or shrunk where negative, before anything is cut from it."""

    by: Size = Size(text="0")
    corners: Literal["sharp", "round"] = "sharp"


class Border(Model):
    """A line drawn ``margin`` inside a part's edge, that what is on the part is held in."""

    margin: Size


class OwnThickness(Model):
    """How thick a part is where it lies on a sheet of a stock."""

    stock: Id
    size: Size


class Part(Model):
    """A flat part. ``face`` is the one that its drawing shows, once it is put together with others.

    Parts of one ``group`` should lie on one sheet: of one job, one owner, one colour; those of one ``heading`` are
    listed under it. One that is good on ``both_faces`` may be cut lying on either. Cuts of one whose edges ``shows``
    are begun on the waste, where its stock wants it.

    ``corners`` are those of its outline that are taken off, wherever its shapes meet.

    ``bends`` are made after it is cut: its shape is drawn flat, but for flanges, whose sides are drawn where they stand
    bent.

    ``thickness`` is its own in a stock, as it was read where it lies on its sheet: what mates with it goes by that in
    place of the mean, as long as it is of that stock.

    ``edge`` is what is done along its outline: one that is not cut stays in the sheet. ``settings`` are its own, in
    place of those of its stock.

    ``stands`` are where its copies stood in the mesh that they came from. ``starter`` is the id of the starter that
    made it and keeps its shape.
    """

    id: Id
    name: Name
    stock: Id
    thickness: OwnThickness | None = None
    count: int = Field(default=1, ge=1, le=MOST_OF_A_PART)
    shape: Shape
    rim: Rim = Rim()
    corners: list[CornerTaken] = Field(default=[], max_length=400)
    border: Border | None = None
    cutouts: list[CutOut] = Field(default=[], max_length=500)
    bends: list[Bend] = Field(default=[], max_length=40)
    turns: Literal["grain", "180", "90", "45", "any"] = "90"
    both_faces: bool = False
    shows: bool = False
    group: Annotated[str, Field(max_length=60), PRINTABLE] = ""
    heading: Annotated[str, Field(max_length=60), PRINTABLE] = ""
    starter: Owner = ""
    edge: Literal["cut", "score", "engrave", "nothing"] = "cut"
    settings: list[Setting] = Field(default=[], max_length=60)
    stands: list[Standing] = Field(default=[], max_length=500)
    face: Face = "outside"

    @property
    def needs(self) -> frozenset[str]:
        """The parts whose outlines it has as shapes."""
        return frozenset(cut.hole.part for cut in self.cutouts if isinstance(cut.hole, PartOutline))
