"""What a cut file holds, whatever its format: lines by operation, with the unit and what it says of itself."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import NamedTuple

from ..document.limits import MOST_READ
from ..document.model import Align
from ..document.sizes import LARGEST
from ..geometry.segment import Point, Segment
from ..said import Said


class BrokenFile(Said):
    """A file that cannot be read as a drawing; its message is a sentence to show."""


#: Lines shorter than this (mm) are points, and nothing to cut.
SHORTEST = 1e-6


class Look(NamedTuple):
    """How a line is drawn: its colour as ``#rrggbb``, its type by its name, and how wide it is (mm, None as usual).

    It is ``filled`` where no line but the edge of something filled was drawn.
    """

    colour: str = ""
    filled: bool = False
    style: str = ""
    weight: float | None = None


@dataclass(frozen=True, slots=True)
class DrawnLine:
    """One entity of a file: its layer or group, its segments in order (mm, y up), and its `Look`.

    A machine may follow it in ``passes``, or come from the waste on it, as a ``lead``-in.
    """

    layer: str
    segments: tuple[Segment, ...]
    colour: str = ""
    filled: bool = False
    style: str = ""
    weight: float | None = None
    passes: int = 1
    lead: bool = False


@dataclass(frozen=True, slots=True)
class LiveText:
    """Words that are no lines yet: where on their baseline they are aligned (mm), ``up`` their capitals, and how."""

    words: str
    at: Point
    up: complex
    layer: str
    align: Align = "left"


class MeshCut(NamedTuple):
    """Where a mesh was cut, and from where to where its bodies reach in that direction, in mm."""

    heights: tuple[float, ...]
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Stand:
    """A plate of a mesh by its lower left corner in the drawing (mm); ``rows`` lead from the drawing's plane to space.

    They are the upper three rows of a matrix, row by row; z runs from the plate's back, ``thick`` (mm) to its face.
    """

    corner: Point
    rows: tuple[float, ...]
    thick: float


@dataclass(frozen=True, slots=True)
class Fold:
    """How far (degrees) and how round (inside, mm) the sheet of a mesh was bent ``at`` a place of a bend line (mm)."""

    at: Point
    angle: float
    radius: float


_PLAIN = Look()

#: Why points are left out, and what is said of them.
WITHOUT_LENGTH = "without length"
#: Why words are left out that are no lines yet, unless they are set.
LIVE_TEXT = "live text"
_POINTS = "Points and lines without length were left out."


class Lost(NamedTuple):
    """Things of a ``kind`` in a file that are not taken, ``why``, and where they lie (mm), where that is known.

    They are ``unseen`` by everybody, or ``says`` is a sentence on why they cannot be read or cut.
    """

    kind: str
    why: str
    number: int = 1
    at: Point | None = None
    unseen: bool = False
    says: str = ""


@dataclass(slots=True)
class Drawing:
    """A drawing that was read. ``notes`` are sentences on what had to be assumed or was left out.

    ``turns_over`` is whether what is mirrored is equal: plates of a mesh are seen from either side.
    ``unit_stated`` is whether the file itself says how large it is, ``unit`` which one it
    says or is assumed to be in, ``per_unit`` how many mm one of its numbers is;
    ``most`` is how many lines and arcs it may have; ``ended`` whether it has the end that a program or a DXF has.
    ``taken`` counts what was taken of the file, by kind, ``lost`` has all else; ``points`` counts what has no length.
    ``stands`` are where the plates of a mesh stood, ``folds`` how its bent sheets were bent.
    """

    lines: list[DrawnLine] = field(default_factory=list)
    texts: list[LiveText] = field(default_factory=list)
    taken: Counter[str] = field(default_factory=Counter)
    lost: list[Lost] = field(default_factory=list)
    points: int = 0
    hairlines: int = 0
    width: float | None = None
    height: float | None = None
    says: str = ""
    notes: list[str] = field(default_factory=list)
    cut: MeshCut | None = None
    stands: list[Stand] = field(default_factory=list)
    folds: list[Fold] = field(default_factory=list)
    turns_over: bool = False
    unit_stated: bool = True
    unit: str = "mm"
    per_unit: float = 1.0
    most: int = MOST_READ
    ended: bool = True
    held: int = 0

    def note(self, text: str) -> None:
        """Tells something once."""
        if text not in self.notes:
            self.notes.append(text)

    def assume(self, text: str) -> None:
        """Tells what unit was assumed, where the file states none."""
        self.unit_stated = False
        self.note(text)

    def point(self, kind: str = "point", at: Point | None = None) -> None:
        """Leaves out what has no length."""
        self.points += 1
        self.lost.append(Lost(kind, WITHOUT_LENGTH, at=at, says=_POINTS))
        self.note(_POINTS)

    def leave_out(self, kind: str, why: str, number: int = 1, at: Point | None = None) -> None:
        """Leaves out what nobody sees."""
        self.lost.append(Lost(kind, why, number, at, unseen=True))

    def lose(self, kind: str, why: str, note: str, at: Point | None = None) -> None:
        """Leaves out what cannot be read or cut, and notes that."""
        self.lost.append(Lost(kind, why, at=at, says=note))
        self.note(note)

    @property
    def left_out(self) -> Counter[str]:
        """How much nobody sees, by why."""
        counts: Counter[str] = Counter()
        for lost in self.lost:
            if lost.unseen:
                counts[lost.why] += lost.number
        return counts

    def unseen(self) -> str:
        """A sentence on what nobody sees; nothing where there is none of it."""
        shapes = self.left_out.total()
        why = ", ".join(f"{count} {why}" for why, count in sorted(self.left_out.items()))
        told = "1 shape that nobody sees was" if shapes == 1 else f"{shapes} shapes that nobody sees were"
        return f"{told} left out: {why}." if shapes else ""

    def tell_left_out(self) -> None:
        """Notes what nobody sees, once all is read."""
        if unseen := self.unseen():
            self.note(unseen)

    def add(self, layer: str, segments: Iterable[Segment], look: Look = _PLAIN, *, kind: str = "line") -> None:
        """Takes the lines and arcs of one thing of a ``kind``, less points.

        Raises `BrokenFile` for too many, or too far off.
        """
        kept, at = [], None
        for segment in segments:
            check_reach(*segment.bounds())
            at = segment.start
            if segment.length >= SHORTEST:
                kept.append(segment)
                check_count(self.held + len(kept), self.most)
        if kept:
            self.held += len(kept)
            self.taken[kind] += 1
            self.lines.append(DrawnLine(layer, tuple(kept), *look))
        else:
            self.point(kind, at)


def check_count(lines: int, most: int) -> None:
    """Raises `BrokenFile` where a file has more lines and arcs than are read."""
    if lines > most:
        raise BrokenFile(
            f"The file has more than {most} lines and arcs; at most {most} are read. Leave out what is not to be cut."
        )


def check_reach(*coordinates: float) -> None:
    """Raises `BrokenFile` where coordinates (mm) are no numbers, or further off than anything that is cut."""
    for value in coordinates:
        # No number at all lies between the two either.
        if not -LARGEST <= value <= LARGEST:
            raise _beyond(value)


def _beyond(value: float) -> BrokenFile:
    if not math.isfinite(value):
        return BrokenFile("The file has coordinates that are no finite numbers; save it again.")
    return BrokenFile(
        f"The file has a line that reaches {abs(value):.3g} mm from its origin; at most {LARGEST:g} mm are "
        "read. Check its unit and scale."
    )


def check_points(points: Iterable[Point]) -> None:
    """As `check_reach`, for points in mm."""
    for point in points:
        check_reach(point.real, point.imag)
