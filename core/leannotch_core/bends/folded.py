"""A part folded: where each of its faces stands in space once every bend is made.

A part's own frame has x and y as it is drawn flat, and z from 0 at its back to its thickness at the drawn face. The
root, the face with most of the drawn rectangle, stays there.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..geometry.loop import Outline
from ..geometry.segment import Arc, Point, Segment
from .faces import Faces, Hinge, faces_of, holds
from .laid import LaidBend

#: A pose: the 4 x 4 matrix from the flat frame of a part to space.
Pose = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class BentPiece:
    """A piece of the sheet that is bent, with the pose of the face that it is bent away from, ``outward`` from it."""

    hinge: Hinge
    pose: Pose
    outward: complex

    def place(self, points: npt.NDArray[np.complex128], z: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        """Where points of the flat piece (mm), ``z`` above its back, stand in space: shape (n, 3).

        What lies beside the bend stands as the face there does.
        """
        bend = self.hinge.bend
        begin = bend.middle - self.outward * bend.half
        away = ((points - begin) * np.conj(self.outward)).real
        side = ((points - begin) * np.conj(self.outward * -1j)).real
        bent = np.clip(away, 0.0, 2 * bend.half)
        turned, beyond = bent / (2 * bend.half) * math.radians(bend.bend.angle), away - bent
        axis = bend.bend.thickness + bend.bend.radius if bend.up else -bend.bend.radius
        reach = (axis - z) if bend.up else (z - axis)
        out, sign = reach * np.sin(turned) + beyond * np.cos(turned), 1 if bend.up else -1
        there = begin + self.outward * out + self.outward * -1j * side
        high = axis + sign * (beyond * np.sin(turned) - reach * np.cos(turned))
        flat = np.stack([there.real, there.imag, high, np.ones(len(points))])
        placed: npt.NDArray[np.float64] = (self.pose @ flat)[:3].T
        return placed


@dataclass(frozen=True, slots=True)
class Folded:
    """``poses`` are those of the faces; a face that hangs on nothing has none. ``circular`` are bends that would have
    to hold two faces that are held already.
    """

    faces: Faces
    poses: tuple[Pose | None, ...]
    bent: tuple[BentPiece, ...]
    root: int
    thickness: float
    circular: tuple[LaidBend, ...] = ()

    @property
    def size(self) -> tuple[float, float, float]:
        """Overall width, depth and height (mm) along the axes of the root face."""
        points = self.corners()
        low, high = points.min(axis=0), points.max(axis=0)
        return float(high[0] - low[0]), float(high[1] - low[1]), float(high[2] - low[2])

    def corners(self) -> npt.NDArray[np.float64]:
        """Points in space, shape (n, 3), that reach as far as the folded part does."""
        found = []
        for face, pose in zip(self.faces.flat, self.poses, strict=True):
            if pose is not None:
                flat = np.array([point for segment in face.outer for point in _points(segment)])
                both = np.concatenate([_flat(flat, 0.0), _flat(flat, self.thickness)])
                found.append((both @ pose.T)[:, :3])
        for piece in self.bent:
            flat = _across(piece)
            for z in (0.0, self.thickness):
                found.append(piece.place(flat, np.full(len(flat), z)))
        return np.concatenate(found)

    def face_at(self, point: Point) -> int:
        """The number of the face that a point of the flat part lies in, or nearest to."""
        apart = [_apart(face, point) for face in self.faces.flat]
        return int(np.argmin(apart))

    def pose_at(self, point: Point) -> Pose:
        """The pose of the face that a point of the flat part belongs to."""
        pose = self.poses[self.face_at(point)]
        return np.eye(4) if pose is None else pose

    def normal(self, face: int) -> npt.NDArray[np.float64]:
        """The direction in space that the drawn side of a face looks in."""
        pose = self.poses[face]
        return np.array([0.0, 0.0, 1.0]) if pose is None else pose[:3, 2]


def fold(region: Sequence[Outline], bends: Sequence[LaidBend], extent: complex, thickness: float) -> Folded:
    """Folds a flat region; ``extent`` is the drawn rectangle's width and height (mm)."""
    faces = faces_of(region, bends)
    return stood(faces, root_of(faces.flat, extent), thickness)


def stood(faces: Faces, root: int, thickness: float) -> Folded:
    """The faces in space, from the root on."""
    poses: list[Pose | None] = [None] * len(faces.flat)
    poses[root] = np.eye(4)
    bent: list[BentPiece] = []
    done: set[int] = set()
    circular: list[LaidBend] = []
    waiting = deque([root])
    while waiting:
        here = waiting.popleft()
        pose = poses[here]
        assert pose is not None
        for number, hinge in enumerate(faces.hinges):
            if number in done or here not in (hinge.near, hinge.far):
                continue
            done.add(number)
            outward = hinge.bend.onward if here == hinge.near else -hinge.bend.onward
            there = hinge.far if here == hinge.near else hinge.near
            onward = pose @ turned(hinge.bend, outward)
            bent.append(BentPiece(hinge, pose, outward))
            known = poses[there]
            if known is None:
                poses[there] = onward
                waiting.append(there)
            elif not np.allclose(known, onward, atol=1e-3):
                circular.append(hinge.bend)
    return Folded(faces, tuple(poses), tuple(bent), root, thickness, tuple(circular))


def turned(bend: LaidBend, outward: complex) -> Pose:
    """From the flat frame to where what lies ``outward`` of a bend comes to stand."""
    angle = math.radians(bend.bend.angle)
    cosine, sine = math.cos(angle), math.sin(angle) if bend.up else -math.sin(angle)
    x, y = outward.real, outward.imag
    # What looks outward turns towards the face that it is bent to; what runs along the bend stays.
    turn = np.array(
        [
            [cosine * x * x + y * y, (cosine - 1) * x * y, -sine * x],
            [(cosine - 1) * x * y, cosine * y * y + x * x, -sine * y],
            [sine * x, sine * y, cosine],
        ]
    )
    begin, finish = bend.middle - outward * bend.half, bend.middle + outward * bend.half
    # About the middle of the inside radius, which lies over where the bend begins on either side.
    axis = bend.bend.thickness + bend.bend.radius if bend.up else -bend.bend.radius
    pose = np.eye(4)
    pose[:3, :3] = turn
    pose[:3, 3] = np.array([begin.real, begin.imag, axis]) - turn @ np.array([finish.real, finish.imag, axis])
    return pose


def root_of(flat: Sequence[Outline], extent: complex) -> int:
    """The face with most of the drawn rectangle: the one that the others are folded from."""

    def shared(face: Outline) -> float:
        left, bottom, right, top = face.bounds
        across = min(right, extent.real) - max(left, 0.0)
        up = min(top, extent.imag) - max(bottom, 0.0)
        # A box tells enough: faces lie beside one another.
        return min(face.area, across * up) if across > 0 and up > 0 else 0.0

    return max(range(len(flat)), key=lambda at: shared(flat[at]))


def _flat(points: npt.NDArray[np.complex128], z: float) -> npt.NDArray[np.float64]:
    return np.stack([points.real, points.imag, np.full(len(points), z), np.ones(len(points))], axis=1)


def _points(segment: Segment) -> list[Point]:
    return [segment.at(share) for share in (0.0, 0.25, 0.5, 0.75)] if isinstance(segment, Arc) else [segment.start]


def _across(piece: BentPiece) -> npt.NDArray[np.complex128]:
    """Points of a bent piece, at a degree from one another across it, at both of its ends."""
    bend = piece.hinge.bend
    along = [
        ((point - bend.middle) * bend.along.conjugate()).real for s in piece.hinge.piece.outer for point in [s.start]
    ]
    count = max(2, round(bend.bend.angle) + 1)
    away = np.linspace(-bend.half, bend.half, count)
    ends = (min(along), max(along))
    return np.concatenate([bend.middle + bend.along * end + bend.onward * away for end in ends])


def _apart(face: Outline, point: Point) -> float:
    """How far (mm) a point lies outside the box about a face, less a little where it is inside the face itself."""
    left, bottom, right, top = face.bounds
    out = math.hypot(max(left - point.real, 0.0, point.real - right), max(bottom - point.imag, 0.0, point.imag - top))
    return out - (1e-6 if holds(face, point) else 0.0)
