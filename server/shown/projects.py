"""What a browser is told of all projects: their list, and versions, steps and variants of each."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from leannotch_core.facts.findings import Finding
from ninja import Schema

from shown.lay_out import RestShown
from shown.prove import ProofStands
from shown.shape import BoxShown

#: What makers may do with a project that is not theirs: not even see it, look, take a copy, or work on it too.
Shared = Literal["nobody", "look", "copy", "work"]

#: How far a project has come: nothing is drawn, parts are, they lie on sheets, these are proved or the proof found
#: faults, or all are cut.
Stands = Literal["empty", "drawn", "laid out", "proved", "faulty", "cut"]


class ProjectListed(Schema):
    """A project in the list; ``parts`` is None where it cannot be read, and ``trouble`` says why.

    ``readable`` is when its last state was stored that can be read; ``variant_of`` the name of its design. ``state``
    stands for what it looks like: its portrait is asked for with that. ``stands`` is how far it has come, on so many
    ``sheets``, with ``missing`` copies that lie on none; ``demo`` says that it came with the application. ``owner`` is
    the maker whose it is, ``own`` whether that is who asks, and ``shared`` what other makers may do with it.
    """

    slug: str
    name: str
    changed: datetime
    parts: int | None = None
    trouble: str = ""
    readable: datetime | None = None
    variant_of: str = ""
    state: int = 0
    stocks: list[str] = []
    stands: Stands = "empty"
    sheets: int = 0
    missing: int = 0
    demo: bool = False
    owner: str = ""
    own: bool = True
    shared: Shared = "nobody"


class SomebodyThere(Schema):
    """Somebody else who has the project open, and the station that they are at."""

    name: str
    station: str


class ThereShown(Schema):
    """The version that a project stands at, and who else has it open; ``together`` where others may work on it too."""

    version: int
    others: list[SomebodyThere]
    together: bool


class DeletedListed(Schema):
    """A deleted project, and until when it can be had back."""

    slug: str
    name: str
    deleted: datetime
    until: datetime


class FindingsShown(Schema):
    """What the maker should know of the project at a version, its proof, and what is ``left`` of each sheet."""

    version: int
    proof: ProofStands | None
    findings: list[Finding]
    left: list[RestShown | None]


class HistoryStep(Schema):
    version: int


class PartDrawn(Schema):
    """A part as a path (mm), what is sunk in it as another, and the box round it."""

    id: str
    name: str
    path: str
    pockets: str
    box: BoxShown


class VersionShown(Schema):
    """A version, how many parts it has, and the first of them drawn."""

    id: int
    name: str
    created: datetime
    count: int
    parts: list[PartDrawn]


class DifferenceShown(Schema):
    where: str
    before: str
    after: str
    part: str = ""


class PartCompared(Schema):
    """A part that is not as it was: drawn as it was and as it is, or nothing where it was not or is not there."""

    id: str
    name: str
    before: str
    after: str
    box: BoxShown


class Comparison(Schema):
    differences: list[DifferenceShown]
    parts: list[PartCompared]


class VariantRow(Schema):
    """A design or one of its variants, in numbers: lengths in mm, time in seconds, None where it is not known.

    ``cost`` is in the workshop's ``money``, with what has a rate in it; None where nothing has.
    """

    slug: str
    name: str
    design: bool
    thickness: str
    parts: int
    sheets: int
    cut_length: float
    seconds: float | None
    cost: float | None
    money: str
    errors: int
    warnings: int
    own: list[str]
