"""What is seen of solids from one side: their flat faces in the plane of the picture, each with how near it is."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any

import manifold3d
import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon

from ..assembly.space import Matrix

Numbers = npt.NDArray[np.float64]

#: From where things are seen: turned so far to the right of their front, and raised above it (degrees).
ASIDE, ABOVE = 28.0, 26.0

#: A picture is as fine as so many steps along its longer side: what is smaller is not drawn.
FINE = 480
#: So many faces are drawn at the most.
MOST_FACES = 1500

#: On such a grid (mm) shapes are cut with one another without fail.
GRID = 1e-5

#: Gaps of no width are closed so far (mm).
_GAP = 0.01

#: A face narrower than this (mm) is a chord of something round.
_ROUND = 1.6


@dataclass(frozen=True, slots=True)
class Face:
    """A flat face as it is seen (mm, y up); at x, y it is ``near[0] x + near[1] y + near[2]`` mm towards the eye.

    ``normal`` is its unit normal in the picture's axes: to the right, up, and towards the eye. ``chord`` is whether it
    stands for a piece of something round; ``of`` is the number of its body.
    """

    shape: Polygon
    near: tuple[float, float, float]
    normal: tuple[float, float, float]
    chord: bool
    of: int

    def depth(self, x: float, y: float) -> float:
        """How far (mm) it is towards the eye at a place of the picture."""
        a, b, c = self.near
        return a * x + b * y + c


def joined(pieces: Any) -> Any:
    """Pieces as one shape; on a grid where their corners lie so that it cannot be told otherwise."""
    try:
        return shapely.union_all(pieces)
    except shapely.errors.GEOSException:
        return shapely.union_all(pieces, grid_size=GRID)


def eye() -> Matrix:
    """The turn from space (x to the right, y to the back, z up) to the picture: to the right, up, towards the eye."""
    aside, above = math.radians(ASIDE), math.radians(ABOVE)
    towards = np.array([math.sin(aside) * math.cos(above), -math.cos(aside) * math.cos(above), math.sin(above)])
    right = np.array([math.cos(aside), math.sin(aside), 0.0])
    return np.stack([right, np.cross(towards, right), towards])


def faces_of(bodies: Sequence[tuple[manifold3d.Manifold, Matrix]]) -> list[Face]:
    """The faces that look towards the eye, of bodies in their poses; what is too small to be seen is left out."""
    turn, speck = eye(), _speck(bodies)
    found = [
        face
        for number, (body, pose) in enumerate(bodies)
        for face in _of_body(body, number, turn @ pose[:3, :3], turn @ pose[:3, 3], speck)
    ]
    if len(found) <= MOST_FACES:
        return found
    # Of what is very rich, the largest: walls of the smallest holes are seen by nobody.
    return sorted(found, key=lambda face: -face.shape.area)[:MOST_FACES]


def _speck(bodies: Sequence[tuple[manifold3d.Manifold, Matrix]]) -> float:
    """What a face has to cover (mm²) to be seen, in a picture of all of them."""
    corners = np.concatenate(
        [_corners(body) @ pose[:3, :3].T + pose[:3, 3] for body, pose in bodies] or [np.zeros((1, 3))]
    )
    return float((np.ptp(corners, axis=0).max() / FINE) ** 2)


def _corners(body: manifold3d.Manifold) -> Numbers:
    ends = np.array(body.bounding_box()).reshape(2, 3)
    return np.array(list(product(*ends.T)))


def _of_body(body: manifold3d.Manifold, of: int, turn: Matrix, shift: Numbers, speck: float) -> Iterator[Face]:
    mesh = body.to_mesh()
    own = mesh.vert_properties[:, :3].astype(np.float64)[mesh.tri_verts]
    normals = np.cross(own[:, 1] - own[:, 0], own[:, 2] - own[:, 0])
    long = np.linalg.norm(normals, axis=1)
    towards = normals @ turn[2]
    seen = (towards > 1e-3 * long) & (long > 1e-9)
    if not seen.any():
        return
    own, normals = own[seen], normals[seen] / long[seen, None]
    plane = _planes(own, normals)
    triangles, normals = own @ turn.T + shift, normals @ turn.T
    flat = shapely.polygons(triangles[:, :, :2])
    for number in range(int(plane.max()) + 1):
        which = np.flatnonzero(plane == number)
        # The largest piece tells best which way the face looks.
        first = which[np.argmax(shapely.area(flat[which]))]
        normal = normals[first]
        near = (-normal[0] / normal[2], -normal[1] / normal[2], float(normal @ triangles[first, 0] / normal[2]))
        # Where a corner of one triangle lies on a side of another there may be a gap of no width.
        whole = joined(flat[which]).buffer(_GAP, join_style="mitre").buffer(-_GAP, join_style="mitre")
        for piece in shapely.get_parts(whole):
            if isinstance(piece, Polygon) and piece.area > speck:
                yield Face(piece, near, tuple(normal.tolist()), _narrow(triangles[which]), of)


def _planes(triangles: Numbers, normals: Numbers) -> npt.NDArray[np.intp]:
    """Which plane each triangle lies in, by number: what lies in one is one face, however it was divided.

    They are told apart in the body's own frame, where most faces are square to an axis, to a hundredth.
    """
    offset = np.einsum("ij,ij->i", normals, triangles[:, 0])
    planes = np.column_stack([(normals + 0.00137).round(2), (offset + 0.00137).round(2)])
    which: npt.NDArray[np.intp] = np.unique(planes, axis=0, return_inverse=True)[1]
    return which


def _narrow(triangles: Numbers) -> bool:
    sides = np.linalg.norm(triangles - np.roll(triangles, 1, axis=1), axis=2)
    return len(triangles) <= 2 and float(sides.min()) < _ROUND
