"""What a joint asks of its two parts, and what it predicts: notches to cut, and pairs that mate."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import NamedTuple

from ..geometry.loop import Outline
from ..geometry.segment import Point
from ..parts.pocket import Pocket
from ..said import Said
from .meeting import Meeting
from .partner import Partner

#: So many joints of a family are remembered as they were cut: an edit leaves most of a project's joints as they are.
REMEMBERED = 4096


@dataclass(frozen=True, slots=True)
class Gauge:
    """Where to put the calipers: a point in a part's frame and the direction to measure across it."""

    part: str
    point: Point
    direction: complex


@dataclass(frozen=True, slots=True)
class Mating:
    """One opening and what goes into it, in mm. ``insert_at`` is None where the insert is not cut: the sheet's own
    thickness, or ``hardware``, a bought screw or nut.

    ``gap`` is finished opening less finished insert, as it is left: with what reliefs have ``eased`` it by, and without
    what the round corners of a slot take at its ``root``. ``tightest`` is the same with the thickest reading, and
    ``short`` how far from its floor such corners stop the insert.

    ``flat`` ones lie in one plane, ``sunk`` ones in a pocket. Where the walls of cuts lean, the gap is by ``above`` and
    ``below`` wider on the upper and the lower face of the opening, as that lies on its bed.
    """

    joint: str
    kind: str
    fit: str
    opening_part: str
    insert_part: str
    opening: float
    insert: float
    tightest: float
    opening_at: Gauge
    insert_at: Gauge | None
    hardware: str = ""
    eased: float = 0.0
    root: float = 0.0
    short: float = 0.0
    flat: bool = False
    sunk: bool = False
    above: float = 0.0
    below: float = 0.0

    @property
    def leaning(self) -> bool:
        return self.above != 0 or self.below != 0

    @property
    def gap(self) -> float:
        return self.opening - self.insert + self.eased - self.root


@dataclass(frozen=True, slots=True)
class JointCut:
    """What a joint takes from its partners: ``(part id, notch)`` pairs, pockets likewise, the pairs that mate, and
    how the partners meet when they are put together.
    """

    notches: tuple[tuple[str, Outline], ...]
    matings: tuple[Mating, ...]
    meetings: tuple[Meeting, ...]
    pockets: tuple[tuple[str, Pocket], ...] = ()


class Change(NamedTuple):
    """A change of one field of a joint: what it is set to (sizes in mm), and what to call the change.

    A field of one of its ends has a dot between.
    """

    field: str
    value: str
    label: str

    @property
    def path(self) -> list[str]:
        return self.field.split(".")


class CannotJoin(Said):
    """A joint that cannot be cut; the message is a sentence. ``mends`` might settle it, the likeliest first."""

    def __init__(self, text: str, field: str = "", value: str = "", mend: str = "", *others: Change) -> None:
        super().__init__(text)
        self.field = field
        self.mends = (Change(field, value, mend), *others) if field else ()


def check_on_face(openings: Iterable[Outline], on: Partner, called: str) -> None:
    """Refuses openings that reach out of the part that they are cut from. Raises `CannotJoin`."""
    for opening in openings:
        left, bottom, right, top = opening.bounds
        out = max(-left, -bottom, right - on.width, top - on.height)
        if out > -1e-9:
            raise CannotJoin(
                f"{called} reaches {max(out, 0):.2f} mm out of {on.name}, which is {on.width:.2f} x "
                f"{on.height:.2f} mm; move the line or turn it"
            )
