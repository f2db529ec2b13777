"""Flanges on the edges of a part: the flat sheet that gives them once they are bent.

A side stays where it is drawn, at the outside of the bent flange: the sheet begins to bend a setback inside it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..document.bend import Measured
from ..document.model import Side
from ..geometry.arrangement import select
from ..geometry.loop import Bounds, Outline, circle, polygon
from ..geometry.segment import Point, Source
from .allowance import Allowance
from .laid import LaidBend

Relief = Literal["round", "square", "none"]
End = Literal["start", "end"]

#: What is cut away reaches this far (mm) out of the edge that it begins at.
_OUT = 1.0

#: The end of which other side meets an end of a side at their corner.
_CORNERS: Mapping[tuple[str, str], tuple[Side, End]] = {
    ("bottom", "start"): ("left", "start"),
    ("bottom", "end"): ("right", "start"),
    ("top", "start"): ("left", "end"),
    ("top", "end"): ("right", "end"),
    ("left", "start"): ("bottom", "start"),
    ("left", "end"): ("top", "start"),
    ("right", "start"): ("bottom", "end"),
    ("right", "end"): ("top", "end"),
}


@dataclass(frozen=True, slots=True)
class FlangeSize:
    """A flange in numbers (mm); ``leg`` is its length ``measured`` as said, ``start`` and ``end`` what stays free."""

    id: str
    name: str
    of: str
    side: Side
    bend: Allowance
    up: bool
    leg: float
    measured: Measured
    start: float
    end: float
    relief: Relief
    relief_width: float
    mitre: bool
    gap: float

    @property
    def straight(self) -> float:
        """Its length beyond the bend."""
        return self.leg - self.bend.setback(self.measured)

    @property
    def outside(self) -> float:
        """Its outside length."""
        return self.straight + self.bend.setback()

    def free(self, end: str) -> float:
        return self.start if end == "start" else self.end


@dataclass(frozen=True, slots=True)
class _Edge:
    """An edge that a flange hangs on: ``u`` runs along it from its left or lower end, ``v`` out of the part.

    ``widens``: how much wider what it belongs to gets at either end for each mm inwards.
    """

    corner: Point
    along: complex
    out: complex
    length: float
    widens: tuple[float, float] = (0.0, 0.0)

    def at(self, u: float, v: float) -> Point:
        return self.corner + self.along * u + self.out * v

    def shape(self, places: Sequence[tuple[float, float]], name: str, sides: Sequence[str]) -> Outline:
        loop = polygon([self.at(u, v) for u, v in places], [Source(name, side) for side in sides])
        return Outline(loop if loop.area > 0 else loop.reversed())

    def rectangle(self, u: tuple[float, float], v: tuple[float, float], name: str) -> Outline:
        places = [(u[0], v[0]), (u[1], v[0]), (u[1], v[1]), (u[0], v[1])]
        return self.shape(places, name, ("relief",) * 4)


@dataclass(frozen=True, slots=True)
class Flanged:
    """A part with its flanges, flat. ``legs`` are the rectangles of the flanges, from the outside of the bend to their
    edge; ``shapes`` what each adds to the sheet.
    """

    region: tuple[Outline, ...]
    bends: tuple[LaidBend, ...]
    legs: Mapping[str, Bounds]
    shapes: Mapping[str, Outline]


def flanged(region: Sequence[Outline], width: float, height: float, flanges: Sequence[FlangeSize]) -> Flanged:
    """The flat region with the flanges on the sides of its rectangle; each comes after the one that it hangs on."""
    return _Flanging(width, height, flanges).run(region)


class _Flanging:
    def __init__(self, width: float, height: float, flanges: Sequence[FlangeSize]) -> None:
        self._flanges = flanges
        self._edges = {
            "bottom": _Edge(0j, 1, -1j, width),
            "top": _Edge(1j * height, 1, 1j, width),
            "left": _Edge(0j, 1j, -1, height),
            "right": _Edge(complex(width), 1j, 1, height),
        }

    def run(self, region: Sequence[Outline]) -> Flanged:
        bends: list[LaidBend] = []
        legs: dict[str, Bounds] = {}
        shapes: dict[str, Outline] = {}
        removed: list[Outline] = []
        reliefs: list[Outline] = []
        for flange in self._flanges:
            edge = self._edges[flange.of or flange.side]
            shape, (begin, finish, out), widens = self._shape(flange, edge)
            shapes[flange.id] = shape
            removed += [] if flange.of else [self._removed(flange, edge)]
            reliefs += [*self._reliefs(flange, edge), *self._trimmed(flange, edge)]
            bends.append(self._laid(flange, edge))
            self._edges[flange.id] = _Edge(edge.at(begin, out), edge.along, edge.out, finish - begin, widens)
            legs[flange.id] = _box(edge.at(begin, out - flange.outside), edge.at(finish, out))
        flat = _sheet(region, removed, list(shapes.values()), reliefs)
        return Flanged(tuple(flat), tuple(bends), legs, shapes)

    def _span(self, flange: FlangeSize, edge: _Edge) -> tuple[float, float]:
        """From where to where along its edge it is bent: short of a neighbour's bend at a corner."""
        begin, finish = flange.start, edge.length - flange.end
        first, last = self._neighbour(flange, "start"), self._neighbour(flange, "end")
        return (first.bend.setback() if first else begin), (edge.length - last.bend.setback() if last else finish)

    def _neighbour(self, flange: FlangeSize, end: End) -> FlangeSize | None:
        """The flange of the next side, where both reach their corner."""
        if flange.of or flange.free(end) > 0:
            return None
        side, its = _CORNERS[flange.side, end]
        there = (other for other in self._flanges if not other.of and other.side == side and other.free(its) <= 0)
        return next(there, None)

    def _removed(self, flange: FlangeSize, edge: _Edge) -> Outline:
        """The sheet from where it begins to bend out to the drawn edge."""
        begin, finish = self._span(flange, edge)
        begin -= _OUT + begin if flange.start <= 0 else 0.0
        finish += _OUT + edge.length - finish if flange.end <= 0 else 0.0
        return edge.rectangle((begin, finish), (-flange.bend.setback(), _OUT), flange.id)

    def _shape(
        self, flange: FlangeSize, edge: _Edge
    ) -> tuple[Outline, tuple[float, float, float], tuple[float, float]]:
        """What it adds to the sheet; where its edge lies: from, to, and how far out; how its ends widen inwards."""
        a, b = self._span(flange, edge)
        near = -flange.bend.setback()
        far = near + flange.bend.length
        out = far + flange.straight
        (a1, a2), (b1, b2) = self._ends(flange, edge, a, b)
        places = [(a, near), (b, near), (b, far), (b1, far), (b2, out), (a2, out), (a1, far), (a, far)]
        sides = ("bend", "side", "side", "side", "edge", "side", "side", "side")
        widens = (a2 - a1) / flange.straight, (b1 - b2) / flange.straight
        kept = [
            (place, side) for at, (place, side) in enumerate(zip(places, sides, strict=True)) if place != places[at - 1]
        ]
        return edge.shape([p for p, _ in kept], flange.id, [s for _, s in kept]), (a2, b2, out), widens

    def _ends(
        self, flange: FlangeSize, edge: _Edge, a: float, b: float
    ) -> tuple[tuple[float, float], tuple[float, float]]:
        """Where its two ends lie at the bend and at its edge, cut back to a neighbour's where they meet bent."""
        first, last = self._neighbour(flange, "start"), self._neighbour(flange, "end")
        low, high = (a, a), (b, b)
        if first and flange.mitre and (short := _mitre(flange, first)):
            low = short
        if last and flange.mitre and (short := _mitre(flange, last)):
            high = edge.length - short[0], edge.length - short[1]
        return low, high

    def _reliefs(self, flange: FlangeSize, edge: _Edge) -> Iterator[Outline]:
        if flange.relief == "none":
            return
        near, half = -flange.bend.setback(), flange.relief_width / 2
        span = self._span(flange, edge)
        ends: tuple[tuple[End, float, float], ...] = (("start", span[0], -1.0), ("end", span[1], 1.0))
        for end, at, out in ends:
            if self._neighbour(flange, end):
                yield self._hole(flange, edge, at, near)
            elif flange.free(end) > 0:
                sides = sorted((at, at + out * 2 * half))
                yield edge.rectangle((sides[0], sides[1]), (near, _OUT), f"{flange.id}/relief")
                if flange.relief == "round":
                    yield self._hole(flange, edge, at + out * half, near)

    def _trimmed(self, flange: FlangeSize, edge: _Edge) -> Iterator[Outline]:
        """What of the flange that it hangs on reaches out beside its bend, where that one gets narrower outwards."""
        near = -flange.bend.setback()
        for free, at, wider, out in (
            (flange.start, 0.0, edge.widens[0], -1.0),
            (flange.end, edge.length, edge.widens[1], 1.0),
        ):
            if free <= 0 and wider > 1e-9:
                sides = sorted((at, at + out * (wider * -near + _OUT)))
                yield edge.rectangle((sides[0], sides[1]), (near, _OUT), flange.id)

    def _hole(self, flange: FlangeSize, edge: _Edge, u: float, v: float) -> Outline:
        half, name = flange.relief_width / 2, f"{flange.id}/relief"
        if flange.relief == "round":
            return Outline(circle(edge.at(u, v), half, Source(name, "relief")))
        return edge.rectangle((u - half, u + half), (v - half, v + half), name)

    def _laid(self, flange: FlangeSize, edge: _Edge) -> LaidBend:
        a, b = self._span(flange, edge)
        middle = flange.bend.length / 2 - flange.bend.setback()
        return LaidBend(
            id=flange.id,
            name=flange.name,
            bend=flange.bend,
            up=flange.up,
            start=edge.at(a, middle),
            end=edge.at(b, middle),
            onward=edge.out,
            flange=True,
        )


def _mitre(flange: FlangeSize, other: FlangeSize) -> tuple[float, float] | None:
    """How far short of the corner a flange ends at its bend and at its edge, so that it meets its neighbour's inside.

    Both are looked at once they are bent, where they stand equally high; each gives way so far that the gap is left
    across the seam. None where they do not meet: bent to different faces, or the other one still flat.
    """
    if flange.up != other.up or not 1e-6 < other.bend.angle < 180 - 1e-6:
        return None
    angle, turned = math.radians(flange.bend.angle), math.radians(other.bend.angle)
    inside = other.bend.radius

    def short(along: float) -> float:
        """At ``along`` mm beyond its bend, by inside faces; cut square, both lie beyond the line where those meet."""
        high = flange.bend.radius * (1 - math.cos(angle)) + along * math.sin(angle)
        there = (high - inside * (1 - math.cos(turned))) / math.sin(turned)
        end = other.bend.setback() - inside * math.sin(turned) - there * math.cos(turned)
        return end + _gives_way(flange.gap, angle, turned)

    return short(0.0), short(flange.straight)


def _gives_way(gap: float, angle: float, turned: float) -> float:
    """How far (mm) each of two flanges that are bent by angles (radians) ends short, so that a gap is left across the
    seam: square to the line (cot b, cot a, 1) in which their planes meet, over a corner of which each leaves along its
    own side.
    """
    if math.sin(angle) < 1e-6:
        return gap / math.sqrt(2)
    a, b = 1 / math.tan(angle), 1 / math.tan(turned)
    return gap / math.sqrt(2 - (b - a) ** 2 / (1 + a * a + b * b))


def _sheet(
    region: Sequence[Outline], removed: Sequence[Outline], added: Sequence[Outline], reliefs: Sequence[Outline]
) -> list[Outline]:
    """The region less what is ``removed`` at its sides, with the flanges ``added``, less all reliefs.

    In one arrangement: the lines are the same ones whatever the order.
    """
    groups = [[loop for outline in group for loop in outline.loops] for group in (region, removed, added, reliefs)]
    return select(groups, lambda w: np.asarray((((w[:, 0] > 0) & (w[:, 1] <= 0)) | (w[:, 2] > 0)) & (w[:, 3] <= 0)))


def _box(one: Point, other: Point) -> Bounds:
    return min(one.real, other.real), min(one.imag, other.imag), max(one.real, other.real), max(one.imag, other.imag)
