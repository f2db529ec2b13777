"""Holding tabs: what keeps a part, or a large piece of waste, in its sheet until it is broken out."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate

from ..document.preparation import Holding
from ..document.sizes import Size, length, positive
from ..document.sums import SizeError
from ..geometry.loop import Loop
from ..geometry.segment import Line, Point, Segment
from ..said import Said
from .edge import OnEdge
from .path import CutPath

#: A tab keeps as far from corners as it is wide, and at least this far (mm): common practice, no source.
CLEAR = 2.0


class NotHeld(Said):
    """Holding tabs that cannot be made as they were typed; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class TabSizes:
    """Holding tabs in numbers (mm). ``every`` is nothing where they are counted."""

    count: int
    every: float | None
    width: float
    waste: float


def held(holding: Holding) -> TabSizes | None:
    """How parts are held without tabs of their own; None where they are not. Raises `NotHeld`."""
    if holding.how == "none":
        return None
    every = _read("distance of holding tabs", holding.every) if holding.how == "by distance" else None
    return TabSizes(holding.count, every, width_of(holding), _read("waste that is held", holding.waste, length))


def width_of(holding: Holding) -> float:
    """How wide (mm) what is left standing is. Raises `NotHeld`."""
    return _read("width of holding tabs", holding.width)


def _read(what: str, size: Size, reader: Callable[[Size, Mapping[str, float]], float] = positive) -> float:
    try:
        return reader(size, {})
    except SizeError as error:
        raise NotHeld(f"{what.capitalize()}: {error}.") from error


def spread(part: str, loops: Sequence[Loop], how: TabSizes) -> list[OnEdge]:
    """Tabs for a part's outline, the first of the loops, and for what falls out of large cut-outs."""
    found = []
    for number, loop in enumerate(loops):
        left, bottom, right, top = loop.bounds
        if number and not (0 < how.waste < min(right - left, top - bottom)):
            continue
        count = how.count if how.every is None else max(2, round(loop.length / how.every))
        found += [OnEdge(number, at, share) for at, share in _spread(part, loop, count, how.width)]
    return found


def _spread(part: str, loop: Loop, count: int, width: float) -> list[tuple[int, float]]:
    """So many places on a loop, far from each other, on straight runs where there are any that are long enough."""
    starts = [0.0, *accumulate(segment.length for segment in loop.segments)]
    runs = _runs(part, loop, width, straight=True) or _runs(part, loop, width, straight=False)
    if not runs:
        return []
    whole = starts[-1]
    taken: list[tuple[float, int, float]] = []
    first = starts[runs[0]] + loop.segments[runs[0]].length / 2
    for number in range(count):
        wanted = (first + number * whole / count) % whole
        places = ((place, at) for at in runs for place in _nearest(starts, loop, at, wanted, width))
        place, at = min(places, key=lambda one: _apart(wanted, one[0], whole))
        if all(_apart(place, other, whole) > 3 * width for other, _, _ in taken):
            taken.append((place, at, (place - starts[at]) / loop.segments[at].length))
    return [(at, share) for _, at, share in taken]


def _runs(part: str, loop: Loop, width: float, straight: bool) -> list[int]:
    """Segments that a tab may stand on: of the part's own sides, and not of a joint."""
    room = width + 2 * max(CLEAR, width)
    return [
        at
        for at, segment in enumerate(loop.segments)
        if segment.length >= room
        and (segment.source.shape == part or segment.source.shape.startswith(f"{part}/"))
        and (isinstance(segment, Line) or not straight)
    ]


def _nearest(starts: Sequence[float], loop: Loop, at: int, wanted: float, width: float) -> Iterator[float]:
    """The place on a segment, clear of its ends, that is nearest to one wanted; both measured along the loop."""
    clear = width / 2 + max(CLEAR, width)
    low, high = starts[at] + clear, starts[at] + loop.segments[at].length - clear
    yield from (low, min(max(wanted, low), high), high)


def _apart(a: float, b: float, whole: float) -> float:
    return min((a - b) % whole, (b - a) % whole)


def clear_of_ends(loops: Sequence[Loop], at: OnEdge, width: float) -> OnEdge | None:
    """The place moved along its segment until a tab of a width (mm) has room on it; None where it has none.

    Across a corner nothing would hold straight.
    """
    segment = loops[at.loop].segments[at.segment]
    clear = width / 2 + min(CLEAR, width)
    if segment.length < 2 * clear:
        return None
    share = min(max(at.share, clear / segment.length), 1 - clear / segment.length)
    return OnEdge(at.loop, at.segment, share)


# Cut lines with their tabs left standing


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A stretch of a cut line that is left out, by its ends (mm)."""

    start: Point
    end: Point


def with_tabs_apart(path: CutPath, gap: float) -> CutPath:
    """A closed path without those of its tabs that stand nearer than two gaps (mm) behind another: these are one."""
    kept: dict[float, Point] = {}
    for place, tab in sorted(((place_along(path.segments, tab), tab) for tab in path.tabs), key=lambda one: one[0]):
        if all(_apart(place, other, path.length) >= 2 * gap for other in kept):
            kept[place] = tab
    return replace(path, tabs=tuple(kept.values()))


def opened(path: CutPath, gap: float) -> tuple[list[CutPath], list[LeftOut]]:
    """A closed path as the stretches between its holding tabs, from where it is begun, and the gaps between them.

    Its tabs are those `with_tabs_apart`. ``gap`` (mm) is what is left out of the line: the tab's width, and what the
    beam takes on both its sides.
    """
    whole = path.length
    middles = sorted(place_along(path.segments, tab) for tab in path.tabs)
    edges = [((middle - gap / 2) % whole, (middle + gap / 2) % whole) for middle in middles]
    if not edges or len(edges) * gap >= whole:
        return [path], []
    # A tab on the start takes the start with it: the cut is then begun behind it.
    over = next((end for start, end in edges if end < start), 0.0)
    stops = [over, *(edge for start, end in edges if start < end for edge in (start, end))]
    stops.append(next((start for start, end in edges if end < start), whole))
    stretches = [
        replace(path, segments=tuple(between(path.segments, a, b)), closed=False, tabs=())
        for a, b in zip(stops[::2], stops[1::2], strict=True)
        if b - a > 1e-6
    ]
    gaps = [LeftOut(_at(path.segments, start), _at(path.segments, end)) for start, end in edges]
    return stretches, gaps


def place_along(segments: Sequence[Segment], point: Point) -> float:
    """How far along the segments (mm) the place nearest to a point lies."""
    best, along = (float("inf"), 0.0), 0.0
    for segment in segments:
        share = min(max(segment.share_of(point), 0.0), 1.0)
        best = min(best, (abs(segment.at(share) - point), along + share * segment.length))
        along += segment.length
    return best[1]


def _at(segments: Sequence[Segment], place: float) -> Point:
    for segment in segments:
        if place <= segment.length:
            return segment.at(place / segment.length)
        place -= segment.length
    return segments[-1].end


def between(segments: Sequence[Segment], begin: float, end: float) -> Iterator[Segment]:
    """What of the segments lies between two places along them (mm)."""
    along = 0.0
    for segment in segments:
        first, last = max(begin - along, 0.0), min(end - along, segment.length)
        along += segment.length
        if last - first > 1e-9:
            whole = first <= 0 and last >= segment.length
            start = segment.start if first <= 0 else segment.at(first / segment.length)
            stop = segment.end if last >= segment.length else segment.at(last / segment.length)
            yield segment if whole else segment.between(start, stop)
