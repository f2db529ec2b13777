"""All mends of a drawing's lines, in their order, by a few choices."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from ...geometry.segment import Point, Segment
from ..chains import SNAP, Chain
from .arcs import WITHIN, with_arcs
from .doubles import once
from .ends import Loose, joins, loose, narrowest, net
from .outlines import traced


@dataclass(frozen=True, slots=True)
class Choices:
    """How lines are mended: ends join within ``join`` mm, chords become arcs within ``arcs`` mm, or never where it
    is 0, and what is drawn twice is taken once where ``once``.
    """

    join: float = SNAP
    arcs: float = WITHIN
    once: bool = True


@dataclass(slots=True)
class Mended:
    """Closed outlines and lines that stay open, and what was mended to get them.

    ``unclear`` are ends that could be joined to two others, ``shared`` counts lines that are sides of two outlines;
    ``chords`` of lines became ``arcs``. ``gap`` is the least distance (mm) between two ends that stay loose.
    """

    closed: list[Chain] = field(default_factory=list)
    open: list[Chain] = field(default_factory=list)
    joined: int = 0
    doubled: int = 0
    shared: int = 0
    chords: int = 0
    arcs: int = 0
    unclear: list[Point] = field(default_factory=list)
    gap: float | None = None


def mended(segments: Sequence[Segment], choices: Choices) -> Mended:
    """Closed outlines and open lines of loose segments."""
    kept, doubled = once(segments) if choices.once else (list(segments), 0)
    found = joined_up(loose(kept), choices)
    found.doubled = doubled
    return found


def joined_up(lines_drawn: Loose, choices: Choices) -> Mended:
    """As `mended`, of lines that are there once: another tolerance costs no more than this."""
    drawn = net(lines_drawn, choices.join)
    joined = joins(drawn, choices.join)
    lines = traced(drawn, joined)
    found = Mended(open=lines.open, joined=len(joined.pairs), shared=lines.shared)
    found.gap = narrowest(drawn, joined)
    found.unclear = [drawn.places[node] for node in joined.unclear]
    for chain in lines.closed:
        if not choices.arcs:
            found.closed.append(chain)
            continue
        curved = with_arcs(chain, choices.arcs)
        found.closed.append(curved.chain)
        found.chords += curved.chords
        found.arcs += curved.arcs
    return found
