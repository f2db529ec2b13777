"""The parts of a machine for practice, picked up and read: what calipers would say in a hand."""

from __future__ import annotations

import random
from collections.abc import Sequence

import numpy as np

from ..document.machine import Lies
from ..document.measured import CutFace
from .explained import STEP, row_of
from .lengths import Length

#: How far readings of a hand that has practised scatter (mm): common practice, no source.
_HAND = 0.01


#: A protractor has marks every half degree, and a hand reads it so well (degrees): common practice, no source.
_MARKS, _READS = 0.5, 0.2


def bent_back(lies: Lies, put: float, day: str) -> float:
    """What a protractor reads (degrees) of a strip that was bent to an angle, and springs back by the share that it
    does there; on the same ``day`` always the same.
    """
    true = put * (1 - lies.spring) + random.Random(f"{day} {put}").gauss(0, _READS)
    return round(true / _MARKS) * _MARKS


def picked_up(
    lies: Lies,
    lengths: Sequence[Length],
    kerf: float,
    day: str,
    face: CutFace = "top",
    shank: float | None = None,
    oval: float = 0.0,
) -> list[float]:
    """Readings (mm) of lengths whose file was written for a kerf (mm), so much wider along y, cut by a beam or a cutter
    with such a ``shank``; on the same ``day`` always the same ones.
    """
    wide = lies.kerf if shank is None else shank + lies.runout
    wider = lies.oval - oval if shank is None else 0.0
    truth = np.array([wide - kerf, lies.scale_x, lies.scale_y, lies.square, lies.taper, lies.neutral, wider, 0.0])
    found: list[float] = []
    for one in lengths:
        hand = random.Random(f"{day} {one.part} {one.cut_out} {one.way} {face}")
        true = one.meant + float(np.array(row_of(one, face == "bottom")) @ truth)
        found.append(round(round((true + hand.gauss(0, _HAND)) / STEP) * STEP, 4))
    return found
