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


class BrokenFile(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A file that cannot be read as a drawing; its message is a sentence to show."""


#: Lines shorter than this (mm) are points, and nothing to cut.
SHORTEST = 1e-6


@dataclass(frozen=True, slots=True)
class DrawnLine:
    """One entity of a file: its layer or group, its segments in order (mm, y up), and its colour as ``#rrggbb``.

    It is ``filled`` where no line but the edge of something filled was drawn. A machine may follow it in ``passes``, or
    come from the waste on it, as a ``lead``-in.
    """

    layer: str
    segments: tuple[Segment, ...]
    colour: str = ""
    filled: bool = False
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


class CutAt(NamedTuple):
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


@dataclass(slots=True)
class Drawing:
    """A drawing that was read. ``notes`` are sentences on what had to be assumed or was left out.

    ``turns_over`` is whether what is mirrored is equal: plates of a mesh are seen from either side.
    ``unit_stated`` is whether the file itself says how large it is, ``unit`` which one it
    says or is assumed to be in, ``per_unit`` how many mm one of its numbers is;
    ``most`` is how many lines and arcs it may have; ``ended`` whether it has the end that a program or a DXF has.
    ``left_out`` counts what nobody sees, by why; ``points`` what has no length. ``stands`` are where the plates of a
    mesh stood.
    """

    lines: list[DrawnLine] = field(default_factory=list)
    texts: list[LiveText] = field(default_factory=list)
    left_out: Counter[str] = field(default_factory=Counter)
    points: int = 0
    hairlines: int = 0
    width: float | None = None
    height: float | None = None
    says: str = ""
    notes: list[str] = field(default_factory=list)
    cut: CutAt | None = None
    stands: list[Stand] = field(default_factory=list)
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

    def point(self) -> None:
        """Leaves out what has no length."""
        self.points += 1
        self.note("Points and lines without length were left out.")

    def leave_out(self, why: str, shapes: int = 1) -> None:
        """Leaves out what nobody sees."""
        self.left_out[why] += shapes

    def tell_left_out(self) -> None:
        """Notes what nobody sees, once all is read."""
        shapes = sum(self.left_out.values())
        if shapes:
            why = ", ".join(f"{count} {why}" for why, count in sorted(self.left_out.items()))
            told = "1 shape that nobody sees was" if shapes == 1 else f"{shapes} shapes that nobody sees were"
            self.note(f"{told} left out: {why}.")

    def add(self, layer: str, segments: Iterable[Segment], colour: str = "", *, filled: bool = False) -> None:
        """Takes the lines and arcs of one entity, less points. Raises `BrokenFile` for too many, or too far off."""
        kept = []
        for segment in segments:
            check_reach(*segment.bounds())
            if segment.length >= SHORTEST:
                kept.append(segment)
                check_count(self.held + len(kept), self.most)
        if kept:
            self.held += len(kept)
            self.lines.append(DrawnLine(layer, tuple(kept), colour, filled))
        else:
            self.point()


def check_count(lines: int, most: int) -> None:
    """Raises `BrokenFile` where a file has more lines and arcs than are read."""
    if lines > most:
        raise BrokenFile(
            f"The file has more than {most} lines and arcs; at most {most} are read. Leave out what is not to be cut."
        )


def check_reach(*coordinates: float) -> None:
    """Raises `BrokenFile` where coordinates (mm) are no numbers, or further off than anything that is cut."""
    for value in coordinates:
        if not math.isfinite(value):
            raise BrokenFile("The file has coordinates that are no finite numbers; save it again.")
        if abs(value) > LARGEST:
            raise BrokenFile(
                f"The file has a line that reaches {abs(value):.3g} mm from its origin; at most {LARGEST:g} mm are "
                "read. Check its unit and scale."
            )


def check_points(points: Iterable[Point]) -> None:
    """As `check_reach`, for points in mm."""
    for point in points:
        check_reach(point.real, point.imag)
