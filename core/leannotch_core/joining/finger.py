"""Finger joints read from a document."""

from __future__ import annotations

from ..document import FingerJoint
from ..findings import Mend
from ..joints.finger import FingerSpec, cut_fingers, finger_count
from ..joints.fit import JointCut
from ..joints.partner import Partner
from ..sizes import positive, shown
from .given import Given


def fingers(given: Given, joint: FingerJoint, a: Partner | None, b: Partner | None) -> JointCut | None:
    finger = given.size("finger", joint.finger, "Finger width", reader=positive)
    start = given.size("inset_start", joint.inset_start, "Inset at the start")
    end = given.size("inset_end", joint.inset_end, "Inset at the end")
    proud = given.size("proud", joint.proud, "Proud")
    if a is None or b is None or finger is None or start is None or end is None or proud is None:
        return None
    ends = a.frame(joint.a.side).length, b.frame(joint.b.side).length
    longer = a if ends[0] > ends[1] else b
    shift = given.size("shift", joint.shift, f"Beginning on {longer.name}", given.names(longer))
    if shift is None:
        return None
    _check_lengths(given, joint, a, b, ends, shift)
    shared = min(ends) - start - end
    count = joint.count or finger_count(max(shared, 0.001), finger)
    if joint.count is None:
        _check_three(given, joint, a, b, shared, finger, count)
    elif joint.count % 2 == 0:
        count = joint.count + 1
        given.warn(
            f"{joint.count} fingers would end with another part than they began with; {count} are cut",
            "count",
            Mend(label=f"Make it {count}", field="count", value=f"{count}"),
        )
    fit, clearance = given.fit()
    spec = FingerSpec(
        joint.id, joint.a.side, joint.b.side, count, joint.starts, (start, end), proud, shift, fit, clearance
    )
    return cut_fingers(spec, a, b)


def _check_lengths(
    given: Given, joint: FingerJoint, a: Partner, b: Partner, lengths: tuple[float, float], shift: float
) -> None:
    if abs(lengths[0] - lengths[1]) <= 1e-6 or _made_together(given, joint):
        return
    longer = a if lengths[0] > lengths[1] else b
    given.note(
        f"{a.name} is {shown(lengths[0])} long at this joint and {b.name} {shown(lengths[1])}; the fingers run "
        f"over the {shown(min(lengths))} they share, from {shown(shift)} along {longer.name}",
        "shift",
    )


def _made_together(given: Given, joint: FingerJoint) -> bool:
    """Whether one starter made both parts: where their edges differ in length, it meant to."""
    a, b = given.project.part(joint.a.part), given.project.part(joint.b.part)
    return bool(a and b and a.starter and a.starter == b.starter)


def _check_three(
    given: Given, joint: FingerJoint, a: Partner, b: Partner, shared: float, finger: float, count: int
) -> None:
    if shared <= 0 or shared / count >= finger * 2 / 3 - 1e-9:
        return
    third = shared / 3
    given.warn(
        f"{shown(shared)} between {a.name} and {b.name} is too short for three fingers of {shown(finger)}; "
        f"three of {shown(third)} are cut",
        "finger",
        Mend(label=f"Make them {third:.2f} mm", field="finger", value=f"{third:.4f}"),
    )
