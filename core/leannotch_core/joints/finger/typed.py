"""Fingers along two edges that meet at a corner."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size, length, positive, shown
from ...document.sums import SizeError
from ...document.turned_over import taken_from
from ..ends import EdgeOf
from ..family import EdgeHeld, Family, SeatedFamily
from ..fit import JointCut
from ..given import Given
from ..joint import BaseJoint
from ..partner import Partner
from ..picked import Picked
from .cut import MOST, FingerSpec, cut_fingers, finger_count


class FingerJoint(SeatedFamily):
    """Fingers along two edges that meet at a corner of the assembly.

    With a ``count`` the finger width follows from it. In the insets at both ends the part that starts keeps its
    material. ``proud`` is how far the fingers stand out of the other part's face. Edges are drawn at the outside
    face or, with ``reference``, at the inside one. On the longer of two edges the shorter one begins at ``shift``.
    """

    kind: Literal["finger"] = "finger"
    a: EdgeOf
    b: EdgeOf
    finger: Size
    count: int | None = Field(default=None, ge=3, le=MOST)
    starts: Literal["a", "b"] = "a"
    inset_start: Size = Size(text="0")
    inset_end: Size = Size(text="0")
    proud: Size = Size(text="0")
    reference: Literal["outside", "inside"] = "outside"
    shift: Size = Size(text="0")

    @property
    def openings(self) -> int:
        return self.count or 1

    @classmethod
    def begun(cls, joint_id: str, a: Picked, b: Picked, others: Iterable[BaseJoint]) -> Self:
        return cls(id=joint_id, a=a.edge, b=b.edge, finger=a.size(15))

    def drawn_inside(self, names: Mapping[str, float]) -> float | None:
        try:
            return length(self.proud, names) if self.reference == "inside" else None
        except SizeError:
            return None

    def standing(self, given: Given, edge: EdgeOf, edged: Partner, other: Partner) -> EdgeHeld | None:
        proud = given.size("proud", self.proud, "Proud")
        return None if edge not in (self.a, self.b) or proud is None else EdgeHeld(other.thickness + proud)

    def turned_over(self, part: str, lengths: Mapping[str, complex]) -> Self:
        other = super().turned_over(part, lengths)
        return other.model_copy(update=self._other_way_round(part, lengths))

    def _other_way_round(self, part: str, lengths: Mapping[str, complex]) -> dict[str, Size]:
        """Insets and the beginning of the shorter edge, where the edge they are measured along is turned round."""
        update: dict[str, Size] = {}
        turned = [end.part == part and end.side in ("bottom", "top") for end in (self.a, self.b)]
        if turned[0]:
            update |= {"inset_start": self.inset_end, "inset_end": self.inset_start}
        long_a, long_b = (_edge_length(end, lengths) for end in (self.a, self.b))
        if abs(long_a - long_b) > 1e-6 and turned[0 if long_a > long_b else 1]:
            text = self.shift.text.strip()
            spare = f"{abs(long_a - long_b):.6g} mm"
            turned_round = taken_from(spare, self.shift)
            update["shift"] = Size(text=spare) if text == "0" else Size(text="0") if text == spare else turned_round
        return update

    def cut(self, given: Given, a: Partner | None, b: Partner | None, beside: Sequence[Family]) -> JointCut | None:
        finger = given.size("finger", self.finger, "Finger width", reader=positive)
        start = given.size("inset_start", self.inset_start, "Inset at the start")
        end = given.size("inset_end", self.inset_end, "Inset at the end")
        proud = given.size("proud", self.proud, "Proud")
        if a is None or b is None or finger is None or start is None or end is None or proud is None:
            return None
        ends = a.frame(self.a.side).length, b.frame(self.b.side).length
        longer = a if ends[0] > ends[1] else b
        shift = given.size("shift", self.shift, f"Beginning on {longer.name}", given.names(longer))
        if shift is None:
            return None
        _check_lengths(given, a, b, ends, shift)
        count = self._count(given, f"{a.name} and {b.name}", min(ends) - start - end, finger)
        fit, clearance = given.fit()
        spec = FingerSpec(
            joint=self.id,
            side_a=self.a.side,
            side_b=self.b.side,
            count=count,
            starts=self.starts,
            insets=(start, end),
            proud=proud,
            shift=shift,
            fit=fit,
            clearance=clearance,
        )
        return cut_fingers(spec, a, b)

    def _count(self, given: Given, between: str, shared: float, finger: float) -> int:
        """How many fingers are cut on ``shared`` mm, at least three and as many as begin and end alike."""
        if self.count is None:
            count = finger_count(max(shared, 0.001), finger)
            _check_three(given, between, shared, finger, count)
            return count
        if self.count % 2:
            return self.count
        given.warn(
            "even-fingers",
            f"{self.count} fingers would end with another part than they began with; {self.count + 1} are cut",
            "count",
            given.set(f"Make it {self.count + 1}", "count", f"{self.count + 1}"),
        )
        return self.count + 1


def _edge_length(end: EdgeOf, lengths: Mapping[str, complex]) -> float:
    size = lengths.get(end.part, 0j)
    return size.real if end.side in ("bottom", "top") else size.imag


def _check_lengths(given: Given, a: Partner, b: Partner, lengths: tuple[float, float], shift: float) -> None:
    # Where one starter made both parts and their edges differ in length, it meant to.
    if abs(lengths[0] - lengths[1]) <= 1e-6 or (a.starter and a.starter == b.starter):
        return
    longer = a if lengths[0] > lengths[1] else b
    given.note(
        "unequal-edges",
        f"{a.name} is {shown(lengths[0])} long at this joint and {b.name} {shown(lengths[1])}; the fingers run "
        f"over the {shown(min(lengths))} they share, from {shown(shift)} along {longer.name}",
        "shift",
    )


def _check_three(given: Given, between: str, shared: float, finger: float, count: int) -> None:
    if shared <= 0 or shared / count >= finger * 2 / 3 - 1e-9:
        return
    third = shared / 3
    given.warn(
        "too-short-for-fingers",
        f"{shown(shared)} between {between} is too short for three fingers of {shown(finger)}; "
        f"three of {shown(third)} are cut",
        "finger",
        given.set(f"Make them {third:.2f} mm", "finger", f"{third:.4f}"),
    )
