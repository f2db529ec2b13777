"""A sheet's file read back as the machine would, and taken to where its lines are on the sheet: what is proved."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..document.formats import is_program
from ..document.limits import MOST_OF_OURS
from ..drawings.drawing import Drawing
from ..drawings.formats import read_drawing
from ..drawings.gcode import read_gcode
from ..drawings.gcode.words import Dialect
from ..geometry.segment import Motion
from ..machining.ready import Prepared
from ..proof.depth.program import ReadProgram, read_program
from .formats import WRITERS
from .told import as_ours


def read_program_back(programs: Sequence[bytes], ready: Prepared) -> ReadProgram:
    """The ways in the bytes of a router's programs, in the frame of the sheet. Raises `BrokenFile`."""
    read = read_program(programs, Dialect.of(ready.machine))
    back = ready.to_machine.back
    way = read.way.moved(lambda z: back.turn * (z.conj() if back.mirrored else z) + back.shift, down=ready.z_zero)
    return replace(read, way=way)


def read_back(data: bytes, kind: str, ready: Prepared) -> Drawing:
    """The drawing in the bytes of a sheet's file, in the frame of the sheet, its layers called as ours are.

    Raises `BrokenFile`.
    """
    if is_program(kind):
        drawing = read_gcode(data, MOST_OF_OURS, Dialect.of(ready.machine))
    else:
        drawing = as_ours(read_drawing(data, f"sheet.{kind}", MOST_OF_OURS), ready.machine)
    frame = WRITERS[kind].frame(ready)
    if frame != Motion():
        back = frame.back
        drawing.lines = [
            replace(line, segments=tuple(segment.moved(back) for segment in line.segments)) for line in drawing.lines
        ]
    return drawing
