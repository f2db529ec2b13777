"""The day at the machines: in which order what waits is cut on each, until when, and what comes too late or lacks its
sheet.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from pydantic import BaseModel

from ..document.machine import Machine
from ..facts.bed import NoBed, bed_of


@dataclass(frozen=True, slots=True)
class ForTheDay:
    """A sheet that is to be cut: the numbers that lie on it, of whom, on which machine, for how long (s), by when.

    One that is ``released`` is in the machine already. An ``offcut`` is what it is to be cut from, as the shelf knows
    it; a whole sheet has none. Before it is cut it is worked on ``by_hand`` (s): laid on the bed, clamped, cleared.
    """

    numbers: tuple[int, ...]
    owners: tuple[str, ...]
    machine: str
    stock: str
    seconds: float
    due: date | None = None
    released: bool = False
    offcut: str = ""
    by_hand: float = 0.0


class DayTurn(BaseModel):
    """A sheet in its turn: until when the machine is done with it, whether that is ``late``, and whether the offcut
    that it is to be cut from ``lacks``: it then keeps no other waiting.
    """

    numbers: list[int]
    owners: list[str]
    stock: str
    seconds: float
    due: date | None
    released: bool
    ends: datetime
    late: bool
    lacks: bool


class MachineDay(BaseModel):
    """What one machine has to do, in order, and how long (s) it takes without a break, of which so much ``by_hand``."""

    machine: str
    seconds: float
    by_hand: float
    turns: list[DayTurn]


def days(sheets: Iterable[ForTheDay], now: datetime, shelf: Collection[tuple[str, str]]) -> list[MachineDay]:
    """The day of each machine by its name, as if it began ``now`` and went on without a break.

    First goes what is in the machine, then by the day it is wanted, then by number; what lacks its offcut goes last.
    ``shelf`` has the offcuts that are there, by stock and outline: each is cut once.
    """
    found: dict[str, list[ForTheDay]] = {}
    for sheet in sorted(sheets, key=_order):
        found.setdefault(sheet.machine, []).append(sheet)
    left = set(shelf)
    return [_day(machine, found[machine], now, left) for machine in sorted(found)]


def _order(sheet: ForTheDay) -> tuple[bool, date, tuple[int, ...]]:
    return not sheet.released, sheet.due or date.max, sheet.numbers


def _day(machine: str, sheets: Sequence[ForTheDay], now: datetime, shelf: set[tuple[str, str]]) -> MachineDay:
    there: list[ForTheDay] = []
    lacking: list[ForTheDay] = []
    for sheet in sheets:
        key = (sheet.stock, sheet.offcut)
        # What is in the machine has its sheet, whatever the shelf says.
        (there if sheet.released or not sheet.offcut or key in shelf else lacking).append(sheet)
        shelf.discard(key)
    turns: list[DayTurn] = []
    done = hands = 0.0
    for sheet in (*there, *lacking):
        # What is in the machine was laid there.
        hands += 0.0 if sheet.released else sheet.by_hand
        done += sheet.seconds
        turns.append(_turn(sheet, now + timedelta(seconds=done + hands), sheet in lacking))
    return MachineDay(machine=machine, seconds=done + hands, by_hand=hands, turns=turns)


def _turn(sheet: ForTheDay, ends: datetime, lacks: bool) -> DayTurn:
    return DayTurn(
        numbers=list(sheet.numbers),
        owners=list(dict.fromkeys(sheet.owners)),
        stock=sheet.stock,
        seconds=sheet.seconds,
        due=sheet.due,
        released=sheet.released,
        ends=ends,
        late=sheet.due is not None and sheet.due < ends.date(),
        lacks=lacks,
    )


def can_take(machine: Machine, kind: str, width: float, height: float) -> bool:
    """Whether a machine could cut a sheet (mm) that is made for one of a ``kind``, as it lies on the bed unturned."""
    try:
        bed = bed_of(machine)
    except NoBed:
        return False
    return machine.kind == kind and width <= bed.width and height <= bed.height
