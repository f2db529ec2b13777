"""What was measured on parts that were cut, and what they were meant to measure."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .model import Day, Id, Model
from .routing import RoutedAt
from .setting import CutAt
from .sizes import LARGEST, Size

Way = Literal["across", "up"]

#: Which face of a sheet on its bed: the ``top`` is the one that the beam comes in at.
CutFace = Literal["top", "bottom"]


class LengthOf(Model):
    """Which length of a part: its width (``across``) or height, or that of a shape that is cut out of it."""

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

    It ran ``along`` so many degrees from the x of the machine.
    """

    meant: float = Field(gt=0, le=LARGEST)
    along: float = Field(ge=-3600, le=3600)


class MeasuredSheet(Model):
    """What was measured on parts of one sheet, and on which day; the ``kerf`` (mm) that their file was written for, and
    what a beam cut them ``at``, or how a cutter went round them.
    """

    id: Id
    date: Day
    stock: Id
    machine: Literal[""] | Id = ""
    kerf: float = Field(gt=0, le=LARGEST)
    at: CutAt | None = None
    routed: RoutedAt | None = None
    lengths: list[MeasuredLength] = Field(max_length=60)
