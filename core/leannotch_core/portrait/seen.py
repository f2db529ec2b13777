"""What is seen of the faces of a picture: of each, all that no nearer one covers."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon, STRtree
from shapely.geometry.base import BaseGeometry

from .faces import GRID, Face, joined

#: What is left of a face, or covered of it, by less than this (mm²) is nothing.
_CRUMB = 0.01

#: What is narrower than twice this (mm) is no face.
_SPIKE = 0.01

#: Faces nearer to one another than this (mm) meet where they cover one another.
_MEETS = 1e-3


def seen(faces: Sequence[Face]) -> list[Face]:
    """The faces less what others hide of them; those that cross are each hidden in part. What is hidden is left out."""
    hidden: list[list[BaseGeometry]] = [[] for _ in faces]
    for number, by in _covered(faces):
        hidden[number].append(by)
    found = []
    for face, covers in zip(faces, hidden, strict=True):
        # What only touches covers nothing.
        over = joined([piece for cover in covers for piece in _areas(cover)])
        left = _without_spikes(_cut(shapely.difference, face.shape, over)) if covers else face.shape
        found += [replace(face, shape=piece) for piece in _areas(left) if piece.area > _CRUMB]
    return found


def _cut(how: Callable[..., Any], one: Any, other: Any) -> Any:
    """Shapes cut with one another; on a grid where their corners lie so that it cannot be told otherwise."""
    try:
        return how(one, other)
    except shapely.errors.GEOSException:
        return how(one, other, grid_size=GRID)


def _without_spikes(shape: BaseGeometry) -> BaseGeometry:
    """A shape without what is narrower than a line, which may be left where another face ends along its edge."""
    return shape.buffer(-_SPIKE, join_style="mitre").buffer(_SPIKE, join_style="mitre")


def _areas(shape: BaseGeometry) -> list[Polygon]:
    return [piece for piece in shapely.get_parts(shape) if isinstance(piece, Polygon)]


def _covered(faces: Sequence[Face]) -> list[tuple[int, BaseGeometry]]:
    """Each face that another one covers, by its number, and what of it."""
    if not faces:
        return []
    shapes = np.array([face.shape for face in faces], dtype=object)
    # Most neighbours only touch along an edge: a little smaller they do not meet, and need not be cut with one another.
    smaller = shapely.buffer(shapes, -_MEETS, join_style="mitre")
    one, other = STRtree(smaller).query(smaller, predicate="intersects")
    one, other = one[one < other], other[one < other]
    shared = _cut(shapely.intersection, shapes[one], shapes[other])
    covers = shapely.area(shared) > _CRUMB / 5
    one, other, shared = one[covers], other[covers], shared[covers]
    near = np.array([face.near for face in faces])
    # How much nearer the first of two is, as a plane over the picture: least and most where they cover one another.
    planes = near[one] - near[other]
    least, most = _ends(shared, planes)
    found = [(int(face), by) for face, by in zip(one[most <= _MEETS], shared[most <= _MEETS], strict=True)]
    far = (least >= -_MEETS) & (most > _MEETS)
    found += [(int(face), by) for face, by in zip(other[far], shared[far], strict=True)]
    for at in np.flatnonzero((least < -_MEETS) & (most > _MEETS)):
        both = joined(_areas(shared[at]))
        behind = joined(_areas(_cut(shapely.intersection, both, _side(both, planes[at]))))
        found += [(int(one[at]), behind), (int(other[at]), _cut(shapely.difference, both, behind))]
    return found


def _ends(shared: npt.NDArray[np.object_], planes: npt.NDArray[np.float64]) -> tuple[npt.NDArray[np.float64], ...]:
    """The least and the most of each plane over its shape."""
    points, of = shapely.get_coordinates(shared, return_index=True)
    height = planes[of, 0] * points[:, 0] + planes[of, 1] * points[:, 1] + planes[of, 2]
    least, most = np.full(len(shared), np.inf), np.full(len(shared), -np.inf)
    np.minimum.at(least, of, height)
    np.maximum.at(most, of, height)
    return least, most


def _side(shape: BaseGeometry, plane: npt.NDArray[np.float64]) -> Polygon:
    """About a shape, that side of where a plane is 0 on which it is less."""
    left, bottom, right, top = shape.bounds
    middle, reach = complex(left + right, bottom + top) / 2, abs(complex(right - left, top - bottom)) + 1
    up = complex(plane[0], plane[1])
    on = middle - up * (plane[0] * middle.real + plane[1] * middle.imag + plane[2]) / abs(up) ** 2
    along, down = up / abs(up) * 1j * 2 * reach, -up / abs(up) * 2 * reach
    return Polygon([(p.real, p.imag) for p in (on - along, on + along, on + along + down, on - along + down)])
