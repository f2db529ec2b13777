"""Joints of a document, read and cut: from what was typed to notches, ledger rows and findings."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TypeGuard

from .document import (
    CaptiveNut,
    CrossLap,
    FaceLine,
    FingerJoint,
    Fit,
    Housing,
    Joint,
    Project,
    Side,
    SlotAt,
    Splice,
    TabAndSlot,
)
from .findings import Mend, Place
from .geometry.loop import Outline
from .geometry.segment import move
from .joints.captive_nut import BEARS, NutSpec, cut_captive_nuts, screw_places
from .joints.cross_lap import Slots, cut_cross_lap
from .joints.finger import FingerSpec, cut_fingers, finger_count
from .joints.fit import CannotJoin, JointCut, Mating, Pocket
from .joints.hardware import SCREWS
from .joints.housing import HousingSpec, cut_housing
from .joints.meeting import Meeting
from .joints.partner import Partner
from .joints.relief import ROOM, Relief
from .joints.splice import SpliceSpec, cut_splice
from .joints.tab_and_slot import TabSpec, cut_tabs, tab_spans
from .reading import Names, Reader
from .sizes import Size, length, positive, shown
from .stock import StockFacts

#: A corner that keeps less than this (mm) of its material lets an insert seat.
SEATS = 0.1


@dataclass(slots=True)
class Joined:
    """What all joints together take from each part, and every pair that mates."""

    notches: dict[str, list[Outline]] = field(default_factory=lambda: defaultdict(list))
    pockets: dict[str, list[Pocket]] = field(default_factory=lambda: defaultdict(list))
    ledger: list[Mating] = field(default_factory=list)
    meetings: list[Meeting] = field(default_factory=list)


def cut_joints(
    project: Project, reader: Reader, partners: Mapping[str, Partner], stocks: Mapping[str, StockFacts]
) -> Joined:
    """Cuts every joint that can be cut; ``stocks`` has the stock of each part by the part's id."""
    joining = _Joining(project, reader, partners, stocks)
    joined = Joined()
    # Captive nuts come last: tabs or fingers beside them tell where the other part's face lies.
    for joint in sorted(project.joints, key=lambda joint: joint.kind == "captive-nut"):
        try:
            cut = joining.cut(joint)
        except CannotJoin as refusal:
            mend = Mend(label=refusal.mend, field=refusal.field, value=refusal.value) if refusal.field else None
            reader.warn(f"{refusal}. The joint is left out.", _place(joint, refusal.field), mend)
            continue
        if cut is None:
            continue
        for part, notch in cut.notches:
            joined.notches[part].append(notch)
        for part, pocket in cut.pockets:
            joined.pockets[part].append(pocket)
        joined.ledger.extend(cut.matings)
        joined.meetings.extend(cut.meetings)
        joining.check_fit(joint, cut)
    joining.check_corners()
    return joined


def _place(joint: Joint, field_name: str = "") -> Place:
    return Place(kind="joint", id=joint.id, part=joint.a.part, field=field_name)


class _Joining:
    def __init__(
        self, project: Project, reader: Reader, partners: Mapping[str, Partner], stocks: Mapping[str, StockFacts]
    ) -> None:
        self._project, self._reader, self._partners, self._stocks = project, reader, partners, stocks

    def cut(self, joint: Joint) -> JointCut | None:
        """None where a size cannot be read or a part cannot be built. Raises `CannotJoin`."""
        a, b = (self._relieved(joint, self._partner(joint, end.part)) for end in (joint.a, joint.b))
        self._check_seat(joint, a, b)
        match joint:
            case FingerJoint():
                return self._finger(joint, a, b)
            case TabAndSlot():
                return self._tabs(joint, a, b)
            case CrossLap():
                return self._cross_lap(joint, a, b)
            case Splice():
                return self._splice(joint, a, b)
            case CaptiveNut():
                return self._captive_nuts(joint, a, b)
            case Housing():
                return self._housing(joint, a, b)

    def _partner(self, joint: Joint, part_id: str) -> Partner | None:
        if self._project.part(part_id) is None:
            self._reader.error(f"A joint names the part “{part_id}”, which is not there", _place(joint))
        return self._partners.get(part_id)

    def _relieved(self, joint: Joint, partner: Partner | None) -> Partner | None:
        """The partner with the relief that the joint asks for, at least as large as its own cutter."""
        if partner is None or not _has_square_openings(joint) or joint.relief == "none":
            return partner
        cutter = self._size(joint, "cutter", joint.cutter, "Cutter", self._names(partner), positive)
        radius = max(cutter or 0.0, partner.kerf) / 2 + ROOM
        return replace(partner, relief=Relief(joint.relief, radius))

    def _check_seat(self, joint: Joint, *partners: Partner | None) -> None:
        """Notes where a round cutter leaves so much in the corners that a square insert cannot seat."""
        for partner in partners:
            if partner is None or partner.relief is not None or not _has_square_openings(joint):
                continue
            left = partner.kerf / 2 * (math.sqrt(2) - 1)
            if left > SEATS:
                self._reader.warn(
                    f"The inside corners in {partner.name} keep a radius of {shown(partner.kerf / 2)}, "
                    f"so its partner cannot seat: {shown(left)} are left in each corner",
                    _place(joint, "relief"),
                    Mend(label="Cut dog-bones", field="relief", value="dog-bone"),
                )
                return

    def _fit(self, joint: Joint) -> tuple[Fit, float]:
        """The fit class and its clearance; of two stocks the one that gives more room decides."""
        fit = joint.fit or self._project.fit
        return fit, max(self._stocks[end.part].clearance[fit] for end in (joint.a, joint.b))

    def _size(
        self,
        joint: Joint,
        field_name: str,
        size: Size,
        called: str,
        names: Names | None = None,
        reader: Callable[[Size, Names], float] = length,
    ) -> float | None:
        path = f"joints/{joint.id}/{field_name}"
        return self._reader.size(path, size, names or self._reader.names, _place(joint, field_name), reader, called)

    def _number(self, joint: Joint, field_name: str, size: Size, called: str) -> float | None:
        return self._reader.number(f"joints/{joint.id}/{field_name}", size, _place(joint, field_name), called)

    def _names(self, partner: Partner) -> Names:
        own = {"width": partner.width, "height": partner.height, "thickness": partner.thickness, "kerf": partner.kerf}
        return {**self._reader.names, **own}

    # Finger joints

    def _finger(self, joint: FingerJoint, a: Partner | None, b: Partner | None) -> JointCut | None:
        finger = self._size(joint, "finger", joint.finger, "Finger width", reader=positive)
        start = self._size(joint, "inset_start", joint.inset_start, "Inset at the start")
        end = self._size(joint, "inset_end", joint.inset_end, "Inset at the end")
        proud = self._size(joint, "proud", joint.proud, "Proud")
        if a is None or b is None or finger is None or start is None or end is None or proud is None:
            return None
        ends = a.frame(joint.a.side).length, b.frame(joint.b.side).length
        longer = a if ends[0] > ends[1] else b
        shift = self._size(joint, "shift", joint.shift, f"Beginning on {longer.name}", self._names(longer))
        if shift is None:
            return None
        self._check_lengths(joint, a, b, ends, shift)
        shared = min(ends) - start - end
        count = joint.count or finger_count(max(shared, 0.001), finger)
        if joint.count is None:
            self._check_three(joint, a, b, shared, finger, count)
        elif joint.count % 2 == 0:
            count = joint.count + 1
            self._reader.warn(
                f"{joint.count} fingers would end with another part than they began with; {count} are cut",
                _place(joint, "count"),
            )
        fit, clearance = self._fit(joint)
        spec = FingerSpec(
            joint.id, joint.a.side, joint.b.side, count, joint.starts, (start, end), proud, shift, fit, clearance
        )
        return cut_fingers(spec, a, b)

    def _check_lengths(
        self, joint: FingerJoint, a: Partner, b: Partner, lengths: tuple[float, float], shift: float
    ) -> None:
        if abs(lengths[0] - lengths[1]) <= 1e-6 or self._made_together(joint):
            return
        longer = a if lengths[0] > lengths[1] else b
        self._reader.note(
            f"{a.name} is {shown(lengths[0])} long at this joint and {b.name} {shown(lengths[1])}; the fingers run "
            f"over the {shown(min(lengths))} they share, from {shown(shift)} along {longer.name}",
            _place(joint, "shift"),
        )

    def _made_together(self, joint: FingerJoint) -> bool:
        """Whether one starter made both parts: where their edges differ in length, it meant to."""
        a, b = self._project.part(joint.a.part), self._project.part(joint.b.part)
        return bool(a and b and a.starter and a.starter == b.starter)

    def _check_three(
        self, joint: FingerJoint, a: Partner, b: Partner, shared: float, finger: float, count: int
    ) -> None:
        if shared <= 0 or shared / count >= finger * 2 / 3 - 1e-9:
            return
        third = shared / 3
        self._reader.warn(
            f"{shown(shared)} between {a.name} and {b.name} is too short for three fingers of {shown(finger)}; "
            f"three of {shown(third)} are cut",
            _place(joint, "finger"),
            Mend(label=f"Make them {third:.2f} mm", field="finger", value=f"{third:.4f}"),
        )

    def check_corners(self) -> None:
        """Where three parts meet in a corner, each starting against the next, none of them fills it."""
        starter: dict[tuple[str, str], list[FingerJoint]] = defaultdict(list)
        for joint in self._project.joints:
            if isinstance(joint, FingerJoint):
                ends = (joint.a, joint.b) if joint.starts == "a" else (joint.b, joint.a)
                starter[ends[0].part, ends[1].part].append(joint)
        told: set[frozenset[str]] = set()
        for first, second in list(starter):
            for third in [b for a, b in starter if a == second]:
                corner = frozenset((first, second, third))
                if len(corner) < 3 or corner in told or (third, first) not in starter:
                    continue
                joint = starter[third, first][0]
                if not _share_a_corner(joint, starter[first, second], starter[second, third]):
                    continue
                told.add(corner)
                self._tell_empty_corner(joint, first, second, third)

    def _tell_empty_corner(self, joint: FingerJoint, first: str, second: str, third: str) -> None:
        names = [part.name if (part := self._project.part(p)) else p for p in (first, second, third)]
        other = "b" if joint.starts == "a" else "a"
        self._reader.warn(
            f"The corner of {names[0]}, {names[1]} and {names[2]} stays empty: each starts against the next",
            _place(joint, "starts"),
            Mend(label=f"Let {names[0]} start against {names[2]}", field="starts", value=other),
        )

    # Tabs and slots

    def _tabs(self, joint: TabAndSlot, a: Partner | None, b: Partner | None) -> JointCut | None:
        width = self._size(joint, "width", joint.width, "Tab width", reader=positive)
        inset = self._size(joint, "inset", joint.inset, "Inset of the outer tabs")
        proud = self._size(joint, "proud", joint.proud, "Proud")
        if a is None or b is None or width is None or inset is None or proud is None:
            return None
        line = self._line(joint, joint.b, b)
        if line is None:
            return None
        pocket = None
        if joint.pocket is not None:
            pocket = self._size(joint, "pocket", joint.pocket, "Pocket depth", self._names(b), positive)
            if pocket is None:
                return None
        starts, along = line
        fit, clearance = self._fit(joint)
        spec = TabSpec(joint.id, joint.a.side, starts, along, joint.tabs, width, inset, proud, pocket, fit, clearance)
        return cut_tabs(spec, a, b)

    def _line(
        self, joint: TabAndSlot | CaptiveNut | Housing, line: FaceLine, on: Partner
    ) -> tuple[tuple[complex, ...], complex] | None:
        names = self._names(on)
        x = self._size(joint, "b.x", line.x, f"Line on {on.name}, across", names)
        y = self._size(joint, "b.y", line.y, f"Line on {on.name}, up", names)
        step = self._size(joint, "b.step", line.step, "Step between lines", names) if line.lines > 1 else 0.0
        turn = self._number(joint, "b.turn", line.turn, "Turn of the line")
        if x is None or y is None or step is None or turn is None:
            return None
        along = move(turn).turn
        evenly = [complex(x, y) + along * 1j * step * i for i in range(line.lines)]
        also = [
            self._size(joint, f"b.at_x/{i}", size, f"Line on {on.name}, across", names)
            for i, size in enumerate(line.at_x)
        ]
        return (*evenly, *(complex(place, y) for place in also if place is not None)), along

    # Housings

    def _housing(self, joint: Housing, a: Partner | None, b: Partner | None) -> JointCut | None:
        room = self._size(joint, "room", joint.room, "Room for the edge")
        if a is None or b is None or room is None:
            return None
        line = self._line(joint, joint.b, b)
        groove = None
        if joint.groove is not None:
            groove = self._size(joint, "groove", joint.groove, "Groove depth", self._names(b), positive)
        if line is None or (groove is None) != (joint.groove is None):
            return None
        starts, along = line
        fit, clearance = self._fit(joint)
        return cut_housing(HousingSpec(joint.id, joint.a.side, starts, along, groove, room, fit, clearance), a, b)

    # Captive nuts

    def _captive_nuts(self, joint: CaptiveNut, a: Partner | None, b: Partner | None) -> JointCut | None:
        length_of_screw = self._size(joint, "screw", joint.screw, "Length of the screw", reader=positive)
        inset = self._size(joint, "inset", joint.inset, "Inset of the outer screws")
        if a is None or b is None or length_of_screw is None or inset is None:
            return None
        line = self._line(joint, joint.b, b)
        if line is None:
            return None
        starts, along = line
        fit, clearance = self._fit(joint)
        self._check_screw(joint, a, clearance)
        spec = NutSpec(
            joint.id,
            joint.a.side,
            starts,
            along,
            joint.thread,
            length_of_screw,
            joint.screws,
            inset,
            self._stand_off(joint, a, b, inset),
            fit,
            clearance,
        )
        return cut_captive_nuts(spec, a, b)

    def _check_screw(self, joint: CaptiveNut, edged: Partner, clearance: float) -> None:
        screw = SCREWS[joint.thread]
        wing = (screw.flats + clearance - screw.hole) / 2
        # A dog-bone reaches in by its radius and by its centre's share of it along the diagonal.
        taken = edged.relief.radius * (1 + math.sqrt(0.5)) if edged.relief else 0.0
        if taken > wing * (1 - BEARS):
            self._reader.warn(
                f"The reliefs for a {joint.thread} nut in {edged.name} take {shown(taken)} of the {shown(wing)} that "
                "it bears on beside its screw; use a larger thread or a smaller cutter",
                _place(joint, "relief"),
            )
        over = SCREWS[joint.thread].diameter - edged.thickness
        if over > 1e-9:
            self._reader.warn(
                f"An {joint.thread} screw stands {shown(over)} out of {edged.name}, which is "
                f"{shown(edged.thickness)} thick; use a smaller thread",
                _place(joint, "thread"),
            )

    def _stand_off(self, joint: CaptiveNut, a: Partner, b: Partner, inset: float) -> float:
        """How far inside the drawn edge the other part's near face lies: tabs or fingers beside the screws tell."""
        for other in self._project.joints:
            if isinstance(other, TabAndSlot) and other.a == joint.a and other.b.part == joint.b.part:
                self._check_beside_tabs(joint, other, a, inset)
                if other.pocket is not None:
                    return self._reader.values.get(f"joints/{other.id}/pocket", 0.0)
                return b.thickness + self._reader.values.get(f"joints/{other.id}/proud", 0.0)
            corner = isinstance(other, FingerJoint) and joint.a in (other.a, other.b)
            if corner and joint.b.part in (other.a.part, other.b.part):
                return b.thickness + self._reader.values.get(f"joints/{other.id}/proud", 0.0)
        return 0.0

    def _check_beside_tabs(self, joint: CaptiveNut, tabs: TabAndSlot, a: Partner, inset: float) -> None:
        width, tab_inset = (self._reader.values.get(f"joints/{tabs.id}/{name}") for name in ("width", "inset"))
        if width is None or tab_inset is None:
            return
        along, half = a.frame(joint.a.side).length, SCREWS[joint.thread].hole / 2
        spans = tab_spans(along, tabs.tabs, width, tab_inset)
        for at in screw_places(along, joint.screws, inset):
            if any(low - half < at < high + half for low, high in spans):
                self._reader.warn(
                    f"The screw at {shown(at)} along {a.name} meets a tab; move it between the tabs",
                    _place(joint, "inset"),
                )
                return

    # Cross-laps

    def _cross_lap(self, joint: CrossLap, a: Partner | None, b: Partner | None) -> JointCut | None:
        slots = [self._slots(joint, which, slot, on) for which, slot, on in (("a", joint.a, a), ("b", joint.b, b))]
        share = self._number(joint, "share", joint.share, "Share")
        angle = self._number(joint, "angle", joint.angle, "Angle")
        seating = self._size(joint, "seating", joint.seating, "Seating allowance")
        first, second = slots
        if first is None or second is None or share is None or angle is None or seating is None:
            return None
        fit, clearance = self._fit(joint)
        return cut_cross_lap(joint.id, first, second, share, seating, angle, fit, clearance)

    def _slots(self, joint: CrossLap, which: str, slot: SlotAt, on: Partner | None) -> Slots | None:
        if on is None:
            return None
        names = self._names(on)
        at = self._size(joint, f"{which}.at", slot.at, f"Slot in {on.name}", names)
        step = self._size(joint, f"{which}.step", slot.step, f"Step in {on.name}", names) if slot.slots > 1 else 0.0
        if at is None or step is None:
            return None
        beyond = on.beyond[0] if slot.side in ("bottom", "top") else on.beyond[1]
        evenly = [at + i * step for i in range(slot.slots)]
        also = [
            self._size(joint, f"{which}.also_at/{i}", size, f"Slot in {on.name}", names)
            for i, size in enumerate(slot.also_at)
        ]
        return Slots(on, slot.side, tuple(beyond + place for place in (*evenly, *also) if place is not None))

    # Splices

    def _splice(self, joint: Splice, a: Partner | None, b: Partner | None) -> JointCut | None:
        size = self._size(joint, "size", joint.size, "Key size", reader=positive)
        depth = self._size(joint, "depth", joint.depth, "Key depth", reader=positive)
        radius = self._size(joint, "radius", joint.radius, "Corner radius")
        if a is None or b is None or size is None or depth is None or radius is None:
            return None
        if abs(a.thickness - b.thickness) > 1e-6:
            self._reader.warn(
                f"{a.name} is {shown(a.thickness)} thick and {b.name} {shown(b.thickness)}; "
                "their faces will not be flush on both sides",
                _place(joint),
            )
        fit, clearance = self._fit(joint)
        spec = SpliceSpec(
            joint.id,
            joint.a.side,
            joint.b.side,
            joint.shape,
            joint.keys,
            size,
            depth,
            radius,
            joint.gap == "split",
            fit,
            clearance,
        )
        return cut_splice(spec, a, b)

    # Fit

    def check_fit(self, joint: Joint, cut: JointCut) -> None:
        """Warns where the mean goes in with clearance and the thickest reading does not."""
        for mating in cut.matings:
            if mating.gap >= 0 > mating.tightest:
                own, other = self._partners[mating.opening_part], self._partners[mating.insert_part]
                at = mating.opening_at.point
                self._reader.warn(
                    f"The thickest reading of {other.name} is {shown(-mating.tightest)} too thick for its "
                    f"{shown(mating.opening)} slot in {own.name}",
                    Place(kind="joint", id=joint.id, part=own.id, x=at.real, y=at.imag, field="fit"),
                )


def _has_square_openings(joint: Joint) -> TypeGuard[FingerJoint | TabAndSlot | CrossLap | CaptiveNut | Housing]:
    """Whether a joint cuts openings with inside corners that a square insert has to seat in."""
    return not isinstance(joint, Splice) and not (isinstance(joint, Housing) and joint.groove is None)


def _share_a_corner(joint: FingerJoint, *others: Sequence[FingerJoint]) -> bool:
    """Whether the sides that these joints use meet, on each part, in a corner of it."""
    opposite: Mapping[Side, Side] = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}
    for second in others[0]:
        for third in others[1]:
            sides: dict[str, list[Side]] = defaultdict(list)
            for end in (joint.a, joint.b, second.a, second.b, third.a, third.b):
                sides[end.part].append(end.side)
            if all(len(pair) == 2 and pair[0] != pair[1] != opposite[pair[0]] for pair in sides.values()):
                return True
    return False
