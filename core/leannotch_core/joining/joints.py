"""All joints of a project, one after the other."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..document import CaptiveNut, CrossLap, FingerJoint, Housing, Project, Splice, TabAndSlot
from ..findings import Mend, Place
from ..geometry.loop import Outline
from ..joints.fit import CannotJoin, JointCut, Mating, Pocket
from ..joints.meeting import Meeting
from ..joints.partner import Partner
from ..reading import Reader
from ..sizes import shown
from ..stock import StockFacts
from .captive_nut import captive_nuts
from .corners import check_corners
from .cross_lap import cross_lap
from .finger import fingers
from .given import Given, changed
from .housing import housing
from .seat import check_seat, relieved
from .splice import splice
from .tab_and_slot import tabs


@dataclass(slots=True)
class Joined:
    """What all joints together take from each part, and every pair that mates."""

    notches: dict[str, list[Outline]] = field(default_factory=lambda: defaultdict(list))
    pockets: dict[str, list[Pocket]] = field(default_factory=lambda: defaultdict(list))
    ledger: list[Mating] = field(default_factory=list)
    meetings: list[Meeting] = field(default_factory=list)

    def add(self, cut: JointCut) -> None:
        for part, notch in cut.notches:
            self.notches[part].append(notch)
        for part, pocket in cut.pockets:
            self.pockets[part].append(pocket)
        self.ledger.extend(cut.matings)
        self.meetings.extend(cut.meetings)


def cut_joints(
    project: Project, reader: Reader, partners: Mapping[str, Partner], stocks: Mapping[str, StockFacts]
) -> Joined:
    """Cuts every joint that can be cut; ``stocks`` has the stock of each part by the part's id."""
    joined = Joined()
    # Captive nuts come last: tabs or fingers beside them tell where the other part's face lies.
    for joint in sorted(project.joints, key=lambda joint: joint.kind == "captive-nut"):
        given = Given(joint, project, reader, partners, stocks)
        try:
            cut = _cut(given)
        except CannotJoin as refusal:
            given.warn(f"{refusal}. The joint is left out.", refusal.field, _mend(given, refusal))
            continue
        if cut:
            joined.add(cut)
            _check_fit(given, cut)
    check_corners(project, reader)
    return joined


def _cut(given: Given) -> JointCut | None:
    """None where a size cannot be read or a part cannot be built. Raises `CannotJoin`."""
    joint = given.joint
    a, b = (relieved(given, given.partner(end.part)) for end in (joint.a, joint.b))
    check_seat(given, a, b)
    match joint:
        case FingerJoint():
            return fingers(given, joint, a, b)
        case TabAndSlot():
            return tabs(given, joint, a, b)
        case CrossLap():
            return cross_lap(given, joint, a, b)
        case Splice():
            return splice(given, joint, a, b)
        case CaptiveNut():
            return captive_nuts(given, joint, a, b)
        case Housing():
            return housing(given, joint, a, b)


def _mend(given: Given, refusal: CannotJoin) -> Mend | None:
    """The first mend of a refusal that gets further: one after which the joint is refused likewise is none."""
    for change in refusal.mends:
        unheard = Reader()
        unheard.names = given.reader.names
        try:
            _cut(replace(given, joint=changed(given.joint, change), reader=unheard))
        except CannotJoin as again:
            if again.field == refusal.field:
                continue
        return Mend(label=change.label, field=change.field, value=change.value)
    return None


def _check_fit(given: Given, cut: JointCut) -> None:
    """Warns where the mean goes in with clearance and the thickest reading does not."""
    for mating in cut.matings:
        if mating.gap >= 0 > mating.tightest:
            own, other = given.partners[mating.opening_part], given.partners[mating.insert_part]
            at = mating.opening_at.point
            given.reader.warn(
                f"The thickest reading of {other.name} is {shown(-mating.tightest)} too thick for its "
                f"{shown(mating.opening)} slot in {own.name}",
                Place(kind="joint", id=given.joint.id, part=own.id, x=at.real, y=at.imag, field="fit"),
            )
