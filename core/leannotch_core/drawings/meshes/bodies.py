"""The bodies of a mesh file, in millimetres."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
import trimesh

from ...document.limits import LARGEST_DRAWING, MOST_TRIANGLES
from ...document.units import ALSO, CALLED, MM
from ..drawing import BrokenFile
from .bent import UnfoldedSheet, unfolded
from .merged import taken_apart

#: Triangles in one plane differ by no more than this (radians).
_BENT = 0.01


@dataclass(frozen=True, slots=True)
class Body:
    """One connected body: its name, and its mesh in mm, of which so many triangles were ``filled`` in to close it.

    ``voids`` are the sizes (mm) of rooms in it that nothing leads to; ``flat`` is what it was bent of, if it was.
    """

    name: str
    mesh: Any
    filled: int = 0
    voids: tuple[tuple[float, float, float], ...] = ()
    flat: UnfoldedSheet | None = None

    @property
    def is_closed(self) -> bool:
        return bool(self.mesh.is_watertight)


@dataclass(slots=True)
class Bodies:
    """The bodies of a file; ``unit`` is what it states, as drawings call it, empty where it states none.

    ``doubled`` triangles were there twice and ``flat`` ones have no area: they were left out. ``merged`` are bodies
    that were taken apart, by how many plates they were.
    """

    bodies: list[Body]
    unit: str
    scale: float
    doubled: int = 0
    flat: int = 0
    merged: list[tuple[str, int]] = field(default_factory=list)


def bodies_of(data: bytes, kind: str) -> Bodies:
    """Reads a mesh of a kind (the ending of its file). Raises `BrokenFile`."""
    _check_size(data, kind)
    try:
        loaded: Any = trimesh.load(io.BytesIO(data), file_type=kind, force="scene", skip_materials=True)
    except MemoryError:
        raise
    except Exception as error:  # the readers fail in many ways on broken files
        raise BrokenFile(f"The {kind.upper()} file cannot be read: it is broken or cut off. Save it again.") from error
    # glTF counts in metres (glTF 2.0, 3.4).
    unit = "meter" if kind == "glb" else str(loaded.units or "").lower()
    unit = next((name for word in (unit, unit.removesuffix("s")) if (name := ALSO.get(word, word)) in MM), "")
    scale = MM.get(unit, 1.0)
    triangles = sum(len(one.faces) for one in loaded.geometry.values() if isinstance(one, trimesh.Trimesh))
    if triangles > MOST_TRIANGLES:
        raise BrokenFile(f"The mesh has {triangles} triangles; at most {MOST_TRIANGLES} are read. Make it coarser.")
    found = Bodies([], unit if unit in CALLED or not unit else f"{scale:g} mm", scale)
    found.bodies.extend(_bodies(loaded, found))
    if not found.bodies:
        raise BrokenFile("The file holds no body: it has no triangles with an area.")
    return found


def _check_size(data: bytes, kind: str) -> None:
    """Refuses at once what says itself that it is too large: a binary STL tells its triangles in its head."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The file has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    told = int.from_bytes(data[80:84], "little")
    if kind == "stl" and len(data) == 84 + 50 * told and told > MOST_TRIANGLES:
        raise BrokenFile(f"The mesh has {told} triangles; at most {MOST_TRIANGLES} are read. Make it coarser.")


def _bodies(scene: Any, found: Bodies) -> Iterator[Body]:
    number = 0
    for node in scene.graph.nodes_geometry:
        place, name = scene.graph[node]
        whole = scene.geometry[name]
        if not isinstance(whole, trimesh.Trimesh) or not len(whole.faces):
            continue
        mesh: Any = whole.copy()
        mesh.apply_transform(place)
        mesh.apply_scale(found.scale)
        if not np.isfinite(mesh.vertices).all():
            raise BrokenFile("The mesh has corners that are no finite numbers; save it again.")
        mesh.merge_vertices()
        _without_doubles(mesh, found)
        pieces = mesh.split(only_watertight=False, repair=False) if len(mesh.faces) else []
        if len(mesh.faces) and not len(pieces):
            pieces = [mesh]
        found.flat += sum(len(piece.faces) for piece in pieces if piece.area <= _NO_AREA)
        solids, voids = _told_apart([piece for piece in pieces if piece.area > _NO_AREA])
        for solid, inside in zip(solids, voids, strict=True):
            number += 1
            yield from _apart(_closed(Body(_called(name, len(solids), number), solid, voids=inside)), found)


def _apart(body: Body, found: Bodies) -> list[Body]:
    """The body, or the plates that it was merged of: an open box could be a block with a pocket, but hardly is."""
    if flat := unfolded(body.mesh):
        return [replace(body, flat=flat)]
    plates = taken_apart(body.mesh)
    if plates:
        found.merged.append((body.name, len(plates)))
    return [Body(f"{body.name}.{number}", mesh) for number, mesh in enumerate(plates, 1)] or [body]


def _without_doubles(mesh: Any, found: Bodies) -> None:
    """Takes triangles that are there twice once."""
    first = mesh.unique_faces()
    if not first.all():
        found.doubled += int((~first).sum())
        mesh.update_faces(first)


#: A body whose surface is less than this (mm²) has none.
_NO_AREA = 1e-9

Sizes = tuple[tuple[float, float, float], ...]


def _told_apart(pieces: Sequence[Any]) -> tuple[list[Any], list[Sizes]]:
    """Solid pieces, and the sizes of the closed rooms in each: surfaces that face inwards, round nothing."""
    hollow = [piece for piece in pieces if piece.is_watertight and piece.volume < 0]
    solids = [piece for piece in pieces if not any(piece is one for one in hollow)]
    rooms: list[list[tuple[float, float, float]]] = [[] for _ in solids]
    for room in hollow:
        inside = [at for at, solid in enumerate(solids) if _lies_in(room, solid)]
        if not inside:
            # It was drawn inside out.
            room.invert()
            solids.append(room)
            rooms.append([])
            continue
        across, deep, high = (room.bounds[1] - room.bounds[0]).round(3).tolist()
        rooms[min(inside, key=lambda at: abs(solids[at].volume))].append((across, deep, high))
    return solids, [tuple(sizes) for sizes in rooms]


def _lies_in(room: Any, solid: Any) -> bool:
    return bool((room.bounds[0] >= solid.bounds[0]).all() and (room.bounds[1] <= solid.bounds[1]).all())


def _closed(body: Body) -> Body:
    """The body with holes of one or two missing triangles closed, where that closes it: there is but one way to."""
    if body.is_closed:
        return body
    mesh, known = body.mesh.copy(), len(body.mesh.faces)
    mesh.fill_holes()
    # Two triangles that bend could as well have bent the other way.
    fresh = (mesh.face_adjacency >= known).all(axis=1)
    bent = bool((mesh.face_adjacency_angles[fresh] > _BENT).any())
    return Body(body.name, mesh, len(mesh.faces) - known, body.voids) if mesh.is_watertight and not bent else body


def _called(name: str, pieces: int, number: int) -> str:
    """The name of a body, if the file gives it one of its own."""
    own = name.rpartition("/")[2].removesuffix(".stl").strip()
    return own if pieces == 1 and own and not own.startswith(("geometry_", "object")) else f"Body {number}"
