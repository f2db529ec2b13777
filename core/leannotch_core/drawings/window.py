"""What can be seen through: the region that a clip leaves of lines and areas, in mm."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..geometry.arrangement import contains
from ..geometry.boolean import intersect
from ..geometry.loop import Bounds, Loop, Outline, joined_bounds
from ..geometry.pieces import meetings
from ..geometry.rows import SegmentRows
from ..geometry.segment import Line, Point, Segment, Source

#: Regions smaller than this (mm²) show nothing.
NOTHING = 1e-9


@dataclass(frozen=True, slots=True)
class Window:
    """What can be seen through: its outlines, and its box where it is a rectangle that is not turned."""

    outlines: tuple[Outline, ...]
    box: Bounds | None = None

    def and_through(self, other: Window | None) -> Window:
        """What is seen through both."""
        if other is None:
            return self
        return Window(tuple(intersect(list(self.outlines), list(other.outlines))))

    def leaves(self, run: list[Segment]) -> list[list[Segment]]:
        """What is seen of lines that follow one another: of closed ones the piece inside."""
        closed = len(run) > 1 and abs(run[-1].end - run[0].start) < 1e-6
        if not self.outlines:
            return []
        bounds = joined_bounds(segment.bounds() for segment in run)
        if self.box is not None and _within(bounds, self.box):
            return [run]
        if _apart(bounds, joined_bounds(outline.bounds for outline in self.outlines)):
            return []
        return self._of_closed(run) if closed else self._of_open(run)

    def _of_closed(self, run: list[Segment]) -> list[list[Segment]]:
        loop = Loop(tuple(run))
        if abs(loop.area) < NOTHING:
            return []
        shape = Outline(loop if loop.area > 0 else loop.reversed())
        return [list(one.segments) for piece in intersect([shape], list(self.outlines)) for one in piece.loops]

    def _of_open(self, run: list[Segment]) -> list[list[Segment]]:
        """Lines are cut where an edge of the window crosses them."""
        edges = [segment for outline in self.outlines for loop in outline.loops for segment in loop]
        segments, many = [*run, *edges], len(run)
        cuts: dict[int, list[Point]] = {}
        for first, second, where in meetings(segments, SegmentRows.of(segments), lambda a, b: (a < many) != (b < many)):
            for i, j, point in zip(first.tolist(), second.tolist(), where.tolist(), strict=True):
                cuts.setdefault(min(i, j), []).append(point)
        found: list[list[Segment]] = [[]]
        for index, segment in enumerate(run):
            for piece in _cut(segment, cuts.get(index, [])):
                if self._shows(piece.at(0.5)):
                    found[-1].append(piece)
                elif found[-1]:
                    found.append([])
        return [one for one in found if one]

    def _shows(self, point: Point) -> bool:
        return any(sum(contains(loop, point) for loop in outline.loops) == 1 for outline in self.outlines)


def _cut(segment: Segment, points: Sequence[Point]) -> Iterator[Segment]:
    here = segment.start
    for point in (*sorted(points, key=segment.share_of), segment.end):
        if abs(point - here) > SHORT:
            yield segment.between(here, point)
            here = point


#: What a window leaves of a line is at least so long (mm).
SHORT = 1e-6


def closed_window(corners: Sequence[Point], straight: bool) -> Window:
    """The window round corners (mm); ``straight`` where it is a rectangle that is not turned."""
    loop = Loop(tuple(Line(a, b, _EDGE) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True) if a != b))
    if abs(loop.area) < NOTHING:
        return Window(())
    return Window((Outline(loop if loop.area > 0 else loop.reversed()),), loop.bounds if straight else None)


_EDGE = Source("window", "edge")


def _within(inner: Bounds, outer: Bounds) -> bool:
    return inner[0] >= outer[0] and inner[1] >= outer[1] and inner[2] <= outer[2] and inner[3] <= outer[3]


def _apart(a: Bounds, b: Bounds) -> bool:
    return a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]
