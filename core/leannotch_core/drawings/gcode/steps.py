"""What a program makes a machine do, step by step, in mm."""

from __future__ import annotations

import re
from collections.abc import Generator, Iterator, Mapping
from typing import NamedTuple

from ...document.units import INCH
from ...remembered import remembered
from .arcs import arc
from .cycles import CYCLES, drilled
from .programs import called_through
from .state import Home, ProgramStep, ProgramTold, State, Stop
from .words import BadBlock, Block, Dialect

STANDARD = Dialect()

#: A program of no more characters is carried out once for all who ask: its proof, its drawing, and its machine.
_AT_ONCE = 1_500_000

_MM: Mapping[int, float] = {200: INCH, 210: 1.0}

#: Air and coolant, in tenths.
_SWITCHES = frozenset({70, 80, 90})

_OPERATION = re.compile(r"operation (\w+)")

#: The motions that hold until another one; those that most lines have and no others; and what ends a program.
_MOTIONS = frozenset({0, 10, 20, 30, 800}) | CYCLES
_PLAIN, _ENDS = frozenset({0, 10, 20, 30}), frozenset({20, 300})

#: Words of where it goes, and of which way round.
_TO, _ROUND = frozenset("XYZ"), frozenset("IJR")

#: Codes that move to the machine's own places, and the zeros that a program may count from.
_HOME, _ZEROS = frozenset({280, 300}), frozenset({540, 550, 560, 570, 580, 590, 591, 592, 593})


def steps(
    text: str, told: ProgramTold | None = None, dialect: Dialect = STANDARD, home: Home | None = None
) -> Iterator[ProgramStep]:
    """The steps of a program from its origin on. Raises `BadBlock` at what cannot be carried out.

    ``told`` is filled with what the program says; ``dialect`` is how its machine is spoken to, ``home`` where
    that machine's own zero lies.
    """
    if len(text) > _AT_ONCE:
        yield from _steps(text, told or ProgramTold(), dialect, home or Home())
        return
    taken = _taken(text, dialect, home or Home())
    if told is not None:
        told.also(taken.told)
    yield from taken.steps
    if taken.fault:
        raise BadBlock(taken.fault.line, taken.fault.text)


class _Taken(NamedTuple):
    """All steps of a program, what it says, and where it cannot be carried out any further."""

    steps: tuple[ProgramStep, ...]
    told: ProgramTold
    fault: BadBlock | None


@remembered(most=8)
def _taken(text: str, dialect: Dialect, home: Home) -> _Taken:
    found: list[ProgramStep] = []
    told = ProgramTold()
    try:
        for step in _steps(text, told, dialect, home):
            found.append(step)
    except BadBlock as fault:
        return _Taken(tuple(found), told, fault)
    return _Taken(tuple(found), told, None)


def _steps(text: str, told: ProgramTold, dialect: Dialect, home: Home) -> Iterator[ProgramStep]:
    state = State(home, dialect.without_s, dialect.radii)
    for block in called_through(text, dialect):
        if told.ended and (block.g or block.m or block.words):
            raise BadBlock(block.line, "it stands behind the end of the program")
        if block.own or block.comments or block.m or block.slashed or not block.g <= _PLAIN:
            _noted(block, state, told)
        for step in _carried_out(block, state):
            if step.segment is not None and not block.own:
                told.worked = told.worked[0] or step.line, step.line
            yield step
        told.unit_stated = state.unit_stated
        told.ended = told.ended or not block.m.isdisjoint(_ENDS)


def _noted(block: Block, state: State, told: ProgramTold) -> None:
    """Notes what the program says of itself on a line. Raises `BadBlock`."""
    if block.own:
        told.own.append((block.line, block.own))
    else:
        told.switched += [(block.line, f"M{code // 10}") for code in sorted(block.m & _SWITCHES)]
    told.comments += block.comments
    for comment in block.comments:
        match = _OPERATION.match(comment)
        state.operation = match[1] if match else state.operation
    _as_given(block, state, told)


def _as_given(block: Block, state: State, told: ProgramTold) -> None:
    """Notes what depends on the machine's own settings. Raises `BadBlock` where it needs one that nobody knows."""
    if block.slashed:
        told.note(f"Lines that begin with “/” are carried out, the first at line {block.line}: switch that on too.")
    if 430 in block.g:
        told.note(
            f"G43 at line {block.line} takes the cutter's length from the machine's table; z is taken as it says."
        )
    zeros = block.g & _ZEROS
    if zeros and state.zero and state.zero not in zeros:
        first, second = (f"G{code / 10:g}" for code in (state.zero, next(iter(zeros))))
        raise BadBlock(
            block.line, f"{second} counts from another zero than {first}; where that lies is not in the file"
        )
    state.zero = next(iter(zeros), state.zero)
    if state.on is False and block.m & {30, 40, 1060} and state.s is None and "S" not in block.words:
        meant = "the most is taken" if state.without_s else "a spindle stands still so"
        told.note(f"It is switched on at line {block.line} and no S says how much: {meant}.")


def _carried_out(block: Block, state: State) -> Iterator[ProgramStep]:
    """One block, in the order of NISTIR 6556, 3.8: rates, switches, waits, unit and distance, then the move."""
    _rates(block, state)
    # Most lines have a motion and places alone.
    plain = block.g <= _PLAIN and not block.m and "T" not in block.words
    if not plain and (yield from _before_the_move(block, state)):
        return
    _hold_motion(block, state)
    if state.motion in CYCLES:
        yield from drilled(block, state)
    elif not block.words.keys().isdisjoint(_TO) or _goes_round(block, state):
        yield _moved(block, state)


def _before_the_move(block: Block, state: State) -> Generator[ProgramStep, None, bool]:
    """What is carried out before the move; and whether it was all, for the places mean something else then."""
    _switch(block, state)
    stops = _stopped(block, state)
    if stops:
        yield ProgramStep(block.line, None, None, 0.0, state.operation, state.z, state.z, tool=state.tool, stops=stops)
    if 40 in block.g:
        if block.words.get("P", -1) < 0:
            raise BadBlock(block.line, "G4 does not say with P how long to wait")
        yield state.waits(block.line, block.words["P"])
        return True
    state.relative = 910 in block.g or (state.relative and 900 not in block.g)
    state.centres_at = 901 in block.g or (state.centres_at and 911 not in block.g)
    state.back_to_r = 990 in block.g or (state.back_to_r and 980 not in block.g)
    _hold_motion(block, state)
    if block.g & {920, 921, 922}:
        _shift(block, state)
    elif block.g & _HOME:
        yield from _homed(block, state)
    elif 530 in block.g:
        yield _of_machine(block, state)
    else:
        return False
    return True


def _hold_motion(block: Block, state: State) -> None:
    """The motion that a block names holds until another one."""
    for motion in block.g & _MOTIONS:
        state.motion = motion
        state.cycle = {} if motion not in CYCLES else state.cycle


def _goes_round(block: Block, state: State) -> bool:
    """Whether it is the arc of a whole circle, whose end is not said."""
    return state.motion in (20, 30) and bool(block.g & _MOTIONS or block.words.keys() & _ROUND)


def _shift(block: Block, state: State) -> None:
    """G92: where it stands is called by other numbers from here on; G92.1 and G92.2 end that (NISTIR 6556, 3.5.18)."""
    if 920 not in block.g:
        state.shifted, state.shifted_z = 0, 0.0
        return
    words, unit = block.words, state.unit
    x = state.here.real - words["X"] * unit if "X" in words else state.shifted.real
    y = state.here.imag - words["Y"] * unit if "Y" in words else state.shifted.imag
    state.shifted = complex(x, y)
    state.shifted_z = state.z - words["Z"] * unit if "Z" in words else state.shifted_z


def _homed(block: Block, state: State) -> Iterator[ProgramStep]:
    """G28 and G30: at speed by way of the place that is named, to the machine's own (NISTIR 6556, 3.5.8).

    Axes that are named go home; where none is, all do.
    """
    named = block.words.keys() & {"X", "Y", "Z"}
    there, z = state.there(block.words)
    if named and (there, z) != (state.here, state.z):
        yield state.goes(block.line, there, z, None)
    home = state.home
    x = home.at.real if "X" in named or not named else state.here.real
    y = home.at.imag if "Y" in named or not named else state.here.imag
    yield state.goes(block.line, complex(x, y), home.z if "Z" in named or not named else state.z, None)


def _of_machine(block: Block, state: State) -> ProgramStep:
    """G53: one move in the machine's own coordinates (NISTIR 6556, 3.5.13)."""
    if state.motion not in (0, 10):
        raise BadBlock(block.line, "G53 moves straight: it needs G0 or G1")
    words, unit, home = block.words, state.unit, state.home
    x = home.at.real + words["X"] * unit if "X" in words else state.here.real
    y = home.at.imag + words["Y"] * unit if "Y" in words else state.here.imag
    z = home.z + words["Z"] * unit if "Z" in words else state.z
    return state.goes(block.line, complex(x, y), z, state.works_at(block.line, "G1") if state.motion else None)


def _rates(block: Block, state: State) -> None:
    """What holds from here on: the unit, the speed and the power. Raises `BadBlock`."""
    words = block.words
    for code, unit in _MM.items():
        if code in block.g:
            state.unit, state.unit_stated = unit, True
    if "F" in words:
        state.feed = words["F"] * state.unit
    if "S" in words:
        if words["S"] < 0:
            raise BadBlock(block.line, f"S{words['S']:g} is less than nothing")
        state.s = words["S"]
    state.digits = max(state.digits, block.digits)


def _switch(block: Block, state: State) -> None:
    """Whether the beam or spindle is on from here on."""
    if block.m & {30, 40, 1060}:
        state.on = state.begun = True
        state.reverse = 40 in block.m
    if block.m & {50, 20, 300, 1070}:
        state.on = False


def _stopped(block: Block, state: State) -> Stop:
    """Whether the program waits here. A cutter that is named before anything was worked is in already.

    A pause is for the cutter that was named last. Where none ever was, one in the middle of the work with the spindle
    off is for the next one.
    """
    if "T" in block.words:
        state.wanted = int(block.words["T"])
    if 60 in block.m:
        if state.wanted <= 0:
            raise BadBlock(block.line, "M6 does not say with T which cutter is wanted")
        changed, state.tool = state.wanted != state.tool and state.worked, state.wanted
        return "cutter" if changed else ""
    if 0 in block.m:
        named = state.wanted not in (0, state.tool)
        state.tool = state.wanted if named else state.tool + (state.worked and not state.on and not state.wanted)
        return "cutter" if named else "pause"
    return ""


def _moved(block: Block, state: State) -> ProgramStep:
    if state.motion == 800:
        raise BadBlock(block.line, "no motion is in use: G80 was said, and no G0 to G3 since")
    there, z = state.there(block.words)
    feed = state.works_at(block.line, f"G{state.motion / 10:g}") if state.motion else None
    segment = arc(block, state, there) if state.motion in (20, 30) else None
    return state.goes(block.line, there, z, feed, segment)
