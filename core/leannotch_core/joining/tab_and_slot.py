"""Tabs and slots read from a document."""

from __future__ import annotations

from ..document import TabAndSlot
from ..joints.fit import JointCut
from ..joints.partner import Partner
from ..joints.tab_and_slot import TabSpec, cut_tabs
from ..sizes import positive
from .given import Given


def tabs(given: Given, joint: TabAndSlot, a: Partner | None, b: Partner | None) -> JointCut | None:
    width = given.size("width", joint.width, "Tab width", reader=positive)
    inset = given.size("inset", joint.inset, "Inset of the outer tabs")
    proud = given.size("proud", joint.proud, "Proud")
    if a is None or b is None or width is None or inset is None or proud is None:
        return None
    line = given.line(joint.b, b)
    if line is None:
        return None
    pocket = None
    if joint.pocket is not None:
        pocket = given.size("pocket", joint.pocket, "Pocket depth", given.names(b), positive)
        if pocket is None:
            return None
    starts, along = line
    fit, clearance = given.fit()
    spec = TabSpec(joint.id, joint.a.side, starts, along, joint.tabs, width, inset, proud, pocket, fit, clearance)
    return cut_tabs(spec, a, b)
