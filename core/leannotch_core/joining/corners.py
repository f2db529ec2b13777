"""Corners in which three parts meet by finger joints: one of them has to fill it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence

from ..document import FingerJoint, Project, Side
from ..findings import Mend, Place
from ..reading import Reader


def check_corners(project: Project, reader: Reader) -> None:
    """Where three parts meet in a corner, each starting against the next, none of them fills it."""
    starter: dict[tuple[str, str], list[FingerJoint]] = defaultdict(list)
    for joint in project.joints:
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
            _tell_empty_corner(project, reader, joint, first, second, third)


def _tell_empty_corner(
    project: Project, reader: Reader, joint: FingerJoint, first: str, second: str, third: str
) -> None:
    names = [part.name if (part := project.part(p)) else p for p in (first, second, third)]
    other = "b" if joint.starts == "a" else "a"
    reader.warn(
        f"The corner of {names[0]}, {names[1]} and {names[2]} stays empty: each starts against the next",
        Place(kind="joint", id=joint.id, part=joint.a.part, field="starts"),
        Mend(label=f"Let {names[0]} start against {names[2]}", field="starts", value=other),
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
