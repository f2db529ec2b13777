"""Plates: bodies of two parallel flat faces with walls square to them, laid flat in their true outline."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt
import trimesh
from trimesh.intersections import mesh_plane

from ...geometry.boolean import intersect, subtract, union
from ...geometry.loop import Loop, Outline
from ...geometry.segment import Line, Point, Segment, Source
from ...said import Said
from ..alike import SAME
from ..mending.mend import Mends, mended
from ..recognised import outlines_of

Vector = npt.NDArray[np.float64]

_SOURCE = Source("file", "line")

#: A face that leans by no more than this (degrees) is flat, a wall that leans by no more is square.
SQUARE = 0.3

#: Heights that differ by less than this (mm) are one.
LEVEL = 1e-3

#: Crumbs (mm²) between what two heights show are nothing.
_CRUMB = 0.05


class NotAPlate(Said):
    """A body that is no plate; the message says why, as the end of a sentence."""


@dataclass(frozen=True, slots=True)
class Plate:
    """A plate: its thickness in mm, its outline with what goes through it, and its pockets with their depths.

    ``below`` counts pockets in its other face, which are not among them; ``slopes`` are where chamfers and countersinks
    lie that it was read without, ``steep`` degrees. ``rows``, shape (3, 4), lead from the plane of the outline, z from
    the plate's back, to space.
    """

    thickness: float
    outline: Outline
    pockets: tuple[tuple[Outline, float], ...]
    rows: Vector
    below: int = 0
    slopes: tuple[Point, ...] = ()
    steep: float = 0.0


def plate_of(mesh: Any, middle: Vector | None = None) -> Plate:
    """The plate that a body is, seen from where it faces away from the ``middle`` of all. Raises `NotAPlate`."""
    if not mesh.is_watertight:
        raise NotAPlate("it is not closed")
    normal = _face_normal(mesh)
    if middle is not None and (mesh.centroid - middle) @ normal < -LEVEL:
        normal = -normal
    return _seen_from(mesh, normal, _slopes(mesh, normal))


@dataclass(frozen=True, slots=True)
class _Slopes:
    """What is neither flat nor a square wall: at which heights (mm) it begins and ends.

    Each chamfer or countersink lies at one of the ``places`` in space; they are ``steep`` degrees.
    """

    heights: tuple[float, ...] = ()
    places: tuple[Vector, ...] = ()
    steep: float = 0.0


def _seen_from(mesh: Any, normal: Vector, slopes: _Slopes) -> Plate:
    heights = mesh.vertices @ normal
    flat = np.abs(mesh.face_normals @ normal) > math.cos(math.radians(SQUARE))
    levels = _levels(mesh.triangles_center[flat] @ normal)
    thickness = float(heights.max() - heights.min())
    if len(levels) < 2 or abs(levels[-1] - levels[0] - thickness) > LEVEL:
        raise NotAPlate("it has no two parallel flat faces")
    frame = _frame(mesh, normal, (levels[0] + levels[1]) / 2)
    regions = [_region(mesh, normal, (a + b) / 2, frame) for a, b in pairwise(levels)]
    stops = _levels(np.array([*levels, *slopes.heights]))
    whole = _whole(
        [_region(mesh, normal, (a + b) / 2, frame) for a, b in pairwise(stops)] if slopes.places else regions
    )
    if len(whole) != 1:
        raise NotAPlate(f"it shows {len(whole)} outlines")
    wider = max(whole[0].bounds[2] - whole[0].bounds[0], whole[0].bounds[3] - whole[0].bounds[1])
    if thickness > wider:
        raise NotAPlate("it is a bar, thicker than it is wide")
    # Between two faces there is no floor, so nothing is sunk but what slopes.
    sunk = len(levels) > 2
    above, below = (_open(whole[0], region) if sunk else [] for region in (regions[-1], regions[0]))
    if below and not above:
        # What is sunk is seen from above.
        return _seen_from(mesh, -normal, replace(slopes, heights=tuple(-height for height in slopes.heights)))
    rows = np.column_stack([*frame, normal, normal * levels[0]])
    pockets = _pockets(above, regions[::-1], levels[::-1])
    slope_at = tuple(complex(at @ frame[0], at @ frame[1]) for at in slopes.places)
    return Plate(thickness, whole[0], pockets, rows, len(below), slope_at, slopes.steep)


def _face_normal(mesh: Any) -> Vector:
    """The direction in which most of the surface faces, either way."""
    normals, areas = mesh.face_normals, mesh.area_faces
    turned = np.where((normals @ np.array([0.123, 0.345, 0.931]) < 0)[:, None], -normals, normals)
    which = numbered(np.round(100 * turned))
    chosen = which == np.argmax(np.bincount(which, weights=areas))
    mean = (turned[chosen] * areas[chosen, None]).sum(axis=0)
    return np.asarray(mean / np.linalg.norm(mean))


def numbered(rows: Vector) -> npt.NDArray[np.int64]:
    """The number of each row, shape (n, m), of whole numbers: rows that are equal have the same."""
    lows = rows.min(axis=0)
    keys = np.zeros(len(rows), dtype=np.int64)
    for column, low in zip(rows.T, lows, strict=True):
        keys = keys * np.int64(column.max() - low + 1) + (column - low).astype(np.int64)
    return np.asarray(np.unique(keys, return_inverse=True)[1])


#: Chamfers and countersinks cover no more than this share of what the square walls of a plate do.
_BESIDE_WALLS = 0.6


def _slopes(mesh: Any, normal: Vector) -> _Slopes:
    """The chamfers and countersinks of a plate. Raises `NotAPlate` where its surface is neither flat nor square."""
    lean = np.degrees(np.arcsin(np.clip(np.abs(mesh.face_normals @ normal), 0, 1)))
    off, walls = (lean > SQUARE) & (lean < 90 - SQUARE), lean <= SQUARE
    if mesh.area_faces[off].sum() / mesh.area < 1e-3:
        return _Slopes()
    angles = lean[off]
    typical = float(np.average(angles, weights=mesh.area_faces[off]))
    if mesh.area_faces[off].sum() <= _BESIDE_WALLS * mesh.area_faces[walls].sum() and _few(angles):
        heights = np.unique(np.round(mesh.vertices[mesh.faces[off]].reshape(-1, 3) @ normal, 4))
        places = tuple(mesh.vertices[np.unique(mesh.faces[group])].mean(axis=0) for group in _in_groups(mesh, off))
        return _Slopes(tuple(heights.tolist()), places, 90 - typical)
    if float(np.ptp(angles)) > 5:
        raise NotAPlate("its surface is curved or has slopes of several angles")
    raise NotAPlate(f"its walls lean by {typical:.1f} degrees")


def _few(angles: Vector) -> bool:
    """Whether slopes are cut with cutters of a few angles, and not curved."""
    return len(np.unique(np.round(angles / 2))) <= 4


def _in_groups(mesh: Any, which: npt.NDArray[np.bool_]) -> list[npt.NDArray[np.int64]]:
    """Those triangles in groups that hang together, be it by a corner."""
    faces = mesh.faces[which]
    joined = trimesh.graph.connected_component_labels(faces[:, [0, 1, 1, 2]].reshape(-1, 2), len(mesh.vertices))
    labels = joined[faces[:, 0]]
    return [np.flatnonzero(which)[labels == label] for label in np.unique(labels)]


def rim_of(mesh: Any, chosen: npt.NDArray[Any]) -> npt.NDArray[np.int64]:
    """The edges, shape (n, 2), that chosen triangles do not share among themselves."""
    own = mesh.edges_sorted.reshape(-1, 3, 2)[chosen].reshape(-1, 2).astype(np.int64)
    # One number for both ends: rows are sorted many times more slowly.
    edges, counts = np.unique(own[:, 0] * len(mesh.vertices) + own[:, 1], return_counts=True)
    return np.column_stack(np.divmod(edges[counts == 1], len(mesh.vertices)))


def _levels(heights: Vector) -> list[float]:
    found: list[float] = []
    for height in np.sort(heights):
        if not found or height - found[-1] > LEVEL:
            found.append(float(height))
    return found


def _frame(mesh: Any, normal: Vector, height: float) -> tuple[Vector, Vector]:
    """Two directions in the plane of a plate, as `frame_along` has them, as seen from its face."""
    return frame_along(mesh_plane(mesh, normal, normal * height), normal)


def frame_along(lines: Vector, normal: Vector) -> tuple[Vector, Vector]:
    """Two directions square to a ``normal``, one along the longest of ``lines``, shape (n, 2, 3), top upwards."""
    along = lines[:, 1] - lines[:, 0]
    longest = along[int(np.argmax(np.linalg.norm(along, axis=1)))]
    x = longest / np.linalg.norm(longest)
    # Rounding must not turn what stands square in space.
    x = np.where(np.abs(x) < 1e-9, 0.0, x)
    y = np.cross(normal, x)
    if abs(x[2]) > abs(y[2]) + 1e-6:
        x, y = y, -x
    return (-x, -y) if y[2] < -1e-6 else (x, y)


def _region(mesh: Any, normal: Vector, height: float, frame: tuple[Vector, Vector]) -> list[Outline]:
    """What a cut at a height shows."""
    lines = mesh_plane(mesh, normal, normal * height)
    return outlines_in(lines, frame)


def outlines_in(lines: Vector, frame: tuple[Vector, Vector]) -> list[Outline]:
    """The outlines that straight lines in space make in a plane with two directions."""
    x, y = lines @ frame[0], lines @ frame[1]
    loops = _loops(x + 1j * y)
    if loops is not None:
        return outlines_of(loops)
    segments: list[Segment] = [
        Line(complex(a, c), complex(b, d), _SOURCE)
        for (a, b), (c, d) in zip(x.tolist(), y.tolist(), strict=True)
        if abs(complex(b - a, d - c)) > 1e-6
    ]
    found = mended(segments, Mends(arcs=0))
    loops = [
        Loop(tuple(s.between(chain.segments[i - 1].end, s.end) for i, s in enumerate(chain.segments)))
        for chain in found.closed
    ]
    return outlines_of(loops)


#: Ends of lines that a plane cuts out of neighbouring triangles lie on one another within this (mm).
_MEETS = 1e-5


def _loops(lines: npt.NDArray[np.complex128]) -> list[Loop] | None:
    """Lines, shape (n, 2), that are closed runs as they are: two of them end in each place. None for others."""
    cells = np.round(lines / _MEETS)
    _, node = np.unique(cells.ravel(), return_inverse=True)
    node = node.reshape(-1, 2)
    node, lines = node[node[:, 0] != node[:, 1]], lines[node[:, 0] != node[:, 1]]
    if not len(node) or (np.bincount(node.ravel()) != 2).any():
        return None
    order = np.argsort(node.ravel(), kind="stable").tolist()
    # Either end of a line, by its place among all, leads to the end of the next line that lies there.
    onto = [0] * len(order)
    for a, b in zip(order[::2], order[1::2], strict=True):
        onto[a], onto[b] = b, a
    starts, free = lines.ravel().tolist(), [True] * len(lines)
    loops = []
    for first in range(len(lines)):
        if not free[first]:
            continue
        corners, here = [], 2 * first
        while free[here // 2]:
            free[here // 2] = False
            corners.append(starts[here])
            here = onto[here ^ 1]
        # A line back and forth encloses nothing.
        if len(corners) > 2:
            ends = [*corners[1:], corners[0]]
            loops.append(Loop(tuple(Line(a, b, _SOURCE) for a, b in zip(corners, ends, strict=True))))
    return loops


def _whole(regions: Sequence[Sequence[Outline]]) -> Sequence[Outline]:
    """The outline with all that is sunk filled up: what one height shows, if that holds all others."""
    largest = max(regions, key=lambda region: sum(outline.area for outline in region))
    if all(
        region is largest or (len(region) == len(largest) == 1 and _same(region[0].outer, largest[0].outer))
        for region in regions
    ):
        return largest
    return union(*regions)


def _same(a: Loop, b: Loop) -> bool:
    near = all(abs(x - y) < SAME for x, y in zip(a.bounds, b.bounds, strict=True))
    return near and abs(abs(a.area) - abs(b.area)) < max(_CRUMB, SAME * a.length)


def _open(whole: Outline, region: Sequence[Outline]) -> list[Outline]:
    """What a cut misses of the whole outline: openings that do not go through, or what is missing at its edge."""
    if len(region) == 1 and _same(region[0].outer, whole.outer):
        extra = [loop for loop in region[0].cutouts if not any(_same(loop, through) for through in whole.cutouts)]
        return [Outline(loop.reversed()) for loop in extra]
    return [piece for piece in subtract([whole], region) if piece.area > _CRUMB]


def _pockets(
    pieces: Sequence[Outline], regions: Sequence[Sequence[Outline]], levels: Sequence[float]
) -> tuple[tuple[Outline, float], ...]:
    """The pieces that are sunk into the upper face: ``regions`` from above, between ``levels`` from above."""
    found = []
    for piece in pieces:
        depth = next(
            (
                levels[0] - levels[at]
                for at, region in enumerate(regions)
                if sum(one.area for one in intersect([piece], region)) > piece.area - _CRUMB
            ),
            None,
        )
        if depth:
            found.append((piece, round(depth, 4)))
    return tuple(found)
