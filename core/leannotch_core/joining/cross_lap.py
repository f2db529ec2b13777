"""Cross-laps read from a document."""

from __future__ import annotations

from ..document import CrossLap, SlotAt
from ..joints.cross_lap import Slots, cut_cross_lap
from ..joints.fit import JointCut
from ..joints.partner import Partner
from .given import Given


def cross_lap(given: Given, joint: CrossLap, a: Partner | None, b: Partner | None) -> JointCut | None:
    slots = [_slots(given, which, slot, on) for which, slot, on in (("a", joint.a, a), ("b", joint.b, b))]
    share = given.number("share", joint.share, "Share")
    angle = given.number("angle", joint.angle, "Angle")
    seating = given.size("seating", joint.seating, "Seating allowance")
    first, second = slots
    if first is None or second is None or share is None or angle is None or seating is None:
        return None
    fit, clearance = given.fit()
    return cut_cross_lap(joint.id, first, second, share, seating, angle, fit, clearance)


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
