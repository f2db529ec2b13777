"""Keep-outs: where a sheet or a bed has clips, tape, knots or holes."""

from __future__ import annotations

from typing import Literal

from .model import Model
from .sizes import Size

Barring = Literal["missing", "clip"]


class KeepOut(Model):
    """A rectangle of a sheet that is missing, or that a clip holds; from the lower left corner of sheet or bed."""

    what: Barring
    left: Size
    bottom: Size
    width: Size
    height: Size
