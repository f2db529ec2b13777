"""Joints that would hold plates where they stood in a mesh: each is tried, and offered if it leaves them there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise, permutations, product
from typing import Literal

import numpy as np

from ..assembly.poses import Assembly, Copy
from ..assembly.space import Matrix, extent, poses_between
from ..document.ids import free_id
from ..document.model import Side
from ..drawings.alike import lies_on
from ..evaluate import EvaluatedPart, Result, evaluate, meetings_of
from ..geometry.arrangement import contains
from ..geometry.loop import Outline
from ..geometry.segment import Motion, dot
from ..joints.cross_lap.typed import CrossLap
from ..joints.ends import EdgeOf, FaceLine, SlotAt
from ..joints.families import Joint
from ..joints.finger.typed import FingerJoint
from ..joints.housing.typed import Housing
from ..joints.tab_and_slot.typed import TabAndSlot
from ..parts.part import Part
from ..parts.reshaping import mirrored
from ..parts.sides import SideFrame, side_frame
from ..project.project import Project
from .mating import degrees
from .offer import JointOffer, in_mm
from .redrawn import as_drawn, lengthened

#: A joint leaves its parts where they stood if it moves them by no more than this (mm): sheets differ from what was
#: drawn by about as much.
STAYS = 1.5

#: Directions that differ by no more than this are one.
TURNED = 0.01

#: Edges and faces that lie this near (mm) touch: sheets differ from what was drawn by half of the above on a side.
NEAR = 1.0

SIDES: tuple[Side, Side, Side, Side] = ("bottom", "right", "top", "left")


def stood(project: Project, result: Result, assembly: Assembly) -> Iterator[JointOffer]:
    """A joint of every kind that would hold two plates that meet."""
    pairs = list(_pairs(project, result, assembly, assembly.poses))
    for edges in _edges(pairs).values():
        yield from _held(edges)
    lapped = {frozenset(joint.parts) for joint in project.joints if isinstance(joint, CrossLap)}
    crossings: dict[tuple[str, Side, str, Side], list[_Crossing]] = defaultdict(list)
    for pair in pairs:
        a, b = pair.a.part.id, pair.b.part.id
        for crossing in pair.crossings() if a < b and frozenset((a, b)) not in lapped else ():
            crossings[a, crossing.side, b, crossing.other].append(crossing)
    for crossed in crossings.values():
        yield from _lapped(crossed)


def refitted(project: Project, result: Result, assembly: Assembly, grown: Part) -> list[Joint]:
    """The joints of the project with their places where they were, once a part of it has grown at one side."""
    before = result.parts[grown.id].part
    parts = [grown if part.id == grown.id else part for part in project.parts]
    fresh = project.model_copy(update={"parts": parts})
    moved = _moved(before, grown)
    poses = {copy: pose @ moved if copy.part == grown.id else pose for copy, pose in assembly.poses.items()}
    edges = _edges(_pairs(fresh, evaluate(fresh), assembly, poses))
    return [_refitted(joint, edges) if grown.id in joint.parts else joint for joint in project.joints]


def _refitted(joint: Joint, edges: Mapping[_Place, Sequence[_Edge]]) -> Joint:
    if isinstance(joint, FingerJoint):
        ways = ((joint.a, joint.b), (joint.b, joint.a))
        found = next((f for a, b in ways if (f := edges.get((a.part, a.side, b.part, b.side)))), None)
        return joint.model_copy(update={"shift": in_mm(found[0].shift)}) if found else joint
    if isinstance(joint, TabAndSlot | Housing) and (
        found := edges.get((joint.a.part, joint.a.side, joint.b.part, None))
    ):
        return joint.model_copy(update={"b": _line(found)})
    return joint


#: An edge on a face: the part and its side, the other part, and the side of that which is flush with it at a corner.
_Place = tuple[str, Side, str, Side | None]


def _pairs(project: Project, result: Result, assembly: Assembly, poses: Mapping[Copy, Matrix]) -> Iterator[_Pair]:
    """Copies of different parts that stand square to one another and near, in one space."""
    # The edges of what is bent stand elsewhere than its flat outline says.
    flat = {id for id, one in result.parts.items() if one.part.stands and not one.part.bends}
    groups = [[copy for copy in group if copy.part in flat] for group in assembly.groups]
    for a, b in (pair for group in groups for pair in permutations(group, 2)):
        if a.part != b.part and (pair := pair_of(project, result, poses, a, b)):
            yield pair


def pair_of(project: Project, result: Result, poses: Mapping[Copy, Matrix], a: Copy, b: Copy) -> _Pair | None:
    """Two copies, if they stand square to one another and near."""
    pair = _Pair(project, result.parts[a.part], result.parts[b.part], _seen(poses[a], poses[b]))
    return pair if abs(pair.there[2, 2]) <= TURNED and pair.is_near() else None


def _edges(pairs: Iterable[_Pair]) -> dict[_Place, list[_Edge]]:
    edges: dict[_Place, list[_Edge]] = defaultdict(list)
    for pair in pairs:
        for edge in pair.edges():
            edges[pair.a.part.id, edge.side, pair.b.part.id, edge.corner].append(edge)
    return edges


def _moved(before: Part, after: Part) -> Matrix:
    """From the frame of a part that grew to its frame before: at its lower or left side its corner is elsewhere."""
    moved = np.eye(4)
    old, new = (np.array(part.stands[0].rows).reshape(3, 4) for part in (before, after))
    moved[:3, 3] = old[:, :3].T @ (new[:, 3] - old[:, 3])
    return moved


def _seen(own: Matrix, other: Matrix) -> Matrix:
    """A pose in the frame of another one."""
    return np.asarray(np.linalg.inv(own) @ other)


@dataclass(frozen=True, slots=True)
class _Edge:
    """A side of a pair's first part on a face of its second: where it begins there, and which way it runs.

    ``deep`` mm below the near face; ``corner`` is the side of the second that is flush with the first, and ``shift``
    where the shorter of both edges begins on the longer one.
    """

    pair: _Pair
    side: Side
    begin: complex
    way: complex
    deep: float
    corner: Side | None
    shift: float

    def begins(self, first: _Edge) -> complex | None:
        """Where it begins, run the way of another one of its kind; None where it cannot be."""
        if abs(self.way - first.way) < TURNED:
            return self.begin
        if abs(self.way + first.way) < TURNED and _is_even(self.pair.a, self.side):
            return self.begin + self.way * _frame(self.pair.a, self.side).length
        return None

    @property
    def lies(self) -> str:
        """Where it lies on the second part, whichever way it runs, to a mm."""
        ends = (self.begin, self.begin + self.way * _frame(self.pair.a, self.side).length)
        return " to ".join(f"{x:g}, {y:g}" for x, y in sorted((round(end.real), round(end.imag)) for end in ends))

    @property
    def thick(self) -> float:
        return self.pair.b.stock.thickness

    @property
    def butts(self) -> bool:
        return self.deep < NEAR

    @property
    def goes_through(self) -> bool:
        return abs(self.deep - self.thick) < NEAR

    def grown(self) -> tuple[Part, ...] | None:
        """The first part as it must be to reach the far face of the other; None where it cannot be made so."""
        if self.goes_through:
            return ()
        outline = as_drawn(self.pair.a.part)
        grown = lengthened(self.pair.a.part, outline, self.side, self.thick - self.deep) if outline else None
        return (grown,) if grown else None


@dataclass(frozen=True, slots=True)
class _Crossing:
    """Sides at which the slots of a pair open, and where along them."""

    pair: _Pair
    side: Side
    other: Side
    at: float
    other_at: float


def _held(edges: Sequence[_Edge]) -> Iterator[JointOffer]:
    """Joints that hold an edge of one part on the face of another, wherever copies of both meet so."""
    first = edges[0]
    pair, length = first.pair, _frame(first.pair.a, first.side).length
    edge = EdgeOf(part=pair.a.part.id, side=first.side)
    grown = first.grown()
    how = f"The {first.side} of {{a}} {'goes through' if first.goes_through else 'stands on'} {{b}}"
    if first.corner:
        if grown is not None:
            other = EdgeOf(part=pair.b.part.id, side=first.corner)
            starts = _starts(pair.project, edge, other)
            if starts is None:
                return
            finger, shift = in_mm(min(15.0, length / 3)), in_mm(first.shift)
            joint = FingerJoint(id=pair.free, a=edge, b=other, finger=finger, shift=shift, starts=starts)
            how = f"The {first.side} of {{a}} meets the {first.corner} of {{b}} at a corner"
            yield from pair.if_it_stays(joint, grown, how)
        return
    line = _line(edges)
    if first.butts:
        yield from pair.if_it_stays(Housing(id=pair.free, a=edge, b=line), (), how)
    if grown is not None:
        tabs = TabAndSlot(id=pair.free, a=edge, b=line, width=in_mm(length / 5), inset=in_mm(length / 8))
        yield from pair.if_it_stays(tabs, grown, how)


def _starts(project: Project, a: EdgeOf, b: EdgeOf) -> Literal["a", "b"] | None:
    """Which of two edges starts with a finger; None where neither way goes with the joints that cut them already.

    Copies of one part bear the same fingers, whatever each of them meets.
    """
    known = {
        end: (joint.starts == "a") == (end is joint.a)
        for joint in project.joints
        if isinstance(joint, FingerJoint)
        for end in (joint.a, joint.b)
    }
    first, second = known.get(a), known.get(b)
    if first is not None and first == second:
        return None
    return "a" if first or (first is None and not second) else "b"


def _line(edges: Sequence[_Edge]) -> FaceLine:
    """The lines that edges stand on: evenly spaced ones at once, else the first."""
    first = edges[0]
    offs = [begin - first.begin for edge in edges if (begin := edge.begins(first)) is not None]
    steps = sorted({round(dot(off, first.way * 1j), 2) for off in offs if abs(dot(off, first.way)) < NEAR})
    gaps = {round(b - a, 1) for a, b in pairwise(steps)}
    several = {"lines": len(steps), "step": in_mm(steps[1] - steps[0])} if len(gaps) == 1 else {}
    begin = first.begin + first.way * 1j * steps[0] if several else first.begin
    place = {"x": in_mm(begin.real), "y": in_mm(begin.imag), "turn": in_mm(degrees(first.way))}
    return FaceLine.model_validate({"part": first.pair.b.part.id, **place, **several})


def _lapped(crossings: Sequence[_Crossing]) -> Iterator[JointOffer]:
    """One cross-lap for all places in which copies of two parts cross."""
    pair, first = crossings[0].pair, crossings[0]
    ats = _places([one.at for one in crossings], pair.a, first.side)
    others = _places([one.other_at for one in crossings], pair.b, first.other)
    slots = [
        SlotAt(part=part.part.id, side=side, at=in_mm(places[0]), also_at=[in_mm(at) for at in places[1:]])
        for part, side, places in ((pair.a, first.side, ats), (pair.b, first.other, others))
    ]
    joint = CrossLap(id=pair.free, a=slots[0], b=slots[1])
    offers = list(pair.if_it_stays(joint, (), "{a} crosses {b}"))
    # Seen from its other side, the second part crosses the other way.
    yield from offers or pair.turned_over().if_it_stays(
        joint.turned_over(pair.b.part.id, {}), (_turned_over(pair.b),), "{a} crosses {b}"
    )


def _places(ats: Sequence[float], part: EvaluatedPart, side: Side) -> list[float]:
    """Each place along a side once; of a part that is even along it, as seen from either face."""
    length, even = _frame(part, side).length, _is_even(part, side)
    found: list[float] = []
    for at in ats:
        seen = (at, length - at) if even else (at,)
        if not any(abs(one - known) < NEAR for one in seen for known in found):
            found.append(round(at, 3))
    return found


def _is_even(part: EvaluatedPart, side: Side) -> bool:
    """Whether the outline of a part is equal to itself turned over along a side."""
    across = Motion(-1, complex(part.width, 0), mirrored=True)
    upward = Motion(1, complex(0, part.height), mirrored=True)
    turned = Outline(part.base.moved(across if side in ("bottom", "top") else upward))
    return not part.pockets and not part.part.cutouts and lies_on(turned, Outline(part.base))


@dataclass(frozen=True, slots=True, eq=False)
class _Pair:
    """Two copies by their parts, ``there`` the pose of the second in the frame of the first."""

    project: Project
    a: EvaluatedPart
    b: EvaluatedPart
    there: Matrix

    @property
    def free(self) -> str:
        """An id for a joint."""
        return free_id("joint", {joint.id for joint in self.project.joints})

    def is_near(self) -> bool:
        (low, high), (other_low, other_high) = extent(self.a, np.eye(4)), extent(self.b, self.there)
        return bool((low <= other_high + STAYS).all() and (other_low <= high + STAYS).all())

    def edges(self) -> Iterator[_Edge]:
        """Sides of the first part that stand on the second, or reach into it."""
        to_b = np.linalg.inv(self.there)
        for side in SIDES:
            frame = _frame(self.a, side)
            start = to_b @ (frame.start.real, frame.start.imag, self.a.stock.thickness / 2, 1)
            along, inward = (to_b[:3, :3] @ (way.real, way.imag, 0.0) for way in (frame.along, frame.inward))
            begin, way = complex(start[0], start[1]), complex(along[0], along[1])
            if abs(abs(inward[2]) - 1) > TURNED or not _lies_on(self.b, begin, way * frame.length):
                continue
            deep = float(self.b.stock.thickness - start[2] if inward[2] > 0 else start[2])
            if -NEAR < deep < self.b.stock.thickness + NEAR:
                corner = _corner(self.b, begin, way, self.a.stock.thickness)
                shift = self._shift(begin, way * frame.length, corner) if corner else 0.0
                yield _Edge(self, side, begin, way, deep, corner, shift)

    def _shift(self, begin: complex, way: complex, corner: Side) -> float:
        """Where the shorter of two edges at a corner begins along the longer one."""
        other = _frame(self.b, corner)
        if other.length >= abs(way):
            return max(0.0, min(dot(end - other.start, other.along) for end in (begin, begin + way)))
        ends = (other.start, other.start + other.along * other.length)
        return max(0.0, min(dot(end - begin, way / abs(way)) for end in ends))

    def crossings(self) -> Iterator[_Crossing]:
        """Where the middle planes of both meet in a line that runs through both."""
        normal = self.there[:3, 2]
        for side, other_side in product(SIDES, SIDES):
            frame, other = _frame(self.a, side), _frame(self.b, other_side)
            across = np.array([frame.along.real, frame.along.imag, 0.0]) @ normal
            inward = self.there[:3, :3] @ (other.inward.real, other.inward.imag, 0.0)
            # One slot opens where the other ends.
            if abs(abs(across) - 1) > TURNED or inward @ (frame.inward.real, frame.inward.imag, 0.0) > TURNED - 1:
                continue
            at = _met_by(frame, self.there, self.b)
            other_at = _met_by(other, np.asarray(np.linalg.inv(self.there)), self.a)
            if at is not None and other_at is not None:
                yield _Crossing(self, side, other_side, at, other_at)

    def turned_over(self) -> _Pair:
        """The pair with the drawing of its second part showing the other face."""
        over = np.diag([-1.0, 1.0, -1.0, 1.0])
        over[0, 3], over[2, 3] = self.b.width, self.b.stock.thickness
        return _Pair(self.project, self.a, self.b, self.there @ over)

    def if_it_stays(self, joint: Joint, parts: Sequence[Part], how: str) -> Iterator[JointOffer]:
        """The joint, if it leaves both parts where they stood."""
        grown = tuple(part for part in parts if part.id == self.a.part.id)
        offer = JointOffer(joint, tuple(parts), how.format(a=self.a.part.name, b=self.b.part.name), grown)
        wanted = _seen(_moved(self.a.part, (*grown, self.a.part)[0]), self.there)
        for meeting in meetings_of(offer.taken(self.project), {joint.id}):
            own, other = (meeting.a, meeting.b) if meeting.a.part == self.a.part.id else (meeting.b, meeting.a)
            apart = np.abs(poses_between([own], [other])[0] - wanted)
            if apart[:3, 3].max() <= STAYS and apart[:3, :3].max() <= TURNED:
                yield offer
                return


def _turned_over(part: EvaluatedPart) -> Part:
    stands = [stand.turned_over(part.width) for stand in part.part.stands]
    return mirrored(part.part).model_copy(update={"stands": stands})


def _met_by(frame: SideFrame, there: Matrix, other: EvaluatedPart) -> float | None:
    """How far along a side the middle plane of another plate lies; None where that is not within it."""
    middle = there @ (0.0, 0.0, other.stock.thickness / 2, 1.0)
    at = dot(complex(middle[0], middle[1]) - frame.start, frame.along)
    room = other.stock.thickness
    return at if room < at < frame.length - room else None


def _frame(part: EvaluatedPart, side: Side) -> SideFrame:
    return side_frame(part.width, part.height, side, part.beyond)


def _lies_on(part: EvaluatedPart, begin: complex, way: complex) -> bool:
    """Whether most of an edge lies on a part as it was drawn."""
    places = [begin + way * share for share in (0.1, 0.3, 0.5, 0.7, 0.9)]
    return sum(contains(part.base, place) for place in places) >= len(places) - 1


def _corner(part: EvaluatedPart, begin: complex, way: complex, thick: float) -> Side | None:
    """The side of a part with which the outer face of an edge on it is flush."""
    for side in SIDES:
        frame = _frame(part, side)
        inset = dot(begin - frame.start, frame.inward)
        if abs(abs(dot(way, frame.along)) - 1) < TURNED and abs(inset - thick / 2) < NEAR:
            return side
    return None
