"""Facing: the spoilboard is made flat, row by row over a piece of the bed; a job of its own."""

from __future__ import annotations

import math

from ...document.machine import Machine
from ...document.setting import Setting
from ...document.sizes import shown
from ...facts.cutters import CutterFacts, NoCutter
from ...geometry.segment import Line, Motion, Source
from ..program import Move
from .depths import at_most, passes
from .going_down import down_open
from .moves import routed_moves
from .stroke import Strokes, sloping
from .work import CutterRun

_ROW = Source("facing", "row")


def faced(
    cutter: CutterFacts,
    setting: Setting,
    machine: Machine,
    frame: Motion,
    left: float,
    bottom: float,
    width: float,
    height: float,
    depth: float,
    stepover: float,
    ramp: float,
    safe: float,
) -> list[Move]:
    """Moves that take ``depth`` mm off a rectangle of the bed (mm), in rows of a share of the cutter's diameter.

    ``frame`` takes the bed to the machine's coordinates. Raises `NoCutter` where that cannot be.
    """
    if min(width, height, depth) <= 0:
        raise NoCutter("Facing needs a width, a height and a depth of more than 0.")
    if depth > cutter.cutting_length:
        raise NoCutter(
            f"{cutter.name} cuts {shown(cutter.cutting_length)} deep; facing by {shown(depth)} is beyond it."
        )
    if cutter.tip in ("ball", "V"):
        raise NoCutter(f"{cutter.name} leaves no flat floor; face with an end mill.")
    found: list[CutterRun] = []
    z = 0.0
    for level in passes(depth, setting.stepdown or cutter.diameter):
        strokes = _rows(complex(left, bottom), width, height, stepover * cutter.diameter, z, level, ramp)
        found.append(CutterRun(0, cutter, "pocket", setting, tuple(strokes)))
        z = level
    return routed_moves(found, safe, machine, frame)


def _rows(corner: complex, width: float, height: float, apart: float, z: float, level: float, ramp: float) -> Strokes:
    """To and fro, the first row come down on."""
    count = max(1, math.ceil(at_most(height / apart, "facing in rows") - 1e-9))
    strokes: Strokes = []
    for number in range(count + 1):
        up = corner + 1j * height * number / count
        ends = (up, up + width) if number % 2 == 0 else (up + width, up)
        row = Line(*ends, _ROW)
        if strokes:
            strokes += sloping([Line(strokes[-1].segment.end, row.start, _ROW)], level, level)
        else:
            strokes += down_open([row], z, level, ramp)
        strokes += sloping([row], level, level)
    return strokes
