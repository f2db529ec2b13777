"""The bodies of a mesh file, in millimetres."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
import trimesh

from ...document.limits import LARGEST_DRAWING, MOST_TRIANGLES
from ..drawing import BrokenFile

#: Units of meshes that say one, in mm. glTF 2.0, 3.4: metres; 3MF states its own.
_MILLIMETRES = {
    "millimeters": 1.0, "mm": 1.0, "centimeters": 10.0, "cm": 10.0, "meters": 1000.0, "m": 1000.0,
    "inches": 25.4, "inch": 25.4, "in": 25.4, "feet": 304.8, "microns": 0.001,
}  # fmt: skip


#: Triangles in one plane differ by no more than this (radians).
_BENT = 0.01


@dataclass(frozen=True, slots=True)
class Body:
    """One connected body: its name, and its mesh in mm, of which so many triangles were ``filled`` in to close it."""

    name: str
    mesh: Any
    filled: int = 0

    @property
    def is_closed(self) -> bool:
        return bool(self.mesh.is_watertight)


@dataclass(frozen=True, slots=True)
class Bodies:
    """The bodies of a file; ``unit`` is what it states, empty where it states none."""

    bodies: list[Body]
    unit: str
    scale: float


def bodies_of(data: bytes, kind: str) -> Bodies:
    """Reads a mesh of a kind (the ending of its file). Raises `BrokenFile`."""
    _check_size(data, kind)
    try:
        loaded: Any = trimesh.load(io.BytesIO(data), file_type=kind, force="scene", skip_materials=True)
    except MemoryError:
        raise
    except Exception as error:  # the readers fail in many ways on broken files
        raise BrokenFile(f"The {kind.upper()} file cannot be read: it is broken or cut off. Save it again.") from error
    unit = "meters" if kind == "glb" else str(loaded.units or "")
    scale = _MILLIMETRES.get(unit, 1.0)
    triangles = sum(len(one.faces) for one in loaded.geometry.values() if isinstance(one, trimesh.Trimesh))
    if triangles > MOST_TRIANGLES:
        raise BrokenFile(f"The mesh has {triangles} triangles; at most {MOST_TRIANGLES} are read. Make it coarser.")
    found = list(_bodies(loaded, scale))
    if not found:
        raise BrokenFile("The file holds no body: it has no triangles.")
    return Bodies(found, unit if unit in _MILLIMETRES else "", scale)


def _check_size(data: bytes, kind: str) -> None:
    """Refuses at once what says itself that it is too large: a binary STL tells its triangles in its head."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    told = int.from_bytes(data[80:84], "little")
    if kind == "stl" and len(data) == 84 + 50 * told and told > MOST_TRIANGLES:
        raise BrokenFile(f"The mesh has {told} triangles; at most {MOST_TRIANGLES} are read. Make it coarser.")


def _bodies(scene: Any, scale: float) -> Iterator[Body]:
    number = 0
    for node in scene.graph.nodes_geometry:
        place, name = scene.graph[node]
        whole = scene.geometry[name]
        if not isinstance(whole, trimesh.Trimesh) or not len(whole.faces):
            continue
        mesh: Any = whole.copy()
        mesh.apply_transform(place)
        mesh.apply_scale(scale)
        if not np.isfinite(mesh.vertices).all():
            raise BrokenFile("The mesh has corners that are no finite numbers; save it again.")
        mesh.merge_vertices()
        pieces = mesh.split(only_watertight=False, repair=False) if len(mesh.faces) else []
        for piece in pieces if len(pieces) else [mesh]:
            number += 1
            yield _closed(Body(_called(name, len(pieces), number), piece))


def _closed(body: Body) -> Body:
    """The body with holes of one or two missing triangles closed, where that closes it: there is but one way to."""
    if body.is_closed:
        return body
    mesh, known = body.mesh.copy(), len(body.mesh.faces)
    mesh.fill_holes()
    # Two triangles that bend could as well have bent the other way.
    fresh = (mesh.face_adjacency >= known).all(axis=1)
    bent = bool((mesh.face_adjacency_angles[fresh] > _BENT).any())
    return Body(body.name, mesh, len(mesh.faces) - known) if mesh.is_watertight and not bent else body


def _called(name: str, pieces: int, number: int) -> str:
    """The name of a body, if the file gives it one of its own."""
    own = name.rpartition("/")[2].removesuffix(".stl").strip()
    return own if pieces == 1 and own and not own.startswith(("geometry_", "object")) else f"Body {number}"
