"""Shapes on a part: cut out, added, kept, sunk, marked on it or only drawn under it, once or in rows."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..document.model import Id, Model, Owner
from ..document.sizes import Size
from .shapes.kinds import Hole


class Repeat(Model):
    """A row or grid; steps run away from the corner the cut-out is placed from."""

    columns: int = Field(default=1, ge=1, le=60)
    rows: int = Field(default=1, ge=1, le=60)
    step_x: Size = Size(text="10")
    step_y: Size = Size(text="10")


class CutOut(Model):
    """A shape on a part, its middle placed by distance from a corner or from the middle of the part.

    What it ``does``: it is cut out; added to the part; kept as the only material; sunk as a pocket ``depth`` deep;
    engraved all over (``fill``); scored or engraved along its edge; or drawn as a reference, which no machine sees.
    ``starter`` is the id of the starter that made it.
    """

    id: Id
    hole: Hole
    origin: Literal["bottom left", "bottom right", "top right", "top left", "middle"] = "bottom left"
    x: Size
    y: Size
    turn: Size = Size(text="0")
    mirrored: bool = False
    does: Literal["cut out", "add", "keep", "pocket", "fill", "score", "engrave", "reference"] = "cut out"
    depth: Size = Size(text="thickness/2")
    repeat: Repeat = Repeat()
    starter: Owner = ""

    @property
    def copies(self) -> int:
        return self.repeat.columns * self.repeat.rows

    @property
    def lines(self) -> int:
        return self.copies * self.hole.lines
