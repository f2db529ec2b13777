"""How a program goes down and how fast: each pass, feed, speed and wait held against what its cutter takes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree

from ...document.sizes import shown
from ..fault import Code, Fault
from .once import Indices, places_once
from .program import Numbers, Points, ProgramWays
from .swept import SAME, Cutters

#: What is less deep (mm) is on the face.
FACE = 1e-3
#: A pass may be deeper than meant by this (mm): heights are written to a ten-thousandth.
_ROOM = 0.01
#: Feeds and turns are written in tenths: they may differ by this share, and by so much.
_SHARE, _ROUNDED = 0.003, 0.2
#: So many ways are kept together while it is looked at what was cut before.
_TOGETHER = 40
#: Places at which a way is looked at are so far apart (mm).
_APART = 2.0
#: So many places are looked at together, for the memory that it takes.
_AT_ONCE = 5_000


@dataclass(frozen=True, slots=True)
class CutterSetting:
    """One setting of a cutter: its turns, and how fast it goes (mm/min) along, down a slope, and straight down."""

    turns: float
    feed: float
    ramp: float
    plunge: float


@dataclass(frozen=True, slots=True)
class Takes:
    """What a cutter takes: settings that are meant for it, the deepest pass and the deepest it drills in one go, how
    deep it cuts at all (mm), and how fast it may turn. Without settings any feed is taken as meant.
    """

    settings: Sequence[CutterSetting] = ()
    stepdown: float = float("inf")
    peck: float = float("inf")
    long: float = float("inf")
    top: float = float("inf")


def pass_faults(way: ProgramWays, takes: Mapping[int, Takes], cutters: Cutters, spins_up: float) -> Iterator[Fault]:
    """The first of each kind, with how many more there are."""
    under = (np.minimum(way.from_z, way.z) < -FACE) & (way.feed > 0)
    if not under.any():
        return
    yield from _spindle(way, under, takes, spins_up)
    yield from _feeds(way, under, takes)
    yield from _too_long(way, under, takes)
    yield from _steps(way, under, takes, cutters)


def _first(code: Code, way: ProgramWays, which: npt.NDArray[np.int64], text: str) -> Iterator[Fault]:
    if len(which):
        at = int(which[0])
        more = f", and so do {len(which) - 1} more" if len(which) > 1 else ""
        yield Fault(code, f"Line {int(way.line[at])}: {text}{more}", complex(way.start[at]))


def _spindle(way: ProgramWays, under: Any, takes: Mapping[int, Takes], spins_up: float) -> Iterator[Fault]:
    yield from _first(
        "spindle", way, np.flatnonzero(under & way.reverse), "it works with the spindle turning backwards"
    )
    early = np.flatnonzero(under & (way.turns > 0) & (way.waited < spins_up - 1e-6))
    if len(early):
        waits = f"it works {way.waited[early[0]]:g} s after the spindle was switched on, which takes {spins_up:g} s"
        yield from _first("spindle", way, early[:1], waits)
    top = np.array([takes[tool].top if tool in takes else np.inf for tool in way.tool.tolist()])
    fast = np.flatnonzero(under & (way.turns > top * (1 + _SHARE)))
    if len(fast):
        yield from _first(
            "spindle", way, fast, f"it turns at {way.turns[fast[0]]:g}; its cutter takes {top[fast[0]]:g}"
        )


def _feeds(way: ProgramWays, under: Any, takes: Mapping[int, Takes]) -> Iterator[Fault]:
    still = np.abs(way.end - way.start) <= 5 * SAME
    falls = way.z < way.from_z - FACE / 10
    kind = np.where(still & falls, 2, np.where(falls, 1, 0))
    # A chord of an arc that falls a little hardly falls at all.
    hardly = (way.z < way.from_z) & ~falls
    for tool, takes_it in takes.items():
        if not takes_it.settings:
            continue
        own = under & (way.tool == tool) & ~(still & ~falls)
        right = np.zeros(len(way), dtype=bool)
        for one in takes_it.settings:
            fast = np.array([one.feed, one.ramp, one.plunge])[kind]
            goes = _alike(way.feed, fast) | (hardly & _alike(way.feed, np.full(len(way), one.ramp)))
            right |= goes & _alike(way.turns, np.full(len(way), one.turns))
        wrong = np.flatnonzero(own & ~right)
        if len(wrong):
            at = int(wrong[0])
            known = takes_it.settings[0]
            meant = (known.feed, known.ramp, known.plunge)[int(kind[at])]
            is_so = f"F{way.feed[at]:g} at {way.turns[at]:g} rpm; {meant:g} at {known.turns:g} were meant"
            yield from _first("feed", way, wrong, f"it goes at {is_so}")


def _alike(got: Numbers, meant: Numbers) -> npt.NDArray[np.bool_]:
    found: npt.NDArray[np.bool_] = np.abs(got - meant) <= np.maximum(_SHARE * meant, _ROUNDED)
    return found


def _too_long(way: ProgramWays, under: Any, takes: Mapping[int, Takes]) -> Iterator[Fault]:
    long = np.array([takes[tool].long if tool in takes else np.inf for tool in way.tool.tolist()])
    deep = np.flatnonzero(under & (way.z < -long - _ROOM))
    if len(deep):
        at = int(deep[0])
        text = f"it is {shown(float(-way.z[at]))} deep, and its cutter cuts {shown(float(long[at]))}"
        yield from _first("pass-depth", way, deep, text)


@dataclass(frozen=True, slots=True)
class _Chunks:
    """Ways that follow each other at one height or down one slope: as lines, with the first and the last of them, how
    high (mm) they are at least as far down as, and how wide they cut.
    """

    lines: npt.NDArray[Any]
    first: npt.NDArray[np.int64]
    last: npt.NDArray[np.int64]
    reached: Numbers
    radius: Numbers


def _steps(way: ProgramWays, under: Any, takes: Mapping[int, Takes], cutters: Cutters) -> Iterator[Fault]:
    """Where more is taken at once than a cutter takes: how far it goes below what was cut there before."""
    worked = way.some(under)
    chunks = _chunks(worked, cutters)
    spots, of = _spots(worked, chunks)
    low = np.minimum(worked.from_z, worked.z)[of]
    still = (np.abs(worked.end - worked.start) <= SAME)[of]
    tools = worked.tool[of].tolist()
    limit = np.array([takes[tool].stepdown if tool in takes else np.inf for tool in tools])
    peck = np.array([takes[tool].peck if tool in takes else np.inf for tool in tools])
    limit = np.where(still, np.maximum(limit, peck), limit)
    # What is no deeper than one step goes down from the face.
    doubtful = np.flatnonzero(low < -limit - _ROOM)
    before = _reached_before(spots[doubtful], of[doubtful], chunks)
    deep = doubtful[before - low[doubtful] > limit[doubtful] * 1.005 + _ROOM]
    if len(deep):
        at, step = int(deep[0]), before[np.searchsorted(doubtful, deep[0])] - low[deep[0]]
        text = f"it takes {shown(float(step))} at once, and its cutter takes {shown(float(limit[at]))}"
        spot = complex(spots[at])
        lines = len(np.unique(worked.line[of[deep]]))
        more = f", and so do {lines - 1} more lines" if lines > 1 else ""
        yield Fault("pass-depth", f"Line {int(worked.line[of[at]])}: {text}{more}", spot)


def _chunks(way: ProgramWays, cutters: Cutters) -> _Chunks:
    level = np.abs(way.z - way.from_z) <= FACE / 10
    same = (way.tool[1:] == way.tool[:-1]) & (np.abs(way.start[1:] - way.end[:-1]) <= SAME)
    same &= (np.abs(way.z[1:] - way.z[:-1]) <= FACE / 10) & level[1:] & level[:-1]
    run = np.concatenate([[0], np.cumsum(~same)])
    place = np.arange(len(way)) - np.searchsorted(run, run)
    first = np.flatnonzero(place % _TOGETHER == 0)
    last = np.append(first[1:], len(way)) - 1
    owner = np.repeat(np.arange(len(first)), last - first + 1)
    points = np.insert(way.start, last + 1, way.end[last])
    own = np.insert(owner, last + 1, owner[last])
    lines = shapely.linestrings(np.column_stack([points.real, points.imag]), indices=own)
    high = np.maximum(way.from_z, way.z)
    # Straight down it is as deep as it goes; down a slope it is taken as it is at the upper end.
    still = np.abs(way.end - way.start) <= SAME
    reached = np.where(still, np.minimum(way.from_z, way.z), high)
    radius = np.array([cutters[tool].diameter / 2 for tool in way.tool[first].tolist()])
    return _Chunks(lines, first, last, np.maximum.reduceat(reached, first), radius)


def _spots(way: ProgramWays, chunks: _Chunks) -> tuple[Points, Indices]:
    """Places along the ways, and which way each is of: some in every chunk that is level or goes straight down, and
    several along what is long.
    """
    long = np.abs(way.end - way.start)
    count = np.maximum(1, np.ceil(long / _APART)).astype(np.int64)
    # Of short chords of an arc every fourth is enough, also where it goes down a slope bit by bit.
    short = long < _APART / 4
    count[short & (np.arange(len(way)) % 4 != 0)] = 0
    sloping = (np.abs(way.z - way.from_z) > FACE / 10) & (long > SAME)
    begins = chunks.first[~sloping[chunks.first]]
    count[begins] = np.maximum(count[begins], 1)
    of = np.repeat(np.arange(len(way)), count)
    share = (np.arange(len(of)) - np.repeat(np.cumsum(count) - count, count) + 0.5) / count[of]
    return way.start[of] + (way.end - way.start)[of] * share, of


def _reached_before(spots: Points, of: Indices, chunks: _Chunks) -> Numbers:
    """The lowest height (mm) to which each place was cut before its own chunk came; 0 on the face."""
    found = np.zeros(len(spots))
    if not len(spots):
        return found
    tree, widest = STRtree(chunks.lines), float(chunks.radius.max())
    heights, rank = np.unique(chunks.reached, return_inverse=True)
    own = np.searchsorted(chunks.first, of, side="right") - 1
    once, place_of = places_once(spots)
    places = shapely.points(once.real, once.imag)
    for begin in range(0, len(places), _AT_ONCE):
        some = places[begin : begin + _AT_ONCE]
        place, chunk = tree.query(some, predicate="dwithin", distance=widest)
        if (chunks.radius < widest).any():
            near = shapely.dwithin(some[place], chunks.lines[chunk], chunks.radius[chunk])
            place, chunk = place[near], chunk[near]
        key = np.sort(place * len(rank) + chunk)
        place, chunk = np.divmod(key, len(rank))
        # The lowest so far of each place: the next place begins anew, for all its numbers are lower.
        lowest = np.minimum.accumulate(rank[chunk] - place * len(heights)) + place * len(heights)
        mine = np.flatnonzero((place_of >= begin) & (place_of < begin + _AT_ONCE))
        wanted = place_of[mine] - begin
        last = np.searchsorted(key, wanted * len(rank) + own[mine]) - 1
        cut = (last >= 0) & (place[last] == wanted) if len(key) else np.zeros(len(mine), dtype=bool)
        found[mine[cut]] = np.minimum(heights[lowest[last[cut]]], 0.0)
    return found
