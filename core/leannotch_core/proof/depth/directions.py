"""Climb or conventional: on which hand of the moving cutter the edges are that it leaves."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree

from ..fault import Fault
from .once import ways_once
from .program import ProgramWays
from .swept import SAME, Cutters

Points = npt.NDArray[np.complex128]
Numbers = npt.NDArray[np.float64]
Places = npt.NDArray[np.int64]

#: A way runs along an edge where it is a cutter's radius from it, within this (mm).
_ALONG = 0.02
#: Ways shorter than this (mm) tell nothing of a direction: chords of round corners are a few tenths.
_SHORT = 0.05
#: An edge is cut the other way round where more than this share of what runs along it is.
_MOSTLY = 0.6


@dataclass(frozen=True, slots=True)
class Edge:
    """A closed edge on the sheet (a line, mm), and whose it is."""

    called: str
    line: Any


def direction_faults(
    way: ProgramWays, edges: Sequence[Edge], cutters: Cutters, meant: Literal["climb", "conventional"]
) -> Iterator[Fault]:
    """Edges that are cut the other way round. Climb has the material on the right of the moving cutter."""
    level = (way.feed > 0) & (way.z < -_ALONG) & (np.abs(way.z - way.from_z) < SAME)
    some = way.some(level & (np.abs(way.end - way.start) > _SHORT))
    if not len(some) or not edges:
        return
    some, times = ways_once(some)
    middles = (some.start + some.end) / 2
    radius = np.array([cutters[tool].diameter / 2 for tool in some.tool.tolist()])
    of, which, foot = _near(middles, radius, edges)
    aside = foot - middles[of]
    long = (np.abs(some.end - some.start) * times)[of]
    on_left = ((some.end - some.start)[of].conj() * aside).imag > 0
    wrong = on_left if meant == "climb" else ~on_left
    total = np.bincount(which, weights=long, minlength=len(edges))
    against = np.bincount(which, weights=np.where(wrong, long, 0.0), minlength=len(edges))
    bad = np.flatnonzero(against > np.maximum(_MOSTLY * total, 1.0))
    other = "conventional" if meant == "climb" else "climb"
    for edge in bad[:4].tolist():
        at = middles[of[(which == edge) & wrong][0]]
        yield Fault("direction", f"{edges[edge].called} is cut {other}, and {meant} was meant", complex(at))
    if len(bad) > 4:
        yield Fault("direction", f"And {len(bad) - 4} more edges are cut {other}")


def _near(middles: Points, radius: Numbers, edges: Sequence[Edge]) -> tuple[Places, Places, Points]:
    """Places that are just a radius from an edge, with that edge and its point that is nearest to them.

    Edges are taken chord by chord: few of them come near to a place, and how far off those are is told by figures.
    """
    corners, edge_of = shapely.get_coordinates([edge.line for edge in edges], return_index=True)
    at = corners[:, 0] + 1j * corners[:, 1]
    follows = np.flatnonzero(edge_of[1:] == edge_of[:-1])
    chords = shapely.linestrings(np.stack([corners[follows], corners[follows + 1]], axis=1))
    reach = float(radius.max()) + _ALONG
    of, chord = STRtree(chords).query(
        shapely.box(middles.real - reach, middles.imag - reach, middles.real + reach, middles.imag + reach)
    )
    foot = _foot(middles[of], at[follows][chord], at[follows + 1][chord])
    off, which = np.abs(foot - middles[of]), edge_of[follows][chord]
    # Of each edge the chord that is nearest counts.
    order = np.lexsort((off, which, of))
    of, which, foot, off = of[order], which[order], foot[order], off[order]
    first = np.ones(len(of), dtype=bool)
    first[1:] = (of[1:] != of[:-1]) | (which[1:] != which[:-1])
    along = first & (np.abs(off - radius[of]) <= _ALONG)
    return of[along], which[along], foot[along]


def _foot(points: Points, start: Points, end: Points) -> Points:
    """The point of each chord that is nearest to each place."""
    along = end - start
    long = np.abs(along) ** 2
    share = ((points - start) * along.conj()).real / np.where(long > 0, long, 1.0)
    found: Points = start + along * np.clip(share, 0.0, 1.0)
    return found
