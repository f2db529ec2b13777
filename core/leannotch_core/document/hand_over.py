"""How files for the machine are wanted."""

from __future__ import annotations

from typing import Literal

from .model import Model


class HandOver(Model):
    kerf: Literal["in the file", "at the machine"] = "in the file"
    strokes: Literal["visible", "hairline"] = "visible"
    check_square: bool = False
    names: Literal["score", "leave out"] = "score"
    dxf: Literal["R2010", "R12"] = "R2010"
