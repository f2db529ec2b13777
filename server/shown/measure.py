"""What a browser is told at Measure: a stock in numbers, and what the calipers read of parts that were cut."""

from __future__ import annotations

from leannotch_core.document.measured import CutFace, Way
from leannotch_core.document.model import Fit
from leannotch_core.document.setting import Setting
from leannotch_core.measured.explained import Cause, Why
from ninja import Schema
from pydantic import BaseModel

from shown.prove import GapOnFaces


class BendingShown(BaseModel):
    """How a stock is bent, in mm, typed or assumed; ``k`` is that of a bend of its own radius, ``deduction`` what a
    square one takes, and ``square`` the angle that is set for one. ``by_die``: its radius follows from the die.
    """

    radius: float
    least_radius: float
    die: float
    least_flange: float
    assumed: bool
    k: float
    deduction: float
    by_die: bool
    square: float | None


class WallsShown(BaseModel):
    """The kerf (mm) on the upper and the lower face, and by how many degrees walls lean between them."""

    above: float
    below: float
    lean: float


class WaysShown(BaseModel):
    """The kerf (mm) along x and along y of the machine, and whether readings tell that the two are not one."""

    across: float
    up: float
    told: bool


class SwellingShown(BaseModel):
    """By which share wood is larger across its grain and through the board at a relative humidity (%)."""

    humidity: float
    across: float
    through: float


class WoodShown(BaseModel):
    """A wood in the air that it was cut in (percent of moisture), in the driest and in the dampest."""

    moisture: float
    driest: SwellingShown
    dampest: SwellingShown


class KerfShown(BaseModel):
    """A kerf (mm, the mean of both ways) on both faces, and in words at what it was measured."""

    at: str
    above: float
    below: float


class WidthShown(BaseModel):
    """A width that is known of the cutter in use, by its place among all: how it went round, and if it does so now."""

    place: int
    said: str
    now: bool


class WhereShown(BaseModel):
    """What a part measures (mm) where its copies lie: the mean, and from where to where."""

    part: str
    mean: float
    least: float
    most: float


class StockShown(BaseModel):
    """A stock in numbers (mm), as the machine in use cuts it, and its settings there. ``kerfs`` were measured there at
    other settings, after the one that is taken; ``shank`` is that of the cutter in use, ``goes`` how it goes round.
    ``where`` is how thick parts are where they lie, if the sheet was read in several places.
    """

    thickness: float
    spread: float
    thickest: float
    readings: int
    kerf: float
    walls: WallsShown | None = None
    ways: WaysShown | None = None
    wood: WoodShown | None = None
    clearance: dict[Fit, float]
    bending: BendingShown
    settings: list[Setting] = []
    kerfs: list[KerfShown] = []
    shank: float | None = None
    goes: str = ""
    widths: list[WidthShown] = []
    where: list[WhereShown] = []


class LengthShown(Schema):
    """A length of a part and where it is (mm, in the part's frame); ``asked`` are those that together tell most."""

    part: str
    cut_out: str
    way: Way
    called: str
    meant: float
    x1: float
    y1: float
    x2: float
    y2: float
    asked: bool


class ReadShown(Schema):
    """A reading (mm), its ``rest`` that nothing explains, and why it was left out."""

    part: str
    cut_out: str
    way: Way
    face: CutFace
    meant: float
    value: float
    rest: float
    left_out: Why | None


class EstimateShown(Schema):
    """A cause with its 95 % uncertainty (mm, or mm in a mm).

    ``told``: it is surely not nothing; ``known``: its value is better than none.
    """

    cause: Cause
    value: float
    sure: float
    told: bool
    known: bool


class SheetMeasured(Schema):
    """What was measured of a sheet, and what it says together; ``more`` is what one more reading should be of.

    ``beside`` are the days of earlier readings that agree and are counted in, ``against`` that of some that do not.
    """

    id: str
    date: str
    stock: str
    machine: str
    kerf: float
    oval: float
    k: float
    routed: bool
    spread: float
    beside: list[str]
    against: str | None
    reads: list[ReadShown]
    estimates: list[EstimateShown]
    more: LengthShown | None


class StockLengths(Schema):
    """All lengths of the parts of a stock."""

    stock: str
    lengths: list[LengthShown]


class MeasuredShown(Schema):
    """``gaps`` are those of the fit ledger (mm), row by row, as the parts came off the machine: on the upper and on the
    lower face of the opening.
    """

    gaps: list[GapOnFaces | None]
    stocks: list[StockLengths]
    measured: list[SheetMeasured]
