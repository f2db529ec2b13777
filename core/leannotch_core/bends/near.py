"""What lies too near a bend: it is drawn out of shape when the sheet is bent."""

from __future__ import annotations

from collections.abc import Iterator

from ..geometry.loop import Loop, Outline
from ..geometry.measure import centroid, distance
from ..geometry.segment import Arc, Point, Segment, dot
from .laid import LaidBend

#: A cut nearer to a bend than so many thicknesses is drawn out of shape: common practice, no source.
NEAR = 2.0
#: What begins so near (mm) to the end of a bend is where the part ends, and no notch in it.
_END = 0.1


def apart(bend: LaidBend, cut: Outline, within: float) -> float | None:
    """How far (mm) a cut is from where a bend begins, 0 where it lies on it; None where it is not ``within`` that."""
    strip = bend.strip()
    if not boxes_near(strip, cut, within):
        return None
    on_it = any(bend.takes(segment.start) and _beside(bend, segment.start, 0.0) for segment in cut.outer)
    found = 0.0 if on_it else distance(strip, cut)
    return found if found < within - 1e-6 else None


def way_clear(bend: LaidBend, cut: Outline, within: float) -> complex:
    """The way (mm) square to a bend by which a cut comes to be ``within`` of it and no nearer."""
    off = dot(bend.onward, centroid(cut) - bend.middle)
    side = bend.onward if off >= 0 else -bend.onward
    nearest = -max(dot(-side, point) for point in reached(cut.outer, -side))
    return side * (bend.half + within - nearest + dot(side, bend.middle))


def edge_near(bend: LaidBend, outer: Loop, within: float, legs: tuple[float, float]) -> tuple[Point, float] | None:
    """Where the outer edge comes nearest to a bend between its ends, as a notch does, and how near (mm).

    None where it is not ``within`` that. ``legs`` are how far the part goes behind the bend and beyond it: what ends
    it there is no notch, nor is an edge that runs over the bend.
    """
    found: list[tuple[float, Point]] = []
    for segment in outer:
        points = [segment.start, segment.end, *_furthest(segment, bend.onward), *_furthest(segment, -bend.onward)]
        offs = [dot(bend.onward, point - bend.middle) for point in points]
        over = min(offs) < bend.half + 1e-6 and max(offs) > -bend.half - 1e-6
        if over or segment.source.shape.endswith("/relief"):
            continue
        for point, off in zip(points, offs, strict=True):
            near = abs(off) - bend.half
            if near < min(within, legs[off > 0]) - 1e-6 and _beside(bend, point, _END):
                found.append((near, point))
    if not found:
        return None
    near, at = min(found, key=lambda one: one[0])
    return at, near


def reached(outer: Loop, out: complex) -> Iterator[Point]:
    """Points of a loop among which the one is that lies furthest ``out``."""
    for segment in outer:
        yield segment.start
        yield from _furthest(segment, out)


def _furthest(segment: Segment, out: complex) -> Iterator[Point]:
    if isinstance(segment, Arc):
        far = segment.centre + out * segment.radius
        if 0 <= segment.share_of(far) <= 1:
            yield far


def _beside(bend: LaidBend, point: Point, inside: float) -> bool:
    """Whether a point lies between the ends of a bend, so far ``inside`` them."""
    return 2 * abs(dot(bend.along, point - bend.middle)) <= abs(bend.end - bend.start) - 2 * inside


def boxes_near(one: Outline, other: Outline, within: float) -> bool:
    """Whether the boxes about two outlines come within so many mm of each other."""
    a, b = one.bounds, other.bounds
    return a[0] < b[2] + within and b[0] < a[2] + within and a[1] < b[3] + within and b[1] < a[3] + within
