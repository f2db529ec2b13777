"""Parts that cross, each slotted part of the way."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, Self

from ...document.sizes import Size
from ..ends import SlotAt
from ..family import Family, SeatedFamily
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint
from ..partner import Partner
from ..picked import Picked
from .cut import LapSpec, Slots, cut_cross_lap


class CrossLap(SeatedFamily):
    """Two parts that cross, each slotted part of the way; with several slots a grid of their copies."""

    kind: Literal["cross-lap"] = "cross-lap"
    a: SlotAt
    b: SlotAt
    share: Size = Size(text="1/2")
    seating: Size = Size(text="0")
    angle: Size = Size(text="90")

    @property
    def openings(self) -> int:
        return self.a.all_slots + self.b.all_slots

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        middle = Size(text="width/2")
        ends = SlotAt(part=a.part, side="top", at=middle), SlotAt(part=b.part, side="bottom", at=middle)
        return cls(id=joint_id, a=ends[0], b=ends[1])

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        slots = [_slots(given, which, slot, on) for which, slot, on in (("a", self.a, a), ("b", self.b, b))]
        share = given.number("share", self.share, "Share")
        angle = given.number("angle", self.angle, "Angle")
        seating = given.size("seating", self.seating, "Seating allowance")
        first, second = slots
        if first is None or second is None or share is None or angle is None or seating is None:
            return None
        fit, clearance = given.fit()
        spec = LapSpec(joint=self.id, share=share, seating=seating, angle=angle, fit=fit, clearance=clearance)
        return cut_cross_lap(spec, first, second)


def _slots(given: Given, which: str, slot: SlotAt, on: Partner | None) -> Slots | None:
    if on is None:
        return None
    names = given.names(on)
    at = given.size(f"{which}.at", slot.at, f"Slot in {on.name}", names)
    step = given.size(f"{which}.step", slot.step, f"Step in {on.name}", names) if slot.slots > 1 else 0.0
    if at is None or step is None:
        return None
    beyond = on.beyond[0] if slot.side in ("bottom", "top") else on.beyond[1]
    evenly = [at + i * step for i in range(slot.slots)]
    also = [
        given.size(f"{which}.also_at/{i}", size, f"Slot in {on.name}", names) for i, size in enumerate(slot.also_at)
    ]
    return Slots(on, slot.side, tuple(beyond + place for place in (*evenly, *also) if place is not None))
