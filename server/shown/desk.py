"""What a browser is told of the queue of sheets that were handed in."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from leannotch_core.costs.cost import CostLine
from leannotch_core.costs.owners import OwnerCost
from leannotch_core.costs.rates import Driver
from leannotch_core.document.machine import Machine
from leannotch_core.document.preparation import Holding
from leannotch_core.document.sheet import CopyOf
from leannotch_core.handin.checks import DeskCheck, DeskCode
from leannotch_core.handin.day import MachineDay
from ninja import Schema
from pydantic import BaseModel


class TakenOf(BaseModel):
    """So much (``amount``, in the driver's unit) of something that a sheet takes."""

    driver: Driver
    name: str
    amount: float


class Facts(BaseModel):
    """What is listed of a sheet: its stock and size (mm), its machine and of which ``kind`` that is, the time (s), how
    the proof came out, and what it takes. An ``offcut`` that it lies on is known by its outline; ``known_on`` are the
    machines, by their ids, on which it is known how wide they cut its stock.
    """

    stock: str
    thickness: float
    machine: str
    kind: str = ""
    offcut: str = ""
    known_on: list[str] = []
    width: float
    height: float
    operations: list[str]
    seconds: float
    faults: int
    findings: int
    path: str
    taken: list[TakenOf] = []


class HandInShown(Schema):
    """A sheet of the queue as it is listed."""

    number: int
    version: int
    owner: str
    group: str
    due: date | None
    project: str
    project_name: str
    project_version: int
    sheet: int
    state: str
    why: str
    again: list[CopyOf]
    together: int | None
    replaced_by: int | None
    created: datetime
    facts: Facts


class QueueLine(Schema):
    operation: str
    path: str


class GatherRow(Schema):
    """How many of a part there are on the sheet, and whose they are."""

    owner: str
    part: str
    called: str
    copies: list[int]


class SheetLooked(Schema):
    """A sheet as it would be cut, in mm; ``width`` and ``height`` are those of the sheet.

    ``costs`` are in the workshop's ``money``.
    """

    width: float
    height: float
    lines: list[QueueLine]
    checks: list[DeskCheck]
    findings: list[str]
    faults: list[str]
    seconds: float
    file: str
    machine: str
    holding: Holding
    gather: list[GatherRow]
    costs: list[CostLine]
    money: str


class HandInLooked(Schema):
    """A sheet that was handed in, as it would be cut; ``by_hand`` are the checks that somebody makes by hand."""

    shown: HandInShown
    ticks: list[str]
    by_hand: list[DeskCode]
    log: list[str]
    sheet: SheetLooked
    machines: list[Machine]


class TogetherShown(Schema):
    number: int
    members: list[int]
    states: list[str]


class QueueShown(Schema):
    """What is there, and what was ``deleted`` and can be had back. ``makers`` are sums of it, in the ``money`` here."""

    rows: list[HandInShown]
    makers: list[OwnerCost]
    money: str
    together: list[TogetherShown]
    deleted: list[HandInShown]


class OtherMachine(Schema):
    """A machine of the workshop, by its id, that could cut a sheet as well."""

    id: str
    name: str


class DayShown(Schema):
    """What each machine has to do, and which others could cut what: by the number of a sheet that lies alone."""

    machines: list[MachineDay]
    others: dict[str, list[OtherMachine]]


class RoleShown(Schema):
    """Who one is here; ``elsewhere`` is the address at which others reach it, if there is one.

    ``by_name`` is whether makers come in by names, and ``name`` that of the one who did.
    """

    role: str
    elsewhere: str
    by_name: bool = False
    name: str = ""


class MakerShown(Schema):
    """A maker on the list, how many projects are theirs, and when they came in last."""

    number: int
    name: str
    projects: int
    came: datetime | None


#: What may be done: a step of a project, a step of a sheet of the queue, and what concerns people and things kept.
DeedKind = Literal[
    "step", "sheet", "came in", "left", "wrong word", "word set", "put on the list", "new word", "taken off",
    "shared", "given", "project deleted", "project had back", "file deleted", "file had back", "sheet deleted",
    "sheet had back", "kept for all", "proposed", "turned down", "taken away", "rates set", "checks chosen",
]  # fmt: skip


class DeedShown(Schema):
    """Something that was done: when, by whom (nothing without a name), ``to`` what, and ``more`` of it.

    Of a project its ``slug`` is told.
    """

    when: datetime
    who: str
    kind: DeedKind
    to: str
    more: str
    slug: str


class KeptOrProposed(Schema):
    """Whether something is in the library now; else it waits for the operator, who keeps that."""

    kept: bool


class ProposedShown(Schema):
    """Something that a maker proposes for the library: what would be another in it; nothing where it has none such."""

    number: int
    who: str
    when: datetime
    kind: str
    name: str
    changes: list[str] | None


class CardShown(Schema):
    """What a maker is given to come in with; nobody can read the word later."""

    number: int
    name: str
    word: str


class WordsShown(Schema):
    operator: bool
    maker: bool
