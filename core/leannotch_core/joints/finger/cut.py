"""Finger joints: two edges that meet at a corner, each notched by the thickness of the other."""

from __future__ import annotations

from dataclasses import dataclass

from ...geometry.loop import Outline
from ...parts.sides import SideFrame
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Change, Gauge, JointCut, Mating
from ..meeting import Contact, Hold, Meeting, at_height, hand, in_plane, outer, upward
from ..partner import Partner
from ..relief import notch_reliefs

Span = tuple[float, float]

#: More fingers than this are not cut along one edge.
MOST = 301


@dataclass(frozen=True, slots=True)
class FingerPlan:
    """How a stretch of edge is shared out: ``count`` (odd) pitches, those of even index to one part.

    The stretch runs from ``begin`` to ``end`` (mm) along an edge of ``length``; beyond it the part that has the
    first finger keeps its material.
    """

    length: float
    count: int
    clearance: float
    begin: float
    end: float

    @property
    def pitch(self) -> float:
        return (self.end - self.begin) / self.count

    @property
    def finger(self) -> float:
        """Width of a finger with a notch on both sides: each flank gives way by a quarter of the clearance."""
        return self.pitch - self.clearance / 2

    @property
    def notch(self) -> float:
        return self.pitch + self.clearance / 2

    def notches(self, first: int) -> list[Span]:
        """Notches ``first``, ``first + 2``, ... ; one at an end of the edge has one flank only."""
        give, last = self.clearance / 4, self.count - 1
        return [
            (
                self.begin + index * self.pitch - give if index else 0.0,
                self.begin + (index + 1) * self.pitch + give if index < last else self.length,
            )
            for index in range(first, self.count, 2)
        ]


def plan_fingers(length: float, count: int, clearance: float, insets: Span = (0.0, 0.0)) -> FingerPlan:
    """Shares ``length`` mm, less an inset at both ends, out among ``count`` pitches.

    >>> plan = plan_fingers(180, 9, clearance=0.1)
    >>> plan.pitch, plan.notch, plan.finger
    (20.0, 20.05, 19.95)
    """
    return FingerPlan(length, count, clearance, insets[0], length - insets[1])


def finger_count(length: float, finger: float) -> int:
    """The odd number nearest to ``length / finger``, at least 3.

    >>> [finger_count(45, finger) for finger in (100, 15, 11, 9)]
    [3, 3, 5, 5]
    """
    return max(3, 2 * int(length / finger / 2) + 1)


@dataclass(frozen=True, slots=True)
class FingerSpec:
    """A finger joint in numbers (mm); ``count`` is odd. ``shift`` is where the shorter edge begins on the longer."""

    joint: str
    side_a: str
    side_b: str
    count: int
    starts: str
    insets: Span
    proud: float
    shift: float
    fit: str
    clearance: float


@dataclass(frozen=True, slots=True)
class _Edge:
    """One of the two edges: its part, its frame, and where on it the shared stretch begins (mm).

    ``back``: along the joint it runs from its end to its start.
    """

    part: Partner
    frame: SideFrame
    begin: float
    back: bool = False

    def cut(self, spans: list[Span], plan: FingerPlan) -> list[Span]:
        """The plan's notches on this edge. One at an end of the shared stretch runs out of the part where the part
        ends too; where it goes on, the notch clears the other part's side by half of the clearance.
        """
        give, end = plan.clearance / 2, self.begin + plan.length
        first = 0.0 if self.begin <= 1e-9 else self.begin - give
        last = self.frame.length if end >= self.frame.length - 1e-9 else end + give
        if self.back:
            spans = [(plan.length - high, plan.length - low) for low, high in reversed(spans)]
        return [
            (first if low <= 1e-9 else self.begin + low, last if high >= plan.length - 1e-9 else self.begin + high)
            for low, high in spans
        ]


@remembered(REMEMBERED)
def cut_fingers(spec: FingerSpec, a: Partner, b: Partner) -> JointCut:
    """Notches and mating pairs of a finger joint; the part that ``starts`` keeps the first and last finger.

    The partners' sides are outside faces and stay there; notches are as deep as the other part is thick, and deeper
    by ``proud``. Raises `CannotJoin`.
    """
    if a.id == b.id and spec.side_a == spec.side_b:
        raise CannotJoin(f"A finger joint needs two edges; both are the {spec.side_a} edge of {a.name}")
    frame_a, frame_b = a.frame(spec.side_a), b.frame(spec.side_b)
    shared = min(frame_a.length, frame_b.length)
    edge_a = _Edge(a, frame_a, spec.shift if frame_a.length > shared else 0.0)
    back = runs_back(spec.side_a, spec.side_b, a, b)
    edge_b = _Edge(b, frame_b, spec.shift if frame_b.length > shared else 0.0, back)
    plan = plan_fingers(shared, spec.count, spec.clearance, spec.insets)
    _check(plan, spec, edge_a, edge_b)
    notches_a = plan.notches(1 if spec.starts == "a" else 0)
    notches_b = plan.notches(0 if spec.starts == "a" else 1)
    cut_a = _cut(spec.joint, edge_a, edge_a.cut(notches_a, plan), b.thickness + spec.proud)
    cut_b = _cut(spec.joint, edge_b, edge_b.cut(notches_b, plan), a.thickness + spec.proud)
    matings = [_mating(spec, plan, edge_a, notches_a, edge_b), _mating(spec, plan, edge_b, notches_b, edge_a)]
    return JointCut(
        tuple([(a.id, notch) for notch in cut_a] + [(b.id, notch) for notch in cut_b]),
        tuple(mating for mating in matings if mating),
        (_meeting(spec, plan, edge_a, edge_b),),
    )


def runs_back(side_a: str, side_b: str, a: Partner, b: Partner) -> bool:
    """Whether along A's edge, as the parts stand together, B's edge runs from its end to its start."""
    return hand(a.frame(side_a)) * hand(b.frame(side_b)) * a.outward * b.outward > 0


def _meeting(spec: FingerSpec, plan: FingerPlan, a: _Edge, b: _Edge) -> Meeting:
    """The outside faces meet in one line, ``proud`` inside both edges."""
    return Meeting(spec.joint, _contact(spec, spec.side_a, plan, a, 1), _contact(spec, spec.side_b, plan, b, 2))


def _contact(spec: FingerSpec, side: str, plan: FingerPlan, own: _Edge, which: int) -> Contact:
    frame, outward = own.frame, own.part.outward
    begin = own.begin + plan.length if own.back else own.begin
    along = in_plane(-frame.along if own.back else frame.along)
    out_of_edge, out_of_face = in_plane(-frame.inward), upward(outward)
    axes = (along, out_of_edge, out_of_face) if which == 1 else (along, out_of_face, out_of_edge)
    origin = at_height(frame.point(begin, spec.proud), outer(outward, own.part.thickness))
    return Contact(own.part.id, Hold("edge", side), origin, axes, (own.begin, own.begin + plan.length))


def _check(plan: FingerPlan, spec: FingerSpec, a: _Edge, b: _Edge) -> None:
    if plan.begin < 0 or plan.end > plan.length or plan.end - plan.begin <= 0:
        at_end = Change("inset_end", "0", "Use no inset at the end")
        at_start = Change("inset_start", "0", "Use no inset at the start")
        first, second = (at_end, at_start) if 0 <= plan.begin < plan.length else (at_start, at_end)
        raise CannotJoin(
            f"Insets of {plan.begin:.2f} and {plan.length - plan.end:.2f} mm leave no room for fingers "
            f"on {plan.length:.2f} mm",
            *first,
            second,
        )
    if plan.count > MOST:
        third = (plan.end - plan.begin) / 3
        raise CannotJoin(
            f"{plan.count} fingers on {plan.end - plan.begin:.2f} mm are more than the {MOST} that are cut along an "
            "edge; make them wider",
            "finger",
            f"{third:.2f}",
            "Use three fingers",
        )
    if spec.proud < 0:
        raise CannotJoin(
            f"Fingers cannot stand {-spec.proud:.2f} mm short; proud is 0 or more", "proud", "0", "Make them flush"
        )
    kerf = max(a.part.kerf, b.part.kerf)
    if min(plan.finger, plan.notch) <= kerf:
        raise CannotJoin(
            f"{plan.count} fingers on {plan.end - plan.begin:.2f} mm are {plan.finger:.2f} mm wide, "
            f"not wider than the kerf of {kerf:.2f} mm; make them wider",
            "finger",
            f"{(plan.end - plan.begin) / 3:.2f}",
            "Use three fingers",
            Change("count", "3", "Use three fingers"),
        )
    for own, other in ((a, b), (b, a)):
        _check_edge(own, other.part, plan, spec.proud)


def _check_edge(own: _Edge, other: Partner, plan: FingerPlan, proud: float) -> None:
    longest = own.frame.length - plan.length
    if own.begin < -1e-9 or own.begin > longest + 1e-9:
        raise CannotJoin(
            f"{other.name} begins {own.begin:.2f} mm along {own.part.name}, where {plan.length:.2f} mm of "
            f"{own.frame.length:.2f} mm do not fit",
            "shift",
            f"{max(0.0, longest):.2f}",
            f"Begin at {max(0.0, longest):.2f} mm",
        )
    if other.thickness + proud >= own.frame.depth:
        raise CannotJoin(
            f"{own.part.name} is {own.frame.depth:.2f} mm deep behind this edge, not deeper than "
            f"{other.name} is thick ({other.thickness:.2f} mm)"
        )


def _cut(joint: str, own: _Edge, spans: list[Span], depth: float) -> list[Outline]:
    frame, relief = own.frame, own.part.relief
    notches = [frame.notch(low, high, depth, joint, f"notch {i + 1}") for i, (low, high) in enumerate(spans)]
    return notches + [c for low, high in spans for c in notch_reliefs(relief, frame, low, high, depth, joint)]


def _mating(spec: FingerSpec, plan: FingerPlan, own: _Edge, spans: list[Span], other: _Edge) -> Mating | None:
    """The pair to measure: the notch nearest the middle that has two flanks, and the finger in it."""
    inner = [(low, high) for low, high in spans if low > 1e-9 and high < plan.length - 1e-9]
    if not inner:
        return None
    low, high = inner[len(inner) // 2]
    middle = (low + high) / 2
    return Mating(
        joint=spec.joint,
        kind="finger",
        fit=spec.fit,
        opening_part=own.part.id,
        insert_part=other.part.id,
        opening=high - low,
        insert=plan.finger,
        tightest=high - low - plan.finger,
        opening_at=_gauge(plan, own, middle, other.part.thickness / 2),
        insert_at=_gauge(plan, other, middle, own.part.thickness / 2),
    )


def _gauge(plan: FingerPlan, edge: _Edge, along: float, inward: float) -> Gauge:
    own = plan.length - along if edge.back else along
    return Gauge(edge.part.id, edge.frame.point(edge.begin + own, inward), edge.frame.along)
