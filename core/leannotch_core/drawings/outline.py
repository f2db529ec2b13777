"""An outline brought from a drawing: loose lines are joined, the largest closed outline is taken with its openings."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from shapely import STRtree, prepare

from ..document.limits import MOST_VERTICES
from ..document.operations import is_cut
from ..document.sizes import Size, shown
from ..geometry.chords import as_polygon
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Arc, Segment
from ..parts.shapes.brought import Brought, Ring, Vertex
from .chains import SNAP, Chain, chained, without_doubles
from .drawing import BrokenFile, Drawing
from .formats import read_drawing

#: The sides (mm) that an outline must have at the least.
SMALLEST = 0.05


class CannotBring(BrokenFile):
    """A drawing that holds no outline for a part; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class BroughtOutline:
    """The shape that a drawing gives, as large as it was drawn; ``notes`` say what was assumed, mended or left out."""

    shape: Brought
    notes: list[str]


def bring_outline(data: bytes) -> BroughtOutline:
    """The outline in the bytes of an SVG or DXF file. Raises `CannotBring`."""
    try:
        drawing = read_drawing(data, most=MOST_VERTICES)
    except CannotBring:
        raise
    except BrokenFile as error:
        raise CannotBring(str(error)) from error
    notes = list(drawing.notes)
    closed = _closed(drawing, notes)
    loops = sorted((Loop(chain.segments) for chain in closed), key=lambda loop: -abs(loop.area))
    left, bottom, right, top = loops[0].bounds
    if abs(loops[0].area) < SNAP or min(right - left, top - bottom) < SMALLEST:
        raise CannotBring(
            f"The largest outline in the file is {shown(right - left)} x {shown(top - bottom)} and encloses nothing "
            "that could be cut; check its unit and scale."
        )
    outer, *others = (loop if loop.area > 0 else loop.reversed() for loop in loops)
    openings = _openings(outer, others, notes)
    rings = [_ring(loop, complex(left, bottom)) for loop in (outer, *openings)]
    if sum(map(len, rings)) > MOST_VERTICES:
        raise CannotBring(f"The outline has more than {MOST_VERTICES} lines and arcs; simplify it, or bring a piece.")
    width, height = (Size(text=f"{size:.6g}") for size in (right - left, top - bottom))
    return BroughtOutline(Brought(width=width, height=height, rings=rings), notes)


def _closed(drawing: Drawing, notes: list[str]) -> list[Chain]:
    """The closed chains of what is to be cut. Raises `CannotBring` where there is none."""
    segments = [s for line in drawing.lines if is_cut(line.layer) for s in line.segments]
    if not segments:
        raise CannotBring(" ".join(["The file holds no lines to cut.", *notes]))
    kept, doubled = without_doubles(segments)
    if doubled:
        lines = "1 line is" if len(doubled) == 1 else f"{len(doubled)} lines are"
        notes.append(f"{lines} drawn twice in the file; each was taken once.")
    chains = chained(kept)
    closed = [chain for chain in chains if chain.closed]
    still_open = [chain for chain in chains if not chain.closed]
    if not closed:
        raise CannotBring(_nothing_closed(still_open))
    if still_open:
        lines = "1 open line was" if len(still_open) == 1 else f"{len(still_open)} open lines were"
        notes.append(f"{lines} left out.")
    return closed


def _nothing_closed(still_open: Sequence[Chain]) -> str:
    longest = max(still_open, key=lambda chain: sum(s.length for s in chain.segments))
    gap = abs(longest.segments[-1].end - longest.segments[0].start)
    return (
        f"No outline in the file is closed: the ends of the longest line are {shown(gap)} apart, and ends join up to "
        f"{SNAP:g} mm. Close it in the drawing and bring it again."
    )


def _openings(outer: Loop, others: Sequence[Loop], notes: list[str]) -> list[Loop]:
    """Loops inside the outer one; what lies inside an opening, across or outside stays behind."""
    body, *shapes = [as_polygon(Outline(loop), SNAP) for loop in (outer, *others)]
    prepare(body)
    inside: list[int] = []
    touched: set[int] = set()
    tree = STRtree(shapes)
    # The largest first: of two that lie in one another or across, it is the opening.
    for index, shape in enumerate(shapes):
        if index not in touched and body.contains_properly(shape):
            inside.append(index)
            touched.update(tree.query(shape, predicate="intersects").tolist())
    left_out = len(shapes) - len(inside)
    if left_out:
        outlines = "1 more outline was" if left_out == 1 else f"{left_out} more outlines were"
        notes.append(f"{outlines} left out: only the largest is taken, with the openings in it.")
    return [others[index] for index in inside]


def _ring(loop: Loop, corner: complex) -> Ring:
    return [
        Vertex(
            x=round((segment.start - corner).real, 6),
            y=round((segment.start - corner).imag, 6),
            bulge=round(segment.bulge, 9) if isinstance(segment, Arc) else 0,
        )
        for whole in loop
        for segment in _halves(whole)
    ]


def _halves(segment: Segment) -> tuple[Segment, ...]:
    """An arc of more than half a turn as two: the nearer to a full turn, the more its bulge grows beyond bounds."""
    if not isinstance(segment, Arc) or abs(segment.sweep) <= math.pi:
        return (segment,)
    middle = segment.at(0.5)
    return segment.between(segment.start, middle), segment.between(middle, segment.end)


def outline_apart(data: bytes) -> dict[str, Any]:
    """As `bring_outline`, with an answer of plain JSON values: for a process of its own."""
    found = bring_outline(data)
    return {"shape": found.shape.model_dump(), "notes": found.notes}
