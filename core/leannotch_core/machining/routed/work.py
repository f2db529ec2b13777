"""What the cutter does for each job of a sheet: its strokes, by which cutter, and how fast."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import shapely
from shapely import Polygon, STRtree

from ...document.operations import MARKS, Work
from ...document.setting import Setting
from ...document.sheet import Placement
from ...evaluate import EvaluatedPart
from ...facts.cutters import CutterFacts, NoCutter
from ...geometry.arrangement import select
from ...geometry.loop import Loop, Outline
from ...geometry.offset import grow
from ...geometry.segment import Motion, Point, Segment
from ...layout.sheets import motion
from ...parts.pocket import Pocket
from ...remembered import remembered
from ..holding import place_along
from ..jobs import Job, JobKey
from ..path import CutPath
from .along import along
from .depths import passes
from .drill import drilled
from .pocket import WIDEST_RINGS, Clearing, by_rings, by_rows, rest
from .profile import Manner, gentle, in_direction, profiled
from .rack import Rack
from .reach import bands
from .stroke import ClosedWay, Stroke, Strokes
from .tabs import LiftedTabs

#: How near (mm) a cutter may come to what is to be kept beside its own line.
_TOUCHES = 1e-3

#: The setting of an operation on a part with a cutter.
RoutedSettings = Callable[[str, Work, str], Setting]


@dataclass(frozen=True, slots=True)
class CutterRun:
    """What one cutter does for a job without being lifted off, in the frame of the sheet. ``job`` is its place."""

    job: int
    cutter: CutterFacts
    operation: Work
    setting: Setting
    strokes: tuple[Stroke, ...]

    @property
    def start(self) -> Point:
        return self.strokes[0].segment.start

    @property
    def end(self) -> Point:
        return self.strokes[-1].segment.end


@dataclass(frozen=True, slots=True)
class SheetDepth:
    """A sheet in its depth (mm): as thick as it measures on the whole, and where it is thickest."""

    thickness: float
    thickest: float


class Workshop:
    """Makes the runs of jobs. ``kept`` are the finished parts as they lie on the sheet."""

    def __init__(self, rack: Rack, sheet: SheetDepth, settings: RoutedSettings, kept: Sequence[Polygon]) -> None:
        self._rack, self._sheet, self._settings = rack, sheet, settings
        self._kept = STRtree(list(kept))
        self.through = sheet.thickest + rack.overcut
        self.tab_top = rack.tab_height - sheet.thickness

    def runs(
        self, jobs: Sequence[Job], parts: dict[str, EvaluatedPart], placements: dict[JobKey, Placement]
    ) -> list[CutterRun]:
        """All runs in order; cuts of one stage that follow each other go down together where that is asked for."""
        found: list[CutterRun] = []
        waiting: list[list[list[CutterRun]]] = []
        stage = ""
        for at, job in enumerate(jobs):
            if waiting and job.key.stage != stage:
                found += _in_layers(waiting)
                waiting = []
            stage = job.key.stage
            together = self._rack.routing.goes == "pass by pass" and stage in ("inner", "outer")
            if together:
                waiting.append(self._cut_by_passes(at, job))
            else:
                found += self._of(at, job, parts[job.key.part], placements[job.key])
        return found + _in_layers(waiting)

    def _of(self, at: int, job: Job, part: EvaluatedPart, placement: Placement) -> Iterator[CutterRun]:
        stage = job.key.stage
        if stage in ("pocket", "rest"):
            yield from self._pockets(at, job, part, placement)
        elif stage == "fill":
            yield from self._filled(at, job)
        elif stage == "drill":
            for path in sorted(job.paths, key=lambda path: path.length):
                yield from self._drilled(at, job, path)
        elif stage in MARKS or job.paths[0].operation != "cut":
            for path in job.paths:
                yield from self._marked(at, job, path)
        else:
            yield from self._cut_one_by_one(at, job)

    def _run(self, at: int, job: Job, cutter: CutterFacts, operation: Work, strokes: Strokes) -> CutterRun:
        return CutterRun(at, cutter, operation, self._settings(job.key.part, operation, cutter.id), tuple(strokes))

    def stepdown(self, part: str, operation: Work, cutter: CutterFacts) -> float:
        return self._settings(part, operation, cutter.id).stepdown or cutter.diameter

    def _marked(self, at: int, job: Job, path: CutPath) -> Iterator[CutterRun]:
        cutter, operation = self._rack.marks, _work(path.operation)
        down = self.stepdown(job.key.part, operation, cutter)
        strokes = along(path.segments, self._rack.mark_depth, down, cutter.plunges, self._rack.ramp)
        yield self._run(at, job, cutter, operation, strokes)

    def _filled(self, at: int, job: Job) -> Iterator[CutterRun]:
        """Lettering and figures cleared as pockets are: by their closed lines, those within others left standing."""
        rack, depth = self._rack, self._rack.mark_depth
        loops = [Loop(path.segments) for path in job.paths if path.closed]
        region = select([loops], lambda w: w[:, 0] % 2 != 0) if loops else []
        how = self.clearing(job.key.part, "fill", rack.marks, rack.marks.width_at(depth) / 2)
        for strokes in _cleared(rack, region, 0.0, depth, how):
            yield self._run(at, job, rack.marks, "fill", strokes)

    def _drilled(self, at: int, job: Job, path: CutPath) -> Iterator[CutterRun]:
        circle = Loop(path.segments).circle()
        if circle is None:
            raise NoCutter(f"A hole of {job.key.part} is drilled that is not round.")
        centre, radius = circle
        cutter = self._rack.cutter_for("drill", 2 * radius)
        yield self._run(at, job, cutter, "drill", drilled(centre, self.through, self._rack.peck))

    # Pockets

    def clearing(self, part: str, operation: Work, cutter: CutterFacts, radius: float) -> Clearing:
        """How a cutter clears an area of a part: at a radius (mm) from its walls."""
        rack = self._rack
        return Clearing(
            radius=radius,
            stepover=min(rack.routing.stepover, WIDEST_RINGS if rack.routing.clearing == "offsets" else 1) * 2 * radius,
            stepdown=self.stepdown(part, operation, cutter),
            ramp=rack.ramp,
            direction=rack.routing.direction,
            helical=rack.routing.entry == "helix",
            plunges=cutter.plunges,
        )

    def _pockets(self, at: int, job: Job, part: EvaluatedPart, placement: Placement) -> Iterator[CutterRun]:
        rack, stage = self._rack, job.key.stage
        place = motion(placement)
        # What is turned over is cleared as it lies, so that climb stays climb.
        over = Motion(mirrored=True) if place.mirrored else Motion()
        onto = over.back.then(place)
        cutter = rack.cutter_for(stage)
        how = self.clearing(part.part.id, "pocket", cutter, cutter.radius)
        wider = rack.pockets.radius if stage == "rest" else 0.0
        for strokes in _pocketed(part.pockets, place.mirrored, rack.routing.clearing, how, wider):
            moved = [stroke.moved(onto) for stroke in strokes]
            yield self._run(at, job, cutter, "pocket", moved)

    # Cuts

    def _cut_by_passes(self, at: int, job: Job) -> list[list[CutterRun]]:
        """Runs for each height, the first pass first; a finishing pass comes with the last."""
        heights = passes(self.through, self.stepdown(job.key.part, "cut", self._rack.cut))
        done: list[list[CutterRun]] = [[] for _ in heights]
        for path in job.paths:
            rough, fine = self._lines(path)
            for layer, way in zip(done, self._followed(rough or fine, path, heights), strict=True):
                layer.append(self._run(at, job, self._rack.cut, "cut", way))
            if rough:
                last = self._followed(fine, path, heights[-1:])
                done[-1] += [self._run(at, job, self._rack.cut, "cut", way) for way in last]
        return done

    def _cut_one_by_one(self, at: int, job: Job) -> Iterator[CutterRun]:
        """Runs for each line to its full depth, without lifting off where one pass leads into the next."""
        heights = passes(self.through, self.stepdown(job.key.part, "cut", self._rack.cut))
        for path in job.paths:
            rough, fine = self._lines(path)
            ways = self._followed(rough or fine, path, heights)
            ways += self._followed(fine, path, heights[-1:]) if rough else []
            for way in _led_on(ways):
                yield self._run(at, job, self._rack.cut, "cut", way)

    def _followed(self, line: Sequence[Segment], path: CutPath, heights: Sequence[float]) -> list[Strokes]:
        """The way along a closed line at each of some heights."""
        segments = in_direction(line, self._rack.routing.direction)
        manner = self._manner()
        if manner.lead > 0 and ClosedWay.of(segments).length < 4 * manner.lead:
            manner = gentle(manner)
        return profiled(segments, heights, self._standing(segments, path), manner)

    def _lines(self, path: CutPath) -> tuple[tuple[Segment, ...] | None, tuple[Segment, ...]]:
        """The line to rough along, where an allowance is left, and the line itself."""
        if self._rack.finishing <= 0 or not path.closed:
            return None, path.segments
        loop = Loop(path.segments)
        outside = loop.area > 0
        region = [Outline(loop if outside else loop.reversed())]
        grown = grow(region, self._rack.finishing if outside else -self._rack.finishing, "round")
        if len(grown) != 1:
            return None, path.segments
        line = grown[0].outer if outside else grown[0].outer.reversed()
        begun = ClosedWay.of(line.segments)
        start = place_along(line.segments, path.start)
        return tuple(begun.onward(start, begun.length)), path.segments

    def _standing(self, segments: Sequence[Segment], path: CutPath) -> LiftedTabs | None:
        if not path.tabs:
            return None
        rack = self._rack
        return LiftedTabs(
            middles=tuple(place_along(segments, tab) for tab in path.tabs),
            lifted=rack.tab_width + rack.cut.diameter,
            top=self.tab_top,
            sloping=rack.sloping_tabs,
            plunges=rack.cut.plunges,
            ramp=rack.ramp,
        )

    def _manner(self) -> Manner:
        rack = self._rack
        return Manner(
            entry=rack.routing.entry,
            ramp=rack.ramp,
            direction=rack.routing.direction,
            lead=rack.lead,
            radius=rack.cut.radius,
            plunges=rack.cut.plunges,
            has_room=self._has_room,
        )

    def _has_room(self, centre: Point, radius: float) -> bool:
        reach = radius + self._rack.cut.radius - _TOUCHES
        near = self._kept.query(shapely.Point(centre.real, centre.imag), predicate="dwithin", distance=reach)
        return not near.size


def _work(operation: str) -> Work:
    return "score" if operation == "score" else "engrave"


def _led_on(ways: Sequence[Strokes]) -> list[Strokes]:
    """The ways, those joined that begin where the one before them ended."""
    found: list[Strokes] = []
    for way in ways:
        last = found[-1][-1] if found else None
        first = way[0]
        if last and abs(last.segment.end - first.segment.start) < 1e-9 and abs(last.z - first.from_z) < 1e-9:
            found[-1] = [*found[-1], *way]
        else:
            found.append(list(way))
    return found


def _in_layers(waiting: Sequence[Sequence[Sequence[CutterRun]]]) -> list[CutterRun]:
    """The first pass of all, then the second of all, and so on."""
    deepest = max((len(layers) for layers in waiting), default=0)
    return [run for level in range(deepest) for layers in waiting if level < len(layers) for run in layers[level]]


@remembered(most=256)
def _pocketed(
    pockets: tuple[Pocket, ...], mirrored: bool, clearing: str, how: Clearing, wider: float
) -> tuple[tuple[Stroke, ...], ...]:
    """The strokes for all pockets of a part in its frame, or turned over; with ``wider``, for what is left by that."""
    over = Motion(mirrored=mirrored)
    found: list[Strokes] = []
    for region, begun, depth in bands(pockets):
        turned = [outline.moved(over) for outline in region]
        if wider:
            found += rest(turned, begun, depth, wider, how)
        elif clearing == "zigzag":
            found += by_rows(turned, begun, depth, how)
        else:
            found += by_rings(turned, begun, depth, how)
    return tuple(tuple(strokes) for strokes in found)


def _cleared(rack: Rack, region: Sequence[Outline], begun: float, depth: float, how: Clearing) -> list[Strokes]:
    return (by_rows if rack.routing.clearing == "zigzag" else by_rings)(region, begun, depth, how)
