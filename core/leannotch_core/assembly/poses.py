"""Where every copy of every part sits in space, from the joints, and where a closed loop does not meet.

Parts that came from a mesh stand as they stood there until a joint says otherwise.

Space has x to the right, y to the back and z up, in mm. Parts that no joint reaches lie beside the assembly.
"""

from __future__ import annotations

from collections import Counter, defaultdict, deque
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import product

import numpy as np

from ..evaluate import Result
from ..joints.meeting import Contact, Hold, Meeting
from ..project.project import Project
from .beside import lay_beside
from .space import Matrix, box
from .standing import file_of, stood
from .upright import turn_upright
from .ways import MEETS, Cell, JointEnd, WayOn, WaysOn, cell_of, cells_of, ends_of

#: Directions that differ by more than this (about a quarter of a degree) do not meet.
TURNED = 0.005
#: The ends of a ring of copies that does not quite close come nearer to one another than such a share of a copy's size.
_COMES_NEAR = 0.5
#: How far apart (mm) groups grow before they are laid beside one another.
FAR = 100_000.0


@dataclass(frozen=True, slots=True)
class Copy:
    """One of the copies of a part, numbered from 1."""

    part: str
    number: int


@dataclass(frozen=True, slots=True)
class OpenJoint:
    """A joint whose two parts are held elsewhere and do not meet in it: ``apart`` mm, turned or not.

    ``size`` is the part, its side's size (width or height) and the value in mm that would close it, if one would.
    """

    joint: str
    a: Copy
    b: Copy
    apart: float
    turned: bool
    size: tuple[str, str, float] | None


@dataclass(frozen=True, slots=True)
class Missing:
    """A joint that needs one more copy of ``part``: those there are hold other joints by the same edge or slot."""

    joint: str
    part: str


@dataclass(slots=True)
class Assembly:
    """``poses`` are 4 x 4 matrices from a part's own frame to space; ``groups`` the copies that hold together."""

    poses: dict[Copy, Matrix] = field(default_factory=dict)
    groups: list[list[Copy]] = field(default_factory=list)
    joined: list[tuple[Meeting, Copy, Copy]] = field(default_factory=list)
    gaps: list[OpenJoint] = field(default_factory=list)
    missing: list[Missing] = field(default_factory=list)


def assemble(project: Project, result: Result) -> Assembly:
    """Puts all copies of the evaluated parts in space: the largest group upright in the middle, the rest beside it."""
    return _Assembling(project, result).run()


class _Assembling:
    def __init__(self, project: Project, result: Result) -> None:
        self._parts = {part.id: result.parts[part.id] for part in project.parts if part.id in result.parts}
        self._free = {
            part.id: deque(Copy(part.id, n + 1) for n in range(part.count))
            for part in project.parts
            if part.id in self._parts
        }
        self._ends = ends_of(result.meetings, self._parts)
        self._ways = {part: WaysOn(ends) for part, ends in self._ends.items()}
        self._ranks = {part: self._rank(part) for part in self._parts}
        self._standing_at: dict[tuple[str, Cell], list[Copy]] = defaultdict(list)
        self._standing_of: Counter[str] = Counter()
        self._taken: dict[tuple[Copy, Hold], list[tuple[str, Contact]]] = defaultdict(list)
        self._held_by: dict[tuple[Copy, str], Hold] = {}
        self._assembly = Assembly()
        self._stands = {
            part: [stood(stand, self._parts[part]) for stand in self._parts[part].part.stands] for part in self._parts
        }
        #: Copies that stand in one space, because the mesh that they came from says so, by its file.
        self._stood: dict[str, list[Copy]] = defaultdict(list)

    def run(self) -> Assembly:
        while root := self._root():
            self._grow(self._free[root].popleft())
        self._assembly.groups += self._stood.values()
        self._check_loops()
        self._set_upright()
        lay_beside(self._assembly.groups, self._assembly.poses, self._parts)
        return self._assembly

    def _root(self) -> str | None:
        """The next part to begin a group with: a floor that others stand on, else the largest that is joined."""
        left = [part for part, copies in self._free.items() if copies]
        return max(left, key=lambda part: self._ranks[part], default=None)

    def _rank(self, part: str) -> tuple[bool, bool, float]:
        others = {end.other.hold for end in self._ends[part]}
        is_floor = Hold("edge", "bottom") in others and Hold("edge", "top") not in others
        return bool(others), is_floor, self._parts[part].outline.area

    def _set_upright(self) -> None:
        met: dict[int, list[tuple[Meeting, int, int]]] = defaultdict(list)
        place = {copy: (g, i) for g, group in enumerate(self._assembly.groups) for i, copy in enumerate(group)}
        for meeting, first, second in self._assembly.joined:
            met[place[first][0]].append((meeting, place[first][1], place[second][1]))
        for number, group in enumerate(self._assembly.groups):
            if any(group is kept for kept in self._stood.values()):
                continue
            poses = [(copy.part, self._assembly.poses[copy]) for copy in group]
            turn = np.eye(4)
            turn[:3, :3] = turn_upright(self._parts, poses, met[number])
            for copy in group:
                self._assembly.poses[copy] = turn @ self._assembly.poses[copy]

    # Growing a group from its root

    def _grow(self, root: Copy) -> None:
        stand = self._stands[root.part][0] if self._stands[root.part] else None
        pose = np.eye(4) if stand is None else stand
        if stand is None:
            # Each group grows far from the others, so that none meets another by chance.
            pose[0, 3] += FAR * (len(self._assembly.groups) + 1)
        self._place(root, pose)
        group = [root]
        for copy in group:
            for way, wanted, cells in self._onward(copy.part, self._assembly.poses[copy]):
                group += self._join(copy, way, wanted, cells)
        if stand is None:
            self._assembly.groups.append(group)
        else:
            self._stood[file_of(self._parts[root.part])] += group

    def _place(self, copy: Copy, pose: Matrix) -> None:
        self._assembly.poses[copy] = pose
        x, y, z = cell_of(pose[:3, 3]).tolist()
        self._standing_at[copy.part, (x, y, z)].append(copy)
        self._standing_of[copy.part] += 1
        # What stands here now takes the place of the copy that stood nearest.
        stands = self._stands[copy.part]
        if stands:
            middle = box(self._parts[copy.part]).mean(axis=0)
            del stands[int(np.argmin([np.abs((stand - pose) @ middle).max() for stand in stands]))]

    def _onward(self, part: str, pose: Matrix) -> Iterator[tuple[WayOn, Matrix, list[Sequence[Cell]]]]:
        """The ways of a part that stands at ``pose``, with where the partner sits by each end, and in which cells."""
        if ways := self._ways.get(part):
            poses = pose @ ways.poses
            cells = cells_of(poses)
            for way in ways.each:
                yield way, poses[way.here], cells[way.here]

    def _join(self, copy: Copy, way: WayOn, wanted: Matrix, cells: list[Sequence[Cell]]) -> list[Copy]:
        """Finds the partner that is there already, or puts one there; answers the copies it has placed."""
        joint, place = way.joint, way.ends[0].own
        if self._is_taken(copy, place, by=joint):
            return []
        for end, pose, near in zip(way.ends, wanted, cells, strict=True):
            partner = self._standing(end, pose, near, besides=copy)
            if partner:
                self._connect(copy, partner, end)
                return []
        copies = self._free[way.ends[0].other.part]
        if not copies or self._is_taken(copy, place):
            return []
        chosen = self._best(copy, way, wanted)
        partner = copies.popleft()
        self._place(partner, wanted[chosen])
        self._connect(copy, partner, way.ends[chosen])
        return [partner]

    def _best(self, copy: Copy, way: WayOn, wanted: Matrix) -> int:
        """Which of several slots or faces to use: the one that others of this joint use, or that most others meet."""
        if len(way.ends) == 1:
            return 0
        usual = self._held_by.get((copy, way.joint))
        alike = [i for i, end in enumerate(way.ends) if end.other.hold == usual]
        choices = alike or list(range(len(way.ends)))
        return (
            choices[0]
            if len(choices) == 1
            else max(choices, key=lambda i: self._agreeing(copy, way.ends[i], wanted[i]))
        )

    def _agreeing(self, copy: Copy, end: JointEnd, pose: Matrix) -> int:
        """How many joints of the part would meet copies other than ``copy`` that stand already, were it at ``pose``."""
        agreeing = 0
        for way, poses, cells in self._onward(end.other.part, pose):
            onto = way.ends[0].other.part
            if self._standing_of[onto] > (onto == copy.part):
                for onward, there, near in zip(way.ends, poses, cells, strict=True):
                    agreeing += self._standing(onward, there, near, besides=copy) is not None
        return agreeing

    def _standing(self, end: JointEnd, wanted: Matrix, cells: Iterable[Cell], besides: Copy) -> Copy | None:
        """The copy of the other part that stands where it is wanted, with its place for this joint still free."""
        for cell in cells:
            for partner in self._standing_at.get((end.other.part, cell), ()):
                apart = np.abs(self._assembly.poses[partner] - wanted)
                meets = apart[:3, 3].max() <= MEETS and apart[:3, :3].max() <= TURNED
                if meets and partner != besides and not self._is_taken(partner, end.other, by=end.meeting.joint):
                    return partner
        return None

    def _connect(self, copy: Copy, partner: Copy, end: JointEnd) -> None:
        joint = end.meeting.joint
        self._taken[copy, end.own.hold].append((joint, end.own))
        self._taken[partner, end.other.hold].append((joint, end.other))
        self._held_by[copy, joint], self._held_by[partner, joint] = end.other.hold, end.own.hold
        first, second = (copy, partner) if end.first else (partner, copy)
        self._assembly.joined.append((end.meeting, first, second))

    def _is_taken(self, copy: Copy, contact: Contact, by: str = "") -> bool:
        """Whether the place that a joint would take up is taken, by the joint named or by any."""
        return any(
            _overlap(other.span, contact.span)
            for joint, other in self._taken.get((copy, contact.hold), ())
            if not by or joint == by
        )

    # What does not meet

    def _check_loops(self) -> None:
        """Joints that hold nothing, though both of their parts stand somewhere: do not meet, or lack a copy."""
        copies_of: dict[str, list[Copy]] = defaultdict(list)
        for copy in self._assembly.poses:
            copies_of[copy.part].append(copy)
        ways = [
            (way, left)
            for part, copies in copies_of.items()
            for way in (self._ways[part].each if part in self._ways else ())
            if (left := [copy for copy in copies if not self._is_taken(copy, way.ends[0].own)])
        ]
        #: Copies and places of theirs that do not meet in one joint, and so are not missed by another.
        told: set[tuple[Copy, Hold]] = set()
        gaps: dict[str, OpenJoint] = {}
        for way, left in ways:
            partners = copies_of[way.ends[0].other.part]
            gap = self._nearest(left, partners, way) if way.joint not in gaps else None
            if gap:
                gaps[way.joint] = gap
                places = {way.ends[0].own.hold, *(end.other.hold for end in way.ends)}
                told |= set(product((gap.a, gap.b), places))
        missing: dict[str, Missing] = {}
        for way, left in ways:
            partners = copies_of[way.ends[0].other.part]
            lacks = partners and all(self._is_taken(p, end.other) for end in way.ends for p in partners)
            explained = all((copy, way.ends[0].own.hold) in told for copy in left)
            if lacks and not explained and way.joint not in gaps:
                missing.setdefault(way.joint, Missing(way.joint, way.ends[0].other.part))
        self._assembly.gaps += gaps.values()
        self._assembly.missing += missing.values()

    def _nearest(self, copies: Sequence[Copy], partners: Sequence[Copy], way: WayOn) -> OpenJoint | None:
        """The pair of copies of one group that comes nearest to meeting in a joint."""
        group_of = {copy: i for i, group in enumerate(self._assembly.groups) for copy in group}
        gaps = [
            self._gap(copy, partner, end)
            for copy in copies
            for end in way.ends
            for partner in partners
            if partner != copy and group_of[partner] == group_of[copy] and not self._is_taken(partner, end.other)
        ]
        nearest = min(gaps, key=lambda gap: (gap.turned, gap.apart), default=None)
        return None if nearest and self._ends_a_chain(nearest) else nearest

    def _ends_a_chain(self, gap: OpenJoint) -> bool:
        """Whether a gap is only that between both ends of a chain of copies, which nobody asked to be a ring.

        Copies that were to close in a ring and do not come near one another again.
        """
        if gap.a.part != gap.b.part:
            return False
        part = self._parts[gap.a.part]
        return gap.apart > _COMES_NEAR * max(part.width, part.height)

    def _gap(self, copy: Copy, partner: Copy, end: JointEnd) -> OpenJoint:
        wanted = self._assembly.poses[copy] @ end.pose
        there = self._assembly.poses[partner]
        turned = bool(np.abs(wanted[:3, :3] - there[:3, :3]).max() > TURNED)
        apart = wanted[:3, 3] - there[:3, 3]
        first, second = (copy, partner) if end.first else (partner, copy)
        size = None if turned else self._closing(partner, end.other, there[:3, :3].T @ apart)
        return OpenJoint(end.meeting.joint, first, second, float(np.linalg.norm(apart)), turned, size)

    def _closing(self, partner: Copy, contact: Contact, own: Matrix) -> tuple[str, str, float] | None:
        """The size of the partner that would bring its edge where it is wanted, ``own`` mm away in its own frame."""
        part = self._parts[partner.part]
        which = {
            "right": ("width", own[0]),
            "left": ("width", -own[0]),
            "top": ("height", own[1]),
            "bottom": ("height", -own[1]),
        }
        if contact.hold.what != "edge":
            return None
        name, more = which[contact.hold.side]
        if abs(abs(more) - np.linalg.norm(own)) > 1e-3:
            return None
        value = (part.width if name == "width" else part.height) + float(more)
        return (partner.part, name, value) if value > 0 else None


def _overlap(a: tuple[float, float] | None, b: tuple[float, float] | None) -> bool:
    return a is None or b is None or (a[0] < b[1] - 1e-6 and b[0] < a[1] - 1e-6)
