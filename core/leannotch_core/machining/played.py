"""Moves as they are played on a screen: when each ends, and along what, on the bed as one stands before it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from ..geometry.segment import Arc, Motion, Segment
from .clock import Numbers


class Played(BaseModel):
    """Every move in order, a column each: when it ends (s), where (mm), and about which centre where it is an arc.

    ``turn`` is 1 for a counter-clockwise arc, -1 for a clockwise one, and 0 for a line; ``on`` is whether it works.
    ``job`` is what it belongs to, by the place of that. Of a router alone, ``z`` is the height (mm) at its end,
    ``wide`` the width of the cutter, ``chip`` what each tooth takes, and ``engaged`` how much of that cuts.
    """

    ends: list[float]
    x: list[float]
    y: list[float]
    centre_x: list[float]
    centre_y: list[float]
    turn: list[int]
    on: list[bool]
    job: list[int]
    z: list[float] = []
    wide: list[float] = []
    chip: list[float] = []
    engaged: list[float] = []


#: What is played where nothing moves.
NOTHING = Played(ends=[], x=[], y=[], centre_x=[], centre_y=[], turn=[], on=[], job=[])


def played(
    segments: Sequence[Segment],
    ends: Numbers,
    on: Sequence[bool],
    job: Sequence[int],
    seen: Motion,
    z: Sequence[float] = (),
    wide: Sequence[float] = (),
) -> Played:
    """Moves of the machine's coordinates, and when each ends; ``seen`` takes these to the bed as it is seen."""
    moved = [segment.moved(seen) for segment in segments]
    centres = [s.centre if isinstance(s, Arc) else 0j for s in moved]
    return Played(
        ends=np.round(ends, 4).tolist(),
        x=[round(s.end.real, 3) for s in moved],
        y=[round(s.end.imag, 3) for s in moved],
        centre_x=[round(c.real, 3) for c in centres],
        centre_y=[round(c.imag, 3) for c in centres],
        turn=[(1 if s.ccw else -1) if isinstance(s, Arc) else 0 for s in moved],
        on=list(on),
        job=list(job),
        z=[round(height, 3) for height in z],
        wide=[round(width, 3) for width in wide],
    )
