"""The order in which parts go together by straight moves, found by taking the assembly apart.

For each direction it is worked out which part stands in which other's way; a set of parts in whose way nothing else
stands comes off as one (the blocking graph of Wilson and Latombe, "Geometric reasoning about mechanical assembly",
Artificial Intelligence 71, 1994; from memory). What came off last goes on first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import pairwise

import manifold3d
import numpy as np
import shapely
from shapely import Polygon
from shapely.affinity import translate
from shapely.geometry.polygon import orient

from ..evaluate import EvaluatedPart, Result
from ..geometry.chords import as_polygon
from .film import TOUCH, film_thickness
from .poses import Assembly, Copy
from .solids import interference, near, placed, solid
from .space import Matrix

#: Chords of arcs depart from them by at most this (mm): moves need not be known better.
CHORD = 0.02

Direction = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class AssemblyStep:
    """``moving`` goes onto ``standing`` along ``direction`` (a unit vector in space), from ``distance`` mm away."""

    moving: tuple[Copy, ...]
    standing: tuple[Copy, ...]
    direction: Direction
    distance: float


@dataclass(frozen=True, slots=True)
class AssemblyOrder:
    """The steps of every group, and the sets of copies that no straight move takes apart."""

    steps: tuple[AssemblyStep, ...]
    locked: tuple[tuple[Copy, ...], ...]


def assembly_order(
    result: Result, assembly: Assembly, tell: Callable[[float], bool] = lambda done: False
) -> AssemblyOrder:
    """Works out the order; ``tell`` hears the share that is done, and stops the work by answering True."""
    steps: list[AssemblyStep] = []
    locked: list[tuple[Copy, ...]] = []
    groups = [group for group in assembly.groups if len(group) > 1]
    for number, group in enumerate(groups):
        taking = _TakingApart(result, assembly, group)
        if not taking.look(partial(_tell_of, tell, number, len(groups))):
            break
        taking.apart(tuple(group))
        steps += taking.steps
        locked += taking.locked
    return AssemblyOrder(tuple(steps), tuple(locked))


def _tell_of(tell: Callable[[float], bool], number: int, groups: int, share: float) -> bool:
    return tell((number + share) / groups)


class _TakingApart:
    def __init__(self, result: Result, assembly: Assembly, group: Sequence[Copy]) -> None:
        self._group, self._assembly = group, assembly
        self._parts = {copy: result.parts[copy.part] for copy in group}
        self._bodies = {copy: placed(solid(self._parts[copy], CHORD), assembly.poses[copy]) for copy in group}
        self._pressed = interference(result)
        boxes = np.array([body.bounding_box() for body in self._bodies.values()])
        self._reach = float(np.linalg.norm(boxes[:, 3:].max(axis=0) - boxes[:, :3].min(axis=0))) + 1
        self._blocks: dict[Direction, dict[Copy, set[Copy]]] = {}
        self.steps: list[AssemblyStep] = []
        self.locked: list[tuple[Copy, ...]] = []

    def look(self, tell: Callable[[float], bool]) -> bool:
        """Finds what stands in whose way, for each direction; False where it was stopped."""
        directions = _directions(self._assembly, self._group)
        for done, direction in enumerate(directions):
            blocks = self._blocks[direction] = {}
            for index, copy in enumerate(self._group):
                swept = _swept(self._parts[copy], self._assembly.poses[copy], np.array(direction) * self._reach)
                blocks[copy] = {other for other in self._group if other != copy and self._is_hit(swept, copy, other)}
                if tell((done + (index + 1) / len(self._group)) / len(directions)):
                    return False
        return True

    def _is_hit(self, swept: manifold3d.Manifold, copy: Copy, other: Copy) -> bool:
        body = self._bodies[other]
        if not near(swept, body):
            return False
        allowed = self._pressed.get(frozenset((copy.part, other.part)), 0.0) * 1.2
        return film_thickness(swept ^ body) > max(allowed, 5 * TOUCH)

    def apart(self, copies: tuple[Copy, ...]) -> None:
        """Adds the steps by which ``copies`` go together, the first one first."""
        if len(copies) < 2:
            return
        found = self._loosest(copies)
        if found is None:
            self.locked.append(copies)
            return
        direction, off = found
        rest = tuple(copy for copy in copies if copy not in off)
        moving = tuple(copy for copy in copies if copy in off)
        self.apart(rest)
        self.apart(moving)
        self.steps.append(AssemblyStep(moving, rest, _opposite(direction), self._clear(moving, rest, direction)))

    def _loosest(self, copies: tuple[Copy, ...]) -> tuple[Direction, frozenset[Copy]] | None:
        """The smallest set that comes off in some direction; of equals, what was put in place last.

        What only rests or slides comes off first, as a whole: a lid is not taken apart on its box.
        """
        alone = [frozenset((copy,)) for copy in copies]
        return self._smallest(_loose_units(copies, self._assembly)) or self._smallest(alone)

    def _smallest(self, units: Sequence[frozenset[Copy]]) -> tuple[Direction, frozenset[Copy]] | None:
        unit_of = {copy: unit for unit in units for copy in unit}
        best: tuple[int, int, Direction, frozenset[Copy]] | None = None
        for direction, blocks in self._blocks.items():
            for age, unit in enumerate(units):
                off = _closure(unit, blocks, unit_of)
                if len(off) < len(unit_of) and (best is None or (len(off), -age) < best[:2]):
                    best = len(off), -age, direction, off
        return None if best is None else best[2:]

    def _clear(self, moving: Iterable[Copy], rest: Iterable[Copy], direction: Direction) -> float:
        """How far (mm) ``moving`` goes until it is past everything else."""
        along = np.array(direction)
        low = min(_along(self._bodies[copy], along)[0] for copy in moving)
        return float(max(_along(self._bodies[copy], along)[1] for copy in rest) - low)


def _loose_units(copies: Sequence[Copy], assembly: Assembly) -> list[frozenset[Copy]]:
    """Sets of copies that rest on or slide in one another, each held together by firm joints; else none at all."""
    firm: dict[Copy, set[Copy]] = {copy: set() for copy in copies}
    loose: list[tuple[Copy, Copy]] = []
    for meeting, a, b in assembly.joined:
        if a in firm and b in firm:
            if meeting.firm:
                firm[a].add(b)
                firm[b].add(a)
            else:
                loose.append((a, b))
    if not loose:
        return []
    units: list[frozenset[Copy]] = []
    left = list(copies)
    while left:
        unit = _reached(left[0], firm)
        units.append(unit)
        left = [copy for copy in left if copy not in unit]
    return units


def _reached(copy: Copy, onward: dict[Copy, set[Copy]]) -> frozenset[Copy]:
    reached, waiting = {copy}, [copy]
    while waiting:
        fresh = onward[waiting.pop()] - reached
        reached |= fresh
        waiting += fresh
    return frozenset(reached)


def _closure(
    unit: frozenset[Copy], blocks: dict[Copy, set[Copy]], unit_of: dict[Copy, frozenset[Copy]]
) -> frozenset[Copy]:
    """``unit`` with all units that stand in its way, in the way of those, and so on."""
    off, waiting = set(unit), list(unit)
    while waiting:
        for hit in (blocks[waiting.pop()] & unit_of.keys()) - off:
            fresh = unit_of[hit] - off
            off |= fresh
            waiting += fresh
    return frozenset(off)


def _directions(assembly: Assembly, group: Sequence[Copy]) -> list[Direction]:
    """Both ways along every axis of the group's joints: the only ways in which something can be free; upward first."""
    members = set(group)
    found: dict[Direction, None] = {(0.0, 0.0, 1.0): None}
    for meeting, copy, _ in assembly.joined:
        if copy in members:
            for axis in np.array(meeting.a.axes) @ assembly.poses[copy][:3, :3].T:
                for way in (axis, -axis):
                    x, y, z = (np.round(way, 6) + 0.0).tolist()
                    found[x, y, z] = None
    return list(found)


def _opposite(direction: Direction) -> Direction:
    x, y, z = (-value + 0.0 for value in direction)
    return x, y, z


def _along(body: manifold3d.Manifold, direction: Matrix) -> tuple[float, float]:
    heights = body.to_mesh().vert_properties[:, :3] @ direction
    return float(heights.min()), float(heights.max())


# What a part passes through


def _swept(part: EvaluatedPart, pose: Matrix, move: Matrix) -> manifold3d.Manifold:
    """Everything that a part passes through on a straight move, itself included."""
    own = pose[:3, :3].T @ move
    if np.linalg.norm(own[:2]) < 1e-6 * np.linalg.norm(own):
        return placed(_swept_upright(part, float(own[2])), pose)
    if abs(own[2]) < 1e-6 * np.linalg.norm(own):
        return placed(_swept_in_plane(part, float(own[0]), float(own[1])), pose)
    return _swept_aslant(placed(solid(part, CHORD), pose), part.stock.thickness, move)


def _swept_upright(part: EvaluatedPart, rise: float) -> manifold3d.Manifold:
    whole = _prism(as_polygon(part.outline, CHORD), 0.0, abs(rise) + part.stock.thickness)
    if rise > 0:
        return whole
    # Pockets open at the drawn face: downwards only what is below the part is passed through besides itself.
    return whole.translate((0, 0, -abs(rise) - part.stock.thickness)) + solid(part, CHORD)


def _swept_in_plane(part: EvaluatedPart, x: float, y: float) -> manifold3d.Manifold:
    """Slabs from the back to the drawn face: above the bottom of a pocket the pocket is open."""
    t, outline = part.stock.thickness, as_polygon(part.outline, CHORD)
    levels = [0.0, *sorted({t - pocket.depth for pocket in part.pockets}), t]
    slabs = []
    for low, high in pairwise(levels):
        sunk = [as_polygon(pocket.outline, CHORD) for pocket in part.pockets if t - pocket.depth <= low + 1e-9]
        section = outline.difference(shapely.union_all(sunk)) if sunk else outline
        slabs += [_prism(piece, low, high) for piece in _polygons(_dragged(section, x, y))]
    return manifold3d.Manifold.batch_boolean(slabs, manifold3d.OpType.Add)


def _dragged(section: shapely.Geometry, x: float, y: float) -> shapely.Geometry:
    """Everything that a polygon covers while it is dragged by ``x``, ``y``: its ends, and where each edge went."""
    passed = [section, translate(section, x, y)]
    for ring in shapely.get_rings(section):
        points = shapely.get_coordinates(ring)
        for a, b in pairwise(points):
            if abs((b[0] - a[0]) * y - (b[1] - a[1]) * x) > 1e-9:
                passed.append(Polygon([a, b, (b[0] + x, b[1] + y), (a[0] + x, a[1] + y)]))
    return shapely.union_all(passed)


def _swept_aslant(body: manifold3d.Manifold, thickness: float, move: Matrix) -> manifold3d.Manifold:
    """Aslant, the part in places less than half its thickness apart."""
    count = int(np.ceil(np.linalg.norm(move) / (0.45 * thickness)))
    places = [body.translate(tuple((move * i / count).tolist())) for i in range(count + 1)]
    return manifold3d.Manifold.batch_boolean(places, manifold3d.OpType.Add)


def _polygons(shape: shapely.Geometry) -> list[Polygon]:
    return [piece for piece in shapely.get_parts(shape) if isinstance(piece, Polygon) and piece.area > 1e-9]


def _prism(polygon: Polygon, low: float, high: float) -> manifold3d.Manifold:
    ordered = orient(polygon)
    rings = [np.array(ring.coords)[:-1] for ring in (ordered.exterior, *ordered.interiors)]
    section = manifold3d.CrossSection(rings, manifold3d.FillRule.Positive)
    return manifold3d.Manifold.extrude(section, high - low).translate((0, 0, low))
