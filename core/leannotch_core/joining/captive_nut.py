"""Captive nuts read from a document."""

from __future__ import annotations

import math

from ..document import CaptiveNut, FingerJoint, TabAndSlot
from ..joints.captive_nut import BEARS, NutSpec, cut_captive_nuts, screw_places
from ..joints.fit import JointCut
from ..joints.hardware import SCREWS
from ..joints.partner import Partner
from ..joints.tab_and_slot import tab_spans
from ..sizes import positive, shown
from .given import Given


def captive_nuts(given: Given, joint: CaptiveNut, a: Partner | None, b: Partner | None) -> JointCut | None:
    length_of_screw = given.size("screw", joint.screw, "Length of the screw", reader=positive)
    inset = given.size("inset", joint.inset, "Inset of the outer screws")
    if a is None or b is None or length_of_screw is None or inset is None:
        return None
    line = given.line(joint.b, b)
    if line is None:
        return None
    starts, along = line
    fit, clearance = given.fit()
    _check_screw(given, joint, a, clearance)
    spec = NutSpec(
        joint.id,
        joint.a.side,
        starts,
        along,
        joint.thread,
        length_of_screw,
        joint.screws,
        inset,
        _stand_off(given, joint, a, b, inset),
        fit,
        clearance,
    )
    return cut_captive_nuts(spec, a, b)


def _check_screw(given: Given, joint: CaptiveNut, edged: Partner, clearance: float) -> None:
    screw = SCREWS[joint.thread]
    wing = (screw.flats + clearance - screw.hole) / 2
    # A dog-bone reaches in by its radius and by its centre's share of it along the diagonal.
    taken = edged.relief.radius * (1 + math.sqrt(0.5)) if edged.relief else 0.0
    if taken > wing * (1 - BEARS):
        given.warn(
            f"The reliefs for a {joint.thread} nut in {edged.name} take {shown(taken)} of the {shown(wing)} that "
            "it bears on beside its screw; use a larger thread or a smaller cutter",
            "relief",
        )
    over = SCREWS[joint.thread].diameter - edged.thickness
    if over > 1e-9:
        given.warn(
            f"An {joint.thread} screw stands {shown(over)} out of {edged.name}, which is "
            f"{shown(edged.thickness)} thick; use a smaller thread",
            "thread",
        )


def _stand_off(given: Given, joint: CaptiveNut, a: Partner, b: Partner, inset: float) -> float:
    """How far inside the drawn edge the other part's near face lies: tabs or fingers beside the screws tell."""
    for other in given.project.joints:
        if isinstance(other, TabAndSlot) and other.a == joint.a and other.b.part == joint.b.part:
            _check_beside_tabs(given, joint, other, a, inset)
            if other.pocket is not None:
                return given.reader.values.get(f"joints/{other.id}/pocket", 0.0)
            return b.thickness + given.reader.values.get(f"joints/{other.id}/proud", 0.0)
        corner = isinstance(other, FingerJoint) and joint.a in (other.a, other.b)
        if corner and joint.b.part in (other.a.part, other.b.part):
            return b.thickness + given.reader.values.get(f"joints/{other.id}/proud", 0.0)
    return 0.0


def _check_beside_tabs(given: Given, joint: CaptiveNut, tabs: TabAndSlot, a: Partner, inset: float) -> None:
    width, tab_inset = (given.reader.values.get(f"joints/{tabs.id}/{name}") for name in ("width", "inset"))
    if width is None or tab_inset is None:
        return
    along, half = a.frame(joint.a.side).length, SCREWS[joint.thread].hole / 2
    spans = tab_spans(along, tabs.tabs, width, tab_inset)
    for at in screw_places(along, joint.screws, inset):
        if any(low - half < at < high + half for low, high in spans):
            given.warn(
                f"The screw at {shown(at)} along {a.name} meets a tab; move it between the tabs",
                "inset",
            )
            return
