"""Arcs of a program, by their centre or their radius, as exact as its numbers are written."""

from __future__ import annotations

from ...geometry.segment import Arc, Point, Segment, dot
from .state import SOURCE, State
from .words import BadBlock, Block

#: Radii at both ends of an arc may differ by so much (NISTIR 6556, 3.5.3.2: 0.002 mm), or by what its numbers, as they
#: are written, leave open: so many times their last digit, and never by more (mm) than 3 decimals of an inch do.
RADII, DIGITS, WIDEST = 0.002, 3, 0.08


def arc(block: Block, state: State, there: Point) -> Segment:
    """The arc from where the machine stands. Raises `BadBlock`."""
    words, here = block.words, state.here
    if "R" in words:
        return _arc_of_radius(block, state, there)
    if not words.keys() & {"I", "J"}:
        raise BadBlock(block.line, "an arc says neither where its centre is (I, J) nor its radius (R)")
    from_ = state.shifted if state.centres_at else here
    centre = from_ + complex(words.get("I", 0.0), words.get("J", 0.0)) * state.unit
    first, last = abs(here - centre), abs(there - centre)
    if abs(first - last) > _open(state) or first == 0:
        raise BadBlock(block.line, f"an arc begins {first:.4f} mm from its centre and ends {last:.4f} mm from it")
    if first != last and here != there:
        # As far from both ends: what its digits leave open is shared out.
        across = (there - here) * 1j / abs(there - here)
        centre = (here + there) / 2 + across * dot(across, centre - (here + there) / 2)
    return Arc(here, there, centre, state.motion == 30, SOURCE)


def _arc_of_radius(block: Block, state: State, there: Point) -> Segment:
    """By R: the smaller of the two arcs where it is positive, the larger where it is negative."""
    radius, chord = block.words["R"] * state.unit, there - state.here
    half = abs(chord) / 2
    if half == 0 or half > abs(radius) + _open(state):
        raise BadBlock(block.line, f"no arc of a radius of {radius:g} mm joins points {2 * half:.4f} mm apart")
    rise = max(0.0, radius * radius - half * half) ** 0.5
    left = (state.motion == 30) == (radius > 0)
    centre = state.here + chord / 2 + chord / abs(chord) * (1j if left else -1j) * rise
    return Arc(state.here, there, centre, state.motion == 30, SOURCE)


def _open(state: State) -> float:
    """By how much (mm) radii may differ: as the machine takes them, or as the program is written."""
    if state.radii is not None:
        return state.radii
    return min(WIDEST, max(RADII, DIGITS * 0.1**state.digits * state.unit))
