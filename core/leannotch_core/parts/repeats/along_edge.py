"""Repeats along the edge of a part."""

from __future__ import annotations

from itertools import accumulate
from typing import Literal, Self

from pydantic import Field

from ...document.sizes import Size
from ...geometry.loop import Loop
from ...geometry.measure import nearest
from ...geometry.segment import Motion, Point
from .repeat import BaseRepeat, Begun


class AlongEdge(BaseRepeat):
    """So many along the part's drawn edge, each as far from it as the first one, which is placed by itself.

    ``step`` is how far (mm along the edge) it is from one to the next; 0 shares the whole way round evenly. They run
    counter-clockwise, or ``backwards``, and are ``turned`` with the edge or stand as the first one does.
    """

    kind: Literal["along the edge"] = "along the edge"
    count: int = Field(default=8, ge=1, le=360)
    step: Size = Size(text="0")
    turned: bool = True
    backwards: bool = False

    @property
    def copies(self) -> int:
        return self.count

    def motions(self, begun: Begun) -> list[Motion] | None:
        step = begun.read("repeat/step", self.step, called="step along the edge")
        if step is None:
            return None
        first = _along(begun.edge, begun.at)
        step = (step or begun.edge.length / self.count) * (-1 if self.backwards else 1)
        frame = _frame(begun.edge, first)
        return [self._place(begun.at, frame, _frame(begun.edge, first + index * step)) for index in range(self.count)]

    def _place(self, at: Point, frame: Motion, there: Motion) -> Motion:
        moved = frame.back.then(there)
        return moved if self.turned else Motion(shift=moved(at) - at)

    def mirrored(self, from_middle: bool) -> Self:
        return self.model_copy(update={"backwards": not self.backwards})


def _along(edge: Loop, point: Point) -> float:
    """How far along the edge (mm) its point nearest to ``point`` lies."""
    spots = [nearest(segment, point) for segment in edge]
    index = min(range(len(spots)), key=lambda i: abs(spots[i] - point))
    before = sum(segment.length for segment in edge.segments[:index])
    return before + edge.segments[index].share_of(spots[index]) * edge.segments[index].length


def _frame(edge: Loop, along: float) -> Motion:
    """From a frame with x along the edge to the place ``along`` it."""
    ends = list(accumulate(segment.length for segment in edge))
    along %= ends[-1]
    index = next((i for i, end in enumerate(ends) if along <= end), len(ends) - 1)
    segment = edge.segments[index]
    share = 1 - (ends[index] - along) / segment.length
    at = segment.at(share)
    return Motion(segment.between(segment.start, at).end_tangent if share > 1e-9 else segment.start_tangent, at)
