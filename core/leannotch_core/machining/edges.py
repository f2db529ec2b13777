"""The cut lines of each part with what the maker wants of them: where they are begun, and by what the part is held."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from ..document.preparation import EdgePlace, Preparation
from ..evaluate import EvaluatedPart
from ..geometry.beam import Oval
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Point
from .begun import at_side, halved
from .edge import OnEdge, found, point_of
from .holding import TabSizes, clear_of_ends, held, spread, width_of
from .path import CutPath


class Edges:
    """Start points and holding tabs of a preparation. Raises `NotHeld` where these cannot be read."""

    def __init__(self, preparation: Preparation) -> None:
        self._preparation, self._how = preparation, held(preparation.holding)
        self._width = width_of(preparation.holding)
        self._starts: dict[str, list[EdgePlace]] = defaultdict(list)
        for start in preparation.starts:
            self._starts[start.part].append(start.at)
        self._lines: dict[tuple[str, float | Oval], list[CutPath]] = {}

    def cut_lines(self, part: EvaluatedPart, cut: Outline, beam: float | Oval = 0.0) -> list[CutPath]:
        """The lines of a part's outline and cut-outs as they were ``cut`` for a beam, in its frame."""
        known = self._lines.get((part.part.id, beam))
        if known is None:
            known = self._lines[part.part.id, beam] = self._made(part, cut.loops)
        return known

    def _made(self, part: EvaluatedPart, loops: Sequence[Loop]) -> list[CutPath]:
        tabs: dict[int, list[Point]] = defaultdict(list)
        for at in _tabs(self._preparation, self._how, part.part.id, loops):
            # Where sizes have changed since, a tab may have come too near to a corner.
            clear = clear_of_ends(loops, at, self._width)
            if clear:
                tabs[at.loop].append(point_of(loops, clear))
        # A cutter goes down a ramp, for which it chooses its own place.
        away = self._preparation.begun == "away from corners" and not part.stock.routed
        heat = part.stock.heat
        starts: dict[int, OnEdge] = {}
        if part.part.shows and heat.side != "any" and not part.stock.routed:
            starts = {number: at_side(number, loop, heat.side, away) for number, loop in enumerate(loops)}
        starts |= {at.loop: at for at in _there(loops, self._starts[part.part.id])}
        return [_line(loop, tuple(tabs[number]), starts.get(number), away) for number, loop in enumerate(loops)]


def tabs_of(preparation: Preparation, part: EvaluatedPart, loops: Sequence[Loop]) -> list[OnEdge]:
    """The holding tabs of a part on its loops, put by hand or spread. Raises `NotHeld`."""
    return _tabs(preparation, held(preparation.holding), part.part.id, loops)


def _tabs(preparation: Preparation, how: TabSizes | None, part: str, loops: Sequence[Loop]) -> list[OnEdge]:
    own = next((own for own in preparation.held if own.part == part), None)
    if own is not None:
        return _there(loops, own.tabs)
    return spread(part, loops, how) if how else []


def _there(loops: Sequence[Loop], places: Sequence[EdgePlace]) -> list[OnEdge]:
    """Where those places lie whose sides are still there."""
    return [at for at in (found(loops, place) for place in places) if at is not None]


def _line(loop: Loop, tabs: tuple[Point, ...], start: OnEdge | None, away: bool) -> CutPath:
    if start is None and away:
        halves, begins = halved(loop)
        return CutPath("cut", halves, True, tabs=tabs, begins=begins)
    if start is None:
        return CutPath("cut", loop.segments, True, tabs=tabs)
    segments, at = loop.segments, start.segment
    first = segments[at]
    if 1e-6 < start.share < 1 - 1e-6:
        middle = first.at(start.share)
        begun = (
            first.between(middle, first.end),
            *segments[at + 1 :],
            *segments[:at],
            first.between(first.start, middle),
        )
    else:
        at = at + 1 if start.share > 0.5 else at
        begun = (*segments[at:], *segments[:at])
    return CutPath("cut", begun, True, pinned=True, tabs=tabs)
