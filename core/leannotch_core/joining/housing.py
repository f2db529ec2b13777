"""Housings read from a document."""

from __future__ import annotations

from ..document import Housing
from ..joints.fit import JointCut
from ..joints.housing import HousingSpec, cut_housing
from ..joints.partner import Partner
from ..sizes import positive
from .given import Given


def housing(given: Given, joint: Housing, a: Partner | None, b: Partner | None) -> JointCut | None:
    room = given.size("room", joint.room, "Room for the edge")
    if a is None or b is None or room is None:
        return None
    line = given.line(joint.b, b)
    groove = None
    if joint.groove is not None:
        groove = given.size("groove", joint.groove, "Groove depth", given.names(b), positive)
    if line is None or (groove is None) != (joint.groove is None):
        return None
    starts, along = line
    fit, clearance = given.fit()
    return cut_housing(HousingSpec(joint.id, joint.a.side, starts, along, groove, room, fit, clearance), a, b)
