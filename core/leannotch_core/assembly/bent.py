"""A bent part as solid pieces: its faces as plates, its bends as rounds of true radii."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

import manifold3d
import numpy as np
import numpy.typing as npt

from ..bends.folded import BentPiece, Folded
from ..evaluate import EvaluatedPart
from ..geometry.chords import ring
from ..geometry.loop import Outline
from ..geometry.segment import dot
from .film import TOUCH, film_thickness

#: Slices of a bend lap over one another by so much (mm): what only touches is not surely one solid.
_LAP = 4e-3


@dataclass(frozen=True, slots=True)
class SolidPiece:
    """A piece in the frame of the folded part (mm): a face by its number, or a bend by its id between two faces."""

    body: manifold3d.Manifold
    face: int | None
    bend: str
    between: tuple[int, int]


def solid_pieces(part: EvaluatedPart, folded: Folded, chord: float) -> list[SolidPiece]:
    """The faces and the bends of a folded part; chords depart from its rounds by at most ``chord`` mm."""
    thickness = folded.thickness
    sunk = [(_section(p.outline, chord), thickness - p.depth) for p in part.pockets]
    found = []
    for number, (face, pose) in enumerate(zip(folded.faces.flat, folded.poses, strict=True)):
        if pose is not None:
            plate = _plate(_section(face, chord), sunk, thickness)
            found.append(SolidPiece(plate.transform(pose[:3, :]), number, "", (number, number)))
    whole = _section(part.outline, chord)
    for piece in folded.bent:
        slices = list(_slices(piece, whole, sunk, thickness, chord))
        body = manifold3d.Manifold.batch_boolean(slices, manifold3d.OpType.Add)
        found.append(SolidPiece(body, None, piece.hinge.bend.id, (piece.hinge.near, piece.hinge.far)))
    return found


def bent_solid(part: EvaluatedPart, folded: Folded, chord: float) -> manifold3d.Manifold:
    """The folded part in one."""
    bodies = [piece.body for piece in solid_pieces(part, folded, chord)]
    return manifold3d.Manifold.batch_boolean(bodies, manifold3d.OpType.Add)


@dataclass(frozen=True, slots=True)
class SelfClash:
    """Two faces of one part that share ``volume`` mm³ once it is bent, by their numbers."""

    faces: tuple[int, int]
    volume: float
    deep: float


def self_clashes(part: EvaluatedPart, folded: Folded) -> Iterator[SelfClash]:
    """Where a folded part runs into itself: pieces that do not hang together share material."""
    pieces = solid_pieces(part, folded, 0.02)
    told: set[tuple[int, int]] = set()
    for one, other in combinations(pieces, 2):
        if set(one.between) & set(other.between):
            continue
        shared = one.body ^ other.body
        deep = film_thickness(shared)
        faces = min(one.between[0], other.between[0]), max(one.between[0], other.between[0])
        if deep > TOUCH and faces not in told:
            told.add(faces)
            yield SelfClash(faces, shared.volume(), deep)


def _section(outline: Outline, chord: float) -> manifold3d.CrossSection:
    loops = [np.array(ring(loop, chord)) for loop in outline.loops]
    return manifold3d.CrossSection(loops, manifold3d.FillRule.Positive)


def _plate(
    section: manifold3d.CrossSection, sunk: list[tuple[manifold3d.CrossSection, float]], thickness: float
) -> manifold3d.Manifold:
    body = manifold3d.Manifold.extrude(section, thickness)
    for pocket, floor in sunk:
        body -= manifold3d.Manifold.extrude(pocket, thickness - floor + 1).translate((0, 0, floor))
    return body


def _slices(
    piece: BentPiece,
    whole: manifold3d.CrossSection,
    sunk: list[tuple[manifold3d.CrossSection, float]],
    thickness: float,
    chord: float,
) -> Iterator[manifold3d.Manifold]:
    """The bend cut into so many slices that each is as good as straight."""
    bend = piece.hinge.bend
    reach = bend.bend.radius + bend.bend.thickness
    step = 2 * math.acos(max(0.0, 1 - chord / reach))
    count = max(1, math.ceil(math.radians(bend.bend.angle) / step))
    along, out = bend.along, bend.onward
    level = [dot(along, segment.start - bend.middle) for segment in piece.hinge.piece.outer]

    def warped(points: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        return piece.place(points[:, 0] + 1j * points[:, 1], points[:, 2])

    for number in range(count):
        low, high = (bend.half * (2 * (number + one) / count - 1) for one in (0, 1))
        ends, sides = (min(level), max(level)), (low - _LAP, high + _LAP)
        corners = [bend.middle + along * ends[a] + out * sides[v] for a, v in ((0, 0), (1, 0), (1, 1), (0, 1))]
        slab = manifold3d.CrossSection([np.array([[p.real, p.imag] for p in corners])], manifold3d.FillRule.NonZero)
        body = _plate(whole ^ slab, sunk, thickness)
        if not body.is_empty():
            yield body.warp_batch(warped)
