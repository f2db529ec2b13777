"""What a browser is told of a drawing that was brought."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from leannotch_core.document.model import Align
from leannotch_core.drawings.again import What
from leannotch_core.drawings.held import ToldCode, Weight
from leannotch_core.drawings.purposes import Purpose
from leannotch_core.drawings.way_in import Unit
from ninja import Schema

from shown.choices import Choices, DrawingPoint
from shown.shape import BoxShown


class CutShown(Schema):
    """Where a mesh is cut, and from where to where it reaches in that direction, in mm."""

    heights: list[float]
    low: float
    high: float


class RowShown(Schema):
    """Lines that belong together in the file: what they are for, why that was guessed, and where they lie."""

    key: str
    layer: str
    colour: str
    lines: int
    purpose: Purpose
    reason: str
    depth: float | None
    path: str


class TextShown(DrawingPoint):
    """Words as they are set: aligned at half the height (mm) of their capitals, turned by degrees."""

    words: str
    height: float
    turn: float
    align: Align


class FoundShown(Schema):
    """A distinct part, in mm: ``path`` is its outline on the drawing, ``copies`` those of the others like it."""

    name: str
    count: int
    width: float
    height: float
    area: float
    openings: int
    lines: int
    pockets: int
    texts: list[TextShown]
    thickness: float | None
    too_many: str
    path: str
    copies: str


class GapShown(DrawingPoint):
    """A gap, how wide it is (mm), and whether it is joined."""

    width: float
    taken: bool


class ChordsShown(DrawingPoint):
    """An outline whose chords are arcs again, or were meant as they are."""

    chords: int
    arcs: int
    taken: bool


class MistakeShown(Schema):
    """A line of a length that was hardly meant, how long it should be (mm, at scale 1 the first), and what happened."""

    shown: float
    should: float
    what: str


class LikelyShown(Schema):
    """A unit that the numbers of the file are likely in, how large all is then (mm), and why."""

    unit: Unit
    called: str
    width: float
    height: float
    because: str


class KnownShown(Schema):
    """A part of the project, of this newer drawing, or of both: what became of it."""

    what: What
    name: str
    part: str | None
    found: int | None
    how: str


class ThicknessShown(Schema):
    """Parts of one thickness (mm) by their layer or plate: how it is called, how many, and the stock nearest to it."""

    key: str
    thick: float
    parts: int
    stock: str | None
    in_hand: float | None


class AgainShown(Schema):
    """A drawing beside what was taken of its earlier one."""

    earlier: str
    rows: list[KnownShown]


class MendShown(Schema):
    """What is wrong with the lines that are cut, and what was mended: counts, and where."""

    joined: int
    doubled: int
    chords: int
    arcs: int
    gaps: list[GapShown]
    curves: list[ChordsShown]
    twice_path: str
    open: int
    open_path: str
    crossed_path: str
    crossings: int


class OfFileShown(Schema):
    """A sentence on what became of something in the file, and where that lies."""

    code: ToldCode
    weight: Weight
    says: str
    places: list[DrawingPoint]


class InFileShown(Schema):
    """How many things of a kind are in the file, and what became of them: how many were taken, or why not."""

    kind: str
    number: int
    became: dict[str, int]


class FrameShown(Schema):
    width: float
    height: float
    reason: str
    left_out: bool
    path: str


class PlaceShown(DrawingPoint):
    """A slot or a tab that could follow the sheet, and whether it does."""

    kind: Literal["slot", "tab"]
    taken: bool
    path: str


class FollowingShown(Schema):
    """Slots and tabs that could follow the sheet, and the thickness (mm) they seem drawn for."""

    likely: float | None
    places: list[PlaceShown]


class BodyShown(Schema):
    """A body of a mesh in mm: a plate ``thick``, or ``why`` it is none; ``filled`` counts triangles that closed it.

    A bent sheet has ``bends``.

    ``corners`` are x, y and z in turn, three corners to a triangle; of one that is not shown ``whole``, its box.
    """

    name: str
    size: list[float]
    closed: bool
    filled: int
    thick: float | None
    bends: int
    why: str
    whole: bool
    corners: list[float]
    triangles: list[int]


class WayInShown(Schema):
    """A drawing as the choices have it; sizes and places in mm. ``unscaled`` is its width without the known length.

    ``made_for`` is the file whose choices it begins with, ``too_many`` why not all of it can be taken.
    """

    id: int
    name: str
    choices: Choices
    made_for: str
    again: AgainShown | None
    mistake: MistakeShown | None
    likely: LikelyShown | None
    is_mesh: bool
    cut: CutShown | None
    unit: str
    unit_stated: bool
    scale: float
    width: float
    height: float
    unscaled: float
    box: BoxShown
    rows: list[RowShown]
    parts: list[FoundShown]
    thicknesses: list[ThicknessShown]
    mend: MendShown
    frame: FrameShown | None
    following: FollowingShown
    texts: list[str]
    told: list[OfFileShown]
    held: list[InFileShown]
    too_many: str


class JoinedShown(Schema):
    """Outlines that close within a tolerance, gaps that it joins, and ends that stay loose."""

    closed: int
    joined: int
    loose: int


class LineShown(Schema):
    """The line of a drawing that lies nearest to a point: its length in mm as shown, and at scale 1."""

    length: float
    unscaled: float
    path: str


class BroughtListed(Schema):
    """A file, the one that it is a newer one of, and the run that reads it as long as it is not read.

    One that is ``deleted`` can be had back for thirty days.
    """

    id: int
    name: str
    created: datetime
    earlier: str
    is_taken: bool
    run: int | None
    deleted: datetime | None
