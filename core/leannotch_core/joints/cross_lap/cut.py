"""Cross-laps: two parts that cross, each slotted part of the way so that they slide into one another."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass

from ...geometry.loop import Outline
from ...geometry.segment import Point
from ...parts.sides import SideFrame, reach
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Change, Gauge, JointCut, Mating
from ..meeting import Contact, Hold, Meeting, at_height, hand, in_plane, upward
from ..partner import Partner
from ..relief import notch_reliefs


@dataclass(frozen=True, slots=True)
class Slots:
    """Slots of a part: the side they open at and how far (mm) the middle of each lies from that side's start."""

    partner: Partner
    side: str
    at: tuple[float, ...]

    @property
    def frame(self) -> SideFrame:
        return self.partner.frame(self.side)

    def material(self, at: float) -> tuple[float, float]:
        """Where the part begins and ends, inward from the side (mm), at one of the slots. Raises `CannotJoin`."""
        if not self.partner.silhouette:
            return 0.0, self.frame.depth
        found = reach(self.partner.silhouette, self.frame, at)
        if found is None:
            raise CannotJoin(f"{self.partner.name} has no material at {at:.2f} mm, where its slot should be")
        return found

    @property
    def height(self) -> float:
        """Height of the part at its middle slot."""
        begin, end = self.material(self.at[len(self.at) // 2])
        return end - begin


def slot_width(other: float, own: float, clearance: float, angle: float = 90.0) -> float:
    """Width for a part of thickness ``other`` through one of thickness ``own``, planes ``angle`` degrees apart.

    ``t_other / sin a + t_own * |cos a| / sin a + c``: the slanting plate's section, and the way its faces
    wander across the thickness of this one.

    >>> round(slot_width(3.95, 3.95, 0.1), 3)
    4.05
    >>> round(slot_width(3, 3, 0, angle=45), 3)
    7.243
    """
    slant = math.radians(angle)
    reach = abs(math.cos(slant)) if angle != 90.0 else 0.0
    return (other + own * reach) / math.sin(slant) + clearance


def slot_depths(height_a: float, height_b: float, share: float, seating: float) -> tuple[float, float]:
    """Depths in A and B. The edges at B's mouth are flush; B keeps ``share`` of the height they have in common.

    For equal heights ``H * s + e/2`` and ``H * (1 - s) + e/2``.

    >>> slot_depths(30, 30, share=0.5, seating=0.4)
    (15.2, 15.2)
    >>> slot_depths(40, 30, share=0.5, seating=0)
    (25.0, 15.0)
    """
    common = min(height_a, height_b)
    level = common * (1 - share)
    return height_a - level + seating / 2, level + seating / 2


@dataclass(frozen=True, slots=True)
class LapSpec:
    """A cross-lap in numbers: B keeps ``share`` (0 to 1) of the common height, both slots are deeper by half of
    ``seating`` (mm), and the planes stand ``angle`` degrees apart.
    """

    joint: str
    share: float
    seating: float
    angle: float
    fit: str
    clearance: float


@remembered(REMEMBERED)
def cut_cross_lap(spec: LapSpec, a: Slots, b: Slots) -> JointCut:
    """Notches and mating pairs of a cross-lap; every slot of A is crossed by a copy of B. Raises `CannotJoin`."""
    _check(spec, a, b)
    notches: list[tuple[str, Outline]] = []
    matings = []
    for which, own, other in ((0, a, b), (1, b, a)):
        partner, middles = own.partner, []
        width = slot_width(other.partner.thickness, partner.thickness, spec.clearance, spec.angle)
        for at in own.at:
            begin, end = own.material(at)
            heights = (end - begin, other.height) if which == 0 else (other.height, end - begin)
            depth = begin + slot_depths(*heights, spec.share, spec.seating)[which]
            _check_slot(own, other, (at, width, depth, end))
            notches += [(partner.id, outline) for outline in _slot(own, at, width, depth, spec.joint)]
            middles.append(own.frame.point(at, (begin + depth) / 2))
        matings.append(_mating(spec, own, other.partner, width, middles[len(middles) // 2]))
    return JointCut(tuple(notches), tuple(matings), _meetings(spec, a, b))


def _mating(spec: LapSpec, own: Slots, other: Partner, width: float, middle: Point) -> Mating:
    return Mating(
        joint=spec.joint,
        kind="cross-lap",
        fit=spec.fit,
        opening_part=own.partner.id,
        insert_part=other.id,
        opening=width,
        insert=width - spec.clearance,
        tightest=width - slot_width(other.thickest, own.partner.thickest, 0.0, spec.angle),
        opening_at=Gauge(own.partner.id, middle, own.frame.along),
        insert_at=None,
    )


def _meetings(spec: LapSpec, a: Slots, b: Slots) -> tuple[Meeting, ...]:
    """Every slot of A with every slot of B: B comes in by A's mouth until its own lies level with A's far edge."""
    turn = cmath.rect(1, math.radians(spec.angle))
    return tuple(
        Meeting(spec.joint, _slot_axes(i, a), _crossing_axes(j, a, b, turn))
        for i in range(len(a.at))
        for j in range(len(b.at))
    )


def _slot_axes(index: int, own: Slots) -> Contact:
    frame, at_slot = own.frame, own.at[index]
    origin = at_height(frame.point(at_slot, own.material(at_slot)[1]), own.partner.thickness / 2)
    axes = in_plane(frame.along), in_plane(frame.inward), upward(1)
    return Contact(own.partner.id, Hold("slot", own.side, round(at_slot, 3)), origin, axes)


def _crossing_axes(index: int, a: Slots, b: Slots, turn: complex) -> Contact:
    """A's axes as they lie in B: B is turned about the slot by the angle between the planes."""
    frame, at_slot = b.frame, b.at[index]
    same = -hand(a.frame) * hand(frame)
    along, out = in_plane(frame.along), turn.imag
    first = (along[0] * turn.real, along[1] * turn.real, out)
    third = (-along[0] * out * same, -along[1] * out * same, turn.real * same)
    origin = at_height(frame.point(at_slot, b.material(at_slot)[0]), b.partner.thickness / 2)
    return Contact(
        b.partner.id, Hold("slot", b.side, round(at_slot, 3)), origin, (first, in_plane(-frame.inward), third)
    )


def _slot(own: Slots, at: float, width: float, depth: float, joint: str) -> list[Outline]:
    span = at - width / 2, at + width / 2
    reliefs = notch_reliefs(own.partner.relief, own.frame, *span, depth, joint)
    return [own.frame.notch(*span, depth, joint, "slot"), *reliefs]


def _check(spec: LapSpec, a: Slots, b: Slots) -> None:
    if a.partner.id == b.partner.id:
        raise CannotJoin(f"{a.partner.name} cannot cross itself; pick two parts")
    if not 0 < spec.share < 1:
        raise CannotJoin(
            f"A share of {spec.share:g} leaves one part uncut; it lies between 0 and 1", "share", "1/2", "Halve it"
        )
    if not 10 <= spec.angle <= 170:
        raise CannotJoin(
            f"At {spec.angle:g} degrees the parts lie almost in one plane and cannot cross; 10 to 170 can be cut",
            "angle",
            "90",
            "Cross squarely",
        )
    if a.side == b.side:
        opposite = {"top": "bottom", "bottom": "top", "left": "right", "right": "left"}[b.side]
        raise CannotJoin(
            f"Both slots open at the {a.side}, so {a.partner.name} and {b.partner.name} cannot slide together",
            "b.side",
            opposite,
            f"Open {b.partner.name} at the {opposite}",
        )


def _check_slot(own: Slots, other: Slots, slot: tuple[float, float, float, float]) -> None:
    """``slot``: its middle along the side, its width, how deep it goes, and where the part ends (mm)."""
    at, width, depth, end = slot
    name, length = own.partner.name, own.frame.length
    if at - width / 2 <= 0 or at + width / 2 >= length:
        raise CannotJoin(
            f"The slot in {name} at {at:.2f} mm is {width:.2f} mm wide and leaves the part, "
            f"which is {length:.2f} mm long there; {other.partner.name} cannot meet it"
        )
    if width <= own.partner.kerf:
        raise CannotJoin(
            f"The slot in {name} is {width:.2f} mm wide, not wider than the kerf of {own.partner.kerf:.2f} mm"
        )
    if end - depth <= 0:
        raise CannotJoin(
            f"The slot in {name} is {depth:.2f} mm deep and cuts it in two",
            "share",
            "1/2",
            "Halve it",
            Change("seating", "0", "Seat them without allowance"),
        )
