"""Where every copy of every part sits in space, from the joints alone, and where a closed loop does not meet.

Space has x to the right, y to the back and z up, in mm. Parts that no joint reaches lie beside the assembly.
"""

from __future__ import annotations

from collections import defaultdict, deque
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from ..document import Project
from ..evaluate import EvaluatedPart, Result
from ..joints.meeting import Contact, Meeting

Matrix = npt.NDArray[np.float64]

#: Places further apart than this (mm) do not meet; half of the loosest clearance, common practice.
MEETS = 0.15
#: Directions that differ by more than this (about a quarter of a degree) do not meet.
TURNED = 0.005
#: Room between assemblies, and beside them, as a share of their size.
BESIDE = 0.15


@dataclass(frozen=True, slots=True)
class Copy:
    """One of the copies of a part, numbered from 1."""

    part: str
    number: int


@dataclass(frozen=True, slots=True)
class Gap:
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
    gaps: list[Gap] = field(default_factory=list)
    missing: list[Missing] = field(default_factory=list)


def assemble(project: Project, result: Result) -> Assembly:
    """Puts all copies of the evaluated parts in space: the largest group upright in the middle, the rest beside it."""
    return _Assembling(project, result).run()


def pose_between(own: Contact, other: Contact) -> Matrix:
    """The pose of the other part in the own part's frame, so that the axes of both contacts coincide."""
    return _frame(own) @ np.linalg.inv(_frame(other))


def _frame(contact: Contact) -> Matrix:
    frame = np.eye(4)
    frame[:3, :3] = np.array(contact.axes).T
    frame[:3, 3] = contact.origin
    return frame


@dataclass(frozen=True, slots=True)
class _End:
    """A joint as one of its parts sees it: what it takes up there, and where the other part then sits."""

    meeting: Meeting
    own: Contact
    other: Contact
    pose: Matrix

    @property
    def first(self) -> bool:
        return self.own is self.meeting.a


class _Assembling:
    def __init__(self, project: Project, result: Result) -> None:
        self._parts = {part.id: result.parts[part.id] for part in project.parts if part.id in result.parts}
        self._free = {
            part.id: deque(Copy(part.id, n + 1) for n in range(part.count))
            for part in project.parts
            if part.id in self._parts
        }
        self._ends = _ends(result.meetings, self._parts)
        self._placed: dict[str, list[Copy]] = defaultdict(list)
        self._taken: dict[Copy, list[tuple[str, Contact]]] = defaultdict(list)
        self._assembly = Assembly()

    def run(self) -> Assembly:
        while root := self._root():
            self._grow(self._free[root].popleft())
        self._check_loops()
        _lay_beside(self._assembly, self._parts)
        return self._assembly

    def _root(self) -> str | None:
        """The next part to begin a group with: one that lies flat under others, else the first that is joined."""
        left = [part for part, copies in self._free.items() if copies]
        return max(left, key=self._rank, default=None)

    def _rank(self, part: str) -> tuple[int, int, float]:
        lies = _lies_flat(self._ends[part])
        return (2 if lies else 1 if self._ends[part] else 0, 0, self._parts[part].outline.area if lies else 0.0)

    # Growing a group from its root

    def _grow(self, root: Copy) -> None:
        self._place(root, _root_pose(self._parts[root.part], self._ends[root.part]))
        group = [root]
        for copy in group:
            for ends in self._grouped(copy.part):
                group += self._join(copy, ends)
        self._assembly.groups.append(group)

    def _place(self, copy: Copy, pose: Matrix) -> None:
        self._assembly.poses[copy] = pose
        self._placed[copy.part].append(copy)

    def _grouped(self, part: str) -> Iterator[list[_End]]:
        """The ways to use one place of a part for one joint: several where the partner has several slots or lines."""
        groups: dict[tuple[str, str, bool], list[_End]] = defaultdict(list)
        for end in self._ends[part]:
            groups[end.meeting.joint, end.own.place, end.first].append(end)
        yield from groups.values()

    def _join(self, copy: Copy, ends: Sequence[_End]) -> list[Copy]:
        """Finds the partner that is there already, or puts one there; answers the copies it has placed."""
        pose = self._assembly.poses[copy]
        if self._is_taken(copy, ends[0], by=ends[0].meeting.joint):
            return []
        for end in ends:
            partner = self._standing(end, pose @ end.pose, besides=copy)
            if partner:
                self._connect(copy, partner, end)
                return []
        copies = self._free[ends[0].other.part]
        if not copies or self._is_taken(copy, ends[0]):
            return []
        end = ends[0] if len(ends) == 1 else max(ends, key=lambda way: self._agreeing(way, pose @ way.pose))
        partner = copies.popleft()
        self._place(partner, pose @ end.pose)
        self._connect(copy, partner, end)
        return [partner]

    def _standing(self, end: _End, wanted: Matrix, besides: Copy | None = None) -> Copy | None:
        """The copy of the other part that stands where it is wanted, with its place for this joint still free."""
        copies = self._placed[end.other.part]
        if not copies:
            return None
        apart = np.abs(np.array([self._assembly.poses[copy][:3] for copy in copies]) - wanted[:3])
        for index in np.flatnonzero(
            (apart[:, :, 3].max(axis=1) <= MEETS) & (apart[:, :, :3].max(axis=(1, 2)) <= TURNED)
        ):
            partner = copies[index]
            if partner != besides and not self._is_taken(partner, _other_end(end), by=end.meeting.joint):
                return partner
        return None

    def _agreeing(self, way: _End, pose: Matrix) -> int:
        """How many other joints of a part would meet what stands already, were it put at ``pose``."""
        return sum(self._standing(end, pose @ end.pose) is not None for end in self._ends[way.other.part])

    def _connect(self, copy: Copy, partner: Copy, end: _End) -> None:
        self._taken[copy].append((end.meeting.joint, end.own))
        self._taken[partner].append((end.meeting.joint, end.other))
        first, second = (copy, partner) if end.first else (partner, copy)
        self._assembly.joined.append((end.meeting, first, second))

    def _is_taken(self, copy: Copy, end: _End, by: str = "") -> bool:
        """Whether the place that a joint would take up is taken, by the joint named or by any."""
        return any(
            contact.place == end.own.place and _overlap(contact.span, end.own.span)
            for joint, contact in self._taken[copy]
            if not by or joint == by
        )

    # What does not meet

    def _check_loops(self) -> None:
        """Joints that hold nothing, though both of their parts stand somewhere."""
        told: set[str] = set()
        for part, copies in self._placed.items():
            for ends in self._grouped(part):
                end, joint = ends[0], ends[0].meeting.joint
                open_copies = [copy for copy in copies if not self._is_taken(copy, end)]
                if joint in told or not open_copies or not self._placed[end.other.part]:
                    continue
                miss = self._nearest(open_copies, ends)
                if miss:
                    told.add(joint)
                    if isinstance(miss, Gap):
                        self._assembly.gaps.append(miss)
                    else:
                        self._assembly.missing.append(miss)

    def _nearest(self, copies: Iterable[Copy], ends: Sequence[_End]) -> Gap | Missing | None:
        """The pair of copies that comes nearest to meeting in a joint; what is missing if none is free for it."""
        nearest: tuple[float, Gap] | None = None
        group_of = {copy: i for i, group in enumerate(self._assembly.groups) for copy in group}
        for copy in copies:
            for end in ends:
                for partner in self._placed[end.other.part]:
                    if partner == copy or group_of[partner] != group_of[copy]:
                        continue
                    if self._is_taken(partner, _other_end(end)):
                        continue
                    gap = self._gap(copy, partner, end)
                    if nearest is None or gap.apart + 1000 * gap.turned < nearest[0]:
                        nearest = gap.apart + 1000 * gap.turned, gap
        if nearest:
            return nearest[1]
        partners = self._placed[ends[0].other.part]
        used_up = all(self._is_taken(partner, _other_end(end)) for end in ends for partner in partners)
        return Missing(ends[0].meeting.joint, ends[0].other.part) if used_up else None

    def _gap(self, copy: Copy, partner: Copy, end: _End) -> Gap:
        wanted = self._assembly.poses[copy] @ end.pose
        there = self._assembly.poses[partner]
        turned = bool(np.abs(wanted[:3, :3] - there[:3, :3]).max() > TURNED)
        apart = wanted[:3, 3] - there[:3, 3]
        first, second = (copy, partner) if end.first else (partner, copy)
        size = None if turned else self._closing(partner, end.other, there[:3, :3].T @ apart)
        return Gap(end.meeting.joint, first, second, float(np.linalg.norm(apart)), turned, size)

    def _closing(self, partner: Copy, contact: Contact, own: Matrix) -> tuple[str, str, float] | None:
        """The size of the partner that would bring its edge where it is wanted, ``own`` mm away in its own frame."""
        part, side = self._parts[partner.part], contact.place.removesuffix(" edge")
        which = {
            "right": ("width", own[0]),
            "left": ("width", -own[0]),
            "top": ("height", own[1]),
            "bottom": ("height", -own[1]),
        }
        if side not in which:
            return None
        name, more = which[side]
        if abs(abs(more) - np.linalg.norm(own)) > 1e-3:
            return None
        value = (part.width if name == "width" else part.height) + float(more)
        return (partner.part, name, value) if value > 0 else None


def _ends(meetings: Iterable[Meeting], parts: dict[str, EvaluatedPart]) -> dict[str, list[_End]]:
    ends: dict[str, list[_End]] = defaultdict(list)
    for meeting in meetings:
        if meeting.a.part in parts and meeting.b.part in parts:
            pose = pose_between(meeting.a, meeting.b)
            ends[meeting.a.part].append(_End(meeting, meeting.a, meeting.b, pose))
            ends[meeting.b.part].append(_End(meeting, meeting.b, meeting.a, pose_between(meeting.b, meeting.a)))
    return ends


def _other_end(end: _End) -> _End:
    return _End(end.meeting, end.other, end.own, end.pose)


def _overlap(a: tuple[float, float] | None, b: tuple[float, float] | None) -> bool:
    return a is None or b is None or (a[0] < b[1] - 1e-6 and b[0] < a[1] - 1e-6)


def _lies_flat(ends: Iterable[_End]) -> bool:
    """Whether a part is a floor or a base (others on its face or three of its edges), or spliced in its plane."""
    places = {end.own.place for end in ends}
    spliced = any(end.own.axes[2][2] and end.other.axes[2][2] and end.own.span for end in ends)
    on_face = any(place.startswith("line at") for place in places)
    return spliced or on_face or sum(place.endswith(" edge") for place in places) >= 3


def _root_pose(part: EvaluatedPart, ends: Sequence[_End]) -> Matrix:
    """Flat with the face up that others stand on, or else its inside; or upright with its drawn face to the front."""
    pose = np.eye(4)
    if not _lies_flat(ends):
        pose[:3, :3] = [[1, 0, 0], [0, 0, -1], [0, 1, 0]]
        pose[1, 3] = part.stock.thickness
        return pose
    standing = sum(end.own.axes[1][2] for end in ends if end.own.place.startswith("line at"))
    if standing < 0 or (standing == 0 and part.part.face == "outside"):
        pose[:3, :3] = [[1, 0, 0], [0, -1, 0], [0, 0, -1]]
        pose[1, 3], pose[2, 3] = part.height, part.stock.thickness
    return pose


def extent(part: EvaluatedPart, pose: Matrix) -> tuple[Matrix, Matrix]:
    """The lowest and the highest corner (mm) of the box about a part in its pose."""
    left, bottom, right, top = part.outline.bounds
    corners = np.array(
        [[x, y, z, 1.0] for x in (left, right) for y in (bottom, top) for z in (0.0, part.stock.thickness)]
    )
    there = (corners @ pose.T)[:, :3]
    return there.min(axis=0), there.max(axis=0)


def _lay_beside(assembly: Assembly, parts: dict[str, EvaluatedPart]) -> None:
    """The largest group first, on z = 0 with its middle over the origin; the others to its right, in rows."""
    assembly.groups.sort(key=len, reverse=True)
    corner, row, depth = np.zeros(3), 0.0, 0.0
    widest = 0.0
    for number, group in enumerate(assembly.groups):
        boxes = [extent(parts[copy.part], assembly.poses[copy]) for copy in group]
        low, high = np.min([b[0] for b in boxes], axis=0), np.max([b[1] for b in boxes], axis=0)
        size = high - low
        if number == 0:
            shift = -np.array([(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, low[2]])
            room = BESIDE * float(max(size[0], size[1]))
            corner = np.array([size[0] / 2 + room, -size[1] / 2, 0.0])
            widest = max(float(size[0]), 200.0)
        else:
            if row > 0 and row + size[0] > widest:
                corner, row, depth = corner + np.array([0, depth + 10, 0]), 0.0, 0.0
            shift = corner + np.array([row, 0, 0]) - low
            row, depth = row + float(size[0]) + 10, max(depth, float(size[1]))
        for copy in group:
            assembly.poses[copy] = _shifted(assembly.poses[copy], shift)


def _shifted(pose: Matrix, shift: Matrix) -> Matrix:
    moved = pose.copy()
    moved[:3, 3] += shift
    return moved
