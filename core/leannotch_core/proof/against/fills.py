"""What a beam fills row by row: every row is there, as wide as what is filled, and none is too far from the next."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import reduce

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from ...document.sizes import shown
from ..chords import Point, Side, as_lines
from ..fault import Fault
from .marks import FEW, LEAST, WITHIN

#: Rows nearer (mm) to one another than this are one, gone over again.
_ONE_ROW = 2e-3
#: What is filled is drawn by chords so near (mm) to its edge.
_CHORDS = 0.002

Places = npt.NDArray[np.complex128]


@dataclass(frozen=True, slots=True)
class Filled:
    """What is to be filled: the layer, whose it is, the id of that part, the closed lines about it (what lies within an
    odd number of them), the gap of its rows (mm), and how often it is gone over.
    """

    layer: str
    called: str
    part: str
    loops: Sequence[Sequence[Side]]
    gap: float
    passes: int = 1


@dataclass(frozen=True, slots=True)
class BurntPiece:
    """A piece of a row that is burnt, on its layer."""

    layer: str
    start: Point
    end: Point


@dataclass(slots=True)
class _Rows:
    start: Places
    end: Places
    layer: list[str]
    used: npt.NDArray[np.bool_] = field(init=False)

    def __post_init__(self) -> None:
        self.used = np.zeros(len(self.start), dtype=bool)


def fill_faults(meant: Sequence[Filled], rows: Sequence[BurntPiece]) -> Iterator[Fault]:
    """What is not filled as it was meant, and rows that fill nothing that was meant."""
    all_rows = _Rows(
        np.array([row.start for row in rows], dtype=complex),
        np.array([row.end for row in rows], dtype=complex),
        [row.layer for row in rows],
    )
    found: list[Fault] = []
    for one in meant:
        found += _of_one(one, all_rows)
    yield from found[:FEW]
    if len(found) > FEW:
        yield Fault("mark-lost", f"{len(found) - FEW} more places are not filled as they were meant")
    stray = np.flatnonzero(~all_rows.used & (np.abs(all_rows.end - all_rows.start) > LEAST))
    if len(stray):
        at = complex(all_rows.start[stray[0]])
        more = f", and {len(stray) - 1} more" if len(stray) > 1 else ""
        what = all_rows.layer[stray[0]]
        yield Fault("mark-stray", f"A row to {what} lies where nothing is to be filled{more}", at)


def region_of(loops: Sequence[Sequence[Side]]) -> BaseGeometry:
    """What lies within an odd number of closed lines."""
    shapes = [Polygon(ring.coords) for ring in as_lines(loops, _CHORDS)]
    return reduce(lambda a, b: a.symmetric_difference(b), shapes, Polygon())


def _of_one(one: Filled, rows: _Rows) -> Iterator[Fault]:
    region = region_of(one.loops)
    if region.is_empty:
        return
    middles = (rows.start + rows.end) / 2
    spots = shapely.points(middles.real, middles.imag)
    same = np.array([layer == one.layer for layer in rows.layer], dtype=bool)
    shapely.prepare(region)
    # Rows by their middle and both ends: what reaches out of it has moved.
    inside = same & (shapely.dwithin(region, spots, WITHIN) if len(spots) else same)
    own = np.flatnonzero(inside)
    at = region.representative_point()
    if not len(own):
        yield Fault("mark-lost", f"{one.called}: nothing of what is to {one.layer} is filled", complex(at.x, at.y))
        return
    rows.used[own] = True
    along = rows.end[own] - rows.start[own]
    turn = along[int(np.argmax(np.abs(along)))]
    turn = turn / abs(turn)
    yield from _in_rows(one, _turned(region, turn), rows.start[own] / turn, rows.end[own] / turn, turn)


def _turned(region: BaseGeometry, turn: complex) -> BaseGeometry:
    back = turn.conjugate()
    return shapely.transform(
        region,
        lambda p: np.column_stack(
            [p[:, 0] * back.real - p[:, 1] * back.imag, p[:, 0] * back.imag + p[:, 1] * back.real]
        ),
    )


def _in_rows(one: Filled, region: BaseGeometry, start: Places, end: Places, turn: complex) -> Iterator[Fault]:
    """Rows that run level now, held against what a level line has of the region at each height."""
    low, high = np.minimum(start.real, end.real), np.maximum(start.real, end.real)
    height = (start.imag + end.imag) / 2
    crooked = np.flatnonzero(np.abs(start.imag - end.imag) > WITHIN)
    if len(crooked):
        yield Fault(
            "mark-stray",
            f"{one.called}: a row to {one.layer} runs across the others",
            complex(start[crooked[0]] * turn),
        )
    _, bottom, _, top = region.bounds
    order = np.argsort(height, kind="stable")
    levels = np.split(order, np.flatnonzero(np.diff(height[order]) > _ONE_ROW) + 1)
    at = np.array([float(height[some].mean()) for some in levels])
    lines = max(1, round((top - bottom) / one.gap))
    apart = max(one.gap, (top - bottom) / lines)
    stops = np.concatenate([[bottom - apart / 2], at, [top + apart / 2]])
    wide = np.flatnonzero(np.diff(stops) > 1.3 * apart)
    for gap in wide[:1].tolist():
        y = (stops[gap] + stops[gap + 1]) / 2
        if region.intersection(_level(region, y)).length > LEAST:
            far = shown(float(stops[gap + 1] - stops[gap]))
            text = f"{one.called}: rows to {one.layer} lie {far} apart, not {shown(apart)}"
            yield Fault("mark-lost", text, _on(region, y) * turn)
    for some, y in zip(levels, at, strict=True):
        yield from _level_faults(one, region, low[some], high[some], float(y), turn)


def _level(region: BaseGeometry, y: float) -> shapely.LineString:
    left, _, right, _ = region.bounds
    return shapely.LineString([(left - 1, y), (right + 1, y)])


def _on(region: BaseGeometry, y: float) -> complex:
    spot = region.intersection(_level(region, y)).representative_point()
    return complex(spot.x, spot.y)


def _level_faults(
    one: Filled, region: BaseGeometry, low: Places, high: Places, y: float, turn: complex
) -> Iterator[Fault]:
    """A row held against the region just below, at, and just above it: along a level edge either will do."""
    around = [region.intersection(_level(region, height)) for height in (y - WITHIN, y, y + WITHIN)]
    flat = [shapely.force_2d(shapely.transform(line, lambda p: p * [1, 0] + [0, y])) for line in around]
    least, most = reduce(lambda a, b: a.intersection(b), flat), shapely.union_all(flat)
    got = shapely.union_all(shapely.linestrings([[(a, y), (b, y)] for a, b in zip(low, high, strict=True)]))
    lost, stray = least.difference(got.buffer(WITHIN)), got.difference(most.buffer(WITHIN))
    often = float((high - low).sum()) / max(got.length, 1e-9)
    if lost.length > LEAST:
        at = lost.representative_point()
        text = f"{one.called}: {shown(lost.length)} of a row to {one.layer} are lost"
        yield Fault("mark-lost", text, complex(at.x, y) * turn)
    elif abs(often - one.passes) > 0.2:
        text = f"{one.called}: a row to {one.layer} is gone over {often:.1f} times, not {one.passes}"
        yield Fault("passes", text, complex(low[0], y) * turn)
    if stray.length > LEAST:
        at = stray.representative_point()
        text = f"{one.called}: a row to {one.layer} reaches {shown(stray.length)} too far"
        yield Fault("mark-stray", text, complex(at.x, y) * turn)
