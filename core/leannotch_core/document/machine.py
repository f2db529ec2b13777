"""Machines: how large their bed is, how fast they go, and how they want to be told what to do."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from .formats import Reads, is_program
from .keep_out import KeepOut
from .model import PRINTABLE, Day, Id, Model, Name
from .operations import Work
from .sizes import Size
from .sums import Unit

#: A beam takes its kerf's width whatever the depth; a router's cutter goes down step by step.
Kind = Literal["beam", "router"]

#: A line of a program, written as it stands.
Words = Annotated[str, Field(max_length=80), PRINTABLE]

#: What a router's z 0 is: where each of its cutters is touched off.
ZDatum = Literal["the face of the sheet", "the spoilboard"]


class Pace(Model):
    """The highest speed (mm/s), and the acceleration (mm/s²) by which it is reached."""

    speed: float = Field(gt=0, le=5_000)
    acceleration: float = Field(gt=0, le=100_000)


class Telling(Model):
    """How files tell the machine an operation: by stroke colour, by DXF colour index, or by the name of its layer."""

    operation: Work
    stroke: str = Field(pattern=r"^#[0-9a-f]{6}$")
    aci: int = Field(ge=1, le=255)
    layer: str = Field(pattern=r"^[A-Za-z0-9 ._-]{1,40}$")


class Lies(Model):
    """How a machine for practice differs from what it is told: how wide its beam cuts (mm), how much wider along y than
    along x, and on the lower face; by how much more than its shank a cutter does; by which share what it makes is too
    long in x and y, and out of square; by how much K is larger where its parts are bent, and which share of an angle
    springs back.
    """

    kerf: float = Field(default=0.2, gt=0, le=5)
    runout: float = Field(default=0, ge=-1, le=1)
    oval: float = Field(default=0, ge=-0.5, le=0.5)
    taper: float = Field(default=0, ge=-1, le=1)
    scale_x: float = Field(default=0, ge=-0.01, le=0.01)
    scale_y: float = Field(default=0, ge=-0.01, le=0.01)
    square: float = Field(default=0, ge=-0.01, le=0.01)
    neutral: float = Field(default=0, ge=-0.3, le=0.3)
    spring: float = Field(default=0, ge=0, le=0.3)


class Tended(Model):
    """A day on which something was done to a machine that changes how it cuts: a lens cleaned, a bearing renewed."""

    date: Day
    what: Name


class Machine(Model):
    """A machine that cuts. Its coordinates run from the ``datum``, a corner of the bed as one stands before it.

    ``least`` to ``most`` is what S may say in its programs: the power of a beam, where ``most`` is all of it, or the
    revolutions of a spindle in a minute. ``begins`` and ``ends`` are lines of its programs besides what all have.
    ``sequence`` is in which order its files have the operations, where it works them in the order of the file;
    those that it does not name come behind, in the order of the trade.
    ``corner`` is how far (mm) it may leave a sharp corner's point, which says how fast it goes round.
    Its programs are in a ``unit``, with arcs as such or as short chords; the radii at both ends of an arc may differ by
    ``radii`` mm, or by what the program's own digits leave open where nothing is said. A cutter is changed by the word
    for it, or in a pause; a spindle waits ``spins_up`` s until it turns, and a cutter may go ``spoilboard`` below the
    sheet. One for practice ``lies``. What was measured before a day on which it was ``tended`` says nothing of now.
    """

    id: Id
    name: Name
    kind: Kind = "beam"
    bed_width: Size = Size(text="600")
    bed_height: Size = Size(text="400")
    datum: Literal["bottom left", "bottom right", "top right", "top left"] = "bottom left"
    x_runs: Literal["right", "left"] = "right"
    y_runs: Literal["up", "down"] = "up"
    moving: Pace = Pace(speed=400, acceleration=3000)
    working: Pace = Pace(speed=300, acceleration=2000)
    corner: float = Field(default=0.02, gt=0, le=5)
    least: float = Field(default=0, ge=0, le=100_000)
    most: float = Field(default=1000, gt=0, le=100_000)
    reads: list[Reads] = Field(default=["svg", "dxf", "pdf", "nc"], min_length=1, max_length=4)
    tells: list[Telling] = Field(default=[], max_length=6)
    sequence: list[Work] = Field(default=[], max_length=6)
    unit: Unit = "mm"
    decimals: int = Field(default=4, ge=2, le=6)
    arcs: Literal["I and J", "short chords"] = "I and J"
    radii: float | None = Field(default=None, gt=0, le=1)
    line_numbers: bool = False
    changes: Literal["M6", "a pause"] = "a pause"
    spins_up: float = Field(default=0, ge=0, le=60)
    spoilboard: Size = Size(text="3")
    z_datum: ZDatum = "the face of the sheet"
    hold_down: Words = ""
    focus: Words = ""
    air: Words = ""
    switches_on: Words = "M3"
    switches_off: Words = "M5"
    begins: list[Words] = Field(default=[], max_length=20)
    ends: list[Words] = Field(default=[], max_length=20)
    keep_outs: list[KeepOut] = Field(default=[], max_length=40)
    lies: Lies | None = None
    tended: list[Tended] = Field(default=[], max_length=60)
    note: Annotated[str, Field(max_length=400), PRINTABLE] = ""

    @property
    def program(self) -> Reads | None:
        """The format of programs that it reads; None where it reads drawings alone."""
        return next((kind for kind in self.reads if is_program(kind)), None)

    @model_validator(mode="after")
    def _told_apart(self) -> Machine:
        own = {telling.operation: telling.layer for telling in self.tells}
        layers = [own.get(work, work) for work in get_args(Work)]
        if len(own) < len(self.tells) or len(set(layers)) < len(layers):
            raise ValueError(f"its layers ({', '.join(layers)}) do not tell all operations apart; give each its own")
        return self

    @model_validator(mode="after")
    def _range(self) -> Machine:
        if self.least >= self.most:
            raise ValueError(
                f"its range runs from {self.least:g} to {self.most:g}; the end must be above the beginning"
            )
        return self
