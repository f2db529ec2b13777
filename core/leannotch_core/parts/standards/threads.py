"""Bought screws and nuts: sizes in mm of metric socket screws, hexagon nuts and the holes for them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Thread = Literal["M2", "M2.5", "M3", "M4", "M5", "M6", "M8"]


@dataclass(frozen=True, slots=True)
class Screw:
    """A metric thread with its socket screw and hexagon nut, in mm.

    ``diameter`` and ``pitch``: coarse thread (ISO 261). ``head``, ``head_height``: largest socket head (ISO 4762).
    ``flats``, ``nut``: largest width across flats and height of a hexagon nut, style 1 (ISO 4032). ``hole``: medium
    clearance hole (ISO 273). ``lengths``: preferred lengths under the head (ISO 4762). All values from memory.
    """

    diameter: float
    pitch: float
    head: float
    head_height: float
    flats: float
    nut: float
    hole: float
    lengths: tuple[int, ...]


SCREWS: dict[Thread, Screw] = {
    "M2": Screw(2, 0.4, 3.8, 2, 4, 1.6, 2.4, (3, 4, 5, 6, 8, 10, 12, 16, 20)),
    "M2.5": Screw(2.5, 0.45, 4.5, 2.5, 5, 2, 2.9, (4, 5, 6, 8, 10, 12, 16, 20, 25)),
    "M3": Screw(3, 0.5, 5.5, 3, 5.5, 2.4, 3.4, (5, 6, 8, 10, 12, 16, 20, 25, 30)),
    "M4": Screw(4, 0.7, 7, 4, 7, 3.2, 4.5, (6, 8, 10, 12, 16, 20, 25, 30, 35, 40)),
    "M5": Screw(5, 0.8, 8.5, 5, 8, 4.7, 5.5, (8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50)),
    "M6": Screw(6, 1, 10, 6, 10, 5.2, 6.6, (10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60)),
    "M8": Screw(8, 1.25, 13, 8, 13, 6.8, 9, (12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80)),
}


def longer(thread: Thread, least: float) -> int | None:
    """The shortest preferred length (mm) of at least ``least``; None if there is none."""
    return next((length for length in SCREWS[thread].lengths if length >= least - 1e-9), None)
