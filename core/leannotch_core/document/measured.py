"""What was measured on parts that were cut, and what they were meant to measure."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .model import Id, Model
from .sizes import LARGEST, Size

Way = Literal["across", "up"]

Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]


class LengthOf(Model):
    """Which length of a part: its width (``across``) or height, or that of a shape that is cut out of it."""

    part: Id
    cut_out: Literal[""] | Id = ""
    way: Way


class MeasuredLength(LengthOf):
    """A length as it was read with a caliper, and as it was ``meant`` when it was cut (mm).

    It ran ``along`` so many degrees from the x of the machine. On a sheet that lay on its bed the ``top`` is the face
    that the beam came in at.
    """

    meant: float = Field(gt=0, le=LARGEST)
    along: float = Field(ge=-3600, le=3600)
    reading: Size
    face: Literal["top", "bottom"] = "top"


class MeasuredSheet(Model):
    """What was measured on parts of one sheet, on which day, and the ``kerf`` (mm) that their file was written for."""

    id: Id
    date: Day
    stock: Id
    machine: Literal[""] | Id = ""
    kerf: float = Field(gt=0, le=LARGEST)
    lengths: list[MeasuredLength] = Field(max_length=60)
