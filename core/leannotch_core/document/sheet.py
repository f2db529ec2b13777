"""Where copies of parts lie on sheets."""

from __future__ import annotations

from collections.abc import Container

from pydantic import Field

from .keep_out import Barring, SheetPoint
from .limits import MOST_OF_A_PART
from .model import Id, Millimetres, Model
from .sizes import LARGEST, Size


class CopyOf(Model):
    """One of the copies of a part, numbered from 1."""

    part: Id
    copy_number: int = Field(ge=1, le=MOST_OF_A_PART)


class Placement(Model):
    """One copy of a part on a sheet: turned about its lower left corner, then moved there.

    A ``mirrored`` one lies on its face: it is turned over about its lower side first. One that is ``cut`` is not there
    any more: nothing can be laid where it was, and no file has it.
    """

    part: Id
    copy_number: int = Field(ge=1, le=MOST_OF_A_PART)
    sheet: int = Field(ge=0, le=999)
    x: Millimetres
    y: Millimetres
    turn: float = Field(ge=-3600, le=3600)
    by_hand: bool = False
    mirrored: bool = False
    cut: bool = False

    @property
    def held(self) -> bool:
        """Whether it stays where it lies when the rest is laid out again."""
        return self.by_hand or self.cut


class Barred(Model):
    """A piece of a sheet that is missing, or that a clip holds: no part may come nearer to it than the margin."""

    what: Barring
    corners: list[SheetPoint] = Field(min_length=3, max_length=400)


class LaidSheet(Model):
    """A sheet in use, in mm. ``outline`` is that of an offcut, within its width and height; a whole sheet has none."""

    stock: Id
    width: float = Field(gt=0, le=LARGEST)
    height: float = Field(gt=0, le=LARGEST)
    outline: list[SheetPoint] = Field(default=[], max_length=400)
    barred: list[Barred] = Field(default=[], max_length=40)


class LaidPart(Model):
    """The shape that a part had when it was laid out; tells later whether the layout is out of date."""

    part: Id
    outline: str = Field(max_length=64)
    width: float = Field(ge=0, le=2 * LARGEST)
    height: float = Field(ge=0, le=2 * LARGEST)


class Layout(Model):
    """Where everything lies. Copies that are ``done`` were cut on sheets that are gone since: they lie nowhere."""

    margin: Size = Size(text="5")
    gap: Size = Size(text="2")
    sheets: list[LaidSheet] = Field(default=[], max_length=1000)
    placements: list[Placement] = Field(default=[], max_length=5000)
    laid: list[LaidPart] = Field(default=[], max_length=2000)
    done: list[CopyOf] = Field(default=[], max_length=20_000)

    @property
    def finished(self) -> set[tuple[str, int]]:
        """The copies that need not be laid any more."""
        return {(copy.part, copy.copy_number) for copy in self.done}

    def only(self, parts: Container[str]) -> Layout:
        """The layout with the copies of some parts alone, where they lie."""
        return self.model_copy(update={"placements": [p for p in self.placements if p.part in parts]})

    def without(self, gone: Container[str]) -> Layout:
        """The layout without any copy of the parts that are ``gone``."""
        placements = [placement for placement in self.placements if placement.part not in gone]
        laid = [laid for laid in self.laid if laid.part not in gone]
        done = [copy for copy in self.done if copy.part not in gone]
        return self.model_copy(update={"placements": placements, "laid": laid, "done": done})
