"""What a browser is told at Lay out, in mm: the sheets, what is left of them, and pictures of the bed."""

from __future__ import annotations

from datetime import datetime

from leannotch_core.document.keep_out import SheetPoint
from leannotch_core.document.sheet import CopyOf, Layout
from leannotch_core.facts.findings import Finding
from ninja import Schema
from pydantic import BaseModel, Field


class RestShown(BaseModel):
    """A rectangle of a sheet that is left whole, in mm from its lower left corner."""

    left: float
    bottom: float
    width: float
    height: float


class SheetShown(BaseModel):
    stock: str
    width: float
    height: float
    used: float


class NeighbourShown(Schema):
    """The shortest way to another part, or to an edge of the sheet (no copy), mm."""

    copy_of: CopyOf | None
    distance: float
    x1: float
    y1: float
    x2: float
    y2: float


class BesideShown(Schema):
    x: float
    y: float
    free: bool
    in_the_way: list[CopyOf]
    neighbours: list[NeighbourShown]


class SizeShown(Schema):
    stock: str
    width: float
    height: float
    count: int


class ToldShown(Schema):
    """The sheets that a layout takes, instead of which; the share of them that is parts, and what is left whole."""

    takes: list[SizeShown]
    instead: list[SizeShown]
    used: float
    left: list[RestShown]


class NestShown(Schema):
    layout: Layout
    findings: list[Finding]
    told: ToldShown


class OffcutListed(Schema):
    """An offcut on the shelf: its stock by name, its size and outline in mm, since when, and of which project."""

    id: int
    stock: str
    width: float
    height: float
    outline: list[SheetPoint]
    since: datetime
    came_from: str


class PictureMark(Schema):
    """A place in the picture (pixels, y down) that lies at x, y of the bed (mm, as one stands before it)."""

    across: float = Field(ge=0, le=100_000, allow_inf_nan=False)
    down: float = Field(ge=0, le=100_000, allow_inf_nan=False)
    x: float = Field(default=0, ge=-100_000, le=100_000, allow_inf_nan=False)
    y: float = Field(default=0, ge=-100_000, le=100_000, allow_inf_nan=False)


class FlatShown(Schema):
    left: float
    bottom: float
    right: float
    top: float


class PictureShown(Schema):
    """The picture of a project: its size in pixels, its marks, and where it lies once it is flat (mm)."""

    stamp: str
    width: int
    height: int
    marks: list[PictureMark]
    flat: FlatShown | None


class KeptPicture(Schema):
    """A picture that can be laid under a drawing, by its key, with its size in pixels."""

    key: str
    width: int
    height: int
