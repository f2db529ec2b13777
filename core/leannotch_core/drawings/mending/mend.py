"""All mends of a drawing's lines, in their order, by a few chosen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from ...geometry.segment import Point, Segment
from ..chains import SNAP, Chain
from .arcs import WITHIN, with_arcs
from .dividing import Crossing, meshed
from .doubles import Once, once
from .ends import Loose, loose, narrowest, near_any
from .outlines import traced


@dataclass(frozen=True, slots=True)
class Mends:
    """How lines are mended: ends join within ``join`` mm, chords become arcs within ``arcs`` mm, or never where it
    is 0, and what is drawn twice is taken once where ``once``. What becomes of lines that cross is by ``crossing``.

    A mend is left by a place of it: gaps that stay ``apart`` by their middle, ``polygons`` that were meant by a corner.
    """

    join: float = SNAP
    arcs: float = WITHIN
    once: bool = True
    crossing: Crossing = "rooms"
    apart: tuple[Point, ...] = ()
    polygons: tuple[Point, ...] = ()


class Gap(NamedTuple):
    """A gap between two ends, by its middle, and how wide it is in mm; whether it was joined."""

    at: Point
    width: float
    taken: bool


class Chords(NamedTuple):
    """An outline, by a corner of it, whose chords are arcs again, or could be."""

    at: Point
    chords: int
    arcs: int
    taken: bool


@dataclass(slots=True)
class Mended:
    """Closed outlines and lines that stay open, and what was mended to get them.

    ``unclear`` are ends that could be joined to two others, ``shared`` counts lines that are sides of two outlines;
    ``twice`` are stretches drawn more than once, ``specks`` where lines lay that are too short to lead anywhere,
    ``crossings`` where lines were divided as they crossed, ``over`` where little ends ran on past that; where they
    cross at ``too_many`` places, they were left as they are. ``inside`` is where lines lay in what is one whole.
    ``gap`` is the least distance (mm) between two ends that stay loose.
    """

    closed: list[Chain] = field(default_factory=list)
    open: list[Chain] = field(default_factory=list)
    gaps: list[Gap] = field(default_factory=list)
    doubled: int = 0
    twice: tuple[Segment, ...] = ()
    shared: int = 0
    curves: list[Chords] = field(default_factory=list)
    unclear: list[Point] = field(default_factory=list)
    specks: tuple[Point, ...] = ()
    crossings: tuple[Point, ...] = ()
    over: tuple[Point, ...] = ()
    too_many: bool = False
    inside: list[Point] = field(default_factory=list)
    gap: float | None = None

    @property
    def joined(self) -> int:
        return sum(gap.taken for gap in self.gaps)

    @property
    def chords(self) -> int:
        return sum(curve.chords for curve in self.curves if curve.taken)

    @property
    def arcs(self) -> int:
        return sum(curve.arcs for curve in self.curves if curve.taken)


def mended(segments: Sequence[Segment], chosen: Mends) -> Mended:
    """Closed outlines and open lines of loose segments."""
    drawn = once(segments) if chosen.once else Once(list(segments))
    found = joined_up(loose(drawn.kept), chosen)
    found.doubled, found.twice = drawn.doubled, drawn.twice
    return found


def joined_up(lines_drawn: Loose, chosen: Mends) -> Mended:
    """As `mended`, of lines that are there once: another tolerance costs no more than this."""
    drawn, joined, crossings, too_many = meshed(lines_drawn, chosen.join, chosen.apart, chosen.crossing)
    lines = traced(drawn, joined, chosen.crossing == "whole")
    found = Mended(open=lines.open, shared=lines.shared, specks=drawn.specks, over=drawn.over)
    found.crossings, found.too_many, found.inside = crossings, too_many, lines.inside
    for pairs, taken in ((joined.pairs, True), (joined.left, False)):
        found.gaps += [Gap(drawn.middle(p), abs(drawn.places[p[0]] - drawn.places[p[1]]), taken) for p in pairs]
    found.gap = narrowest(drawn, joined)
    found.unclear = [drawn.places[node] for node in joined.unclear]
    for chain in lines.closed:
        if not chosen.arcs:
            found.closed.append(chain)
            continue
        curved = with_arcs(chain, chosen.arcs)
        taken = not any(near_any(segment.start, chosen.polygons) for segment in chain.segments)
        found.closed.append(curved.chain if taken else chain)
        if curved.arcs:
            found.curves.append(Chords(chain.segments[0].start, curved.chords, curved.arcs, taken))
    return found
