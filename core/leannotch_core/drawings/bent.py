"""Bend lines of a drawing: which layers and line styles say so, and what they become on a part."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from typing import Literal

from ..bends.lines import WAYS, edge_of
from ..document.bend import BendLine
from ..document.sizes import Angle, Size, in_digits
from ..geometry.loop import Outline
from ..geometry.segment import Line, Segment, cross, dot
from .chains import Chain

BendPurpose = Literal["bend up", "bend down"]

_NAMED = re.compile(r"(?:^|[\W_])(?:bends?|bending|folds?|folding)(?:$|[\W_])", re.IGNORECASE)
_DOWN = re.compile(r"(?:^|[\W_])(?:down|under|back)(?:$|[\W_])", re.IGNORECASE)


def bend_named(name: str) -> BendPurpose | None:
    """What the name of a layer or of a line style says of bending; up where it says no direction."""
    if not _NAMED.search(name):
        return None
    return "bend down" if _DOWN.search(name) else "bend up"


def straight_runs(chain: Chain) -> Iterator[Chain]:
    """A chain in pieces that are straight: bends whose ends meet are bends of their own."""
    segments = chain.segments
    if chain.closed:
        # Round a closed one it is begun at a corner, so that no side comes in two.
        corner = next((at for at, segment in enumerate(segments) if not _straight_on(segments[at - 1], segment)), 0)
        segments = (*segments[corner:], *segments[:corner])
    run: list[Segment] = []
    for segment in segments:
        if run and not _straight_on(run[-1], segment):
            yield Chain(tuple(run), False)
            run = []
        run.append(segment)
    yield Chain(tuple(run), chain.closed and len(run) == len(chain.segments))


def _straight_on(a: Segment, b: Segment) -> bool:
    """Whether a line goes on where another one ends, as straight as bends are."""
    if not isinstance(a, Line) or not isinstance(b, Line):
        return False
    return abs(cross(a.end - a.start, b.end - b.start)) < 0.01 * a.length * b.length


def bend_from(
    chain: Chain, purpose: BendPurpose, number: int, outline: Outline, fold: tuple[float, float] | None = None
) -> BendLine | None:
    """A line of a drawing as a bend of the part in whose frame it lies; None of what is not straight.

    It is measured on the flat sheet, from the edge that it lies most square to. A ``fold`` is its angle (degrees) and
    its inside radius (mm), where the drawing has them.
    """
    begin, end = chain.segments[0].start, chain.segments[-1].end
    along = end - begin
    straight = all(
        isinstance(s, Line) and abs(dot(along * 1j, s.end - begin)) < 0.01 * abs(along) for s in chain.segments
    )
    if chain.closed or not straight or abs(along) < 1e-6:
        return None
    runs = "up" if abs(along.real) >= abs(along.imag) else "right"
    way = WAYS[runs]
    along = along if dot(along, way * -1j) > 0 else -along
    turn = math.degrees(math.atan2(dot(along, way), dot(along, way * -1j)))
    left, bottom, right, top = outline.bounds
    middle = complex(left + right, bottom + top) / 2
    # Where it crosses the middle of the part, which it is turned about.
    aside = dot(middle - begin, way * -1j)
    at = dot(begin, way) + aside * math.tan(math.radians(turn)) - edge_of(right - left, top - bottom, runs)
    angle, radius = fold or (90.0, None)
    return BendLine(
        id=f"bend_{number}",
        angle=Angle(text=in_digits(angle)),
        radius=None if radius is None else Size(text=in_digits(radius)),
        length=Size(text=in_digits(at)),
        measured="flat",
        way="down" if purpose == "bend down" else "up",
        runs="up" if runs == "up" else "right",
        turn=Angle(text=in_digits(turn, 4)),
    )
