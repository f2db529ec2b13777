"""A program read for its proof: every way of the cutter as short straight pieces, each with its heights."""

from __future__ import annotations

import math
from array import array
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np
import numpy.typing as npt

from ...drawings.drawing import BrokenFile
from ...drawings.gcode.state import ProgramStep, ProgramTold
from ...drawings.gcode.steps import steps
from ...drawings.gcode.words import BadBlock, Dialect
from ...geometry.segment import Arc

Numbers = npt.NDArray[np.float64]
Points = npt.NDArray[np.complex128]

#: Chords leave their arcs by at most this (mm).
CHORDS = 0.002

#: The most pieces that are swept.
MOST = 6_000_000


@dataclass(frozen=True, slots=True)
class ProgramWays:
    """All ways of a program in order, a column each (mm): from where to where, and from which height to which.

    ``feed`` is in mm/min, 0 at speed; ``turns`` what the spindle does (or the S of a beam), 0 off; ``tool`` the
    cutter's number from 1, and ``line`` that of the program's line. ``reverse`` is whether the spindle turns backwards,
    ``waited`` for how long (s) the program has waited since it was switched on.
    """

    start: Points
    end: Points
    from_z: Numbers
    z: Numbers
    feed: Numbers
    turns: Numbers
    tool: npt.NDArray[np.int64]
    line: npt.NDArray[np.int64]
    reverse: npt.NDArray[np.bool_]
    waited: Numbers

    def __len__(self) -> int:
        return len(self.line)

    def some(self, which: npt.NDArray[np.bool_] | npt.NDArray[np.int64]) -> ProgramWays:
        return ProgramWays(*(getattr(self, column.name)[which] for column in fields(self)))

    def moved(self, place: Callable[[Points], Points], down: float = 0.0) -> ProgramWays:
        """The same ways elsewhere, and so much (mm) further down."""
        return replace(self, start=place(self.start), end=place(self.end), from_z=self.from_z - down, z=self.z - down)


@dataclass(slots=True)
class ReadProgram:
    """A program as it was read: its ways, what it says, and whether it ends as it should."""

    way: ProgramWays
    told: ProgramTold


def read_program(
    programs: Sequence[bytes], dialect: Dialect, heard: Callable[[float], None] = lambda _: None
) -> ReadProgram:
    """Reads programs that are carried out one after the other, each with the next cutter. Raises `BrokenFile`."""
    taken, told = array("d"), ProgramTold()
    for number, data in enumerate(programs):
        told.ended = False
        try:
            _take(steps(data.decode("utf-8", "replace"), told, dialect), taken, number, data.count(b"\n"), heard)
        except BadBlock as fault:
            raise BrokenFile(f"The program cannot be read. {fault}.") from fault
    return ReadProgram(_ways(np.frombuffer(taken).reshape(-1, _COLUMNS)), told)


#: What is taken of a move: its ends, from which height to which, feed, turns, tool, line, whether the spindle turns
#: backwards, how long it has waited; then of an arc its centre and which way it goes round, 0 for a line.
_COLUMNS = 15


def _take(
    found: Iterable[ProgramStep], taken: array[float], number: int, lines: int, heard: Callable[[float], None]
) -> None:
    here, was_on, waited = 0j, False, 0.0
    for step in found:
        if step.power > 0 and not was_on:
            waited = 0.0
        was_on = step.power > 0
        waited += step.wait
        if step.line % 20_000 == 0:
            heard(step.line / max(lines, 1))
        move = step.segment
        if move is None and step.from_z == step.z:
            continue
        start, end = (here, here) if move is None else (move.start, move.end)
        taken.extend((start.real, start.imag, end.real, end.imag, step.from_z, step.z))
        taken.extend((step.feed or 0.0, step.power, step.tool + number, step.line, step.reverse, waited))
        taken.extend(
            (move.centre.real, move.centre.imag, 1 if move.ccw else -1) if isinstance(move, Arc) else (0, 0, 0)
        )
        here = end
        if len(taken) > MOST * _COLUMNS:
            raise _too_many()


def _too_many() -> BrokenFile:
    return BrokenFile(f"The program has more than {MOST} ways; that is beyond what is swept.")


def _ways(taken: Numbers) -> ProgramWays:
    """All moves as short straight pieces. Raises `BrokenFile`."""
    start, end = taken[:, 0] + 1j * taken[:, 1], taken[:, 2] + 1j * taken[:, 3]
    from_z, z = taken[:, 4], taken[:, 5]
    feed, turns, tool, line, reverse, waited = taken[:, 6:12].T
    arcs = np.flatnonzero(taken[:, 14])
    count, stops = _chords(start[arcs], end[arcs], taken[arcs, 12] + 1j * taken[arcs, 13], taken[arcs, 14] > 0)
    pieces = np.ones(len(taken), dtype=np.int64)
    pieces[arcs] = count
    own = np.repeat(np.arange(len(taken)), pieces)
    nth, many = np.arange(len(own)) - np.repeat(np.cumsum(pieces) - pieces, pieces), pieces[own]
    first, last = start[own], end[own]
    # Starts and ends are taken as they are: neighbours meet in them to the last bit.
    within, before = nth > 0, nth + 1 < many
    first[within], last[before] = stops, stops
    fall = (z - from_z)[own]
    return ProgramWays(
        first,
        last,
        from_z[own] + fall * nth / many,
        np.where(before, from_z[own] + fall * (nth + 1) / many, z[own]),
        feed[own],
        turns[own],
        tool[own].astype(np.int64),
        line[own].astype(np.int64),
        reverse[own] > 0,
        waited[own],
    )


def _chords(
    start: Points, end: Points, centre: Points, ccw: npt.NDArray[np.bool_]
) -> tuple[npt.NDArray[np.int64], Points]:
    """How many chords each arc has that stay near it, worked out from its ends and its centre alone; and all their
    ends in order, but for those of the arcs. Raises `BrokenFile`.
    """
    spoke, to = start - centre, end - centre
    turned = np.angle(to * spoke.conjugate())
    turned = np.where(ccw, turned % math.tau, -(-turned % math.tau))
    turned = np.where(np.abs(turned) < 1e-12, np.where(ccw, math.tau, -math.tau), turned)
    radius = np.maximum(np.abs(spoke), CHORDS)
    step = np.where(radius > CHORDS, 2 * np.arccos(1 - CHORDS / radius), math.pi)
    count = np.maximum(1, np.ceil(np.abs(turned) / step)).astype(np.int64)
    if count.sum() > MOST:
        raise _too_many()
    between = count - 1
    own = np.repeat(np.arange(len(count)), between)
    nth = np.arange(len(own)) - np.repeat(np.cumsum(between) - between, between) + 1
    found: Points = centre[own] + spoke[own] * np.exp(1j * turned[own] * nth / count[own])
    return count, found
