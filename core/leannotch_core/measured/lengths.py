"""Lengths of a part that a caliper can take: its outside, and what is cut out of it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ..bends.legs import legs_of
from ..document.measured import LengthOf, Way, grows
from ..evaluate import EvaluatedPart, Result
from ..geometry.loop import Loop
from ..geometry.segment import Line, Point
from ..parts.cut_out import names_of
from ..project.project import Project

#: What the jaws of a caliper need (mm): a straight stretch of both sides, and room between the inner ones. Common
#: practice, no source.
_JAW, _INNER = 2.0, 5.0

#: Legs are shown at such a share of their bend.
_BESIDE = 0.25

#: Sides that differ by less (mm) are one.
_SAME = 1e-6


@dataclass(frozen=True, slots=True)
class Length:
    """A length of a part from ``start`` to ``end`` in its frame (mm), which ran ``along`` the machine (degrees).

    ``cut_out`` is empty where it is an outside, and that of a leg its bend; ``called`` is what to call it. ``edges``
    and ``bent`` are those of a `MeasuredLength`.
    """

    part: str
    cut_out: str
    way: Way
    called: str
    meant: float
    along: float
    start: Point
    end: Point
    edges: Literal[0, 1, 2] = 2
    bent: float = 0.0

    @property
    def grows(self) -> float:
        """By how much of a wider kerf it grows."""
        return grows(LengthOf(part=self.part, cut_out=self.cut_out, way=self.way), self.edges)

    @property
    def which(self) -> tuple[str, str, Way]:
        """What it is known by among all lengths."""
        return self.part, self.cut_out, self.way


def lengths_of(part: EvaluatedPart, turn: float = 0.0) -> list[Length]:
    """All lengths of a part, which lay turned by so many degrees on the machine."""
    name, called = part.part.name, names_of(part.part.cutouts)
    flat = ", flat" if part.folded else ""
    found = list(_of_loop(part, "", f"{name}{flat}: ", part.outline.outer, turn))
    inner = {_box(loop): loop for loop in part.outline.cutouts}
    for shape in part.cutouts:
        loop = inner.get(_box(shape.loops[0].outer)) if shape.does == "cut out" and shape.loops else None
        if loop is not None:
            sizes = _of_loop(part, shape.id, f"{name}, {called[shape.id]}: ", loop, turn)
            found += [length for length in sizes if length.meant >= _INNER]
    return [*found, *_legs(part, turn)]


def _legs(part: EvaluatedPart, turn: float) -> Iterator[Length]:
    """The legs of a bent part, each once: one between two bends is that of the first."""
    seen: set[frozenset[str]] = set()
    for leg in legs_of(part.folded) if part.folded else ():
        ends = [one for one in (leg.bend, leg.beyond) if one]
        between = frozenset(one.id for one in ends)
        if len(ends) == 2 and between in seen:
            continue
        seen.add(between)
        out = leg.bend.onward if leg.onward else -leg.bend.onward
        # Beside the middle, where outsides are shown.
        begins = leg.bend.start + (leg.bend.end - leg.bend.start) * _BESIDE + out * leg.bend.half
        called = f"{part.part.name}, {leg.bend.name}: leg {'onward' if leg.onward else 'before'}"
        along = turn + math.degrees(math.atan2(out.imag, out.real))
        # Half of what each bend takes more of the flat is missing at either of its legs.
        bent = -sum(math.radians(one.bend.angle) * one.bend.thickness / 2 for one in ends)
        edges: Literal[0, 1] = 1 if leg.at_edge else 0
        way: Way = "onward" if leg.onward else "before"
        place = begins, begins + out * leg.straight
        yield Length(part.part.id, leg.bend.id, way, called, leg.outside, along, *place, edges, bent)


def turn_of(project: Project, part_id: str) -> float:
    """How the first copy of a part lies turned on its sheet (degrees); 0 where it lies on none."""
    return next((placed.turn for placed in project.layout.placements if placed.part == part_id), 0.0)


def lengths_of_stock(project: Project, result: Result, stock: str) -> list[Length]:
    """All lengths of the parts of a stock that could be built, as their first copies lie."""
    parts = (result.parts.get(part.id) for part in project.parts if part.stock == stock)
    return [one for made in parts if made for one in lengths_of(made, turn_of(project, made.part.id))]


def _box(loop: Loop) -> tuple[float, ...]:
    return tuple(round(side, 6) for side in loop.bounds)


def _of_loop(part: EvaluatedPart, cut_out: str, of: str, loop: Loop, turn: float) -> Iterator[Length]:
    if round_one := loop.circle():
        centre, radius = round_one
        ends = centre - radius, centre + radius
        yield Length(part.part.id, cut_out, "across", f"{of}diameter", 2 * radius, turn, *ends)
        return
    ways: tuple[tuple[Way, str, float], ...] = (("across", "width", turn), ("up", "height", turn + 90))
    for way, called, along in ways:
        between = _between_sides(loop, 1 if way == "across" else 1j)
        if between is not None:
            yield Length(part.part.id, cut_out, way, f"{of}{called}", abs(between[1] - between[0]), along, *between)


def _between_sides(loop: Loop, way: complex) -> tuple[Point, Point] | None:
    """From one outermost side to the other along a unit direction, where both are straight for a jaw; or nothing."""
    turned = [(segment, segment.start * way.conjugate(), segment.end * way.conjugate()) for segment in loop]
    reached = [point.real for _, *ends in turned for point in ends]
    low, high = min(reached), max(reached)

    def stretches(at: float) -> list[tuple[float, float]]:
        return [
            (min(a.imag, b.imag), max(a.imag, b.imag))
            for segment, a, b in turned
            if isinstance(segment, Line) and abs(a.real - at) < _SAME and abs(b.real - at) < _SAME
        ]

    shared = [
        (min(a[1], b[1]) - max(a[0], b[0]), (min(a[1], b[1]) + max(a[0], b[0])) / 2)
        for a in stretches(low)
        for b in stretches(high)
    ]
    straight, middle = max(shared, default=(0.0, 0.0))
    if straight < _JAW:
        return None
    return complex(low, middle) * way, complex(high, middle) * way
