"""What a program cuts out of a sheet: the pieces between its deepest ways, and the holding tabs that they hang on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
import shapely
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree
from shapely import LineString, Polygon, STRtree
from shapely.geometry.base import BaseGeometry

from ..round_beam import passed_over
from ..sweep import DUST, Piece, Shapes
from .program import ProgramWays
from .swept import SAME, Cutters, Deepest, below, lines, swept_by

#: A hop at speed over a tab is no longer than this (mm), and the cutter's width.
HOP = 15.0

#: The cosine of the largest turn at which a line goes on in its direction.
AHEAD = 0.9

#: Lifts nearer than this (mm), in a rough pass and a fine one, are over one tab.
ONE_TAB = 0.8

#: What reaches the sheet's back to within this (mm) is through.
THROUGH = 5e-4


@dataclass(frozen=True, slots=True)
class TabLeft:
    """A holding tab as it is left: its middle, how wide it is along the line and how high it stands (mm)."""

    middle: complex
    width: float
    height: float
    line: LineString


@dataclass(slots=True)
class Freed:
    """Pieces as they measure once they are broken out, the tabs, and all that goes through, tabs included; ``level`` is
    from how low (mm) on a way goes through.
    """

    pieces: list[Piece]
    tabs: list[TabLeft]
    through: BaseGeometry
    level: float


def freed(way: ProgramWays, thickness: float, cutters: Cutters, thickest: float | None = None) -> Freed:
    """What comes free of a sheet of a thickness (mm); what is to come free everywhere, where it is thickest too."""
    level = -(thickness if thickest is None else max(thickness, thickest)) + THROUGH
    tabs, bridged = _tabs(way, level, thickness, cutters)
    through = _meeting(below(way.some(way.feed > 0), level))
    radius = max((cutters[tool].diameter for tool in np.unique(through.tool).tolist()), default=0.0) / 2
    middles = [*lines(through), *bridged]
    if not middles:
        return Freed([], tabs, Polygon(), level)
    regions = [
        swept_by(through.some(through.tool == tool), cutters[tool].diameter / 2)
        for tool in np.unique(through.tool).tolist()
    ]
    whole = shapely.union_all([*regions, *passed_over(bridged, radius, 64)])
    return Freed(_pieces(middles, whole, tabs, radius), tabs, whole, level)


def _meeting(way: ProgramWays) -> ProgramWays:
    """The ways with ends that are one place as far as numbers are written being one to the last bit."""
    places, which = np.unique(np.concatenate([way.start, way.end]), return_inverse=True)
    if len(places) < 2:
        return way
    pairs = cKDTree(np.column_stack([places.real, places.imag])).query_pairs(3 * SAME, output_type="ndarray")
    if not len(pairs):
        return way
    graph = coo_array((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(places), len(places)))
    group = connected_components(graph, directed=False)[1]
    first = np.full(group.max() + 1, len(places))
    np.minimum.at(first, group, np.arange(len(places)))
    one = places[first[group]][which]
    return replace(way, start=one[: len(way)], end=one[len(way) :])


def _pieces(middles: Sequence[LineString], whole: BaseGeometry, tabs: Sequence[TabLeft], radius: float) -> list[Piece]:
    """What the lines of the cutter's middle go round, less what it takes of it; a part or waste by how often."""
    # On a grid: a ramp and the pass that it leads to are the same line, but for the last bits.
    cells = shapely.get_parts(shapely.polygonize([shapely.union_all(list(middles), grid_size=SAME)]))
    left = shapely.get_parts(_less(cells, whole))
    left = left[shapely.area(left) >= DUST]
    if not len(left):
        return []
    loops = _apart(cells, whole)
    inside = STRtree(loops).query(shapely.point_on_surface(left), predicate="within")[0]
    depths = np.bincount(inside, minlength=len(left))
    pieces = [
        Piece("part" if depth % 2 else "slug", shape, _held(shape, tabs, radius))
        for shape, depth in zip(left, depths, strict=True)
        if depth
    ]
    return sorted(pieces, key=lambda piece: (piece.kind, -piece.shape.area, piece.shape.bounds))


def _apart(cells: Shapes, whole: BaseGeometry) -> Shapes:
    """What lies within each closed line; of lines that one groove has between them only the innermost."""
    filled = shapely.polygons([cell.exterior for cell in cells])
    free = shapely.area(_less(filled, whole)) >= DUST
    filled = np.asarray(filled)[free]
    tree = STRtree(filled)
    outer, inner = tree.query(filled, predicate="contains")
    outer, inner = outer[outer != inner], inner[outer != inner]
    # Chords of one circle that were begun at different places cross one another.
    one, other = tree.query(filled, predicate="overlaps")
    area = shapely.area(filled)
    larger = (area[one] > area[other]) | ((area[one] == area[other]) & (one > other))
    outer, inner = np.concatenate([outer, one[larger]]), np.concatenate([inner, other[larger]])
    between = shapely.symmetric_difference(filled[outer], filled[inner])
    only_groove = shapely.area(_less(between, whole)) < DUST
    kept = np.ones(len(filled), dtype=bool)
    kept[outer[only_groove]] = False
    found: Shapes = filled[kept]
    return found


def _less(shapes: Shapes, whole: BaseGeometry) -> Shapes:
    """Shapes less what was cut, each less those pieces of it alone that it meets: a sheet has many that are apart."""
    pieces = shapely.get_parts(whole)
    found: Shapes = np.array(shapes, dtype=object)
    which, met = STRtree(pieces).query(shapes)
    shapely.prepare(pieces)
    # Chords of passes over one another enclose slivers by the thousand, all of them in the groove.
    gone = np.unique(which[shapely.covers(pieces[met], found[which])])
    found[gone] = Polygon()
    left = ~np.isin(which, gone) & shapely.intersects(pieces[met], found[which])
    which, met = which[left], met[left]
    several = np.isin(which, np.flatnonzero(np.bincount(which) > 1))
    found[which[~several]] = shapely.difference(found[which[~several]], pieces[met[~several]])
    those, group = np.unique(which[several], return_inverse=True)
    if len(those):
        order = np.argsort(group, kind="stable")
        taken = shapely.multipolygons(pieces[met[several][order]], indices=group[order])
        found[those] = shapely.difference(found[those], taken)
    return found


def _held(shape: Polygon, tabs: Sequence[TabLeft], radius: float) -> int:
    if not tabs:
        return 0
    spots = shapely.points([[tab.middle.real, tab.middle.imag] for tab in tabs])
    return int(shapely.dwithin(shape.exterior, spots, radius + ONE_TAB).sum())


def _tabs(way: ProgramWays, level: float, thickness: float, cutters: Cutters) -> tuple[list[TabLeft], list[LineString]]:
    """Where the cutter is lifted on its way along a through cut: each such place once, as it is left in the end.

    With all ways over them, which go on along what is cut once they are broken out.
    """
    found: list[TabLeft] = []
    bridged: list[LineString] = []
    is_through = (np.maximum(way.from_z, way.z) <= level) & (way.feed > 0)
    worked = Deepest(way.some((way.feed > 0) & (np.minimum(way.from_z, way.z) < 0)))
    for first, last in _lifted(way, is_through, cutters):
        some = way.some(np.arange(first, last))
        tab = _standing(some, worked, thickness, cutters)
        if tab:
            bridged.append(tab.line)
        if tab and all(abs(tab.middle - other.middle) > ONE_TAB for other in found):
            found.append(tab)
    return found, bridged


def _lifted(way: ProgramWays, is_through: npt.NDArray[np.bool_], cutters: Cutters) -> list[tuple[int, int]]:
    """Stretches of ways that are not through, between two that are, from one to the other without a break."""
    at = np.flatnonzero(is_through)
    found: list[tuple[int, int]] = []
    if not len(at):
        return found
    ends = _Ends(way.some(at))
    for before, after in zip(at[:-1].tolist(), at[1:].tolist(), strict=True):
        if after == before + 1 or way.tool[before] != way.tool[after]:
            continue
        some = way.some(np.arange(before + 1, after))
        long = np.abs(some.end - some.start)
        hop = float(long[some.feed <= 0].sum())
        joined = (np.abs(some.end[:-1] - some.start[1:]) <= SAME).all()
        reach = HOP + cutters[int(way.tool[before])].diameter
        if joined and long.sum() > SAME and (not hop or (hop <= reach and _goes_on(way, before, after, ends))):
            found.append((before + 1, after))
    return found


class _Ends:
    """Where ways that go through begin and end."""

    def __init__(self, through: ProgramWays) -> None:
        self._begin, self._end = (cKDTree(np.column_stack([at.real, at.imag])) for at in (through.start, through.end))

    def loose(self, last: complex, first: complex) -> bool:
        """Whether a cut that ends at a place, and one that begins at another, are not gone on with by others."""
        goes_on = self._begin.query_ball_point((last.real, last.imag), 10 * SAME)
        comes_in = self._end.query_ball_point((first.real, first.imag), 10 * SAME)
        return not goes_on and not comes_in


def _goes_on(way: ProgramWays, before: int, after: int, ends: _Ends) -> bool:
    """Whether a hop at speed leads on along the line: what goes elsewhere, or from one closed line to another, is over
    no tab.
    """
    if not ends.loose(complex(way.end[before]), complex(way.start[after])):
        return False
    hop = way.start[after] - way.end[before]
    if abs(hop) <= SAME:
        return False
    ahead = [way.end[at] - way.start[at] for at in (before, after)]
    return all(abs(one) > 0 and (one * hop.conjugate()).real > AHEAD * abs(one) * abs(hop) for one in ahead)


def _standing(some: ProgramWays, worked: Deepest, thickness: float, cutters: Cutters) -> TabLeft | None:
    """The tab under a lift; nothing where other passes have cut it away."""
    radius = cutters[int(some.tool[0])].diameter / 2
    top = float(max(some.from_z.max(), some.z.max()))
    flat = (np.minimum(some.from_z, some.z) >= top - 1e-3) & (np.abs(some.end - some.start) > SAME)
    if not flat.any():
        return None
    high = some.some(flat)
    along = np.concatenate([[high.start[0]], high.end])
    line = shapely.linestrings(np.column_stack([along.real, along.imag]))
    middle = line.interpolate(0.5, normalized=True)
    at = complex(middle.x, middle.y)
    floor = worked.within(at, 0.9 * radius)
    height = thickness + max(floor, -thickness)
    if height <= THROUGH:
        return None
    whole = np.concatenate([[some.start[0]], some.end])
    bridge = shapely.linestrings(np.column_stack([whole.real, whole.imag]))
    return TabLeft(at, float(line.length) - 2 * radius, min(height, thickness), bridge)
