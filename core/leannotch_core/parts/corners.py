"""Corners of a part's outline, rounded or chamfered one by one, wherever its shapes meet."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from ..document.model import Model
from ..document.sizes import Size
from ..geometry.corner import CornerTooLarge, chamfered, is_corner, rounded
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Line, Point, Source
from ..said import Said
from .cutting_out import Region

SideName = Annotated[str, Field(max_length=120)]


class MetSide(Model):
    """A side that a corner lies at: the shape on the part that it belongs to (nothing: the part's own), and which."""

    shape: SideName = ""
    side: SideName


class CornerTaken(Model):
    """A corner of the outline, taken off by a round or a chamfer of ``size``; ``up`` is a chamfer's leg on the side
    after it, where that differs.

    It lies where the side ``before`` runs into the side ``after``, counter-clockwise round the material; ``number``
    tells those apart that lie between the same two, from left to right and upwards.
    """

    before: MetSide
    after: MetSide
    number: int = Field(default=0, ge=0, le=4000)
    kind: Literal["round", "chamfer"] = "round"
    size: Size
    up: Size | None = None


@dataclass(frozen=True, slots=True)
class FoundCorner:
    """A corner of an outline, with where it is (mm)."""

    before: MetSide
    after: MetSide
    number: int
    at: Point


@dataclass(frozen=True, slots=True)
class StraightSide:
    """A straight side of an outline: how long it is (mm), and its direction in degrees, from -90 to 90."""

    side: MetSide
    length: float
    angle: float


@dataclass(frozen=True, slots=True)
class TakenCorner:
    """What is taken off a corner, in numbers; ``legs`` are along the side before and the one after."""

    corner: CornerTaken
    kind: str
    legs: tuple[float, float]


class NoSuchCorner(Said):
    """A corner that is not on the outline any more."""


def corners_of(region: Sequence[Outline], part: str) -> list[FoundCorner]:
    """The corners of a region of a part, by its id, each with the sides that meet there."""
    found: dict[tuple[MetSide, MetSide], list[Point]] = {}
    for loop, at in _all(region):
        pair = _met(loop.segments[at - 1].source, part), _met(loop.segments[at].source, part)
        found.setdefault(pair, []).append(loop.segments[at].start)
    return [
        FoundCorner(before, after, number, at)
        for (before, after), points in found.items()
        for number, at in enumerate(sorted(points, key=lambda p: (round(p.real, 6), round(p.imag, 6))))
    ]


def turned_over(
    taken: Sequence[CornerTaken], found: Sequence[FoundCorner], over: Sequence[FoundCorner], width: float
) -> list[CornerTaken]:
    """Corners that are taken off, as they are called once the part is turned over, left to right; ``found`` are its
    corners before and ``over`` those after, on a part ``width`` mm wide. Those that are not found are let go.
    """
    places = {(one.before, one.after, one.number): one.at for one in found}
    turned = []
    for corner in taken:
        at = places.get((corner.before, corner.after, corner.number))
        there = None if at is None else complex(width - at.real, at.imag)
        now = next((one for one in over if there is not None and abs(one.at - there) < 1e-5), None)
        if now:
            legs = {"size": corner.up, "up": corner.size} if corner.up else {}
            sides = {"before": now.before, "after": now.after, "number": now.number}
            turned.append(corner.model_copy(update={**sides, **legs}))
    return turned


def straight_sides(region: Sequence[Outline], part: str) -> list[StraightSide]:
    """The straight sides of a region of a part, by its id; of those of one name the longest."""
    longest: dict[MetSide, Line] = {}
    for segment in (segment for outline in region for loop in outline.loops for segment in loop):
        if isinstance(segment, Line):
            side = _met(segment.source, part)
            if side not in longest or segment.length > longest[side].length:
                longest[side] = segment
    return [StraightSide(side, line.length, _direction(line)) for side, line in longest.items()]


def _direction(line: Line) -> float:
    angle = math.degrees(cmath.phase(line.end - line.start)) % 180
    return round(angle - 180 if angle > 90 + 1e-9 else angle, 9)


def take_corners(
    region: Region,
    part: str,
    taken: Sequence[TakenCorner],
    told: Callable[[TakenCorner, CornerTooLarge | NoSuchCorner], None],
) -> Region:
    """The region with corners taken off; what cannot be is ``told`` and left."""
    places = {(c.before, c.after, c.number): c.at for c in corners_of(region, part)}
    for number, one in enumerate(taken):
        corner = one.corner
        at = places.get((corner.before, corner.after, corner.number))
        if at is None:
            told(one, NoSuchCorner("is not on the outline any more"))
            continue
        try:
            region = _without(region, at, one, Source(f"{part}/corner", f"{corner.kind} {number + 1}"))
        except CornerTooLarge as error:
            told(one, error)
    return region


def _without(region: Region, at: Point, taken: TakenCorner, source: Source) -> Region:
    def changed(loop: Loop) -> Loop:
        for index, segment in enumerate(loop.segments):
            if abs(segment.start - at) < 1e-6:
                if taken.kind == "round":
                    return rounded(loop, index, taken.legs[0], source)
                return chamfered(loop, index, *taken.legs, source)
        return loop

    return tuple(Outline(changed(piece.outer), tuple(changed(hole) for hole in piece.cutouts)) for piece in region)


def _all(region: Sequence[Outline]) -> Iterator[tuple[Loop, int]]:
    for outline in region:
        for loop in outline.loops:
            yield from ((loop, at) for at in range(len(loop.segments)) if is_corner(loop, at))


def _met(source: Source, part: str) -> MetSide:
    own = source.shape == part or source.shape.startswith(f"{part}/")
    return MetSide(shape=source.shape[len(part) + 1 :] if own else source.shape, side=source.side)
