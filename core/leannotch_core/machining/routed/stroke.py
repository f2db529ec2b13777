"""Strokes: what a cutter does without being lifted off, piece by piece, each with its depth."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ...geometry.segment import Line, Motion, Point, Segment, Source
from ..holding import between

#: At the feed, down a slope, straight down, or straight up out of what has been cut.
How = Literal["feed", "ramp", "plunge", "lift"]

_STILL = Source("cutter", "straight down")


@dataclass(frozen=True, slots=True)
class Stroke:
    """A piece of a way (mm): along a segment from one height to another; the sheet's face is at 0.

    One that goes straight up or down has a segment without a length.
    """

    segment: Segment
    from_z: float
    z: float
    how: How = "feed"

    def moved(self, place: Motion) -> Stroke:
        return replace(self, segment=self.segment.moved(place))


#: Strokes that follow each other without a gap.
Strokes = list[Stroke]


def upright(at: Point, from_z: float, z: float) -> Stroke:
    """Straight up or down at a place."""
    return Stroke(Line(at, at, _STILL), from_z, z, "plunge" if z < from_z else "lift")


def sloping(segments: Iterable[Segment], from_z: float, z: float, how: How | None = None) -> Strokes:
    """Along segments, from one height to another at one slope."""
    way = list(segments)
    whole = sum(segment.length for segment in way)
    found, gone, here = [], 0.0, from_z
    kind: How = how or ("ramp" if z < from_z - 1e-9 else "feed")
    for place, segment in enumerate(way):
        gone += segment.length
        there = z if place == len(way) - 1 else from_z + (z - from_z) * gone / whole
        found.append(Stroke(segment, here, there, kind))
        here = there
    return found


def reversed_way(segments: Sequence[Segment]) -> list[Segment]:
    """The same way, begun at its end."""
    return [segment.reversed() for segment in reversed(segments)]


@dataclass(frozen=True, slots=True)
class ClosedWay:
    """A closed line that can be followed from any place along it (mm), as far as one likes."""

    segments: tuple[Segment, ...]
    length: float

    @classmethod
    def of(cls, segments: Sequence[Segment]) -> ClosedWay:
        return cls(tuple(segments), sum(segment.length for segment in segments))

    def at(self, place: float) -> Point:
        place %= self.length
        for segment in self.segments:
            if place <= segment.length:
                return segment.at(place / segment.length) if segment.length else segment.start
            place -= segment.length
        return self.segments[-1].end

    def tangent(self, place: float) -> complex:
        """The direction in which it is followed on from a place."""
        place = (place + 1e-7) % self.length
        for segment in self.segments:
            if place <= segment.length:
                if isinstance(segment, Line):
                    return segment.start_tangent
                spoke = (segment.at(place / segment.length) - segment.centre) * (1j if segment.ccw else -1j)
                return spoke / abs(spoke)
            place -= segment.length
        return self.segments[-1].end_tangent

    def onward(self, place: float, length: float) -> Iterator[Segment]:
        """What lies on its way from a place on, as many times round as it takes."""
        place %= self.length
        while length > 1e-9:
            stretch = min(length, self.length - place)
            yield from between(self.segments, place, place + stretch)
            length -= stretch
            place = 0.0
