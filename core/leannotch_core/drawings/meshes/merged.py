"""A body merged of several plates, taken apart again: faces in pairs at one distance, which meet at angles."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
import trimesh
from trimesh.intersections import mesh_plane

from .plates import Vector, numbered, rim_of

#: Faces that differ by no more than this (a cosine's distance from 1, and mm) lie in one plane.
_TURNED, _LEVEL = 1e-4, 0.01

#: A face of less than this share of the surface is an edge, and a pair of faces is a plate where it is at least so
#: many times as wide as thick.
_LEAST, _WIDE = 0.004, 3.0

#: Plates that come to less than this share of the body are not all that it is.
_WHOLE = 0.97

#: A body has at most so many faces that are looked at, so that nobody waits for what is no box.
_MOST_FACES = 400


@dataclass(frozen=True, slots=True)
class _Face:
    """A flat face: the way it looks, how far it lies that way (mm), and what it covers in the frame of that way."""

    normal: Vector
    offset: float
    shape: Any


@dataclass(frozen=True, slots=True)
class _Slab:
    """A plate between two faces: the way its face looks, where that lies (mm), and what it covers."""

    normal: Vector
    offset: float
    shape: Any

    def solid(self, thick: float) -> Any:
        """The plate as a mesh."""
        x, y = _frame(self.normal)
        pose = np.eye(4)
        pose[:3, :3] = np.column_stack([x, y, self.normal])
        pose[:3, 3] = self.normal * (self.offset - thick)
        return trimesh.creation.extrude_polygon(self.shape, thick, transform=pose)


def taken_apart(mesh: Any) -> list[Any]:
    """The plates that a body was merged of, as meshes, the largest first; none where it is no such body.

    Where two meet at a corner the larger one keeps it, and the other one stands on it.
    """
    if not mesh.is_watertight:
        return []
    faces = list(_faces(mesh))
    if not 8 <= len(faces) <= _MOST_FACES:
        return []
    pairs = list(_pairs(faces))
    thick = _thickness(pairs)
    if thick is None:
        return []
    slabs = _slabs(mesh, [(a, b) for a, b, apart in pairs if abs(apart - thick) <= 2 * _LEVEL], thick)
    # Layers that lie on one another are one plate with pockets.
    if all(abs(float(slab.normal @ slabs[0].normal)) > 1 - _TURNED for slab in slabs):
        return []
    solids = _without_overlaps(slabs, thick)
    whole = sum(solid.volume for solid in solids)
    return solids if len(solids) > 1 and _WHOLE <= whole / mesh.volume <= 2 - _WHOLE else []


def _faces(mesh: Any) -> Iterator[_Face]:
    """The flat faces of a body, each with all of its triangles."""
    normals, areas = mesh.face_normals, mesh.area_faces
    offsets = np.einsum("ij,ij->i", normals, mesh.triangles[:, 0])
    which = numbered(np.column_stack([np.round(normals / 0.005), np.round(offsets / _LEVEL)]))
    for group in np.flatnonzero(np.bincount(which, weights=areas) > _LEAST * mesh.area):
        chosen = which == group
        normal = np.average(normals[chosen], axis=0, weights=areas[chosen])
        normal /= np.linalg.norm(normal)
        x, y = _frame(normal)
        rim = mesh.vertices[rim_of(mesh, chosen)]
        flat = np.stack([rim @ x, rim @ y], axis=-1)
        yield _Face(normal, float(np.average(offsets[chosen], weights=areas[chosen])), _within(flat))


def _frame(normal: Vector) -> tuple[Vector, Vector]:
    """Two directions square to a way and to one another: the same for a way and its opposite, but for a sign."""
    upright = np.eye(3)[int(np.argmin(np.abs(normal)))]
    x = np.cross(upright, normal)
    x /= np.linalg.norm(x)
    return x, np.cross(normal, x)


def _pairs(faces: Sequence[_Face]) -> Iterator[tuple[_Face, _Face, float]]:
    """Faces that look away from one another with nothing between: each with the nearest such face behind it."""
    for a in faces:
        behind = sorted(
            (a.offset + b.offset, at)
            for at, b in enumerate(faces)
            if abs(float(a.normal @ b.normal) + 1) < _TURNED and a.offset + b.offset > _LEVEL
        )
        for apart, at in behind:
            if a.shape.intersection(_seen(faces[at], a)).area > _LEVEL:
                yield a, faces[at], apart
                break


def _seen(face: _Face, other: _Face) -> Any:
    """What a face covers in the frame of one that looks the other way, or the same way."""
    x, y = _frame(face.normal)
    own_x, own_y = _frame(other.normal)
    turn = [float(x @ own_x), float(y @ own_x), float(x @ own_y), float(y @ own_y)]
    return shapely.affinity.affine_transform(face.shape, [*turn, 0.0, 0.0])


def _thickness(pairs: Sequence[tuple[_Face, _Face, float]]) -> float | None:
    """The distance (mm) at which most of the surface lies in pairs that are wide enough to be plates."""
    covered: Counter[float] = Counter()
    for a, b, apart in pairs:
        both = a.shape.intersection(_seen(b, a)).area
        if math.sqrt(both) > _WIDE * apart:
            covered[round(apart, 2)] += both
    return max(covered, key=lambda apart: covered[apart], default=None)


def _slabs(mesh: Any, pairs: Sequence[tuple[_Face, _Face]], thick: float) -> list[_Slab]:
    """One for each connected region between pairs of faces that lie in one plane, as far as the body is solid there."""
    found: dict[tuple[float, ...], list[Any]] = defaultdict(list)
    ways: dict[tuple[float, ...], tuple[Vector, float]] = {}
    for a, b in pairs:
        # One way of both, so that a plate that is seen from either side is one.
        up = a if tuple(np.round(a.normal, 2)) > tuple(np.round(b.normal, 2)) else b
        key = (*np.round(up.normal, 2).tolist(), round(up.offset / (10 * _LEVEL)))
        ways.setdefault(key, (up.normal, up.offset))
        found[key] += [up.shape, _seen(b if up is a else a, up)]
    slabs = []
    for key, shapes in found.items():
        normal, offset = ways[key]
        solid = _section(mesh, normal, offset - thick / 2)
        region = shapely.union_all(shapes).intersection(solid).buffer(-1e-3).buffer(1e-3, join_style="mitre")
        parts = [part for part in shapely.get_parts(region) if part.geom_type == "Polygon"]
        slabs += [_Slab(normal, offset, part) for part in parts if math.sqrt(part.area) > thick]
    return sorted(slabs, key=lambda slab: -slab.shape.area)


def _section(mesh: Any, normal: Vector, height: float) -> Any:
    """What a cut through a mesh covers, in the frame of the way that it is square to."""
    lines = mesh_plane(mesh, normal, normal * height)
    x, y = _frame(normal)
    return _within(np.stack([lines @ x, lines @ y], axis=-1))


def _within(lines: Vector) -> Any:
    """What lines, shape (n, 2, 2), go round: every second one that lies in another is a hole."""
    # Grown and shrunk by a hair, so that what touches at a corner is one.
    return shapely.build_area(shapely.multilinestrings(lines.round(5))).buffer(1e-3).buffer(-1e-3)


def _without_overlaps(slabs: Sequence[_Slab], thick: float) -> list[Any]:
    """Each plate less what larger ones take of it."""
    solids: list[Any] = []
    for slab in slabs:
        left = slab.shape
        for other in solids:
            left = left.difference(_section(other, slab.normal, slab.offset - thick / 2).buffer(1e-4))
        left = left.buffer(-1e-3).buffer(1e-3, join_style="mitre")
        for part in shapely.get_parts(left):
            if part.geom_type == "Polygon" and math.sqrt(part.area) > thick:
                solids.append(_Slab(slab.normal, slab.offset, part).solid(thick))
    return solids
