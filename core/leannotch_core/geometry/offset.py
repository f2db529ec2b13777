"""Growing and shrinking a region by a distance, with sharp or round outer corners."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from .arrangement import select
from .beam import Oval, Round
from .loop import Loop, Outline
from .measure import nearest
from .segment import TOUCH, Arc, Line, Point, Segment, cross, dot

Corner = Literal["sharp", "round"]

#: A sharp corner reaches at most this many times the offset; a sharper one is rounded instead.
MITRE_LIMIT = 4.0


def grow(region: Sequence[Outline], by: float | Oval, corner: Corner = "sharp") -> list[Outline]:
    """The region with its boundary moved outwards ``by`` so many mm; negative shrinks it. By an oval it is moved as far
    as that reaches where its middle goes along the boundary.

    Outer loops get larger and cut-outs smaller. ``sharp`` corners stay sharp up to `MITRE_LIMIT`; ``round``
    is the path of a round cutter. What shrinks to nothing is left out.

    >>> from .loop import circle
    >>> from .segment import Source
    >>> disc = Outline(circle(0j, 10, Source("disc", "edge")))
    >>> [round(outline.outer.bounds[2], 3) for outline in grow([disc], 0.08)]
    [10.08]
    >>> grow([disc], -11)
    []
    >>> [[round(side, 3) for side in outline.outer.bounds[2:]] for outline in grow([disc], Oval(0.1, 0.2))]
    [[10.1, 10.2]]
    """
    beam = by if isinstance(by, Oval) else Round(by)
    if isinstance(beam, Round) and abs(beam.radius) < TOUCH:
        return list(region)
    sources = [loop for outline in region for loop in outline.loops]
    loops = [_offset(loop, beam, corner) for loop in sources]
    found = select([[loop for loop, _ in loops if loop.segments]], lambda w: w[:, 0] > 0)
    if not any(turned for _, turned in loops):
        return found
    sides = [segment for loop in sources for segment in loop]
    kept = [outline for outline in found if _is_clear(outline.outer, sides, beam)]
    return [Outline(o.outer, tuple(hole for hole in o.cutouts if _is_clear(hole, sides, beam))) for o in kept]


def _is_clear(loop: Loop, sides: Sequence[Segment], beam: Round | Oval) -> bool:
    """Whether a loop lies as far from the old boundary as it should: what turns inside out across and along, as a
    circle or a square does, winds as it did before, and only its place tells it.
    """
    spot = loop.segments[0].at(0.5)
    return all(abs(nearest(side, spot) - spot) > beam.least for side in sides)


def _offset(loop: Loop, beam: Round | Oval, corner: Corner) -> tuple[Loop, bool]:
    """The raw offset curve, and whether any of it turned inside out; it may cross itself, and winds positively only
    round what should stay, or round what has turned as a whole.
    """
    segments = loop.segments
    path: list[Segment] = []
    for index, segment in enumerate(segments):
        onward = segments[(index + 1) % len(segments)]
        start, end = _last_point(segment, beam), _first_point(onward, beam)
        if isinstance(segment, Line):
            path.append(Line(_first_point(segment, beam), start, segment.source))
        else:
            path.extend(beam.beside(segment))
        if abs(end - start) > TOUCH:
            path.extend(_corner(segment, onward, start, end, beam, corner))
    closed, turned = _closed(path)
    turned = turned or any(isinstance(side, Arc) and beam.turns(side) for side in segments)
    return Loop(closed), turned


def _first_point(segment: Segment, beam: Round | Oval) -> Point:
    return segment.start + beam.reach(-1j * segment.start_tangent)


def _last_point(segment: Segment, beam: Round | Oval) -> Point:
    return segment.end + beam.reach(-1j * segment.end_tangent)


def _corner(
    before: Segment, after: Segment, start: Point, end: Point, beam: Round | Oval, corner: Corner
) -> list[Segment]:
    vertex = before.end
    out, into = before.end_tangent, after.start_tangent
    left = cross(out, into) * (1 if beam.outside else -1)
    if not (left > 0 or (dot(out, into) < 0 and abs(left) < 1e-9)):
        tip = vertex + beam.tip(out, into)
        if abs(tip - end) < min(before.length, after.length) and _straight(before, after):
            # The two lines cross here; _closed trims them to their meeting point.
            return [Line(tip, tip, before.source)]
        # By way of the old corner, so that what sticks out winds negatively.
        return [Line(start, vertex, before.source), Line(vertex, end, after.source)]
    half = math.sqrt(max(0.0, (1 + dot(out, into)) / 2))
    if corner == "sharp" and half * MITRE_LIMIT > 1:
        tip = vertex + beam.tip(out, into)
        if _straight(before, after):
            return [Line(tip, tip, before.source)]
        return [Line(start, tip, before.source), Line(tip, end, after.source)]
    return beam.about(vertex, out, into, before.source)


def _straight(before: Segment, after: Segment) -> bool:
    return isinstance(before, Line) and isinstance(after, Line)


def _closed(path: list[Segment]) -> tuple[tuple[Segment, ...], bool]:
    """The path with each segment starting exactly where the last one ended, and whether any now runs backwards.

    A line of no length is the tip of a corner between two lines: both are drawn out or trimmed to it.
    """
    count = len(path)
    kept: list[Segment] = []
    turned = False
    for index, segment in enumerate(path):
        before, after = path[index - 1], path[(index + 1) % count]
        if segment.start == segment.end:
            continue
        start = before.end if before.start == before.end else segment.start
        end = after.start if after.start == after.end else segment.end
        if abs(end - start) > TOUCH:
            kept.append(segment.between(start, end))
            turned = turned or (isinstance(segment, Line) and dot(end - start, segment.end - segment.start) < 0)
    return tuple(s.between(kept[index - 1].end, s.end) for index, s in enumerate(kept)), turned
