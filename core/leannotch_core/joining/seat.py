"""Inside corners that a round cutter leaves, and the reliefs that let a square insert seat."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TypeGuard

from ..document import CaptiveNut, CrossLap, FingerJoint, Housing, Joint, Splice, TabAndSlot
from ..findings import Mend
from ..joints.partner import Partner
from ..joints.relief import ROOM, Relief
from ..sizes import positive, shown
from .given import Given

#: A corner that keeps less than this (mm) of its material lets an insert seat.
SEATS = 0.1


def relieved(given: Given, partner: Partner | None) -> Partner | None:
    """The partner with the relief that the joint asks for, at least as large as its own cutter."""
    joint = given.joint
    if partner is None or not _has_square_openings(joint) or joint.relief == "none":
        return partner
    cutter = given.size("cutter", joint.cutter, "Cutter", given.names(partner), positive)
    radius = max(cutter or 0.0, partner.kerf) / 2 + ROOM
    return replace(partner, relief=Relief(joint.relief, radius))


def check_seat(given: Given, *partners: Partner | None) -> None:
    """Warns where a round cutter leaves so much in the corners that a square insert cannot seat."""
    for partner in partners:
        if partner is None or partner.relief is not None or not _has_square_openings(given.joint):
            continue
        left = partner.kerf / 2 * (math.sqrt(2) - 1)
        if left > SEATS:
            given.warn(
                f"The inside corners in {partner.name} keep a radius of {shown(partner.kerf / 2)}, "
                f"so its partner cannot seat: {shown(left)} are left in each corner",
                "relief",
                Mend(label="Cut dog-bones", field="relief", value="dog-bone"),
            )
            return


def _has_square_openings(joint: Joint) -> TypeGuard[FingerJoint | TabAndSlot | CrossLap | CaptiveNut | Housing]:
    """Whether a joint cuts openings with inside corners that a square insert has to seat in."""
    return not isinstance(joint, Splice) and not (isinstance(joint, Housing) and joint.groove is None)
