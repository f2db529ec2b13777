"""From a net of lines to closed outlines, and the lines that stay open."""

from __future__ import annotations

import cmath
import math
from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from ...geometry.segment import Line, Point, Segment, arc_from_bulge, cross
from ..chains import Chain
from .ends import End, Joins, Net

#: Outlines that enclose less than this (mm²) enclose nothing.
NOTHING = 1e-4


@dataclass(slots=True)
class Traced:
    """What a net gives: closed chains, open ones, and how many segments are sides of two outlines.

    ``inside`` is where segments lie that are left out, because what runs round them is one whole.
    """

    closed: list[Chain] = field(default_factory=list)
    open: list[Chain] = field(default_factory=list)
    shared: int = 0
    inside: list[Point] = field(default_factory=list)


def traced(drawn: Net, joined: Joins, whole: bool = False) -> Traced:
    """Follows the lines of a net, with its loose ends joined.

    Where more than two lines meet, each room that they enclose is an outline, so that a side drawn once for two
    neighbours belongs to both; or what runs round all of them, where they are taken as a ``whole``. Tails that lead
    nowhere stay open.
    """
    return _Tracing(drawn, joined, whole).run()


def bridges(of: Sequence[tuple[int, int]]) -> list[int]:
    """Which segments, by their nodes, enclose nothing: without one of those, what it leads to hangs with nothing else.

    Tails that end loose are such, and ways from one outline to another. Found as Tarjan did, from memory: a walk that
    numbers the nodes in turn, and a segment is a bridge where nothing beyond it leads back to before it.
    """
    at: dict[int, list[tuple[int, int]]] = defaultdict(list)
    for index, (a, b) in enumerate(of):
        at[a].append((index, b))
        at[b].append((index, a))
    turn: dict[int, int] = {}
    back: dict[int, int] = {}
    found = []
    for begin in list(at):
        if begin in turn:
            continue
        turn[begin] = back[begin] = len(turn)
        way: list[tuple[int, int, Iterator[tuple[int, int]]]] = [(begin, -1, iter(at[begin]))]
        while way:
            here, by, ahead = way[-1]
            index, there = next(ahead, (-1, -1))
            if index < 0:
                way.pop()
                if way:
                    before = way[-1][0]
                    back[before] = min(back[before], back[here])
                    if back[here] > turn[before]:
                        found.append(by)
            elif index != by and there in turn:
                back[here] = min(back[here], turn[there])
            elif index != by:
                turn[there] = back[there] = len(turn)
                way.append((there, index, iter(at[there])))
    return found


class _Tracing:
    def __init__(self, drawn: Net, joined: Joins, whole: bool) -> None:
        self._whole = whole
        self._of = joined.nodes_of(drawn)
        places = list(drawn.places)
        ending = {node: i for i, nodes in enumerate(drawn.of) for node in nodes}
        for a, b in joined.pairs:
            places[a] = _corner(drawn.places[a], drawn.places[b], *(drawn.segments[ending[node]] for node in (a, b)))
        moved = {node for pair in joined.pairs for node in pair}
        self._segments = [
            _between(segment, places[own[0]], places[own[1]]) if moved & set(nodes) else segment
            for segment, nodes, own in zip(drawn.segments, drawn.of, self._of, strict=True)
        ]
        self._at: dict[int, list[End]] = defaultdict(list)
        for index, (a, b) in enumerate(self._of):
            self._at[a].append((index, True))
            self._at[b].append((index, False))
        self._free = [True] * len(self._segments)
        self._found = Traced()

    def run(self) -> Traced:
        leading_nowhere = bridges(self._of)
        for index in leading_nowhere:
            self._free[index] = False
        self._found.open = [Chain(tuple(run), False) for run in _chained(leading_nowhere, self._segments, self._of)]
        for index in range(len(self._segments)):
            if self._free[index]:
                self._component(index)
        return self._found

    def _component(self, first: int) -> None:
        members = self._connected(first)
        crowded = any(sum(self._free[i] for i, _ in self._at[n]) > 2 for i in members for n in self._of[i])
        rooms = (self._round(members) if self._whole else self._rooms(members)) if crowded else [self._loop(first)]
        for index in members:
            self._free[index] = False
        if not rooms:
            # What goes round and encloses nothing is told, and never lost.
            runs = _chained(members, self._segments, self._of)
            self._found.open += [Chain(tuple(run), False) for run in runs]
        used: dict[int, int] = defaultdict(int)
        for room in rooms:
            segments = [self._run(end) for end in room]
            # What crosses itself may enclose as much to the right as to the left.
            self._found.closed.append(Chain(tuple(segments), True))
            for index, _ in room:
                used[index] += 1
        self._found.shared += sum(1 for times in used.values() if times > 1)
        if self._whole and crowded:
            self._found.inside += [self._segments[index].at(0.5) for index in members if index not in used]

    def _connected(self, first: int) -> list[int]:
        seen, waiting = {first}, [first]
        while waiting:
            for node in self._of[waiting.pop()]:
                fresh = [i for i, _ in self._at[node] if self._free[i] and i not in seen]
                seen.update(fresh)
                waiting += fresh
        return sorted(seen)

    def _loop(self, first: int) -> list[End]:
        run: list[End] = [(first, True)]
        start, here = self._of[first]
        while here != start:
            own = run[-1][0]
            index, at_start = next((i, s) for i, s in self._at[here] if self._free[i] and i != own)
            run.append((index, at_start))
            here = self._of[index][1 if at_start else 0]
        return run

    def _rooms(self, members: Iterable[int]) -> list[list[End]]:
        """The rooms that lines enclose."""
        return [run for run in self._faces(members) if sum(self._run(end).green() for end in run) > NOTHING]

    def _round(self, members: Iterable[int]) -> list[list[End]]:
        """What runs round all rooms: once round each, where they hang together by a corner only."""
        runs = []
        for face in self._faces(members):
            if sum(self._run(end).green() for end in face) < -NOTHING:
                runs += self._parted([(index, not forward) for index, forward in reversed(face)])
        return runs

    def _parted(self, face: list[End]) -> list[list[End]]:
        """A way round as ways that come by no place twice."""
        runs: list[list[End]] = []
        way: list[End] = []
        begun: dict[int, int] = {}
        for end in face:
            index, ahead = end
            begun[self._of[index][0 if ahead else 1]] = len(way)
            way.append(end)
            begins = begun.get(self._of[index][1 if ahead else 0])
            if begins is not None:
                runs.append(way[begins:])
                for passed, onward in way[begins:]:
                    begun.pop(self._of[passed][0 if onward else 1], None)
                del way[begins:]
        return runs

    def _faces(self, members: Iterable[int]) -> list[list[End]]:
        """The ways round: at every node the next line to the left is taken, so that rooms lie left."""
        todo = {(index, way) for index in members for way in (True, False)}
        faces = []
        for first in sorted(todo):
            if first not in todo:
                continue
            run = [first]
            todo.discard(first)
            while True:
                onward = self._leftmost(*run[-1])
                if onward not in todo:
                    break
                todo.discard(onward)
                run.append(onward)
            faces.append(run)
        return faces

    def _leftmost(self, index: int, forward: bool) -> End:
        """Where to go on at the end of a segment so that what lies on its left stays there."""
        arriving = self._run((index, forward))
        node = self._of[index][1 if forward else 0]
        back = _leaving(arriving.reversed())

        def turn(end: End) -> float:
            angle = cmath.phase(_leaving(self._run(end)) / back) % math.tau
            return angle if angle > 1e-9 else math.tau

        choices = [end for end in self._at[node] if self._free[end[0]] and end != (index, not forward)]
        # The first one clockwise from where it came from.
        return max(choices, key=turn) if choices else (index, not forward)

    def _run(self, end: End) -> Segment:
        index, forward = end
        return self._segments[index] if forward else self._segments[index].reversed()


def _leaving(segment: Segment) -> complex:
    """The direction in which a segment leaves, a little way on: arcs that touch are told apart by their bend."""
    little = min(0.25, 0.05 / segment.length) if segment.length else 0.25
    ahead = segment.at(little) - segment.start
    return ahead / abs(ahead) if abs(ahead) > 0 else 1


def _corner(a: Point, b: Point, first: Segment, second: Segment) -> Point:
    """Where two ends that nearly meet were meant to: where their lines cross, if that is as near, else between them."""
    middle = (a + b) / 2
    if isinstance(first, Line) and isinstance(second, Line):
        along, across = first.start_tangent, second.start_tangent
        turned = cross(along, across)
        if abs(turned) > 0.1:
            met = a + along * cross(across, a - b) / turned
            return met if abs(met - middle) <= abs(a - b) else middle
    return middle


def _between(segment: Segment, start: Point, end: Point) -> Segment:
    """A segment with its ends moved a little; an arc keeps its bend."""
    if isinstance(segment, Line):
        return Line(start, end, segment.source)
    return arc_from_bulge(start, end, segment.bulge, segment.source)


def _chained(which: Sequence[int], segments: Sequence[Segment], of: Sequence[tuple[int, int]]) -> list[list[Segment]]:
    """Tails as runs of segments that follow one another."""
    at: dict[int, list[int]] = defaultdict(list)
    for index in which:
        for node in of[index]:
            at[node].append(index)
    free = set(which)
    runs = []
    for first in which:
        if first not in free:
            continue
        free.discard(first)
        run = [segments[first]]
        for way in (1, 0):
            here = of[first][way]
            while onward := [i for i in at[here] if i in free and len(at[here]) == 2]:
                index = onward[0]
                free.discard(index)
                forward = of[index][0] == here
                piece = segments[index]
                if way == 1:
                    run.append(piece if forward else piece.reversed())
                else:
                    run.insert(0, piece.reversed() if forward else piece)
                here = of[index][1 if forward else 0]
        runs.append(run)
    return runs


def gap_of(chain: Chain) -> float:
    """How far (mm) the ends of an open chain are apart."""
    return abs(chain.segments[-1].end - chain.segments[0].start)
