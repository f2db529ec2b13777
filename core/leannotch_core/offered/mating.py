"""Tabs and slots of brought outlines that mate: as many tabs on a side as slots in a row, as far apart and as wide."""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..document.ids import free_id
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Line, Segment, dot
from ..joints.ends import EdgeOf, FaceLine
from ..joints.tab_and_slot.cut import tab_spans
from ..joints.tab_and_slot.typed import TabAndSlot
from ..parts.part import Part
from ..parts.shapes.rectangle import rectangle
from ..parts.sides import SideFrame, side_frame
from ..project.project import Project
from .offer import JointOffer, in_mm
from .redrawn import as_drawn, filled

#: Places agree within this (mm); a slot is longer than its tab by no more than the play that makers draw (mm).
AGREE, PLAY = 0.1, 0.8

#: Tabs are no longer (mm) than sheets are thick.
_DEEPEST = 30.0

#: Sides lean from square by no more than this (a cosine).
_SQUARE = 0.01


@dataclass(frozen=True, slots=True)
class Tabs:
    """The tabs on a side of a part: where they begin and end along it, and how long they are (mm)."""

    side: str
    frame: SideFrame
    spans: tuple[tuple[float, float], ...]
    depth: float


@dataclass(frozen=True, slots=True)
class SlotRow:
    """Slots in a row on a part: their middles and direction, and how long and wide they are (mm)."""

    loops: tuple[Loop, ...]
    middles: tuple[complex, ...]
    along: complex
    long: float
    wide: float


def mating(project: Project) -> Iterator[JointOffer]:
    """Tab-and-slot joints that brought parts were drawn for. From then on the joint cuts their tabs and slots."""
    drawn = {part.id: outline for part in project.parts if (outline := as_drawn(part)) is not None}
    parts = {part.id: part for part in project.parts}
    rows = {part: slot_rows(outline) for part, outline in drawn.items()}
    for a, outline in drawn.items():
        for tabs in (found for side in ("bottom", "right", "top", "left") if (found := tabs_on(outline, side))):
            for b, found_rows in rows.items():
                mates = _alike([row for row in found_rows if b != a and _mate(tabs, row)])
                offer = _offer(project, parts[a], outline, tabs, parts[b], drawn[b], mates) if mates else None
                if offer is not None:
                    yield offer


def tabs_on(outline: Outline, side: str) -> Tabs | None:
    """The tabs on a side of an outline, where all that reaches the side are tabs; None where there are none."""
    left, bottom, right, top = outline.bounds
    frame = side_frame(right - left, top - bottom, side)
    segments = outline.outer.segments
    spans, depths = [], []
    for at, segment in enumerate(segments):
        if not all(abs(dot(end - frame.start, frame.inward)) < AGREE / 2 for end in (segment.start, segment.end)):
            continue
        depth = _depth(segments[at - 1], segment, segments[(at + 1) % len(segments)], frame)
        if depth is None:
            return None
        ends = sorted(dot(end - frame.start, frame.along) for end in (segment.start, segment.end))
        spans.append((ends[0], ends[1]))
        depths.append(depth)
    if not spans or max(depths) - min(depths) > AGREE:
        return None
    return Tabs(side, frame, tuple(sorted(spans)), sum(depths) / len(depths))


def _depth(before: Segment, tip: Segment, after: Segment, frame: SideFrame) -> float | None:
    """How long a tab is, None where its end is not that of one."""
    flanks = (before, after)
    if not all(isinstance(one, Line) for one in (before, tip, after)):
        return None
    if any(abs(dot(one.start_tangent, frame.along)) > _SQUARE for one in flanks):
        return None
    depth = sum(one.length for one in flanks) / 2
    return depth if abs(before.length - after.length) < AGREE and depth < _DEEPEST else None


def slot_rows(outline: Outline) -> list[SlotRow]:
    """Rectangular openings of one size, row by row."""
    slots = [slot for loop in outline.cutouts if (slot := _slot(loop))]
    rows: list[list[SlotRow]] = []
    for slot in slots:
        row = next((known for known in rows if _in_row(known[0], slot)), None)
        if row is None:
            rows.append([slot])
        else:
            row.append(slot)
    return [_whole_row(row) for row in rows]


def _slot(loop: Loop) -> SlotRow | None:
    sides = loop.segments
    if len(sides) != 4 or not all(isinstance(side, Line) for side in sides):
        return None
    if any(abs(dot(sides[i].start_tangent, sides[i - 1].start_tangent)) > _SQUARE for i in range(4)):
        return None
    longer = max(sides[:2], key=lambda side: side.length)
    along = longer.start_tangent
    if along.real < -1e-9 or (abs(along.real) <= 1e-9 and along.imag < 0):
        along = -along
    middle = sum((side.start for side in sides), 0j) / 4
    long, wide = longer.length, min(side.length for side in sides[:2])
    return SlotRow((loop,), (middle,), along, long, wide)


def _in_row(first: SlotRow, other: SlotRow) -> bool:
    sized = abs(first.long - other.long) < AGREE and abs(first.wide - other.wide) < AGREE
    across = dot(other.middles[0] - first.middles[0], first.along * 1j)
    return sized and abs(dot(first.along, other.along * 1j)) < _SQUARE and abs(across) < AGREE


def _whole_row(row: Sequence[SlotRow]) -> SlotRow:
    first = row[0]
    ordered = sorted(row, key=lambda slot: dot(slot.middles[0], first.along))
    loops, middles = (tuple(part for slot in ordered for part in getattr(slot, name)) for name in ("loops", "middles"))
    return SlotRow(loops, middles, first.along, first.long, first.wide)


def _mate(tabs: Tabs, row: SlotRow) -> bool:
    if len(tabs.spans) != len(row.middles):
        return False
    width = _width(tabs)
    if any(abs(end - begin - width) > AGREE for begin, end in tabs.spans):
        return False
    if not -AGREE < row.long - width < PLAY or not -AGREE < row.wide - tabs.depth < PLAY:
        return False
    own = tab_spans(tabs.frame.length, len(tabs.spans), width, tabs.spans[0][0])
    if any(abs(a - c) > AGREE for (a, _), (c, _) in zip(own, tabs.spans, strict=True)):
        return False
    steps = [(a + b) / 2 - (tabs.spans[0][0] + tabs.spans[0][1]) / 2 for a, b in tabs.spans]
    places = [dot(middle - row.middles[0], row.along) for middle in row.middles]
    return all(abs(step - place) < AGREE for step, place in zip(steps, places, strict=True))


def _alike(rows: Sequence[SlotRow]) -> list[SlotRow]:
    """The rows beside the first one, evenly apart, that lines can be repeated for; else the first alone."""
    first = next(iter(rows), None)
    if first is None:
        return []
    beside = [
        row
        for row in rows
        if abs(dot(row.along, first.along) - 1) < _SQUARE
        and abs(dot(row.middles[0] - first.middles[0], first.along)) < AGREE
    ]
    ordered = sorted(beside, key=lambda row: dot(row.middles[0], first.along * 1j))
    steps = [dot(b.middles[0] - a.middles[0], first.along * 1j) for a, b in pairwise(ordered)]
    return ordered if all(abs(step - steps[0]) < AGREE for step in steps) else [first]


def _width(tabs: Tabs) -> float:
    return sum(end - begin for begin, end in tabs.spans) / len(tabs.spans)


def _offer(
    project: Project, a: Part, outline: Outline, tabs: Tabs, b: Part, slotted: Outline, rows: Sequence[SlotRow]
) -> JointOffer | None:
    row = rows[0]
    begin, end = tabs.spans[0]
    start = row.middles[0] - row.along * (begin + end) / 2
    width, count = _width(tabs), len(tabs.spans)
    several = {}
    if len(rows) > 1:
        step = dot(rows[1].middles[0] - row.middles[0], row.along * 1j)
        several = {"lines": len(rows), "step": in_mm(step)}
    place = {"x": in_mm(start.real), "y": in_mm(start.imag), "turn": in_mm(degrees(row.along))}
    joint = TabAndSlot(
        id=free_id("tabs", {joint.id for joint in project.joints}),
        a=EdgeOf.model_validate({"part": a.id, "side": tabs.side}),
        b=FaceLine.model_validate({"part": b.id, **place, **several}),
        tabs=count,
        width=in_mm(width),
        inset=in_mm(begin),
    )
    whole = filled(a, outline, [Outline(_strip(tabs))])
    gaps = (tabs.frame.length - count * width) * tabs.depth
    edge = as_drawn(whole)
    # Where the shoulders do not run to the corners, the joint would cut another outline than was drawn.
    if edge is None or abs(edge.area - outline.area - gaps) > AGREE * tabs.frame.length:
        return None
    parts = (whole, filled(b, slotted, (), [loop for one in rows for loop in one.loops]))
    many = f"{count} tabs" if count > 1 else "1 tab"
    return JointOffer(
        joint,
        parts,
        f"{many} {width:.4g} mm wide on the {tabs.side} of {a.name} fit {'slots' if count > 1 else 'a slot'} "
        f"{row.long:.4g} mm long in {b.name}",
    )


def _strip(tabs: Tabs) -> Loop:
    """All along the side, as deep as the tabs are long."""
    ends = [tabs.frame.point(along, inward) for along, inward in ((0, 0), (tabs.frame.length, tabs.depth))]
    low = complex(min(end.real for end in ends), min(end.imag for end in ends))
    high = complex(max(end.real for end in ends), max(end.imag for end in ends))
    return rectangle("edge", (high - low).real, (high - low).imag, base=low)


def degrees(along: complex) -> float:
    """The turn of a direction, in degrees."""
    return math.degrees(cmath.phase(along))
