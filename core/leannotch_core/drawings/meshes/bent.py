"""A sheet that was bent, laid flat again: two skins at one distance, flat faces in them, and rounds between those.

The faces are turned back about the axes of their bends, and what lies on a bend is unrolled on the neutral line, whose
K is that of DIN 6935 for its radius.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import numpy.typing as npt
import trimesh

from ...bends.allowance import MOST_TURNED, Allowance, k_from_table
from ...bends.faces import Faces, faces_of, holds
from ...bends.folded import root_of
from ...bends.laid import LaidBend
from ...document.bend import DIN_6935
from ...geometry.loop import Outline
from ...geometry.segment import Motion, Point, dot
from .plates import Vector, frame_along, outlines_in, rim_of

#: Triangles that meet at less than this (degrees) belong to one skin, and within `_FLAT` to one flat face of it.
_SMOOTH, _FLAT = 46.0, 0.1

#: Faces of the two skins that differ by no more than this share in area and distance are the two sides of one: the
#: rounds between them may be as coarse as chords of 45 degrees.
_ALIKE = 0.02

#: What lies on a bend is off its round by no more than this (mm, and share of the radius).
_OFF, _OFF_SHARE = 0.02, 0.01

#: Bends in one line, alike within these (mm, degrees), are one.
_IN_LINE, _TURNED = 0.02, 0.05

Faced = npt.NDArray[np.int64]
Places = npt.NDArray[np.complex128]


@dataclass(frozen=True, slots=True)
class UnfoldedSheet:
    """A bent sheet laid flat: its thickness and outline in mm, its bends, and ``rows`` as those of a `Plate`."""

    thickness: float
    outline: Outline
    bends: tuple[LaidBend, ...]
    rows: Vector


def unfolded(mesh: Any) -> UnfoldedSheet | None:
    """The flat sheet that a body was bent of, seen so that most of its bends go up; None where it is no bent sheet."""
    if not mesh.is_watertight or mesh.volume <= 0:
        return None
    smooth = _pieces(mesh, np.arange(len(mesh.faces)), _SMOOTH)
    sides = sorted(smooth, key=lambda faces: -float(mesh.area_faces[faces].sum()))[:2]
    if len(sides) < 2:
        return None
    # Half of its two skins is the middle of the sheet, in rounds too.
    thick = 2 * float(mesh.volume) / float(mesh.area_faces[np.concatenate(sides)].sum())
    patches = [[_Patch.of(mesh, piece) for piece in _pieces(mesh, side, _FLAT)] for side in sides]
    flats = [[patch for patch in own if patch.partner(other, thick)] for own, other in (patches, patches[::-1])]
    largest = max(flats[0], key=lambda flat: flat.area, default=None)
    other = largest.partner(flats[1], thick) if largest else None
    if largest is None or other is None:
        return None
    thick = largest.offset + other.offset
    skins = [_Skin(mesh, side, flat, thick) for side, flat in zip(sides, flats, strict=True)]
    sheets = [sheet for skin in skins if (sheet := skin.laid_flat()) is not None]
    return max(sheets, key=lambda sheet: sum(bend.up for bend in sheet.bends), default=None)


def _pieces(mesh: Any, faces: Faced, within: float) -> list[Faced]:
    """The pieces of a surface whose triangles meet at less than some degrees."""
    chosen = np.zeros(len(mesh.faces), bool)
    chosen[faces] = True
    joined = chosen[mesh.face_adjacency].all(axis=1) & (mesh.face_adjacency_angles < math.radians(within))
    pieces = trimesh.graph.connected_components(mesh.face_adjacency[joined], nodes=faces, min_len=1)
    return [np.asarray(piece) for piece in pieces]


@dataclass(frozen=True, slots=True, eq=False)
class _Patch:
    """Triangles of a skin in one plane: which, the way they look, how far that way they lie (mm), and their area."""

    faces: Faced
    normal: Vector
    offset: float
    area: float

    @staticmethod
    def of(mesh: Any, faces: Faced) -> _Patch:
        areas = mesh.area_faces[faces]
        normal = (mesh.face_normals[faces] * areas[:, None]).sum(axis=0)
        normal /= np.linalg.norm(normal)
        offset = float(np.average(mesh.triangles_center[faces] @ normal, weights=areas))
        return _Patch(faces, normal, offset, float(areas.sum()))

    def partner(self, others: Sequence[_Patch], thick: float) -> _Patch | None:
        """The other side of the sheet, where it is flat: on a bend it is longer outside than inside."""
        for other in others:
            back = float(self.normal @ other.normal) < -math.cos(math.radians(_FLAT))
            apart = abs(self.offset + other.offset - thick)
            if back and apart <= _ALIKE * thick and abs(other.area - self.area) <= _ALIKE * self.area:
                return other
        return None


@dataclass(frozen=True, slots=True)
class _Frame:
    """A flat face in space: a point of it lies at ``(p - origin) @ x`` and ``@ y`` (mm) on the flat sheet."""

    origin: Vector
    x: Vector
    y: Vector
    normal: Vector

    def on_sheet(self, points: Vector) -> Places:
        away = points - self.origin
        return np.asarray(away @ self.x + 1j * (away @ self.y))


@dataclass(frozen=True, slots=True)
class _Round:
    """A bend in space: it begins at a tangent point of a face, and turns ``onward`` round an ``axis`` (a direction)
    that lies ``reach`` mm over or under it.
    """

    face: _Frame
    begin: Vector
    axis: Vector
    onward: Vector
    reach: float
    up: bool
    bend: Allowance

    @property
    def towards(self) -> Vector:
        """The direction from where it begins to its axis."""
        return self.face.normal if self.up else -self.face.normal

    def on_sheet(self, points: Vector) -> Places:
        away = points - self.begin - self.towards * self.reach
        turned = np.arctan2(away @ self.onward, -(away @ self.towards))
        return self._unrolled(turned, (points - self.begin) @ self.axis)

    def off(self, points: Vector) -> float:
        """How far (mm) the furthest of the points lies off the round."""
        away = points - self.begin - self.towards * self.reach
        return float(np.abs(np.hypot(away @ self.onward, away @ self.towards) - self.reach).max())

    def beyond(self, tangent: Vector) -> _Frame:
        """The face that it leads to, which has a point of the far ``tangent``."""
        turn = math.radians(self.bend.angle)
        leaves = self.onward * math.cos(turn) + self.towards * math.sin(turn)
        x, y = ((way @ self.axis) * self.axis + (way @ self.onward) * leaves for way in (self.face.x, self.face.y))
        there = complex(self._unrolled(np.array(turn), (tangent - self.begin) @ self.axis))
        return _Frame(tangent - there.real * x - there.imag * y, x, y, np.cross(x, y))

    def laid(self, points: Vector) -> LaidBend:
        """The bend on the flat sheet, as long as the points reach along it."""
        along = (points - self.begin) @ self.axis
        half = np.array(math.radians(self.bend.angle) / 2)
        start, end = (complex(self._unrolled(half, at)) for at in (along.min(), along.max()))
        return LaidBend("", "", self.bend, self.up, start, end, self._way(self.onward))

    def _unrolled(self, turned: Vector, along: Vector) -> Places:
        away = turned * (self.bend.length / math.radians(self.bend.angle))
        begin = self.face.on_sheet(self.begin)
        return np.asarray(begin + away * self._way(self.onward) + along * self._way(self.axis))

    def _way(self, way: Vector) -> complex:
        return complex(way @ self.face.x, way @ self.face.y)


class _Skin:
    """One side of a sheet: its flat faces, and what is left of it, which must be bends between them."""

    def __init__(self, mesh: Any, faces: Faced, flats: Sequence[_Patch], thick: float) -> None:
        self._mesh, self._faces, self._thick = mesh, faces, thick
        self._flats = sorted(flats, key=lambda flat: -flat.area)
        flat = np.concatenate([one.faces for one in flats]) if flats else np.zeros(0, int)
        self._rounds = _pieces(mesh, np.setdiff1d(faces, flat), 180.0) if flats else []
        # The part of the skin that each triangle belongs to: flat faces first, then rounds.
        self._part = np.full(len(mesh.faces), -1)
        for number, piece in enumerate([*(one.faces for one in self._flats), *self._rounds]):
            self._part[piece] = number

    def laid_flat(self) -> UnfoldedSheet | None:
        """The sheet with all bends undone; None where its faces do not hang together by bends alone."""
        if not self._rounds:
            return None
        placed, bends = self._placed()
        if len(placed) < len(self._flats) + len(self._rounds):
            return None
        outlines = outlines_in(self._edge(placed), (np.array([1.0, 0, 0]), np.array([0, 1.0, 0])))
        if len(outlines) != 1:
            return None
        left, bottom, right, top = outlines[0].bounds
        in_line = list(_in_line(bends))
        faces = faces_of(outlines, in_line)
        # A line across a part bends whatever it crosses.
        if faces.loose or len(faces.flat) != len(self._flats):
            return None
        moved = [outline.moved(Motion(shift=-complex(left, bottom))) for outline in faces.flat]
        root = root_of(moved, complex(right - left, top - bottom))
        frame = next(frame for frame in self._on(placed, faces, root))
        rows = np.column_stack([frame.x, frame.y, frame.normal, frame.origin - frame.normal * self._thick])
        return UnfoldedSheet(self._thick, outlines[0], tuple(in_line), rows)

    def _on(self, placed: dict[int, _Frame | _Round], faces: Faces, root: int) -> Iterator[_Frame]:
        """The frames of those flat faces that a face of the laid sheet was."""
        for number, flat in enumerate(self._flats):
            frame = placed[number]
            at = complex(frame.on_sheet(self._mesh.triangles_center[flat.faces[0]]))
            if isinstance(frame, _Frame) and holds(faces.flat[root], at):
                yield frame

    def _placed(self) -> tuple[dict[int, _Frame | _Round], list[LaidBend]]:
        """Every part of the skin where it comes to lie, as far as they hang together by bends."""
        placed: dict[int, _Frame | _Round] = {0: self._root()}
        bends: list[LaidBend] = []
        waiting = deque([0])
        tangents = self._tangents()
        while waiting:
            here = waiting.popleft()
            frame = placed[here]
            assert isinstance(frame, _Frame)
            for number in [one for flat, one in tangents if flat == here and one not in placed]:
                begin = tangents[here, number][0]
                for far in [flat for flat, one in tangents if one == number and flat not in placed]:
                    if float(self._flats[far].normal @ frame.normal) > math.cos(math.radians(_FLAT)):
                        # It lies beside this one, at the same end of the bend.
                        placed[far] = frame
                        waiting.append(far)
                        continue
                    tangent = tangents[far, number][0]
                    bend = self._round(frame, self._flats[far], begin, tangent)
                    points = self._points(self._rounds[number - len(self._flats)])
                    if bend is None or bend.off(points) > max(_OFF, _OFF_SHARE * bend.reach):
                        return placed, bends
                    placed[far] = bend.beyond(tangent)
                    waiting.append(far)
                    if number not in placed:
                        placed[number] = bend
                        bends.append(bend.laid(points))
        return placed, bends

    def _root(self) -> _Frame:
        flat = self._flats[0]
        x, y = frame_along(self._mesh.vertices[rim_of(self._mesh, flat.faces)], flat.normal)
        return _Frame(flat.normal * flat.offset, x, y, flat.normal)

    def _round(self, face: _Frame, far: _Patch, begin: Vector, tangent: Vector) -> _Round | None:
        """The bend from a face to another one, from a tangent point of each."""
        axis = np.cross(face.normal, far.normal)
        axis /= np.linalg.norm(axis)
        angle = math.degrees(math.acos(float(np.clip(face.normal @ far.normal, -1, 1))))
        onward = np.cross(axis, face.normal)
        across, rises = float((tangent - begin) @ onward), float((tangent - begin) @ face.normal)
        if across < 0:
            axis, onward, across = -axis, -onward, -across
        reach = math.hypot(across, rises) / (2 * math.sin(math.radians(angle) / 2))
        up = rises > 0
        radius = max(reach - (0.0 if up else self._thick), 0.0)
        if angle > MOST_TURNED:
            return None
        bend = Allowance(round(angle, 3), round(radius, 4), k_from_table(DIN_6935, radius / self._thick), self._thick)
        return _Round(face, begin, axis, onward, reach, up, bend)

    def _tangents(self) -> dict[tuple[int, int], Vector]:
        """By flat face and round that meet: the points, shape (n, 3), where they do."""
        pairs, edges = self._part[self._mesh.face_adjacency], self._mesh.face_adjacency_edges
        flats = len(self._flats)
        found: dict[tuple[int, int], list[Faced]] = {}
        meets = (pairs >= 0).all(axis=1) & ((pairs < flats).sum(axis=1) == 1)
        for (a, b), edge in zip(pairs[meets].tolist(), edges[meets], strict=True):
            found.setdefault((min(a, b), max(a, b)), []).append(edge)
        return {key: self._mesh.vertices[np.unique(edges)] for key, edges in found.items()}

    def _edge(self, placed: dict[int, _Frame | _Round]) -> Vector:
        """The edge of the whole skin as lines on the flat sheet, shape (n, 2, 3)."""
        rim = {tuple(edge) for edge in rim_of(self._mesh, self._faces).tolist()}
        edges = self._mesh.edges_sorted.reshape(-1, 3, 2)
        lines = []
        for number, piece in enumerate([*(one.faces for one in self._flats), *self._rounds]):
            own = [edge for edge in edges[piece].reshape(-1, 2).tolist() if tuple(edge) in rim]
            if own:
                lines.append(placed[number].on_sheet(self._mesh.vertices[np.array(own)].reshape(-1, 3)))
        flat = np.concatenate(lines)
        return np.stack([flat.real, flat.imag, np.zeros(len(flat))], axis=-1).reshape(-1, 2, 3)

    def _points(self, faces: Faced) -> Vector:
        return np.asarray(self._mesh.vertices[np.unique(self._mesh.faces[faces])])


def _in_line(bends: Sequence[LaidBend]) -> Iterator[LaidBend]:
    """Bends that are made in one stroke as one, numbered."""
    left = list(bends)
    number = 0
    while left:
        first, number = left.pop(0), number + 1
        own = [first, *(other for other in left if _one_stroke(first, other))]
        left = [other for other in left if not any(other is one for one in own)]

        def along(point: Point, bend: LaidBend = first) -> float:
            return dot(bend.along, point - bend.middle)

        ends = sorted((point for one in own for point in (one.start, one.end)), key=along)
        yield replace(first, id=f"bend_{number}", start=ends[0], end=ends[-1])


def _one_stroke(a: LaidBend, b: LaidBend) -> bool:
    return (
        a.up == b.up
        and abs(a.bend.angle - b.bend.angle) < _TURNED
        and abs(a.bend.radius - b.bend.radius) < _IN_LINE
        and abs(dot(a.onward, b.along)) < math.radians(_TURNED)
        and abs(dot(a.onward, b.middle - a.middle)) < _IN_LINE
    )
