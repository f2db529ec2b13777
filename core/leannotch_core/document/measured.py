"""What was measured on parts that were cut, and what they were meant to measure."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .model import Day, Id, Model
from .routing import RoutedAt
from .setting import CutAt
from .sizes import LARGEST, Size

Way = Literal[
    "across", "up", "rising", "falling", "before", "onward", "opening", "insert", "web right", "web above", "thickness"
]

#: Which face of a sheet on its bed: the ``top`` is the one that the beam comes in at.
CutFace = Literal["top", "bottom"]


class LengthOf(Model):
    """Which length of a part: its width (``across``), height or diagonal, or one of a shape that is cut out of it; the
    leg ``before`` the bend of that id, or from there ``onward``, outside; its ``opening`` or ``insert`` in the joint of
    that id; the web to the right of a shape or above it; or how thick it is.
    """

    part: Id
    cut_out: Literal[""] | Id = ""
    way: Way

    @property
    def which(self) -> tuple[str, str, Way]:
        """What it is known by among all lengths."""
        return self.part, self.cut_out, self.way


class Reading(LengthOf):
    """What a caliper read of a length, on one of the faces."""

    reading: Size
    face: CutFace = "top"


class MeasuredLength(Reading):
    """A reading with what the length was ``meant`` to be when it was cut (mm).

    It ran ``along`` so many degrees from the x of the machine. ``grows`` is by how much of a wider kerf it grows: an
    opening by all of it, an outside by that much less where nothing is said. A K factor that is 1 larger makes a leg
    longer by ``bent`` mm, and a sheet that is 1 mm thicker by ``through``.
    """

    meant: float = Field(gt=0, le=LARGEST)
    along: float = Field(ge=-3600, le=3600)
    grows: float | None = Field(default=None, ge=-2, le=2)
    bent: float = Field(default=0, ge=-LARGEST, le=LARGEST)
    through: float = Field(default=0, ge=-200, le=200)

    @property
    def gains(self) -> float:
        """By how much of a wider kerf it grows."""
        return self.grows if self.grows is not None else 1.0 if self.cut_out else -1.0


class MeasuredSheet(Model):
    """What was measured on parts of one sheet, and on which day; the ``kerf`` (mm), by how much more along y than along
    x (``oval``), and the K that their file was written for, and what a beam cut them ``at``, or how a cutter went round
    them.
    """

    id: Id
    date: Day
    stock: Id
    machine: Literal[""] | Id = ""
    kerf: float = Field(gt=0, le=LARGEST)
    oval: float = Field(default=0, ge=-LARGEST, le=LARGEST)
    k: float = Field(default=0, ge=0, le=1)
    at: CutAt | None = None
    routed: RoutedAt | None = None
    lengths: list[MeasuredLength] = Field(max_length=60)
