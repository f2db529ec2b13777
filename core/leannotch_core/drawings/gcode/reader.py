"""A program read as a drawing: the lines along which the beam is on, by what the program calls them."""

from __future__ import annotations

from dataclasses import replace

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.statement import IN_INCHES, IN_MILLIMETRES
from ...geometry.segment import Segment
from ..drawing import BrokenFile, Drawing, DrawnLine, check_count
from .state import ProgramTold
from .steps import STANDARD, steps
from .words import BadBlock, Dialect

#: Ends closer than this (mm) are one place: programs are written to a ten-thousandth.
_ONE_PLACE = 0.0005


def read_gcode(data: bytes, most: int = MOST_READ, dialect: Dialect = STANDARD) -> Drawing:
    """Reads a program of at most so many lines and arcs. What is followed in passes is one line.

    ``dialect`` is how the machine is spoken to that it is for.

    Raises `BrokenFile`.
    """
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The program has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    drawing, told = Drawing(most=most), ProgramTold()
    run: list[Segment] = []
    layer = ""
    count = 0
    try:
        for step in steps(data.decode("utf-8", "replace"), told, dialect):
            worked = step.power > 0 and step.feed is not None
            if run and (not worked or step.begun or step.operation != layer or _goes_round(run)):
                _end(drawing, layer, run)
                run = []
            if worked and step.segment is not None:
                count += 1
                check_count(count, most)
                layer = step.operation
                run.append(step.segment)
    except BadBlock as fault:
        raise BrokenFile(f"The program cannot be read. {fault}.") from fault
    if run:
        _end(drawing, layer, run)
    drawing.notes += told.notes
    drawing.unit_stated = told.unit_stated
    drawing.says = next((comment for comment in told.comments if comment.startswith((IN_MILLIMETRES, IN_INCHES))), "")
    drawing.ended = told.ended
    if not drawing.lines:
        drawing.note("The program works along no line.")
    return drawing


def _goes_round(run: list[Segment]) -> bool:
    """Whether it has come back to where it began, or to where a lead-in took it."""
    return _back_at(run, 0) or (len(run) > 2 and _back_at(run, 1))


def _back_at(run: list[Segment], place: int) -> bool:
    if abs(run[-1].end - run[place].start) > _ONE_PLACE:
        return False
    # What has hardly moved yet has not come back.
    return sum(segment.length for segment in run[place:]) > 10 * _ONE_PLACE


def _end(drawing: Drawing, layer: str, run: list[Segment]) -> None:
    """Takes a line, unless it is another pass of the one before it; a lead-in is a line of its own."""
    if len(run) > 2 and _back_at(run, 1) and not _back_at(run, 0):
        drawing.lines.append(DrawnLine(layer, (run[0],), lead=True))
        run = run[1:]
    before = drawing.lines[-1] if drawing.lines else None
    if before and before.layer == layer and (_alike(before.segments, run) or _alike(before.segments, _back(run))):
        drawing.lines[-1] = replace(before, passes=before.passes + 1)
        return
    drawing.lines.append(DrawnLine(layer, tuple(run)))


def _back(run: list[Segment]) -> list[Segment]:
    return [segment.reversed() for segment in reversed(run)]


def _alike(before: tuple[Segment, ...], run: list[Segment]) -> bool:
    return len(before) == len(run) and all(
        type(a) is type(b) and abs(a.start - b.start) <= _ONE_PLACE and abs(a.end - b.end) <= _ONE_PLACE
        for a, b in zip(before, run, strict=True)
    )
