"""All joints of a project, each cut by its family."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import partial

from ..document.edit import with_value
from ..document.sizes import shown
from ..facts.findings import Mend, Place
from ..facts.reading import Reader
from ..geometry.loop import Outline
from ..parts.pocket import Pocket
from ..step import Step
from .bearing import EATS, with_bearing
from .family import Family
from .finger.corners import check_corners
from .fit import CannotJoin, JointCut, Mating
from .given import Given, Parties
from .meeting import Meeting
from .relief import ReliefKind
from .seat import check_seat, relieved


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


def cut_joints(joints: Sequence[Family], parties: Parties, reader: Reader) -> Joined:
    """Cuts every joint that can be cut."""
    joined = Joined()
    between: dict[frozenset[str], list[Family]] = defaultdict(list)
    for joint in joints:
        between[frozenset(joint.parts)].append(joint)
    for joint in joints:
        beside = tuple(other for other in between[frozenset(joint.parts)] if other is not joint)
        given = Given(joint, parties, reader)
        cut = _CUT.of(joint, (beside, *_known(given)), reader, partial(_cut_or_left_out, joint, given, beside))
        if cut:
            joined.add(cut)
    check_corners(joints, parties.names, reader)
    return joined


_CUT = Step[JointCut | None]()


def _known(given: Given) -> tuple[object, ...]:
    """Everything of the parties that the cut of a joint depends on."""
    parties = given.parties
    return parties.fit, *(
        (parties.names.get(part), parties.partners.get(part), parties.stocks.get(part)) for part in given.joint.parts
    )


def _cut_or_left_out(joint: Family, given: Given, beside: Sequence[Family], reader: Reader) -> JointCut | None:
    """What a joint takes; None, with what is in the way, where it cannot be cut."""
    given = replace(given, reader=reader)
    try:
        cut = _cut(joint, given, beside)
    except CannotJoin as refusal:
        found = _mend(joint, given, beside, refusal)
        text = f"{refusal}. The joint is left out."
        given.warn("joint-left-out", text, refusal.field, *([found] if found else []))
        return None
    if cut:
        _check_fit(given, cut)
    return cut


def _cut(joint: Family, given: Given, beside: Sequence[Family], offers: bool = True) -> JointCut | None:
    """None where a size cannot be read or a part cannot be built. Raises `CannotJoin`.

    ``offers`` is whether it is looked for what else might hold better.
    """
    a, b = (relieved(given, given.partner(part)) for part in joint.parts)
    check_seat(given, a, b)
    cut = joint.cut(given, a, b, beside)

    def bears(kind: ReliefKind) -> bool:
        changed: Family = with_value(joint, ["relief"], kind)
        unheard = replace(given, joint=changed, reader=Reader(given.reader.names))
        _cut(changed, unheard, beside, offers=False)
        return all(finding.code != EATS for finding in unheard.reader.findings)

    partners = [partner for partner in (a, b) if partner]
    return with_bearing(given, cut, partners, bears if offers else lambda _: False) if cut else None


def _mend(joint: Family, given: Given, beside: Sequence[Family], refusal: CannotJoin) -> Mend | None:
    """The first mend of a refusal that gets further: one after which the joint is refused likewise is none."""
    for change in refusal.mends:
        changed: Family = with_value(joint, change.path, change.value)
        try:
            _cut(changed, replace(given, joint=changed, reader=Reader(given.reader.names)), beside)
        except CannotJoin as again:
            if again.field == refusal.field:
                continue
        return given.set(change.label, change.field, change.value)
    return None


def _check_fit(given: Given, cut: JointCut) -> None:
    """Warns where the mean goes in with clearance and the thickest reading does not."""
    for mating in cut.matings:
        if mating.gap >= 0 > mating.tightest:
            partners = given.parties.partners
            own, other = partners[mating.opening_part], partners[mating.insert_part]
            at = mating.opening_at.point
            given.reader.warn(
                "thickest-too-thick",
                f"The thickest reading of {other.name} is {shown(-mating.tightest)} too thick for its "
                f"{shown(mating.opening)} slot in {own.name}",
                Place(kind="joint", id=given.joint.id, part=own.id, x=at.real, y=at.imag, field="fit"),
            )
