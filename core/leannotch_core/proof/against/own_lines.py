"""The lines that a machine wants in its programs beside what all have: there, in their order, and nothing like them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ...drawings.gcode.state import ProgramTold
from ..fault import Fault


def own_line_faults(told: ProgramTold, begins: Sequence[str], ends: Sequence[str]) -> Iterator[Fault]:
    """What is lost of a machine's own lines, or stands elsewhere; and what else is switched that nobody meant."""
    first, last = told.worked
    before = [text for line, text in told.own if line < first or not first]
    behind = [text for line, text in told.own if line > last]
    for what, wanted, got in (("begins", begins, before), ("ends", ends, behind)):
        lost = _lost([line.strip() for line in wanted if line.strip()], got)
        if lost:
            yield Fault("own-lines", f"The program {what} without “{lost}”, which its machine wants there")
    between = [(line, text) for line, text in told.own if first <= line <= last]
    if first and between:
        line, text = between[0]
        yield Fault("own-lines", f"Line {line}: “{text}” stands in the midst of the work")
    for line, word in told.switched[:1]:
        yield Fault("switches", f"Line {line}: {word} switches something that the machine's profile does not")


def _lost(wanted: Sequence[str], got: Sequence[str]) -> str:
    """The first of some lines that does not come in its turn."""
    rest = iter(got)
    return next((line for line in wanted if line not in rest), "")
