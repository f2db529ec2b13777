"""What a browser is told at Shape: a part ready to draw, flat and folded; points are in mm with y up, path data has it
turned down, as SVG wants it."""

from __future__ import annotations

from typing import Literal

from leannotch_core.document.bend import Measured
from leannotch_core.parts.corners import MetSide
from leannotch_core.parts.shapes.brought import Brought
from leannotch_core.parts.shapes.curve import KnotAt
from ninja import Schema
from pydantic import BaseModel

from shown.join import CopyShown, DrivenShown, MeshShown, SpanShown


class SideShown(BaseModel):
    side: Literal["bottom", "right", "top", "left"]
    x1: float
    y1: float
    x2: float
    y2: float


class RepeatedShown(BaseModel):
    """A place of a repeat: the middle of the shape there (mm), and whether it is left out."""

    x: float
    y: float
    out: bool


class BoxShown(BaseModel):
    left: float
    bottom: float
    right: float
    top: float


class CutOutShown(BaseModel):
    """A shape on a part, in mm: ``path`` has it in all places, ``box`` is round them.

    Its point stands at ``x`` and ``y``, measured from ``from_x`` and ``from_y``. ``spots`` are its places where it has
    more than one, ``points`` those that it runs through, in its first place. ``width`` and ``height`` are those of the
    first. ``picture`` is what takes a picture of that size about 0 to its place, as SVG wants it; of others nothing.
    """

    id: str
    called: str
    does: str
    path: str
    x: float
    y: float
    from_x: float
    from_y: float
    width: float
    height: float
    box: BoxShown
    spots: list[RepeatedShown]
    points: list[KnotAt]
    picture: str
    hidden: bool


class NarrowShown(BaseModel):
    """A place where two cuts are nearer to one another than the stock allows: how near, and where (mm)."""

    x: float
    y: float
    gap: float


class BendShown(BaseModel):
    """A bend on the flat part, in mm and degrees: its middle line, and the two lines that it begins and ends at.

    ``near`` and ``far`` are the outside lengths of its two legs, none of one that cannot be bent. ``length_of`` and
    ``angle_of`` are the numbers of its starter that its length and angle are, if they are one.
    """

    id: str
    called: str
    flange: bool
    up: bool
    x1: float
    y1: float
    x2: float
    y2: float
    tangents: str
    angle: float
    radius: float
    k: float
    allowance: float
    deduction: float
    setback: float
    near: float | None
    far: float | None
    length_of: DrivenShown | None
    angle_of: DrivenShown | None


class PartShown(BaseModel):
    """A part ready to draw, in mm. ``balance_x`` and ``balance_y`` are its centroid, where it balances.

    ``width_of`` and ``height_of`` are the numbers of its starter that these sizes are, if they are one.
    """

    id: str
    stock: str
    width: float
    height: float
    thickness: float
    area: float
    bounds: BoxShown
    path: str
    base: str
    marks: str
    references: str
    pockets: str
    edge_length: float
    balance_x: float
    balance_y: float
    narrowest_web: float | None
    narrow: list[NarrowShown]
    border: str
    knots: list[KnotAt]
    sides: list[SideShown]
    cutouts: list[CutOutShown]
    bends: list[BendShown]
    width_of: DrivenShown | None = None
    height_of: DrivenShown | None = None


class FaceShown(BaseModel):
    """A flat face of a folded part: the mesh that it is, what it is called, and how it stands to the others.

    ``middle`` is a point on it in space (mm); ``angles`` are those between it and each face, in their order: 0 where
    both are level with one another.
    """

    mesh: str
    called: str
    middle: list[float]
    angles: list[float]


class TypedLegShown(BaseModel):
    """The leg that is typed of a bend: the mesh that it is, and how long it is (mm), as it is typed."""

    mesh: str
    length: float
    measured: Measured


class FoldShown(BaseModel):
    """A bend in space: what turns with it about which axis (a point and a direction), and how far it is turned.

    ``at`` is a place on it (mm), near one of its ends.
    """

    id: str
    called: str
    mesh: str
    turns: list[str]
    point: list[float]
    axis: list[float]
    at: list[float]
    angle: float
    leg: TypedLegShown | None


class FoldedShown(BaseModel):
    """``order`` are the bends in an order that a straight press brake can make; empty where none was found."""

    meshes: list[MeshShown]
    copies: list[CopyShown]
    faces: list[FaceShown]
    folds: list[FoldShown]
    overall: list[SpanShown]
    order: list[str]


class CornerShown(Schema):
    """A corner of a part's outline (mm) with the sides that meet there; ``number`` tells those of one pair apart."""

    before: MetSide
    after: MetSide
    number: int
    x: float
    y: float


class StraightShown(Schema):
    """A straight side of a part's outline, how long it is (mm) and its direction (degrees)."""

    side: MetSide
    length: float
    angle: float


class StrokeShown(Schema):
    """The curve that a stroke would become: how many points it runs through, and of how many arcs it is made."""

    path: str
    points: int
    arcs: int


class StandardShown(Schema):
    """A standard thing, where its sizes are published, and those that are not seen in its drawing."""

    name: str
    group: str
    source: str
    says: str


class NameUses(Schema):
    """Where each name is used that a size may use."""

    uses: dict[str, list[str]]


class OutlineShown(Schema):
    """An outline read from a drawing, for a part; ``notes`` say what was assumed, mended or left out."""

    outline: Brought
    notes: list[str]
