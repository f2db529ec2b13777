"""In which order a straight press brake can make the bends of a part, or what is in the way.

The order is looked for backwards, from the folded part: the last bend is one that the tools reach while all others are
made. Tools are as long as the bend; the legs on both sides of it swing up together. Sizes of tools are common
practice, no source: a blade of a punch under a broader ram, a die on a broader table.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import manifold3d
import numpy as np
import numpy.typing as npt

from ..bends.allowance import Allowance
from ..bends.faces import Faces, Hinge
from ..bends.folded import BentPiece, Folded, Pose, stood
from ..bends.laid import LaidBend
from ..geometry.chords import ring

#: Half the width of the blade, how high it is, half the width of the ram over it (mm).
_BLADE, _HIGH, _RAM = 4.0, 100.0, 40.0
#: How much broader than its opening the die is on either side, how high it is, half the width of the table (mm).
_CHEEK, _LOW, _TABLE = 8.0, 60.0, 60.0
#: How far ram and table reach (mm).
_FAR = 2000.0
#: A leg that comes no nearer to a tool than this (mm) passes it.
_TOUCH = 0.2
#: Stages of a bend that are looked at, in shares of its angle.
_STAGES = (0.05, 0.5, 1.0)
#: So many positions are tried at most.
_MOST = 3000

Points = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Reached:
    """An order of bending, by the ids of the bends."""

    order: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Blocked:
    """No order was found: in the most promising one ``bend`` cannot be made, as ``face`` runs into the ``tool``.

    ``after`` are the bends made before it there; ``tried`` is whether all orders were.
    """

    bend: str
    face: int
    tool: str
    after: tuple[str, ...]
    tried: bool


def bending_order(folded: Folded, die: float) -> Reached | Blocked:
    """Looks for an order in which all bends can be made over a die with that opening (mm)."""
    return _Press(folded, die).run()


class _Press:
    def __init__(self, folded: Folded, die: float) -> None:
        self._folded, self._die = folded, die
        self._bends = list({hinge.bend.id: hinge.bend for hinge in folded.faces.hinges}.values())
        self._meshes = [_triangles(folded, number) for number in range(len(folded.faces.flat))]
        self._failed: set[frozenset[str]] = set()
        self._nearest: tuple[frozenset[str], str, tuple[int, str]] | None = None
        self._positions = 0

    def run(self) -> Reached | Blocked:
        everything = frozenset(bend.id for bend in self._bends)
        order = self._undone(everything)
        if order is not None:
            return Reached(tuple(reversed(order)))
        assert self._nearest is not None
        made, bend, (face, tool) = self._nearest
        after = tuple(one.id for one in self._bends if one.id in made)
        return Blocked(bend, face, tool, after, self._positions < _MOST)

    def _undone(self, made: frozenset[str]) -> list[str] | None:
        """The bends in the order in which they can be undone, with these ones made."""
        if not made:
            return []
        if made in self._failed or self._positions >= _MOST:
            return None
        for bend in reversed(self._bends):
            if bend.id not in made:
                continue
            before = made - {bend.id}
            hit = self._hit(bend, before)
            if hit is None:
                rest = self._undone(before)
                if rest is not None:
                    return [bend.id, *rest]
            elif self._nearest is None or len(before) < len(self._nearest[0]):
                self._nearest = before, bend.id, hit
        self._failed.add(made)
        return None

    def _hit(self, bend: LaidBend, made: frozenset[str]) -> tuple[int, str] | None:
        """The first face that runs into a tool while a bend is made, and which tool."""
        self._positions += 1
        beside = {face for h in self._folded.faces.hinges if h.bend.id == bend.id for face in (h.near, h.far)}
        for share in _STAGES:
            angles = {one.id: one.bend.angle if one.id in made else 0.0 for one in self._bends}
            stage = _at(self._folded, angles | {bend.id: share * bend.bend.angle})
            piece = next((p for p in stage.bent if p.hinge.bend.id == bend.id), None)
            if piece is None:
                return None
            frame, length = _frame(piece)
            for face, pose in enumerate(stage.poses):
                if face not in beside and pose is not None:
                    there = (self._meshes[face] @ (frame @ pose).T)[..., :3]
                    tool = next((name for name, low, high in self._tools(length) if _meets(there, low, high)), None)
                    if tool:
                        return face, tool
        return None

    def _tools(self, length: float) -> Iterator[tuple[str, Points, Points]]:
        """Tools as boxes: along the bend, across it, and up from the inside of its middle."""
        half, t = length / 2, self._folded.thickness
        die = self._die / 2 + _CHEEK
        for name, along, across, low, high in (
            ("punch", half, _BLADE, 0.0, _HIGH),
            ("ram", _FAR, _RAM, _HIGH, 2 * _HIGH),
            ("die", half, die, -t - self._die / 2 - _LOW, -t - self._die / 2),
            ("table", _FAR, _TABLE, -2 * _LOW - t - self._die, -t - self._die / 2 - _LOW),
        ):
            yield name, np.array([-along, -across, low]) + _TOUCH, np.array([along, across, high]) - _TOUCH


def _at(folded: Folded, angles: Mapping[str, float]) -> Folded:
    """The part with its bends turned so far (degrees): the sheet keeps its length, so the radius is wider before."""

    def turned(bend: LaidBend) -> LaidBend:
        angle = max(angles[bend.id], 1e-6)
        k, t = bend.bend.k, bend.bend.thickness
        radius = bend.bend.length / math.radians(angle) - k * t
        return replace(bend, bend=Allowance(angle, radius, k, t))

    known: dict[str, LaidBend] = {}
    hinges: list[Hinge] = []
    for hinge in folded.faces.hinges:
        bend = known.setdefault(hinge.bend.id, turned(hinge.bend))
        hinges.append(replace(hinge, bend=bend))
    return stood(Faces(folded.faces.flat, tuple(hinges), ()), folded.root, folded.thickness)


def _frame(piece: BentPiece) -> tuple[Pose, float]:
    """From space to the tools' frame: along the bend, across it, and up from the inside of its middle; its length."""
    bend, t = piece.hinge.bend, piece.hinge.bend.bend.thickness
    inside, outside = (t, 0.0) if bend.up else (0.0, t)
    ends = np.array([bend.middle, bend.middle, bend.end, bend.start])
    middle, below, end, start = piece.place(ends, np.array([inside, outside, inside, inside]))
    up, along = (middle - below) / t, (end - start) / np.linalg.norm(end - start)
    turn = np.array([along, np.cross(up, along), up])
    frame = np.eye(4)
    frame[:3, :3] = turn
    frame[:3, 3] = -turn @ middle
    return frame, abs(bend.end - bend.start)


def _triangles(folded: Folded, face: int) -> Points:
    """The surface of a face as a plate, in its own flat frame: shape (n, 3, 4)."""
    loops = [np.array(ring(loop, 0.1)) for loop in folded.faces.flat[face].loops]
    section = manifold3d.CrossSection(loops, manifold3d.FillRule.Positive)
    mesh = manifold3d.Manifold.extrude(section, folded.thickness).to_mesh()
    corners = np.asarray(mesh.vert_properties, dtype=np.float64)[:, :3][mesh.tri_verts]
    return np.concatenate([corners, np.ones((*corners.shape[:2], 1))], axis=2)


def _meets(triangles: Points, low: Points, high: Points) -> bool:
    """Whether any of the triangles, shape (n, 3, 3), meets a box: they are parted by one of 13 axes or not at all."""
    middle, half = (low + high) / 2, (high - low) / 2
    near = (triangles.min(axis=1) < high).all(axis=1) & (triangles.max(axis=1) > low).all(axis=1)
    left = triangles[near] - middle
    if not len(left):
        return False
    edges = np.roll(left, -1, axis=1) - left
    axes = [np.cross(edges[:, 0], edges[:, 1])]
    axes += [np.cross(np.eye(3)[one], edges[:, edge]) for one in range(3) for edge in range(3)]
    parted = np.zeros(len(left), dtype=bool)
    for axis in axes:
        along = np.einsum("nij,nj->ni", left, axis)
        reach = np.abs(axis) @ half
        parted |= (along.min(axis=1) > reach) | (along.max(axis=1) < -reach)
    return not bool(parted.all())


def names_of_faces(folded: Folded) -> list[str]:
    """What the faces are called: by the bend that carries each, seen from the root."""
    found = ["its foot"] * len(folded.faces.flat)
    for piece in folded.bent:
        far = piece.hinge.far if np.isclose(piece.outward, piece.hinge.bend.onward) else piece.hinge.near
        found[far] = f"the leg of {piece.hinge.bend.name}"
    return found
