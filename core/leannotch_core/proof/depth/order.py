"""In which order a router's program works: each copy's marks and pockets, then its inner cuts, then its outline."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon, STRtree

from ..against.outline import Beam
from ..fault import Fault
from .once import places_once
from .program import ProgramWays
from .swept import SAME, Cutters

#: Ways run along an edge where they are a cutter's radius from it, within this (mm).
_ALONG = 0.05
#: So many faults are told one by one.
FEW = 6


@dataclass(frozen=True, slots=True)
class CopyOnSheet:
    """A copy as it lies on the sheet, and what cuts it."""

    called: str
    shape: Polygon
    beam: Beam


def routed_order_faults(
    copies: Sequence[CopyOnSheet], way: ProgramWays, level: float, cutters: Cutters
) -> Iterator[Fault]:
    """What comes too late: ``level`` (mm) is from where on a way goes through."""
    under = way.some((way.feed > 0) & (np.minimum(way.from_z, way.z) < -_ALONG))
    through = np.maximum(under.from_z, under.z) <= level
    flat = (np.abs(under.z - under.from_z) < SAME) & (np.abs(under.end - under.start) > SAME)
    middles = (under.start + under.end) / 2
    radius = np.array([cutters[tool].diameter / 2 for tool in under.tool.tolist()])
    found: list[Fault] = []
    once = places_once(middles)
    windows = [_windows(copy, once, through, flat, radius) for copy in copies]
    for copy, (marks, inner, outer) in zip(copies, windows, strict=True):
        for late, early, text in (
            (marks, inner, "something is sunk into it or marked on it after it was cut into"),
            (marks, outer, "something is sunk into it or marked on it after it was cut out"),
            (inner, outer, "an inner cut comes after the cut round it"),
        ):
            if late is not None and early is not None and late[1] > early[0]:
                found.append(Fault("order", f"{copy.called}: {text}; then it lies loose", complex(middles[late[1]])))
                break
    found += _within(copies, windows, middles)
    yield from found[:FEW]
    if len(found) > FEW:
        yield Fault("order", f"And {len(found) - FEW} more come too late")


#: The first and the last way of a kind; None where there is none.
Window = tuple[int, int] | None
_Windows = tuple[Window, Window, Window]


def _window(which: npt.NDArray[np.intp]) -> Window:
    return (int(which.min()), int(which.max())) if len(which) else None


def _windows(copy: CopyOnSheet, once: tuple[Any, Any], through: Any, flat: Any, radius: Any) -> _Windows:
    """When a copy is marked or sunk into, cut into, and cut out; ``once``: where the ways go, and which goes where."""
    left, bottom, right, top = copy.shape.bounds
    wide = float(radius.max(initial=0.0)) + 1.0
    (x, y), goes = (once[0].real, once[0].imag), once[1]
    beside = (x > left - wide) & (x < right + wide) & (y > bottom - wide) & (y < top + wide)
    spots = shapely.points(x[beside], y[beside])
    near = np.flatnonzero(beside[goes])
    own = (np.cumsum(beside) - 1)[goes[near]]

    def along(ring: Any, inside: bool) -> Any:
        """Which of the ways that are near run a radius from a ring, inside of it or outside."""
        face = Polygon(ring)
        shapely.prepare(face)
        far = shapely.distance(ring, spots)[own]
        return (shapely.contains(face, spots)[own] == inside) & (np.abs(far - radius[near]) < _ALONG)

    goes_through = through[near] & flat[near]
    outer = along(copy.shape.exterior, inside=False)
    inner = np.zeros(len(near), dtype=bool)
    for ring in copy.shape.interiors:
        inner |= along(ring, inside=True)
    shapely.prepare(copy.shape)
    marks = ~through[near] & shapely.contains(copy.shape, spots)[own]
    if copy.beam.on_outer or copy.beam.on_inner:
        # The cutter runs on its edges there: what is inside cannot be told from what is cut.
        marks &= False
    return _window(near[marks]), _window(near[inner & goes_through]), _window(near[outer & goes_through])


def _within(copies: Sequence[CopyOnSheet], windows: Sequence[_Windows], middles: Any) -> list[Fault]:
    """Copies that lie in a cut-out of another one and are not done when that is cut."""
    holes = [(at, Polygon(ring)) for at, copy in enumerate(copies) for ring in copy.shape.interiors]
    if not holes:
        return []
    hole, inside = STRtree([copy.shape for copy in copies]).query([shape for _, shape in holes], predicate="contains")
    found = []
    for number, small in zip(hole.tolist(), inside.tolist(), strict=True):
        around = holes[number][0]
        late, early = windows[small][2], windows[around][1]
        if late and early and late[1] > early[0] and around != small:
            text = f"{copies[small].called} is cut out after the cut-out of {copies[around].called} that it lies in"
            found.append(Fault("order", text, complex(middles[late[1]])))
    return found
