"""A part as it was typed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..document.model import PRINTABLE, Face, Id, Model, Name, Owner
from ..document.setting import Setting
from ..document.sizes import Size
from .cut_out import CutOut
from .marks import Mark
from .shapes.kinds import Shape
from .standing import Standing


class Rim(Model):
    """How far a part's drawn outline is grown, or shrunk where negative, before anything is cut from it."""

    by: Size = Size(text="0")
    corners: Literal["sharp", "round"] = "sharp"


class Part(Model):
    """A flat part. ``face`` is the one that its drawing shows, once it is put together with others.

    Parts of one ``group`` should lie on one sheet: of one job, one owner, one colour. One that is good on
    ``both_faces`` may be cut lying on either.

    ``edge`` is what is done along its outline: one that is not cut stays in the sheet. ``settings`` are its own, in
    place of those of its stock.

    ``stands`` are where its copies stood in the mesh that they came from. ``starter`` is the id of the starter that
    made it and keeps its shape.
    """

    id: Id
    name: Name
    stock: Id
    count: int = Field(default=1, ge=1, le=500)
    shape: Shape
    rim: Rim = Rim()
    cutouts: list[CutOut] = Field(default=[], max_length=400)
    marks: list[Mark] = Field(default=[], max_length=100)
    turns: Literal["grain", "180", "90", "45", "any"] = "90"
    both_faces: bool = False
    group: Annotated[str, Field(max_length=60), PRINTABLE] = ""
    starter: Owner = ""
    edge: Literal["cut", "score", "engrave", "nothing"] = "cut"
    settings: list[Setting] = Field(default=[], max_length=5)
    stands: list[Standing] = Field(default=[], max_length=500)
    face: Face = "outside"
