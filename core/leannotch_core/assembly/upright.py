"""Which way up an assembly stands: parts are drawn with their top upwards, and each says so by where it is joined."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from ..evaluate import EvaluatedPart
from ..joints.meeting import Contact, Meeting
from .space import Matrix

Axis = tuple[float, float, float]

#: How much a contact counts: an edge that stands or carries, a side edge, a slot across, the face of a part that
#: others are let into, a splice, whose boards lie flat. A board that is joined at one side only says little.
STANDS, BESIDE, ACROSS, FACE, FLAT, ALONE = 1.0, 0.5, 1.1, 0.6, 2.0, 0.1


def turn_upright(
    parts: Mapping[str, EvaluatedPart], poses: Sequence[tuple[str, Matrix]], met: Iterable[tuple[Meeting, int, int]]
) -> Matrix:
    """The rotation (3 x 3) that sets a group upright, the x of its floor or else of its first part to the right.

    ``poses`` are those of its copies with their parts; ``met`` are meetings with the two copies, by their place there.
    """
    contacts: dict[int, list[tuple[Contact, bool]]] = defaultdict(list)
    for meeting, first, second in met:
        spliced = bool(meeting.a.axes[2][2] and meeting.b.axes[2][2] and meeting.a.span and meeting.b.span)
        contacts[first].append((meeting.a, spliced))
        contacts[second].append((meeting.b, spliced))
    votes: dict[Axis, float] = defaultdict(float)
    for copy, (_, pose) in enumerate(poses):
        top, face = _axis(pose[:3, 1]), _axis(pose[:3, 2])
        alone = len(contacts[copy]) == 1
        for contact, spliced in contacts[copy]:
            votes[face if spliced else top] += FLAT if spliced else _weight(contact, alone)
    part_id, begun = poses[0]
    # A bent part that stands alone stands on its foot, as it is folded; a flat one on its lower side.
    alone_up = begun[:3, 2] if parts[part_id].folded else begun[:3, 1]
    up = np.array(max(votes, key=lambda axis: votes[axis])) if votes else alone_up
    return _turned(parts, poses, up)


def _weight(contact: Contact, alone: bool) -> float:
    hold = contact.hold
    if hold.what == "line":
        return FACE
    beside = hold.side in ("left", "right")
    if hold.what == "slot":
        return ACROSS if beside else STANDS
    return (ALONE if alone else BESIDE) if beside else STANDS


def _axis(direction: Matrix) -> Axis:
    x, y, z = (np.round(direction, 3) + 0.0).tolist()
    return x, y, z


def _turned(parts: Mapping[str, EvaluatedPart], poses: Sequence[tuple[str, Matrix]], up: Matrix) -> Matrix:
    pose = _floor(parts, poses, up)
    right = pose[:3, 0] - up * (pose[:3, 0] @ up)
    if np.linalg.norm(right) < 1e-3:
        right = pose[:3, 2] - up * (pose[:3, 2] @ up)
    right /= np.linalg.norm(right)
    return np.array([right, np.cross(up, right), up])


def _floor(parts: Mapping[str, EvaluatedPart], poses: Sequence[tuple[str, Matrix]], up: Matrix) -> Matrix:
    """The pose of the largest of the lowest parts that lie flat; of the first part where none does."""
    flat = [(part, pose) for part, pose in poses if abs(abs(pose[:3, 2] @ up) - 1) < 1e-3]
    if not flat:
        return poses[0][1]
    return min(flat, key=lambda one: (round(float(one[1][:3, 3] @ up)), -parts[one[0]].outline.area))[1]
