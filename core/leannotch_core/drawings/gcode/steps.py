"""What a program makes a machine do, step by step, in mm."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

from ...geometry.segment import Arc, Line, Point, Segment, Source
from .words import BadBlock, Block, Dialect, blocks

#: Radii at both ends of an arc may differ by so much (NISTIR 6556, 3.5.3.2: 0.002 mm).
RADII = 0.002

STANDARD = Dialect()

_MM: Mapping[int, float] = {200: 25.4, 210: 1.0}
#: What a program waits for in the middle of it.
Stop = Literal["", "pause", "cutter"]

#: Air and coolant, in tenths.
_SWITCHES = frozenset({70, 80, 90})

_OPERATION = re.compile(r"operation (\w+)")
_SOURCE = Source("program", "line")


@dataclass(frozen=True, slots=True)
class Step:
    """A move, or a wait of so many s. ``feed`` is in mm/min, None for a rapid move; ``power`` is what S says while the
    beam or spindle is on, else 0. ``z`` and ``from_z`` are heights. ``operation`` is what the program calls it;
    ``begun`` is whether the beam or spindle was switched on just before. ``tool`` is the number of the cutter that is
    in, as the program counts; a step that ``stops`` waits for somebody, with M6 for the cutter that it names.
    ``reverse`` is whether it was switched on the other way round, by M4.
    """

    line: int
    segment: Segment | None
    feed: float | None
    power: float
    operation: str = "cut"
    from_z: float = 0.0
    z: float = 0.0
    wait: float = 0.0
    begun: bool = False
    tool: int = 1
    stops: Stop = ""
    reverse: bool = False


@dataclass(slots=True)
class _State:
    here: Point = 0
    z: float = 0.0
    motion: int = 0
    unit: float = 1.0
    relative: bool = False
    feed: float | None = None
    s: float = 0.0
    on: bool = False
    begun: bool = False
    reverse: bool = False
    operation: str = "cut"
    unit_stated: bool = False
    wanted: int = 0
    tool: int = 1
    worked: bool = False


@dataclass(slots=True)
class Told:
    """What a program says of itself beside its moves. ``own`` are the lines that are its machine's own, ``switched``
    what else it switches than a spindle or a beam (M7 to M9), each with the number of its line, and ``worked`` are the
    first and the last line that it moves on.
    """

    unit_stated: bool = False
    comments: list[str] = field(default_factory=list)
    ended: bool = False
    own: list[tuple[int, str]] = field(default_factory=list)
    switched: list[tuple[int, str]] = field(default_factory=list)
    worked: tuple[int, int] = (0, 0)


def steps(text: str, told: Told | None = None, dialect: Dialect = STANDARD) -> Iterator[Step]:
    """The steps of a program from the machine's origin on. Raises `BadBlock` at what cannot be carried out.

    ``told`` is filled with what the program says meanwhile; ``dialect`` is how its machine is spoken to.
    """
    told = told or Told()
    state = _State()
    for block in blocks(text, dialect):
        if told.ended and (block.g or block.m or block.words):
            raise BadBlock(block.line, "it stands behind the end of the program")
        if block.own:
            told.own.append((block.line, block.own))
        told.switched += [(block.line, f"M{code // 10}") for code in sorted(block.m & _SWITCHES)]
        told.comments += block.comments
        for comment in block.comments:
            match = _OPERATION.match(comment)
            state.operation = match[1] if match else state.operation
        for step in _carried_out(block, state):
            if step.segment is not None:
                told.worked = told.worked[0] or step.line, step.line
            yield step
        told.unit_stated = state.unit_stated
        told.ended = told.ended or bool(block.m & {20, 300})


def _carried_out(block: Block, state: _State) -> Iterator[Step]:
    """One block, in the order of NISTIR 6556, 3.8: rates, switches, waits, unit and distance, then the move."""
    words = block.words
    _switch(block, state)
    stops = _stopped(block, state)
    if stops:
        yield Step(block.line, None, None, 0.0, state.operation, state.z, state.z, tool=state.tool, stops=stops)
    if 40 in block.g:
        if words.get("P", -1) < 0:
            raise BadBlock(block.line, "G4 does not say with P how long to wait")
        here = state.operation, state.z, state.z
        waits = words["P"]
        yield Step(block.line, None, None, _power(state), *here, wait=waits, tool=state.tool, reverse=state.reverse)
        return
    state.relative = 910 in block.g or (state.relative and 900 not in block.g)
    motion = block.g & {0, 10, 20, 30, 800}
    if motion:
        state.motion = next(iter(motion))
    if words.keys() & {"X", "Y", "Z"} or (motion & {20, 30}):
        yield _moved(block, state)


def _switch(block: Block, state: _State) -> None:
    """What holds from here on: unit, speed and power, and whether the beam or spindle is on."""
    words = block.words
    for code, unit in _MM.items():
        if code in block.g:
            state.unit, state.unit_stated = unit, True
    if "F" in words:
        state.feed = words["F"] * state.unit
    if words.get("S", 0) < 0:
        raise BadBlock(block.line, f"S{words['S']:g} is less than nothing")
    state.s = words.get("S", state.s)
    if block.m & {30, 40}:
        state.on = state.begun = True
        state.reverse = 40 in block.m
    if block.m & {50, 20, 300}:
        state.on = False


def _stopped(block: Block, state: _State) -> Stop:
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


def _power(state: _State) -> float:
    return state.s if state.on else 0.0


def _moved(block: Block, state: _State) -> Step:
    words, unit = block.words, state.unit
    if state.motion == 800:
        raise BadBlock(block.line, "no motion is in use: G80 was said, and no G0 to G3 since")
    base = state.here if state.relative else 0
    x = words["X"] * unit + base.real if "X" in words else state.here.real
    y = words["Y"] * unit + base.imag if "Y" in words else state.here.imag
    z = words["Z"] * unit + (state.z if state.relative else 0) if "Z" in words else state.z
    there = complex(x, y)
    feed = None
    if state.motion:
        if state.feed is None or state.feed <= 0:
            raise BadBlock(
                block.line, f"it works at no speed: G{state.motion / 10:g} needs an F of more than 0 before it"
            )
        feed = state.feed
    segment: Segment | None
    if state.motion in (20, 30):
        segment = _arc(block, state, there)
    else:
        segment = Line(state.here, there, _SOURCE) if there != state.here else None
    step = Step(
        block.line,
        segment,
        feed,
        _power(state),
        state.operation,
        state.z,
        z,
        begun=state.begun,
        tool=state.tool,
        reverse=state.reverse,
    )
    state.begun = False
    state.worked = state.worked or feed is not None
    state.here, state.z = there, z
    return step


def _arc(block: Block, state: _State, there: Point) -> Segment:
    words, here = block.words, state.here
    if "R" in words:
        return _arc_of_radius(block, state, there)
    if not words.keys() & {"I", "J"}:
        raise BadBlock(block.line, "an arc says neither where its centre is (I, J) nor its radius (R)")
    centre = here + complex(words.get("I", 0.0), words.get("J", 0.0)) * state.unit
    first, last = abs(here - centre), abs(there - centre)
    if abs(first - last) > RADII or first == 0:
        raise BadBlock(block.line, f"an arc begins {first:.4f} mm from its centre and ends {last:.4f} mm from it")
    return Arc(here, there, centre, state.motion == 30, _SOURCE)


def _arc_of_radius(block: Block, state: _State, there: Point) -> Segment:
    """By R: the smaller of the two arcs where it is positive, the larger where it is negative."""
    radius, chord = block.words["R"] * state.unit, there - state.here
    half = abs(chord) / 2
    if half == 0 or half > abs(radius) + RADII:
        raise BadBlock(block.line, f"no arc of a radius of {radius:g} mm joins points {2 * half:.4f} mm apart")
    rise = max(0.0, radius * radius - half * half) ** 0.5
    left = (state.motion == 30) == (radius > 0)
    centre = state.here + chord / 2 + chord / abs(chord) * (1j if left else -1j) * rise
    return Arc(state.here, there, centre, state.motion == 30, _SOURCE)
