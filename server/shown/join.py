"""What a browser is told at Join: the ledger, joints that are offered, and the dry fit in space."""

from __future__ import annotations

from ninja import Schema
from pydantic import BaseModel


class MeshShown(BaseModel):
    """A part's surface in its own frame: corners as x, y, z in mm, and three corners to a triangle."""

    part: str
    corners: list[float]
    triangles: list[int]


class CopyShown(BaseModel):
    """A copy's place: the upper three rows of its matrix, row by row, from the part's own frame to space in mm."""

    part: str
    number: int
    group: int
    matrix: list[float]


class DrivenShown(BaseModel):
    """The number of a starter that a dimension shows, and so can be typed there; a compartment has its ``index``."""

    starter: str
    number: str
    index: int | None


class SpanShown(BaseModel):
    """A dimension in space: from one point to another, in mm."""

    axis: str
    start: list[float]
    end: list[float]
    length: float
    driven: DrivenShown | None


class LedgerRow(BaseModel):
    """One opening and its insert, in mm. ``hardware`` names a bought insert.

    The gap is what is left with what reliefs have ``eased`` it by and what round corners take at its ``root``; these
    may stop the insert ``short`` of its floor. ``above`` and ``below`` are the gaps on the upper and the lower face of
    the opening where the walls of cuts lean.
    """

    joint: str
    kind: str
    fit: str
    opening_part: str
    insert_part: str
    opening_thickness: float
    insert_thickness: float
    opening: float
    insert: float
    hardware: str
    gap: float
    tightest: float
    eased: float = 0.0
    root: float = 0.0
    short: float = 0.0
    above: float | None
    below: float | None


class OfferShown(Schema):
    """A joint that would hold two parts: what it is known by, and why; ``redrawn`` are the parts that it changes."""

    kind: str
    a: str
    side: str
    b: str
    other: str
    why: str
    redrawn: list[str]


class DryFitShown(BaseModel):
    """All copies in space, z up; the outside sizes of the largest group, and the free widths inside it."""

    version: int
    meshes: list[MeshShown]
    copies: list[CopyShown]
    overall: list[SpanShown]
    inner: list[SpanShown]


class CopyRef(BaseModel):
    part: str
    number: int


class ClashShown(BaseModel):
    """Two copies that share material: mm³ in all, about ``deep`` mm deep around ``middle``."""

    a: CopyRef
    b: CopyRef
    volume: float
    deep: float
    middle: list[float]
    promised: bool


class StepShown(BaseModel):
    """``moving`` goes onto ``standing`` along a unit direction in space, from ``distance`` mm; ``text`` says so."""

    moving: list[CopyRef]
    standing: list[CopyRef]
    direction: list[float]
    distance: float
    #: Not there in what was found before steps had words.
    text: str = ""


class FitShown(BaseModel):
    """What the solids showed: clashes, the order of assembly, what locks, and copies that nothing holds."""

    version: int
    clashes: list[ClashShown]
    steps: list[StepShown]
    locked: list[list[CopyRef]]
    loose: list[CopyRef]
