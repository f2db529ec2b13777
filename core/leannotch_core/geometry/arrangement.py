"""Cuts loops where they meet and keeps the pieces that bound a wanted region.

Every boolean and every offset is one question put to the same arrangement: given how often each group of
loops winds round the left and the right side of a piece, is exactly one of the two sides inside? The pieces
are stretches of the original segments, so an arc stays its own circle and a source is never lost.
"""

from __future__ import annotations

import cmath
import math
from collections import defaultdict
from collections.abc import Callable, Collection, Sequence

import numpy as np
import numpy.typing as npt

from .loop import Loop, Outline, simplified
from .meet import heading
from .pieces import Pieces, pieces_of
from .segment import Arc, Line, Point, Segment
from .winding import left_windings

#: Takes the winding numbers of all groups, shape ``(pieces, groups)``; tells which sides are inside.
Flags = npt.NDArray[np.bool_]
Rule = Callable[[npt.NDArray[np.int_]], Flags]


def select(groups: Sequence[Collection[Loop]], rule: Rule) -> list[Outline]:
    """The region where ``rule`` holds, as outlines of lines and arcs.

    Where edges of two groups lie on one another, the earlier group's source is kept.
    """
    return select_each(groups, [rule])[0]


def select_each(groups: Sequence[Collection[Loop]], rules: Sequence[Rule]) -> list[list[Outline]]:
    """The regions where each of several rules holds, from one arrangement."""
    segments = [segment for loops in groups for loop in loops for segment in loop]
    if not segments:
        return [[] for _ in rules]
    owners = np.repeat(np.arange(len(groups)), [sum(len(loop.segments) for loop in loops) for loops in groups])
    pieces = pieces_of(segments, owners, len(groups))
    if not len(pieces.begin):
        # All of it lies on itself, there and back.
        return [[] for _ in rules]
    left = left_windings(pieces)
    return [_selected(pieces, segments, rule(left), rule(left - pieces.counts)) for rule in rules]


def _selected(pieces: Pieces, segments: list[Segment], inside_left: Flags, inside_right: Flags) -> list[Outline]:
    kept = np.flatnonzero(inside_left != inside_right)
    forward = inside_left[kept]
    begin = np.where(forward, pieces.begin[kept], pieces.finish[kept])
    finish = np.where(forward, pieces.finish[kept], pieces.begin[kept])
    bounding = [pieces.segment(i, segments, on) for i, on in zip(kept.tolist(), forward.tolist(), strict=True)]
    return nested(_stitched(bounding, begin.tolist(), finish.tolist()))


def _stitched(pieces: list[Segment], begin: list[int], finish: list[int]) -> list[Loop]:
    """Loops with the inside on the left, from pieces and the vertices that they begin and finish at.

    Where loops touch in a corner, each keeps to its own material.
    """
    leaving: dict[int, list[int]] = defaultdict(list)
    for index, vertex in enumerate(begin):
        leaving[vertex].append(index)
    free = [True] * len(pieces)
    loops: list[Loop] = []
    for index, first in enumerate(begin):
        if not free[index]:
            continue
        chain = [index]
        free[index] = False
        while (here := finish[chain[-1]]) != first:
            choices = [i for i in leaving[here] if free[i]]
            if not choices:
                break
            best = choices[0] if len(choices) == 1 else _leftmost(pieces[chain[-1]], choices, pieces)
            free[best] = False
            chain.append(best)
        if here == first and len(chain) > 1:
            loops.append(simplified([pieces[i] for i in chain]))
    return loops


def _leftmost(arriving: Segment, choices: list[int], pieces: list[Segment]) -> int:
    """The piece met first when turning clockwise from where we came: it bounds the same material."""
    back = heading(-arriving.end_tangent)

    def turn(index: int) -> tuple[float, float]:
        piece = pieces[index]
        clockwise = (back - heading(piece.start_tangent)) % (2 * np.pi)
        curvature = 0.0 if isinstance(piece, Line) else (1 if piece.ccw else -1) / piece.radius
        return round(clockwise, 7), -curvature

    return min(choices, key=turn)


def nested(loops: Sequence[Loop]) -> list[Outline]:
    """Outlines from loops, largest first: each clockwise loop becomes a cut-out of the smallest loop round it."""
    sized = sorted(((loop.area, index) for index, loop in enumerate(loops)))
    outers = [(area, loops[index], loops[index].bounds) for area, index in sized if area > 0]
    holes: list[list[Loop]] = [[] for _ in outers]
    for area, loop in ((area, loops[index]) for area, index in sized if area <= 0):
        at = loop.segments[0].at(0.5)
        for (size, outer, (left, bottom, right, top)), kept in zip(outers, holes, strict=True):
            within = left < at.real < right and bottom < at.imag < top and -area < size
            # What is stitched bounds one region: a cut-out lies in the one outline there is.
            if len(outers) == 1 or (within and contains(outer, at)):
                kept.append(loop)
                break
    outlines = [Outline(outer, tuple(kept)) for (_, outer, _), kept in zip(outers, holes, strict=True)]
    return outlines[::-1]


def contains(loop: Loop, point: Point) -> bool:
    """Whether ``point`` (mm, not on the loop itself) lies inside a counter-clockwise loop."""
    angle = 0.0
    for segment in loop:
        a, b = segment.start - point, segment.end - point
        seen = cmath.phase(b * a.conjugate())
        if isinstance(segment, Arc) and abs(point - segment.centre) < segment.radius:
            seen = seen % math.tau if segment.ccw else -(-seen % math.tau)
        angle += seen
    return round(angle / math.tau) != 0
