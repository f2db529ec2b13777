"""Inside corners that a round cutter leaves, and the reliefs that let a square insert seat."""

from __future__ import annotations

import math
from dataclasses import replace

from ..document.sizes import positive, shown
from .given import Given
from .partner import Partner
from .relief import ROOM, Relief

#: A corner that keeps less than this (mm) of its material lets an insert seat.
SEATS = 0.1


def relieved(given: Given, partner: Partner | None) -> Partner | None:
    """The partner with the relief that the joint asks for, at least as large as its own cutter."""
    wanted = given.joint.relief_wanted()
    if partner is None or wanted is None or wanted[0] == "none":
        return partner
    kind, typed = wanted
    cutter = given.size("cutter", typed, "Cutter", given.names(partner), positive)
    return replace(partner, relief=Relief(kind, max(cutter or 0.0, partner.kerf) / 2 + ROOM))


def check_seat(given: Given, *partners: Partner | None) -> None:
    """Warns where a round cutter leaves so much in the corners that a square insert cannot seat."""
    if given.joint.relief_wanted() is None:
        return
    for partner in partners:
        if partner is None or partner.relief is not None:
            continue
        left = partner.kerf / 2 * (math.sqrt(2) - 1)
        if left > SEATS:
            given.warn(
                "cannot-seat",
                f"The inside corners in {partner.name} keep a radius of {shown(partner.kerf / 2)}, "
                f"so its partner cannot seat: {shown(left)} are left in each corner",
                "relief",
                given.set("Cut dog-bones", "relief", "dog-bone"),
            )
            return
