"""The flat faces between the bends of a part, and which of them hang together by which bend."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..geometry.arrangement import contains
from ..geometry.boolean import divide, intersect
from ..geometry.loop import Loop, Outline, joined_bounds
from ..geometry.segment import Line, Point, cross, dot
from .laid import LaidBend

#: A point this far (mm) beyond the end of a bend tells what lies there.
_BESIDE = 1e-3


@dataclass(frozen=True, slots=True)
class Hinge:
    """A piece of the sheet that is bent: by which bend, between which two faces, by their numbers."""

    bend: LaidBend
    piece: Outline
    near: int
    far: int


@dataclass(frozen=True, slots=True)
class Faces:
    """``flat`` are the faces, the largest first. ``loose`` are bends that hold no face on one of their sides."""

    flat: tuple[Outline, ...]
    hinges: tuple[Hinge, ...]
    loose: tuple[LaidBend, ...]


def faces_of(region: Sequence[Outline], bends: Sequence[LaidBend]) -> Faces:
    """The faces of a flat region (mm) between its bends."""
    box = joined_bounds(outline.bounds for outline in region)
    far = math.hypot(box[2] - box[0], box[3] - box[1])
    strips = [(bend, bend.strip(0.0 if bend.flange else far)) for bend in bends if bend.half > 1e-9]
    flat, pieces = divide(region, [strip for _, strip in strips])
    bends = [bend for bend, _ in strips]
    bent = _bent(pieces, bends)
    if len({piece for own in bent for piece in own}) < len(pieces):
        # Beside its own ends a line meets what it does not bend.
        cut = [intersect(region, [strip]) for _, strip in strips]
        own_of = [[ones[at] for at in _bent(ones, [bend])[0]] for bend, ones in zip(bends, cut, strict=True)]
        flat, pieces = divide(region, [piece for own in own_of for piece in own])
        bent = _bent(pieces, bends)
    hinges: list[Hinge] = []
    loose: list[LaidBend] = []
    for bend, own in zip(bends, bent, strict=True):
        found = [hinge for at in own for hinge in _hinges(bend, pieces[at], flat)]
        hinges += found
        if not found:
            loose.append(bend)
    return Faces(tuple(flat), tuple(hinges), tuple(loose))


def _bent(pieces: Sequence[Outline], bends: Sequence[LaidBend]) -> list[list[int]]:
    """For each bend the numbers of the pieces of the sheet that it goes through from side to side."""
    middles = [sum(segment.at(0.5) for segment in piece.outer) / len(piece.outer.segments) for piece in pieces]
    return [
        [at for at, middle in enumerate(middles) if bend.takes(middle) and _is_through(pieces[at], bend)]
        for bend in bends
    ]


def _is_through(piece: Outline, bend: LaidBend) -> bool:
    away = [dot(bend.onward, segment.start - bend.middle) for segment in piece.outer]
    return min(away) < 0 < max(away)


def _hinges(bend: LaidBend, piece: Outline, flat: Sequence[Outline]) -> Iterator[Hinge]:
    """The pairs of faces that a bent piece holds together, one of each."""
    sides = [
        {
            face
            for at in _on(piece.outer, bend, side)
            if (face := _face_at(at + side * bend.onward * _BESIDE, flat)) >= 0
        }
        for side in (-1.0, 1.0)
    ]
    if not sides[0] or not sides[1]:
        return
    first = min(sides[0])
    for at, far in enumerate(sorted(sides[1])):
        if at == 0:
            yield from (Hinge(bend, piece, near, far) for near in sorted(sides[0]))
        else:
            yield Hinge(bend, piece, first, far)


def _on(loop: Loop, bend: LaidBend, side: float) -> Iterator[Point]:
    """The middles of what of a loop lies on one of the bend's two tangent lines."""
    for segment in loop:
        if not isinstance(segment, Line) or abs(cross(bend.along, segment.end - segment.start)) > 1e-6 * segment.length:
            continue
        middle = segment.at(0.5)
        if abs(dot(bend.onward, middle - bend.middle) - side * bend.half) < 1e-6:
            yield middle


def _face_at(point: Point, flat: Sequence[Outline]) -> int:
    return next((at for at, face in enumerate(flat) if holds(face, point)), -1)


def holds(outline: Outline, point: Point) -> bool:
    """Whether a point lies in the material of an outline."""
    return contains(outline.outer, point) and not any(contains(hole, point) for hole in outline.cutouts)
