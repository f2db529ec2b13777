"""Canned cycles: holes drilled one after the other (NISTIR 6556, 3.5.16)."""

from __future__ import annotations

from collections.abc import Iterator

from .state import ProgramStep, State
from .words import BadBlock, Block

CYCLES = frozenset({810, 820, 830})

#: Back in a hole a drill stops so much (mm) above where it was (NISTIR 6556, 3.5.16.3); a hole has at most so many
#: steps, and a block so many holes.
_ABOVE, _PECKS, _HOLES = 0.254, 10_000, 10_000


def drilled(block: Block, state: State) -> Iterator[ProgramStep]:
    """G81, G82 and G83: at each place down to R at speed, to Z at the feed.

    G82 waits there by P; G83 goes down by Q at a time and comes up to R in between. Then up to R, or with G98 to where
    it came from. Z, R, P and Q hold until the cycle ends.
    """
    words, unit = block.words, state.unit
    places = words.keys() & {"X", "Y"}
    if not places and not words.keys() & {"Z", "R"}:
        return
    state.cycle |= {letter: words[letter] for letter in "ZRPQ" if letter in words}
    code = f"G{state.motion / 10:g}"
    for letter, needed in (("Z", True), ("R", True), ("Q", state.motion == 830)):
        if needed and letter not in state.cycle:
            raise BadBlock(block.line, f"{code} does not say with {letter} how deep it goes")
    feed, cycle, before = state.works_at(block.line, code), state.cycle, state.z
    top = cycle["R"] * unit + (before if state.relative else state.shifted_z)
    ground = cycle["Z"] * unit + (top if state.relative else state.shifted_z)
    peck = cycle["Q"] * unit if state.motion == 830 else top - ground
    if top < ground or peck <= 0 or (top - ground) / peck > _PECKS:
        raise BadBlock(block.line, f"{code} goes from {top:g} mm down to {ground:g} mm in steps of {peck:g} mm")
    back = top if state.back_to_r else max(top, before)
    if state.z < top:
        yield state.goes(block.line, state.here, top, None)
    for _ in range(min(_HOLES, max(1, int(words.get("L", 1)))) if state.relative else 1):
        there, _z = state.there({letter: words[letter] for letter in places})
        yield state.goes(block.line, there, state.z, None)
        yield from _hole(block.line, state, feed, (top, ground, peck))
        if state.motion == 820:
            yield state.waits(block.line, cycle.get("P", 0.0))
        yield state.goes(block.line, state.here, back, None)


def _hole(line: int, state: State, feed: float, depths: tuple[float, float, float]) -> Iterator[ProgramStep]:
    top, ground, peck = depths
    yield state.goes(line, state.here, top, None)
    reached = top
    while reached - peck > ground + 1e-9:
        reached -= peck
        yield state.goes(line, state.here, reached, feed)
        yield state.goes(line, state.here, top, None)
        yield state.goes(line, state.here, reached + min(_ABOVE, peck / 2), None)
    yield state.goes(line, state.here, ground, feed)
