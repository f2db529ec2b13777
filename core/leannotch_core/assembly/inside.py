"""Loose parts that fill a room between the walls of an assembly are put where they belong: in it, on its floor.

No joint holds them there, so poses alone would leave them lying beside it: a grid of dividers that is set into a tray.
"""

from __future__ import annotations

from itertools import product

import numpy as np

from ..evaluate import Result
from .inner import Span, inner_spans
from .poses import Assembly, Copy
from .space import Matrix, extent

#: What has no more play than this (mm) along both ways is meant to be there; common practice, no source.
PLAY = 2.0

_QUARTER: Matrix = np.array([[0.0, -1, 0, 0], [1, 0, 0, 0], [0, 0, 1, 0], [0, 0, 0, 1]])


def put_inside(result: Result, assembly: Assembly) -> Assembly:
    """The assembly with groups moved into the rooms of the largest one that they fill, each room once."""
    if len(assembly.groups) < 2:
        return assembly
    main, *others = assembly.groups
    spans = inner_spans(result, assembly)
    rooms = [(x, y) for x, y in product(spans, spans) if (x.axis, y.axis) == (0, 1) and _cross(x, y)]
    floor = _floor(result, assembly, main)
    for group in others:
        for room in rooms:
            turn = _fits(result, assembly, group, room)
            if turn is not None:
                _move(result, assembly, group, turn, room, floor)
                rooms.remove(room)
                break
    return assembly


def _cross(x: Span, y: Span) -> bool:
    """Whether two free widths lie in one room: each runs through where the other one is."""
    return x.start[0] <= y.start[0] <= x.end[0] and y.start[1] <= x.start[1] <= y.end[1]


def _box(result: Result, assembly: Assembly, group: list[Copy], turn: Matrix) -> tuple[Matrix, Matrix]:
    boxes = [extent(result.parts[copy.part], turn @ assembly.poses[copy]) for copy in group]
    return np.min([low for low, _ in boxes], axis=0), np.max([high for _, high in boxes], axis=0)


def _floor(result: Result, assembly: Assembly, group: list[Copy]) -> float:
    """Height (mm) of the top of the lowest part that lies flat; 0 without one."""
    flat = [copy for copy in group if abs(abs(assembly.poses[copy][2, 2]) - 1) < 1e-6]
    return min((float(extent(result.parts[c.part], assembly.poses[c])[1][2]) for c in flat), default=0.0)


def _fits(result: Result, assembly: Assembly, group: list[Copy], room: tuple[Span, Span]) -> Matrix | None:
    """The turn in which a group fills a room with little play; None where it does not."""
    for turn in (np.eye(4), _QUARTER):
        low, high = _box(result, assembly, group, turn)
        play = [span.length - size for span, size in zip(room, (high - low)[:2].tolist(), strict=True)]
        if all(-1e-6 <= spare <= PLAY for spare in play):
            return turn
    return None


def _move(
    result: Result, assembly: Assembly, group: list[Copy], turn: Matrix, room: tuple[Span, Span], floor: float
) -> None:
    low, high = _box(result, assembly, group, turn)
    middle = [(span.start[span.axis] + span.end[span.axis]) / 2 for span in room]
    shift = np.array([*middle, floor]) - [*((low + high) / 2)[:2], low[2]]
    for copy in group:
        pose = turn @ assembly.poses[copy]
        pose[:3, 3] += shift
        assembly.poses[copy] = pose
