"""Keep-outs: where a sheet or a bed has clips, tape, knots or holes."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .model import Millimetres, Model
from .sizes import Size

Barring = Literal["missing", "clip"]


class SheetPoint(Model):
    """A point of a sheet, in mm from its lower left corner."""

    x: Millimetres
    y: Millimetres


class KeepOut(Model):
    """A piece of a sheet or a bed that is missing, or that a clip holds; from the lower left corner of that.

    A circle is as wide as it is said to be. What is drawn is told by its ``corners`` alone.
    """

    what: Barring
    shape: Literal["rectangle", "circle", "drawn"] = "rectangle"
    corners: list[SheetPoint] = Field(default=[], max_length=200)
    left: Size
    bottom: Size
    width: Size
    height: Size
