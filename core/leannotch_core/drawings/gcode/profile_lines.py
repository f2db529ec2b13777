"""What the lines do that a machine's profile adds to its programs, told before somebody else's profile is taken."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ...document.machine import Machine
from ...document.model import Model
from ...document.sizes import shown
from .state import ProgramStep
from .steps import steps
from .words import BadBlock, Dialect, blocks

#: What stands before: millimetres, and a place that no line is likely to go to.
_BEFORE = ("G21 G90", "G0 X-1 Y-1")


class ProfileLine(Model):
    """A line as it stands in every program; ``works`` is whether it burns or mills by itself."""

    where: Literal["begins", "ends"]
    text: str
    does: str
    works: bool = False


def profile_lines(machine: Machine) -> list[ProfileLine]:
    """Every line of a profile's own, with what it does."""
    return [*_lines(machine, "begins", machine.begins), *_lines(machine, "ends", machine.ends)]


def _lines(machine: Machine, where: Literal["begins", "ends"], own: Sequence[str]) -> list[ProfileLine]:
    dialect = Dialect.of(machine)
    found = []
    for at, text in enumerate(own):
        program = "\n".join([*_BEFORE, *own[: at + 1]])
        try:
            taken = [step for step in steps(program, dialect=dialect) if step.line == at + 1 + len(_BEFORE)]
        except BadBlock as error:
            # What the machine would stop at is no line to take unseen.
            found.append(ProfileLine(where=where, text=text, does=f"cannot be carried out: {error.text}"))
            continue
        working = any(step.segment is not None and step.feed is not None and step.power > 0 for step in taken)
        found.append(ProfileLine(where=where, text=text, does=_does(text, taken, dialect), works=working))
    return found


def _does(text: str, taken: Sequence[ProgramStep], dialect: Dialect) -> str:
    moves = [step for step in taken if step.segment is not None]
    if moves:
        how = "works its way" if any(step.feed and step.power > 0 for step in moves) else "moves"
        at = moves[-1].segment
        assert at is not None
        return f"{how} to {shown(at.end.real)}, {shown(at.end.imag)}"
    if taken:
        return "moves up or down, or waits"
    block = next(iter(blocks(text, dialect)), None)
    codes = [f"{letter}{code / 10:g}" for letter in "gm" for code in sorted(getattr(block, letter, ()))]
    return f"sets {', '.join(codes).upper()}" if codes else "is known to the machine alone"
