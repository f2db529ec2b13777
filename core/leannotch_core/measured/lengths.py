"""Lengths of a part that a caliper can take: its outside, and what is cut out of it."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ..bends.legs import legs_of
from ..document.measured import Way
from ..evaluate import EvaluatedPart, Result
from ..geometry.loop import Loop
from ..geometry.segment import Line, Point
from ..joints.fit import Gauge, Mating
from ..parts.cut_out import names_of
from ..project.project import Project
from .webs import web_beside

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

    ``cut_out`` is empty where it is an outside, and that of a leg its bend, of a finger or a notch its joint;
    ``called`` is what to call it. For ``grows``, ``bent`` and ``through`` see `MeasuredLength`.
    """

    part: str
    cut_out: str
    way: Way
    called: str
    meant: float
    along: float
    start: Point
    end: Point
    grows: float
    bent: float = 0.0
    through: float = 0.0

    @property
    def gains(self) -> float:
        """By how much of a wider kerf it grows."""
        return self.grows

    @property
    def which(self) -> tuple[str, str, Way]:
        """What it is known by among all lengths."""
        return self.part, self.cut_out, self.way


def lengths_of(
    part: EvaluatedPart, turn: float = 0.0, ledger: Sequence[Mating] = (), mirrored: bool = False
) -> list[Length]:
    """All lengths of a part, which lay turned by so many degrees on the machine, ``mirrored`` on its face; ``ledger``
    are its project's pairs.
    """
    name, called = part.part.name, names_of(part.part.cutouts)
    flat = ", flat" if part.folded else ""
    found = list(_of_loop(part, "", f"{name}{flat}: ", part.outline.outer, turn))
    found += _diagonals(part, f"{name}{flat}: ", turn)
    found.append(_thickness(part, turn))
    inner = {_box(loop): loop for loop in part.outline.cutouts}
    for shape in part.cutouts:
        loop = inner.get(_box(shape.loops[0].outer)) if shape.does == "cut out" and shape.loops else None
        if loop is not None:
            sizes = _of_loop(part, shape.id, f"{name}, {called[shape.id]}: ", loop, turn)
            found += [length for length in sizes if length.meant >= _INNER]
            found += _webs(part, shape.id, f"{name}, {called[shape.id]}: ", loop, turn)
    found = [*found, *_legs(part, turn), *_in_joints(part, ledger, turn)]
    return [replace(one, along=2 * turn - one.along) for one in found] if mirrored else found


def _thickness(part: EvaluatedPart, turn: float) -> Length:
    """How thick it is: shown below its lower side, as it is seen from there."""
    left, bottom, right, _ = part.outline.bounds
    at, thick = complex((left + right) / 2, bottom), part.stock.thickness
    called, place = f"{part.part.name}: thickness", (at - 1j * thick, at)
    return Length(part.part.id, "", "thickness", called, thick, turn, *place, 0.0, through=1.0)


def _webs(part: EvaluatedPart, cut_out: str, of: str, loop: Loop, turn: float) -> Iterator[Length]:
    """What stands to the right of a cut-out and above it, up to the next cut."""
    ways: tuple[tuple[Way, Point, float], ...] = (("web right", 1, turn), ("web above", 1j, turn + 90))
    for way, towards, along in ways:
        web = web_beside(loop, part.outline.loops, towards)
        if web is not None:
            a, b = web
            yield Length(part.part.id, cut_out, way, f"{of}{way}", abs(b - a), along, a, b, -1.0)


def _diagonals(part: EvaluatedPart, of: str, turn: float) -> Iterator[Length]:
    """From corner to corner of its box, where the part has them: they tell whether the machine is square."""
    left, bottom, right, top = part.outline.bounds
    corners = {(round(s.start.real, 6), round(s.start.imag, 6)) for s in part.outline.outer}
    ways: tuple[tuple[Way, Point, Point], ...] = (
        ("rising", complex(left, bottom), complex(right, top)),
        ("falling", complex(left, top), complex(right, bottom)),
    )
    for way, a, b in ways:
        if {(round(end.real, 6), round(end.imag, 6)) for end in (a, b)} <= corners:
            out = (b - a) / abs(b - a)
            # Both sides of a corner come in by half a kerf.
            grows, angle = -(abs(out.real) + abs(out.imag)), math.degrees(math.atan2(out.imag, out.real))
            yield Length(part.part.id, "", way, f"{of}diagonal, {way}", abs(b - a), turn + angle, a, b, grows)


def _in_joints(part: EvaluatedPart, ledger: Sequence[Mating], turn: float) -> Iterator[Length]:
    """The openings and inserts of its joints, one of each joint and each place; the flanks of a splice lean."""
    seen: set[object] = set()
    for row in ledger:
        both: tuple[tuple[Way, str, float, Gauge | None, float], ...] = (
            ("opening", "opening", row.opening, row.opening_at, 1.0),
            ("insert", row.kind, row.insert, row.insert_at, -1.0),
        )
        for way, what, meant, at, grows in both:
            least = _INNER if way == "opening" else _JAW
            if at is None or at.part != part.part.id or row.sunk or row.flat or meant < least:
                continue
            half, angle = at.direction * meant / 2, math.degrees(math.atan2(at.direction.imag, at.direction.real))
            place = {(row.joint, way), (way, round(at.point.real, 3), round(at.point.imag, 3))}
            if not place & seen:
                called = f"{part.part.name}: {what} {_side(part, at.point)}"
                ends = at.point - half, at.point + half
                yield Length(part.part.id, row.joint, way, called, meant, turn + angle, *ends, grows)
            seen |= place


def _side(part: EvaluatedPart, at: Point) -> str:
    """At which side of its part a place is."""
    left, bottom, right, top = part.outline.bounds
    off = {"left": at.real - left, "bottom": at.imag - bottom, "right": right - at.real, "top": top - at.imag}
    return f"at the {min(off, key=lambda side: off[side])}"


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
        through = sum(_of_thickness(math.radians(one.bend.angle), one.bend.k) for one in ends)
        way: Way = "onward" if leg.onward else "before"
        place, grows = (begins, begins + out * leg.straight), -0.5 if leg.at_edge else 0.0
        yield Length(part.part.id, leg.bend.id, way, called, leg.outside, along, *place, grows, bent, through)


def _of_thickness(angle: float, k: float) -> float:
    """By how much (mm) either leg of a bend (radians) grows with a sheet that is 1 mm thicker, bent of the same flat:
    half of what its deduction does, ``2 (R + t) tan(A / 2) - A (R + K t)``; over 90 degrees legs are to their round.
    """
    return math.tan(min(angle, math.pi / 2) / 2) - angle * k / 2


def as_it_lies(project: Project, result: Result, part: EvaluatedPart) -> list[Length]:
    """All lengths of a part as its first copy lies on the bed; as it is drawn where it lies on no sheet."""
    lying = next((one for one in project.layout.placements if one.part == part.part.id), None)
    turn = (lying.turn if lying else 0.0) + project.preparation.on_bed.turn
    return lengths_of(part, turn, result.ledger, mirrored=lying is not None and lying.mirrored)


def lengths_of_stock(project: Project, result: Result, stock: str) -> list[Length]:
    """All lengths of the parts of a stock that could be built, as their first copies lie."""
    parts = (result.parts.get(part.id) for part in project.parts if part.stock == stock)
    return [one for made in parts if made for one in as_it_lies(project, result, made)]


def _box(loop: Loop) -> tuple[float, ...]:
    return tuple(round(side, 6) for side in loop.bounds)


def _of_loop(part: EvaluatedPart, cut_out: str, of: str, loop: Loop, turn: float) -> Iterator[Length]:
    grows = 1.0 if cut_out else -1.0
    if round_one := loop.circle():
        centre, radius = round_one
        ends = centre - radius, centre + radius
        yield Length(part.part.id, cut_out, "across", f"{of}diameter", 2 * radius, turn, *ends, grows)
        return
    ways: tuple[tuple[Way, str, float], ...] = (("across", "width", turn), ("up", "height", turn + 90))
    for way, called, along in ways:
        between = _between_sides(loop, 1 if way == "across" else 1j)
        if between is not None:
            yield Length(
                part.part.id, cut_out, way, f"{of}{called}", abs(between[1] - between[0]), along, *between, grows
            )


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
