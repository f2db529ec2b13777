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
    columns = [array("d") for _ in range(12)]
    told = ProgramTold()
    for number, data in enumerate(programs):
        told.ended = False
        try:
            _take(steps(data.decode("utf-8", "replace"), told, dialect), columns, number, data.count(b"\n"), heard)
        except BadBlock as fault:
            raise BrokenFile(f"The program cannot be read. {fault}.") from fault
    x, y, to_x, to_y, from_z, z, feed, turns, tool, line, reverse, waited = (np.frombuffer(each) for each in columns)
    numbers = tool.astype(np.int64), line.astype(np.int64), reverse > 0
    return ReadProgram(ProgramWays(x + 1j * y, to_x + 1j * to_y, from_z, z, feed, turns, *numbers, waited), told)


def _take(
    found: Iterable[ProgramStep],
    columns: Sequence[array[float]],
    number: int,
    lines: int,
    heard: Callable[[float], None],
) -> None:
    here, was_on, waited = 0j, False, 0.0
    for step in found:
        if step.power > 0 and not was_on:
            waited = 0.0
        was_on = step.power > 0
        waited += step.wait
        if step.line % 20_000 == 0:
            heard(step.line / max(lines, 1))
        if step.segment is None and step.from_z == step.z:
            continue
        rest = (
            step.feed or 0.0,
            step.power,
            float(step.tool + number),
            float(step.line),
            float(step.reverse),
            waited,
        )
        if step.segment is None:
            _put(columns, here, here, step.from_z, step.z, rest)
            continue
        if isinstance(step.segment, Arc):
            _put_arc(columns, step.segment, step.from_z, step.z, rest)
        else:
            _put(columns, step.segment.start, step.segment.end, step.from_z, step.z, rest)
        here = step.segment.end
        if len(columns[0]) > MOST:
            raise BrokenFile(f"The program has more than {MOST} ways; that is beyond what is swept.")


def _put(
    columns: Sequence[array[float]], a: complex, b: complex, from_z: float, z: float, rest: tuple[float, ...]
) -> None:
    for column, value in zip(columns, (a.real, a.imag, b.real, b.imag, from_z, z, *rest), strict=True):
        column.append(value)


def _put_arc(columns: Sequence[array[float]], arc: Arc, from_z: float, z: float, rest: tuple[float, ...]) -> None:
    """An arc by chords that stay near it, worked out from its ends and its centre alone."""
    stops = _stops(arc)
    heights = np.linspace(from_z, z, len(stops))
    many = (stops.real[:-1], stops.imag[:-1], stops.real[1:], stops.imag[1:], heights[:-1], heights[1:])
    for column, values in zip(columns, many, strict=False):
        column.frombytes(np.ascontiguousarray(values).tobytes())
    for column, value in zip(columns[6:], rest, strict=True):
        column.extend([value] * (len(stops) - 1))


def _stops(arc: Arc) -> Points:
    spoke, to = arc.start - arc.centre, arc.end - arc.centre
    turned = math.atan2((to * spoke.conjugate()).imag, (to * spoke.conjugate()).real)
    turned = turned % math.tau if arc.ccw else -(-turned % math.tau)
    if abs(turned) < 1e-12:
        turned = math.tau if arc.ccw else -math.tau
    radius = abs(spoke)
    step = 2 * math.acos(max(0.0, 1 - CHORDS / radius)) if radius > CHORDS else math.pi
    count = max(1, math.ceil(abs(turned) / step))
    found: Points = arc.centre + spoke * np.exp(1j * turned * np.arange(count + 1) / count)
    # Starts and ends are taken as they are: neighbours meet in them to the last bit.
    found[0], found[-1] = arc.start, arc.end
    return found
