"""Corners in which three parts meet by finger joints: one of them has to fill it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence

from ...document.model import Side
from ...facts.findings import Place, mend
from ...facts.reading import Reader
from ..joint import BaseJoint
from .typed import FingerJoint


def check_corners(joints: Iterable[BaseJoint], names: Mapping[str, str], reader: Reader) -> None:
    """Where three parts meet in a corner, each starting against the next, none of them fills it."""
    starter: dict[tuple[str, str], list[FingerJoint]] = defaultdict(list)
    for joint in joints:
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
            _tell_empty_corner(reader, joint, [names.get(part, part) for part in (first, second, third)])


def _tell_empty_corner(reader: Reader, joint: FingerJoint, called: Sequence[str]) -> None:
    reader.warn(
        "corner-empty",
        f"The corner of {called[0]}, {called[1]} and {called[2]} stays empty: each starts against the next",
        Place(kind="joint", id=joint.id, part=joint.a.part, field="starts"),
        mend(
            f"Let {called[0]} start against {called[2]}",
            ("joints", joint.id, "starts"),
            "b" if joint.starts == "a" else "a",
        ),
    )


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
