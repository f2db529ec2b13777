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
from .program import ProgramWays
from .swept import SAME, Cutters

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
    middles = (some.start + some.end) / 2
    radius = np.array([cutters[tool].diameter / 2 for tool in some.tool.tolist()])
    of, which = _near(shapely.points(middles.real, middles.imag), radius, edges)
    lines = np.array([edge.line for edge in edges], dtype=object)
    foot = shapely.get_coordinates(
        shapely.line_interpolate_point(
            lines[which], shapely.line_locate_point(lines[which], shapely.points(middles[of].real, middles[of].imag))
        )
    )
    aside = foot[:, 0] + 1j * foot[:, 1] - middles[of]
    long = np.abs(some.end - some.start)[of]
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


def _near(spots: Any, radius: npt.NDArray[np.float64], edges: Sequence[Edge]) -> tuple[Any, Any]:
    """Places that are just a radius from an edge, with that edge."""
    tree = STRtree([edge.line for edge in edges])
    of, which = tree.query(spots, predicate="dwithin", distance=float(radius.max()) + _ALONG)
    lines = tree.geometries[which]
    off = np.abs(shapely.distance(spots[of], lines) - radius[of])
    return of[off <= _ALONG], which[off <= _ALONG]
