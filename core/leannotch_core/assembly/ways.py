"""The ways on from a part: where the others that its joints hold sit, once it stands somewhere."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate, product

import numpy as np

from ..evaluate import EvaluatedPart
from ..joints.meeting import Contact, Hold, Meeting
from .space import Matrix, poses_between

#: Places further apart than this (mm) do not meet; half of the loosest clearance, common practice.
MEETS = 0.15
#: Copies are found by the cell of this size (mm) that they stand in.
CELL = 4.0
#: Where the cells begin (mm): what is typed is round, and so seldom stands where two of them meet.
_BEGINS = 1.33


@dataclass(frozen=True, slots=True)
class JointEnd:
    """A joint as one of its parts sees it: what it takes up there, and where the other part then sits."""

    meeting: Meeting
    own: Contact
    other: Contact
    pose: Matrix

    @property
    def first(self) -> bool:
        """Whether the part is the joint's first."""
        return self.own is self.meeting.a


def ends_of(meetings: Iterable[Meeting], parts: dict[str, EvaluatedPart]) -> dict[str, list[JointEnd]]:
    """The ends of each part's joints, by its id."""
    whole = [meeting for meeting in meetings if meeting.a.part in parts and meeting.b.part in parts]
    ends: dict[str, list[JointEnd]] = defaultdict(list)
    if not whole:
        return ends
    a, b = [_folded(meeting.a, parts) for meeting in whole], [_folded(meeting.b, parts) for meeting in whole]
    for meeting, onward, back in zip(whole, poses_between(a, b), poses_between(b, a), strict=True):
        ends[meeting.a.part].append(JointEnd(meeting, meeting.a, meeting.b, onward))
        ends[meeting.b.part].append(JointEnd(meeting, meeting.b, meeting.a, back))
    return ends


def _folded(contact: Contact, parts: dict[str, EvaluatedPart]) -> Contact:
    """A contact where it stands once its part is bent: it goes with the face that it lies on."""
    folded = parts[contact.part].folded
    if folded is None:
        return contact
    pose = folded.pose_at(complex(*contact.origin[:2]))
    x, y, z = (pose @ np.array([*contact.origin, 1.0]))[:3].tolist()
    axes = (np.array(contact.axes) @ pose[:3, :3].T).tolist()
    return replace(contact, origin=(x, y, z), axes=(tuple(axes[0]), tuple(axes[1]), tuple(axes[2])))


#: A cell of space, along x, y and z.
Cell = tuple[int, int, int]


@dataclass(frozen=True, slots=True)
class WayOn:
    """One place of a part as one joint uses it: several ends where the partner has several slots, lines or faces.

    ``here`` is where they are among all the ends of the part.
    """

    ends: list[JointEnd]
    here: slice

    @property
    def joint(self) -> str:
        """Its id."""
        return self.ends[0].meeting.joint


class WaysOn:
    """The ways of one part, and the ``poses`` of all their ends one after another, shape (ends, 4, 4)."""

    def __init__(self, ends: Iterable[JointEnd]) -> None:
        groups: dict[tuple[str, Hold, bool], list[JointEnd]] = defaultdict(list)
        for end in ends:
            groups[end.meeting.joint, end.own.hold, end.first].append(end)
        stops = list(accumulate(len(group) for group in groups.values()))
        self.each = [
            WayOn(group, slice(stop - len(group), stop)) for group, stop in zip(groups.values(), stops, strict=True)
        ]
        self.poses: Matrix = np.array([end.pose for group in groups.values() for end in group])


def cell_of(place: Matrix) -> Matrix:
    """The cell of a place, or of each of several, shape (…, 3)."""
    return np.floor((place + _BEGINS) / CELL).astype(int)


def cells_of(poses: Matrix) -> list[Sequence[Cell]]:
    """For each of several poses the cells within reach of where it puts a part's corner: nearly always one."""
    places = poses[:, :3, 3]
    lows, highs = cell_of(places - MEETS), cell_of(places + MEETS)
    alone = (lows == highs).all(axis=1).tolist()
    return [
        (low,) if one else tuple(product(*({a, b} for a, b in zip(low, high, strict=True))))
        for low, high, one in zip(map(tuple, lows.tolist()), highs.tolist(), alone, strict=True)
    ]
