"""Closed loops, and outlines made of one outer loop with its cut-outs."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial

from ..remembered import Remembered
from .segment import TOUCH, Arc, Line, Motion, Point, Segment, Source, cross

Bounds = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Loop:
    """Segments that follow one another and end where they began.

    Outer loops run counter-clockwise (positive area), cut-outs clockwise.
    """

    segments: tuple[Segment, ...]

    def __iter__(self) -> Iterator[Segment]:
        return iter(self.segments)

    @property
    def area(self) -> float:
        """Exact area in mm², arcs included; negative for a clockwise loop."""
        return sum(segment.green() for segment in self.segments)

    @property
    def length(self) -> float:
        return sum(segment.length for segment in self.segments)

    @property
    def bounds(self) -> Bounds:
        """``(left, bottom, right, top)`` in mm."""
        return joined_bounds(segment.bounds() for segment in self.segments)

    def reversed(self) -> Loop:
        return Loop(tuple(segment.reversed() for segment in reversed(self.segments)))

    def moved(self, motion: Motion) -> Loop:
        moved = Loop(tuple(segment.moved(motion) for segment in self.segments))
        return moved.reversed() if motion.mirrored else moved

    def circle(self) -> tuple[Point, float] | None:
        """Centre and radius if the loop is one full circle, else None.

        >>> round(circle(5 + 5j, 10, Source("eye", "edge")).area, 2)
        314.16
        """
        first = self.segments[0]
        if not isinstance(first, Arc):
            return None
        for segment in self.segments:
            if not isinstance(segment, Arc) or abs(segment.centre - first.centre) > TOUCH:
                return None
            if abs(segment.radius - first.radius) > TOUCH:
                return None
        return first.centre, first.radius


@dataclass(frozen=True, slots=True)
class Outline:
    """One piece of material: an outer loop and the cut-outs in it."""

    outer: Loop
    cutouts: tuple[Loop, ...] = ()

    @property
    def loops(self) -> tuple[Loop, ...]:
        return (self.outer, *self.cutouts)

    @property
    def area(self) -> float:
        return sum(_AREAS.of(loop, (), partial(_area, loop)) for loop in self.loops)

    @property
    def bounds(self) -> Bounds:
        return self.outer.bounds

    def moved(self, motion: Motion) -> Outline:
        return Outline(self.outer.moved(motion), tuple(loop.moved(motion) for loop in self.cutouts))


#: Most loops of a part stay as they are from one edit to the next.
_AREAS = Remembered[float]()


def _area(loop: Loop) -> float:
    return loop.area


def joined_bounds(boxes: Iterable[Bounds]) -> Bounds:
    """The smallest box round all of ``boxes``."""
    lefts, bottoms, rights, tops = zip(*boxes, strict=True)
    return min(lefts), min(bottoms), max(rights), max(tops)


def polygon(points: Sequence[Point], sources: Sequence[Source]) -> Loop:
    """A loop of straight segments; ``sources[i]`` belongs to the segment that starts at ``points[i]``.

    >>> side = Source("plate", "side")
    >>> polygon([0j, 40 + 0j, 40 + 30j, 30j], [side] * 4).area
    1200.0
    """
    ends = [*points[1:], points[0]]
    return Loop(tuple(Line(a, b, s) for a, b, s in zip(points, ends, sources, strict=True)))


def circle(centre: Point, radius: float, source: Source) -> Loop:
    """A counter-clockwise circle of two half arcs."""
    east, west = centre + radius, centre - radius
    return Loop((Arc(east, west, centre, True, source), Arc(west, east, centre, True, source)))


def simplified(segments: Sequence[Segment]) -> Loop:
    """The loop with neighbours of one source on one line or circle joined into one segment again."""
    kept = rejoined(segments)
    while len(kept) > 2 and (joined := _joined(kept[-1], kept[0])):
        kept[0] = joined
        kept.pop()
    return Loop(tuple(kept))


def rejoined(segments: Sequence[Segment]) -> list[Segment]:
    """Segments that follow each other, neighbours joined as `simplified` does; they begin and end where they did."""
    kept: list[Segment] = []
    for segment in segments:
        joined = _joined(kept[-1], segment) if kept else None
        if joined:
            kept[-1] = joined
        else:
            kept.append(segment)
    return kept


def _joined(first: Segment, second: Segment) -> Segment | None:
    if first.source != second.source:
        return None
    if isinstance(first, Line) and isinstance(second, Line):
        straight = abs(cross(first.start_tangent, second.end - first.start)) < TOUCH
        onward = (first.start_tangent.conjugate() * second.start_tangent).real > 0
        return first.between(first.start, second.end) if straight and onward else None
    if isinstance(first, Arc) and isinstance(second, Arc):
        same = abs(first.centre - second.centre) < TOUCH and abs(first.radius - second.radius) < TOUCH
        short = abs(first.sweep + second.sweep) < math.tau - 1e-6
        return first.between(first.start, second.end) if same and short and first.ccw == second.ccw else None
    return None
