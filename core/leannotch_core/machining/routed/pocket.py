"""Pockets: everything inside an outline cleared to a depth, round by round or row by row."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.prepared import PreparedGeometry, prep

from ...document.routing import Direction
from ...document.sizes import shown
from ...geometry.arrangement import contains
from ...geometry.chords import as_line, as_polygon
from ...geometry.loop import Loop, Outline
from ...geometry.offset import grow
from ...geometry.segment import Line, Point, Segment, Source
from .depths import at_most, passes
from .going_down import MOST_ROUNDS, down_open, down_round, helix, run_of, straight
from .stroke import ClosedWay, Strokes, reversed_way, sloping

#: Rings further apart than this share of the diameter leave ridges where they turn.
WIDEST_RINGS = 0.5

#: Rings shorter than this share of the radius are a point: those about them clear it too.
_POINT = 0.1

#: On a ring shorter than so many radii it goes down in a helix about its middle: round it there would be no end.
_SHORT = 4.0

#: Chords with which places are looked up (mm).
_CHORDS = 0.005

_LINK = Source("cutter", "across")
_ROW = Source("cutter", "row")


@dataclass(frozen=True, slots=True)
class Clearing:
    """How a pocket is cleared: the cutter's radius and the way between rings or rows (mm), and how it goes down."""

    radius: float
    stepover: float
    stepdown: float
    ramp: float
    direction: Direction
    helical: bool
    plunges: bool


@dataclass(slots=True)
class PocketRing:
    """What is left of a pocket so far from its wall, its edge to be followed; and what is further from it still."""

    outline: Outline
    inner: list[PocketRing] = field(default_factory=list)


def rings(region: Sequence[Outline], radius: float, stepover: float) -> list[PocketRing]:
    """Rings from the wall inwards, each within the one that it is an inner one of: offsets of the pocket itself."""
    for outline in region:
        left, bottom, right, top = outline.bounds
        at_most(min(right - left, top - bottom) / 2 / stepover, f"rings of {shown(stepover)} in a pocket")
    roots = [PocketRing(outline) for outline in grow(region, -radius)]
    outside, away = roots, radius
    while outside:
        away += stepover
        grown = grow(region, -away)
        found = [PocketRing(outline) for outline in grown if outline.outer.length > _POINT * radius]
        for ring in found:
            spot = ring.outline.outer.segments[0].start
            holder = next((one for one in outside if contains(one.outline.outer, spot)), None)
            (holder.inner if holder else roots).append(ring)
        outside = found
    return roots


def by_rings(region: Sequence[Outline], begun: float, depth: float, how: Clearing) -> list[Strokes]:
    """Rings from the inside out, pass by pass from one depth (mm) to another; the last of each runs along the wall."""
    roots = rings(region, how.radius, how.stepover)
    if not roots:
        return []
    free = _Free.of([ring.outline for ring in roots])
    found: list[Strokes] = []
    z = -begun
    for height in passes(depth, how.stepdown, begun):
        done: list[Strokes] = []
        for root in roots:
            for loop, is_innermost in _inside_out(root):
                _take(done, _turned(loop, how.direction), z, height, how, free, is_innermost)
        found += done
        z = height
    return found


@dataclass(frozen=True, slots=True)
class _Free:
    """Where the middle of the cutter may be."""

    shape: BaseGeometry
    known: PreparedGeometry

    @classmethod
    def of(cls, outlines: Sequence[Outline]) -> _Free:
        shape = shapely.union_all([as_polygon(outline, _CHORDS) for outline in outlines]).buffer(2 * _CHORDS)
        return cls(shape, prep(shape))

    def has(self, here: Point, there: Point) -> bool:
        """Whether the straight way between two places is free."""
        return bool(self.known.covers(LineString([(here.real, here.imag), (there.real, there.imag)])))

    def room(self, at: Point) -> float:
        """How far (mm) it is from a place to where the cutter may not be."""
        return float(self.shape.boundary.distance(shapely.Point(at.real, at.imag)))


def _inside_out(ring: PocketRing) -> Iterator[tuple[Loop, bool]]:
    for inner in ring.inner:
        yield from _inside_out(inner)
    yield ring.outline.outer, not ring.inner
    for island in ring.outline.cutouts:
        yield island, False


def _turned(loop: Loop, direction: Direction) -> tuple[Segment, ...]:
    """The wall lies on the right of what follows a loop as it is: that is climb."""
    return loop.segments if direction == "climb" else tuple(reversed_way(loop.segments))


def _take(
    done: list[Strokes],
    segments: tuple[Segment, ...],
    z: float,
    height: float,
    how: Clearing,
    free: _Free,
    is_innermost: bool,
) -> None:
    """Follows a ring: from where the one before it ended if the way there is free, else it goes down anew."""
    line = ClosedWay.of(segments)
    if done:
        end = done[-1][-1].segment.end
        start = _nearest(line, end)
        far = abs(line.at(start) - end)
        if far < 4 * how.stepover + how.radius and free.has(end, line.at(start)):
            across = [Line(end, line.at(start), _LINK)] if far > 1e-9 else []
            done[-1] += [
                *sloping(across, height, height),
                *sloping(line.onward(start, line.length), height, height),
            ]
            return
    here, down = _down(line, z, height, how, free) if is_innermost else (0.0, None)
    if down is None:
        down, moved = _ramped(line, here, z, height, how)
        here += moved
    done.append([*down, *sloping(line.onward(here, line.length), height, height)])


def _nearest(line: ClosedWay, point: Point) -> float:
    """The place along a line that is nearest to a point."""
    best, along = (math.inf, 0.0), 0.0
    for segment in line.segments:
        share = min(max(segment.share_of(point), 0.0), 1.0)
        best = min(best, (abs(segment.at(share) - point), along + share * segment.length))
        along += segment.length
    return best[1]


def _ramped(line: ClosedWay, here: float, z: float, height: float, how: Clearing) -> tuple[Strokes, float]:
    if how.plunges and run_of(z - height, how.ramp) > MOST_ROUNDS * line.length:
        return straight(line.at(here), z, height), 0.0
    return down_round(line, here, z, height, how.ramp, ())


def _down(line: ClosedWay, z: float, height: float, how: Clearing, free: _Free) -> tuple[float, Strokes | None]:
    """In a helix about the middle of the innermost ring, and from it to where that is begun; nothing where it has no
    room, or where a ramp along the ring is wanted.
    """
    if not how.helical and line.length > _SHORT * how.radius:
        return 0.0, None
    circle = shapely.maximum_inscribed_circle(Polygon(as_line(line.segments, _CHORDS).coords), tolerance=0.05)
    x, y = circle.coords[0]
    centre = complex(x, y)
    radius = min(free.room(centre) - 5 * _CHORDS, 0.9 * how.radius)
    if radius < 0.2 * how.radius:
        return 0.0, None
    start = _nearest(line, centre)
    ahead = line.at(start) - centre
    at = centre + radius * (ahead / abs(ahead) if abs(ahead) > 1e-9 else 1)
    if not free.has(at, line.at(start)):
        return 0.0, None
    across = [Line(at, line.at(start), _LINK)] if abs(line.at(start) - at) > 1e-9 else []
    way = helix(at, centre, how.direction == "climb", z, height, how.ramp)
    return start, [*way, *sloping(across, height, height)]


def by_rows(region: Sequence[Outline], begun: float, depth: float, how: Clearing) -> list[Strokes]:
    """Rows to and fro, and then along the wall, pass by pass from one depth (mm) to another."""
    inside = grow(region, -how.radius)
    if not inside:
        return []
    free = _Free.of(inside)
    lines = _rows(free.shape.buffer(-3 * _CHORDS), how.stepover)
    found: list[Strokes] = []
    z = -begun
    for height in passes(depth, how.stepdown, begun):
        done: list[Strokes] = []
        for start, end in lines:
            row = [Line(start, end, _ROW)]
            last = done[-1][-1].segment.end if done else None
            if last is not None and abs(start - last) < 4 * how.stepover + how.radius and free.has(last, start):
                done[-1] += sloping([Line(last, start, _LINK), *row], height, height)
                continue
            done.append([*down_open(row, z, height, how.ramp), *sloping(row, height, height)])
        for outline in inside:
            for loop in outline.loops:
                _take(done, _turned(loop, how.direction), z, height, how, free, False)
        found += done
        z = height
    return found


def _rows(room: BaseGeometry, stepover: float) -> list[tuple[Point, Point]]:
    """Rows through where the cutter may be, every other one the other way round; what is apart is done in turn."""
    found: list[tuple[Point, Point]] = []
    for piece in shapely.get_parts(room):
        if piece.is_empty:
            continue
        left, bottom, right, top = piece.bounds
        count = max(1, math.ceil(at_most((top - bottom) / stepover, f"rows of {shown(stepover)} in a pocket")))
        heights = np.linspace(bottom, top, count + 1) if count > 1 else np.array([(bottom + top) / 2])
        chains: list[list[tuple[Point, Point]]] = []
        for number, y in enumerate(heights):
            cut = LineString([(left - 1, y), (right + 1, y)]).intersection(piece)
            for part in shapely.get_parts(cut):
                if part.length > 1e-6:
                    (x1, _), *_, (x2, _) = part.coords
                    row = complex(min(x1, x2), y), complex(max(x1, x2), y)
                    _chain(chains, row, stepover, number)
        for chain in chains:
            found += [(b, a) if at % 2 else (a, b) for at, (a, b) in enumerate(chain)]
    return found


def _chain(chains: list[list[tuple[Point, Point]]], row: tuple[Point, Point], stepover: float, number: int) -> None:
    """Puts a row behind the one below it that it lies over, or begins a new chain with it."""
    for chain in chains:
        below = chain[-1]
        beside = row[0].real <= below[1].real and below[0].real <= row[1].real
        if beside and 1e-9 < row[0].imag - below[0].imag < 1.5 * stepover:
            chain.append(row)
            return
    chains.append([row])


def left_over(region: Sequence[Outline], radius: float) -> BaseGeometry:
    """What of a pocket no cutter of a radius (mm) reaches: its corners, and what is narrower than the cutter."""
    whole = shapely.union_all([as_polygon(outline, _CHORDS) for outline in region])
    reach = shapely.union_all([as_polygon(outline, _CHORDS) for outline in grow(region, -radius)])
    return shapely.difference(whole, reach.buffer(radius, quad_segs=64))


def rest(region: Sequence[Outline], begun: float, depth: float, wider: float, how: Clearing) -> list[Strokes]:
    """What a cutter of a wider radius (mm) has left of a pocket and a smaller one reaches, ring by ring."""
    left = left_over(region, wider)
    reach = left.difference(left_over(region, how.radius).buffer(_CHORDS))
    spots = [part for part in shapely.get_parts(reach) if part.buffer(-2 * _CHORDS).area > 0]
    if not spots:
        return []
    zone = shapely.union_all(spots).buffer(how.radius)
    ways = [
        way
        for ring in rings(region, how.radius, how.stepover)
        for loop, _ in _inside_out(ring)
        for way in _within(_turned(loop, how.direction), zone)
    ]
    found: list[Strokes] = []
    z = -begun
    for height in passes(depth, how.stepdown, begun):
        for way, closed in ways:
            line = ClosedWay.of(way)
            if closed:
                down, moved = down_round(line, 0.0, z, height, how.ramp, ())
                found.append([*down, *sloping(line.onward(moved, line.length), height, height)])
            else:
                found.append([*down_open(way, z, height, how.ramp), *sloping(way, height, height)])
        z = height
    return found


def _within(segments: Sequence[Segment], zone: BaseGeometry) -> Iterator[tuple[list[Segment], bool]]:
    """The stretches of a closed line that lie in a zone, each with whether it is all of the line."""
    line, chords = ClosedWay.of(segments), as_line(segments, _CHORDS)
    inside = chords.intersection(zone)
    if inside.is_empty:
        return
    if inside.length > chords.length - 1e-6:
        yield list(segments), True
        return
    stretches = []
    for part in shapely.get_parts(shapely.line_merge(inside) if inside.geom_type != "LineString" else inside):
        if part.geom_type != "LineString" or part.length < 1e-6:
            continue
        ends = [chords.project(shapely.Point(part.coords[at])) / chords.length * line.length for at in (0, -1)]
        middle = chords.project(part.interpolate(0.5, normalized=True)) / chords.length * line.length
        begin, end = sorted(ends)
        # Over the place where the line is begun, a stretch runs on.
        stretches.append((begin, end) if begin < middle < end else (end, begin + line.length))
    for begin, end in sorted(stretches):
        yield list(line.onward(begin, end - begin)), False
