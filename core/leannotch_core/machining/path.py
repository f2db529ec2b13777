"""A line that the middle of the beam or cutter follows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..geometry.loop import rejoined
from ..geometry.segment import Motion, Point, Segment
from .way import corners


@dataclass(frozen=True, slots=True)
class CutPath:
    """A line of the plan, closed or open, in the frame of the sheet (mm). ``depth`` is that of a pocket.

    One that is ``pinned`` is begun with its first segment, wherever others come before it; else with one of its
    ``begins``, at corners where there are none. ``tabs`` are the middles of
    the holding tabs on it, and ``lead`` is where the beam comes on before it, on the waste.
    """

    operation: str
    segments: tuple[Segment, ...]
    closed: bool
    depth: float | None = None
    pinned: bool = False
    begins: tuple[int, ...] = ()
    tabs: tuple[Point, ...] = ()
    lead: Point | None = None

    @property
    def layer(self) -> str:
        """The layer or group it belongs on: its operation; for a pocket with the depth in mm."""
        return self.operation if self.depth is None else f"{self.operation}-{self.depth:.2f}"

    @property
    def start(self) -> Point:
        return self.segments[0].start

    @property
    def end(self) -> Point:
        return self.segments[-1].end

    @property
    def length(self) -> float:
        return sum(segment.length for segment in self.segments)

    @property
    def starts(self) -> list[int]:
        """The segments that it may begin with."""
        if not self.closed or self.pinned:
            return [0]
        return list(self.begins) or corners(self.segments)

    def moved(self, place: Motion) -> CutPath:
        """The path elsewhere. A closed one that is turned over still has its material on the same hand."""
        segments = tuple(segment.moved(place) for segment in self.segments)
        begins = self.begins
        if place.mirrored and self.closed:
            segments = tuple(segment.reversed() for segment in reversed(segments))
            begins = tuple(sorted(-first % len(segments) for first in begins))
        lead = None if self.lead is None else place(self.lead)
        return replace(self, segments=segments, begins=begins, tabs=tuple(place(tab) for tab in self.tabs), lead=lead)

    def begun(self, first: int) -> CutPath:
        """The same closed path, begun with another of its segments."""
        segments = (*self.segments[first:], *self.segments[:first])
        if not self.begins:
            return replace(self, segments=segments)
        return replace(self, segments=tuple(rejoined(segments)), begins=(), pinned=True)


def travel(paths: Sequence[CutPath], here: Point = 0) -> float:
    """The way (mm) of the head to the first of the paths and between them."""
    way = 0.0
    for path in paths:
        way, here = way + abs(path.start - here), path.end
    return way
