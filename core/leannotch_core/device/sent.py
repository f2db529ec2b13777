"""Files as they are sent to the machine: programs, or drawings whose colours or layers tell what is done."""

from __future__ import annotations

from collections.abc import Iterator

from ..document.formats import format_named, is_program
from ..document.machine import Machine
from ..document.operations import BY_NAME, FILLED, Work, operation_named, work_of
from ..drawings.drawing import BrokenFile, Drawing, DrawnLine
from ..drawings.formats import read_drawing
from ..drawings.gcode.state import Home, ProgramStep
from ..drawings.gcode.steps import steps
from ..drawings.gcode.words import Dialect
from ..facts.bed import bed_of
from ..geometry.segment import Line, Point, Segment, Source
from ..machining.hatching import hatched

#: The largest program that is read, in bytes.
LARGEST = 30_000_000

#: Gap (mm) of the lines of a filled engraving that a drawing shows by its edge alone.
GAP = 0.1

_MOVE = Source("device", "move")


def read_sent(data: bytes, name: str, machine: Machine, origin: Point = 0) -> Iterator[ProgramStep]:
    """The steps of a file for a machine at a place of which its origin lies.

    Raises `BrokenFile` where it is none that the machine reads.
    """
    ending = name.rsplit(".", 1)[-1].lower()
    kind = format_named(ending) or ending
    if kind not in machine.reads:
        raise BrokenFile(f"{machine.name} reads {', '.join(machine.reads)}, not “{ending}”.")
    if len(data) > LARGEST:
        raise BrokenFile(f"The file has {len(data) / 1e6:.0f} MB; at most {LARGEST / 1e6:.0f} MB are read.")
    if is_program(kind):
        # A beam has no height to go home to.
        home = Home(-origin, 0.0) if machine.kind == "beam" else Home(-origin)
        return steps(data.decode("utf-8", "replace"), dialect=Dialect.of(machine), home=home)
    return of_drawing(read_drawing(data, name), machine)


def of_drawing(drawing: Drawing, machine: Machine, edges_alone: bool = False) -> Iterator[ProgramStep]:
    """Line by line as the drawing has them; its lower left corner lies in that of the bed.

    Where it is only asked how far it reaches, the edges of what is filled are enough.
    """
    axes, here = bed_of(machine).axes, 0j
    for number, line in enumerate(drawing.lines, 1):
        work = _work_of(line, machine)
        if work is None:
            continue
        speed, power = BY_NAME[work].usual
        feed = min(speed, machine.working.speed) * 60
        rows: list[list[Segment]] = [list(line.segments)]
        if work in FILLED and not edges_alone:
            rows = [list(row) for row in hatched([line.segments], GAP)]
        for row in rows:
            for segment in (one.moved(axes) for one in row):
                if abs(segment.start - here) > 1e-6:
                    yield _rapid(number, here, segment.start, work)
                yield ProgramStep(number, segment, feed, machine.most * power / 100, work)
                here = segment.end
    if here:
        yield _rapid(len(drawing.lines), here, 0, "cut")


def _rapid(number: int, here: Point, there: Point, work: str) -> ProgramStep:
    return ProgramStep(number, Line(here, there, _MOVE), None, 0.0, work)


def _work_of(line: DrawnLine, machine: Machine) -> Work | None:
    """What is done along a line: by its layer, else by its colour; nothing for what is there for people."""
    for telling in machine.tells:
        if line.layer == telling.layer or (line.colour and line.colour == telling.stroke):
            return telling.operation
    said = operation_named(line.layer)
    by_colour = next((name for name, ours in BY_NAME.items() if line.colour == ours.stroke), None)
    found = said or by_colour or "cut"
    return None if found and BY_NAME[found].beside else work_of(found)
