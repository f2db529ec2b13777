"""How files for the machine are wanted."""

from __future__ import annotations

from typing import Literal

from .model import Model


class HandOver(Model):
    """``bends`` are the lines of bends on layers of their own, ``bend_words`` what is written beside them."""

    kerf: Literal["in the file", "at the machine"] = "in the file"
    strokes: Literal["visible", "hairline"] = "visible"
    check_square: bool = False
    names: Literal["score", "leave out"] = "score"
    dxf: Literal["R2010", "R12"] = "R2010"
    bends: Literal["centre", "centre and tangents", "leave out"] = "centre"
    bend_words: bool = False
    programs: Literal["one with changes", "one a cutter"] = "one with changes"
