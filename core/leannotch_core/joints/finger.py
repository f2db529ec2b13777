"""Finger joints: two edges that meet at a corner, each notched by the thickness of the other."""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.loop import Outline
from ..parts.sides import SideFrame, side_frame
from .fit import CannotJoin, Gauge, JointCut, Mating, Partner

Span = tuple[float, float]


@dataclass(frozen=True, slots=True)
class FingerPlan:
    """How an edge of ``length`` mm is shared out: ``count`` (odd) pitches, those of even index to one part."""

    length: float
    count: int
    clearance: float

    @property
    def pitch(self) -> float:
        return self.length / self.count

    @property
    def finger(self) -> float:
        """Width of a finger with a notch on both sides: each flank gives way by a quarter of the clearance."""
        return self.pitch - self.clearance / 2

    @property
    def notch(self) -> float:
        return self.pitch + self.clearance / 2

    def notches(self, first: int) -> list[Span]:
        """Notches ``first``, ``first + 2``, ... ; one at an end of the edge has one flank only."""
        give = self.clearance / 4
        return [
            (
                index * self.pitch - (give if index else 0),
                (index + 1) * self.pitch + (give if index + 1 < self.count else 0),
            )
            for index in range(first, self.count, 2)
        ]


def finger_count(length: float, finger: float) -> int:
    """The odd number nearest to ``length / finger``, at least 3."""
    return max(3, 2 * int(length / finger / 2) + 1)


def cut_fingers(
    joint: str,
    a: Partner,
    side_a: str,
    b: Partner,
    side_b: str,
    finger: float,
    starts: str,
    fit: str,
    clearance: float,
) -> JointCut:
    """Notches and mating pairs of a finger joint; the part that ``starts`` keeps the first and last finger.

    Both edges are drawn at the outside face and stay there. Raises `CannotJoin`.
    """
    if a.id == b.id and side_a == side_b:
        raise CannotJoin(f"A finger joint needs two edges; both are the {side_a} edge of {a.name}")
    frame_a = side_frame(a.width, a.height, side_a)
    frame_b = side_frame(b.width, b.height, side_b)
    shared = min(frame_a.length, frame_b.length)
    plan = FingerPlan(shared, finger_count(shared, finger), clearance)
    _check(plan, a, b, frame_a, frame_b)
    notches_a, notches_b = plan.notches(1 if starts == "a" else 0), plan.notches(0 if starts == "a" else 1)
    cut_a = _cut(joint, frame_a, notches_a, b.thickness)
    cut_b = _cut(joint, frame_b, notches_b, a.thickness)
    matings = [
        _mating(joint, fit, plan, a, frame_a, notches_a, b, frame_b),
        _mating(joint, fit, plan, b, frame_b, notches_b, a, frame_a),
    ]
    return JointCut(
        tuple([(a.id, notch) for notch in cut_a] + [(b.id, notch) for notch in cut_b]),
        tuple(mating for mating in matings if mating),
    )


def _check(plan: FingerPlan, a: Partner, b: Partner, frame_a: SideFrame, frame_b: SideFrame) -> None:
    kerf = max(a.kerf, b.kerf)
    if min(plan.finger, plan.notch) <= kerf:
        raise CannotJoin(
            f"{plan.count} fingers on {plan.length:.2f} mm are {plan.finger:.2f} mm wide, "
            f"not wider than the kerf of {kerf:.2f} mm; make them wider",
            "finger",
            f"{max(plan.length / 3, 4 * kerf):.2f}",
            "Use three fingers",
        )
    for own, other, frame in ((a, b, frame_a), (b, a, frame_b)):
        if other.thickness >= frame.depth:
            raise CannotJoin(
                f"{own.name} is {frame.depth:.2f} mm deep behind this edge, not deeper than "
                f"{other.name} is thick ({other.thickness:.2f} mm)"
            )


def _cut(joint: str, frame: SideFrame, spans: list[Span], depth: float) -> list[Outline]:
    return [frame.notch(low, high, depth, joint, f"notch {i + 1}") for i, (low, high) in enumerate(spans)]


def _mating(
    joint: str,
    fit: str,
    plan: FingerPlan,
    own: Partner,
    frame: SideFrame,
    spans: list[Span],
    other: Partner,
    other_frame: SideFrame,
) -> Mating | None:
    """The pair to measure: the notch nearest the middle that has two flanks, and the finger in it."""
    inner = [(low, high) for low, high in spans if low > 1e-9 and high < plan.length - 1e-9]
    if not inner:
        return None
    low, high = inner[len(inner) // 2]
    middle = (low + high) / 2
    return Mating(
        joint=joint,
        kind="finger",
        fit=fit,
        opening_part=own.id,
        insert_part=other.id,
        opening=high - low,
        insert=plan.finger,
        tightest=high - low - plan.finger,
        opening_at=Gauge(own.id, frame.point(middle, other.thickness / 2), frame.along),
        insert_at=Gauge(other.id, other_frame.point(middle, own.thickness / 2), other_frame.along),
    )
