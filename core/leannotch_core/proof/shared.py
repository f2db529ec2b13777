"""Lines that outlines share, as they are found in a file: a cut may end at another, which goes on in its place."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from shapely import Polygon, STRtree

from ..drawings.chains import SNAP, Chain
from ..geometry.segment import Segment
from .chords import Point, as_lines

Shapes = npt.NDArray[Any]


def bounded(chains: Sequence[Chain]) -> list[Chain]:
    """The open ones of the chains both of whose ends lie on lines: on others, or on earlier ones of their own."""
    loose = [chain for chain in chains if not chain.closed]
    if not loose:
        return []
    segments = [segment for chain in chains for segment in chain.segments]
    tree = STRtree(as_lines([[segment] for segment in segments], 0.001))
    own = {id(segment): at for at, segment in enumerate(segments)}

    def lies_on(end: Point, of: Segment) -> bool:
        near = tree.query(shapely.Point(end.real, end.imag), predicate="dwithin", distance=SNAP)
        return bool((near != own[id(of)]).any())

    return [
        chain
        for chain in loose
        if lies_on(chain.segments[0].start, chain.segments[0]) and lies_on(chain.segments[-1].end, chain.segments[-1])
    ]


def joined(lines: Shapes, ends: Sequence[Chain]) -> Shapes:
    """Lines with a vertex wherever a bounded chain ends on them, so that they meet there to the last bit."""
    places = [end for chain in ends for end in (chain.segments[0].start, chain.segments[-1].end)]
    reach = shapely.multipoints([(place.real, place.imag) for place in places])
    near = shapely.dwithin(lines, reach, SNAP)
    met = lines.copy()
    met[near] = shapely.snap(lines[near], reach, SNAP)
    return met


def _corners_on(lines: Shapes, others: Shapes) -> npt.NDArray[np.int64]:
    """How many corners of each closed line lie on another one."""
    corners, own = shapely.get_coordinates(lines, return_index=True)
    # A closed line has its first corner again at its end.
    first = np.append(own[:-1] == own[1:], False) if len(own) else own.astype(bool)
    on = shapely.dwithin(shapely.points(corners[first]), others[own[first]], SNAP)
    found: npt.NDArray[np.int64] = np.bincount(own[first][on], minlength=len(lines))
    return found


def outlines(closed: Sequence[Chain], ends: Sequence[Chain], tolerance: float) -> list[Polygon]:
    """What lies within each closed chain; where some are held together by lines that they share, within all.

    So are those that meet in several places: lines between tiles may be drawn as one that goes round others of them.
    """
    lines = as_lines([c.segments for c in (*closed, *ends)], tolerance)
    lines = joined(lines, ends) if ends else lines
    shares = np.arange(len(lines)) >= len(closed)
    a, b = STRtree(lines).query(lines, predicate="dwithin", distance=SNAP)
    a, b = a[a != b], b[a != b]
    together = shares[a] | shares[b]
    alone = np.flatnonzero(~together)
    together[alone] = _corners_on(lines[a[alone]], lines[b[alone]]) > 1
    if not together.any():
        return [Polygon(shapely.get_coordinates(line)) for line in lines]
    graph = coo_array((np.ones(together.sum()), (a[together], b[together])), shape=(len(lines), len(lines)))
    group = connected_components(graph, directed=False)[1]
    found: list[Polygon] = []
    for number in np.unique(group):
        own = lines[group == number]
        if len(own) == 1 and not shares[group == number][0]:
            found.append(Polygon(shapely.get_coordinates(own[0])))
            continue
        faces = shapely.polygonize([shapely.node(shapely.multilinestrings(own))])
        whole = shapely.get_parts(shapely.union_all(shapely.get_parts(faces)))
        found += [Polygon(piece.exterior) for piece in whole]
    return found
