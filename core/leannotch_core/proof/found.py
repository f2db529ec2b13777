"""What the proof of a sheet found: each copy as it comes free, what was looked at, and what is wrong."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from shapely import Point as ShapelyPoint
from shapely import Polygon, STRtree

from ..joints.walls import Face
from .bends import ProvedLeg
from .chords import Point
from .fault import Code, Fault
from .sweep import Piece, Proof

#: A proved size further than this (mm) from intent is a fault.
ALLOWED = 0.01


@dataclass(frozen=True, slots=True)
class ProvedPart:
    """One copy of a part: size as intended and as proved, and the largest deviation of its sides (mm).

    ``shape`` is the piece in the part's own frame; None where no piece came free. ``pockets`` are what was cleared
    in it, in the same frame; ``held`` on how many holding tabs it hangs. ``legs`` are those of its bends.
    """

    part: str
    name: str
    copy_number: int
    width: float
    height: float
    proved_width: float | None
    proved_height: float | None
    deviation: float | None
    shape: Polygon | None
    pockets: tuple[Polygon, ...] = ()
    held: int = 0
    legs: tuple[ProvedLeg, ...] = ()

    @property
    def good(self) -> bool:
        return self.deviation is not None and self.deviation <= ALLOWED


class Check(NamedTuple):
    """Something that was looked at in a file: which kind of fault it could have, in words, and whether it holds."""

    code: Code
    what: str
    good: bool


@dataclass(slots=True)
class SheetProof:
    """A sheet's proof. ``sunk`` is what a cutter clears without going through, on the sheet; ``faces`` are the copies
    as they come out on each face, where the walls of cuts lean.
    """

    proof: Proof
    parts: list[ProvedPart] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    checks: list[Check] = field(default_factory=list)
    sunk: list[Polygon] = field(default_factory=list)
    faces: dict[Face, list[ProvedPart]] = field(default_factory=dict)

    def check(self, code: Code, what: str, fault: str = "", at: Point | None = None) -> None:
        """Notes a cross-check of the file, and the fault where it failed."""
        self.checks.append(Check(code, what, not fault))
        if fault:
            self.fault(code, fault, at)

    def checked(self, code: Code, what: str, faults: Iterable[Fault]) -> None:
        """Notes a cross-check with all that it found."""
        found = list(faults)
        self.checks.append(Check(code, what, not found))
        self.faults += found

    def fault(self, code: Code, text: str, at: Point | None = None) -> None:
        self.faults.append(Fault(code, text, at))


class PiecesTaken:
    """The pieces that come free, each taken for one part at the most."""

    def __init__(self, pieces: Sequence[Piece]) -> None:
        self._pieces = pieces
        self._tree = STRtree([piece.shape for piece in pieces])
        self._taken: set[int] = set()

    def at(self, point: ShapelyPoint) -> Piece | None:
        """Takes the first piece with a point in it that is left."""
        here = (int(index) for index in sorted(self._tree.query(point, predicate="within")))
        index = next((index for index in here if index not in self._taken), None)
        if index is None:
            return None
        self._taken.add(index)
        return self._pieces[index]

    def left(self) -> list[Piece]:
        return [piece for index, piece in enumerate(self._pieces) if index not in self._taken]


def check_left(taken: PiecesTaken, found: SheetProof) -> None:
    """Tells of what comes free and is no part."""
    for piece in taken.left():
        at = piece.shape.representative_point()
        found.fault("no-part", f"A piece of {piece.shape.area:.2f} mm² comes free that is no part", complex(at.x, at.y))
