"""Plates whose walls lean, and how far they stand off where they are seated by their highest points."""

from __future__ import annotations

import manifold3d
import numpy as np
import numpy.typing as npt

from ..evaluate import EvaluatedPart, Result
from ..facts.stock import StockFacts
from ..geometry.chords import ring
from ..geometry.loop import Outline
from ..joints.meeting import Contact, in_plane
from ..parts.sides import side_frame
from .poses import Assembly, Copy

Shift = tuple[float, float, float]

#: Corners sharper than those whose sides' normals add up to this share run away; any beam cuts them off.
_SHARPEST = 0.1


def leaned(body: manifold3d.Manifold, outline: Outline, stock: StockFacts, chord: float) -> manifold3d.Manifold:
    """A plate whose walls are moved on both faces: each by half of what a cut is wider there, corners along their
    bisectors.
    """
    moves: dict[tuple[float, float], complex] = {}
    for loop in outline.loops:
        points = np.array(ring(loop, chord)) @ (1, 1j)
        sides = np.roll(points, -1) - points
        inward = sides / np.abs(sides) * 1j
        before = np.roll(inward, 1)
        bisector = (inward + before) / np.maximum(1 + (inward * before.conj()).real, _SHARPEST)
        moves |= {_spot(at): move for at, move in zip(points, bisector, strict=True)}

    def moved(points: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        wider = np.where(points[:, 2] > stock.thickness / 2, stock.walls.above, stock.walls.below)
        by = np.array([moves.get(_spot(complex(x, y)), 0j) for x, y in points[:, :2]]) * wider / 2
        return points + np.column_stack([by.real, by.imag, np.zeros(len(by))])

    return body.warp_batch(moved)


def _spot(at: complex) -> tuple[float, float]:
    return round(at.real, 4), round(at.imag, 4)


def seated(result: Result, assembly: Assembly) -> dict[tuple[Copy, Copy], Shift]:
    """Of each pair that is joined and leans, by how much (mm in space) the second stands off the first.

    Edges and floors of slots touch by the face that was cut less: nobody can push them together further.
    """
    found: dict[tuple[Copy, Copy], Shift] = {}
    order = {copy: at for at, copy in enumerate(assembly.poses)}
    for meeting, a, b in assembly.joined:
        off = np.zeros(3)
        for contact, copy, sign in ((meeting.a, a, -1.0), (meeting.b, b, 1.0)):
            off += sign * (assembly.poses[copy][:3, :3] @ _seat(contact, result.parts[copy.part]))
        if any(result.parts[copy.part].stock.walls.leaning for copy in (a, b)):
            first, second, way = (a, b, 1.0) if order[a] < order[b] else (b, a, -1.0)
            known = np.array(found.get((first, second), (0.0, 0.0, 0.0)))
            # Several joints of a pair hold it off by the widest of them along each axis.
            further = np.where(np.abs(way * off) > np.abs(known), way * off, known)
            found[first, second] = (float(further[0]), float(further[1]), float(further[2]))
    return found


def _seat(contact: Contact, part: EvaluatedPart) -> npt.NDArray[np.float64]:
    """By how much (mm, in its own frame) an edge or a slot of a part is less deep than it was meant to be."""
    if contact.hold.what == "line":
        return np.zeros(3)
    less = max(0.0, -part.stock.walls.above, -part.stock.walls.below) / 2
    return less * np.array(in_plane(side_frame(part.width, part.height, contact.hold.side).inward))
