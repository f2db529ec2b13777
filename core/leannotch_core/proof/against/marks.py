"""Lines that were meant held against lines that were drawn: none is lost, none has moved, nothing else is there."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree

from ...document.sizes import shown
from ..chords import Point, Side, as_lines
from ..fault import Code, Fault

#: A line that is nearer (mm) to where it was meant is there.
WITHIN = 0.05

#: Less than this (mm) of a line is not missed, and less of another does no harm.
LEAST = 0.2

#: Lines are looked at every so many mm, and by chords so near (mm) to them.
_STEP, _CHORDS = 0.1, 0.005

#: So many faults of a kind are told one by one.
FEW = 6

Lines = npt.NDArray[Any]


@dataclass(frozen=True, slots=True)
class MeantLine:
    """A line as it was meant: the layer it belongs on, whose it is, and its sides (mm)."""

    layer: str
    called: str
    sides: Sequence[Side]


@dataclass(frozen=True, slots=True)
class Drawn:
    """A line as it stands in a file."""

    layer: str
    sides: Sequence[Side]


def marks_faults(meant: Sequence[MeantLine], drawn: Sequence[Drawn]) -> Iterator[Fault]:
    """What of the lines on each layer is lost, and what is there that was not meant."""
    for layer in sorted({one.layer for one in meant} | {one.layer for one in drawn}):
        wanted = [one for one in meant if one.layer == layer]
        found = [one for one in drawn if one.layer == layer]
        yield from _of_layer(layer, wanted, found)


def _of_layer(layer: str, meant: Sequence[MeantLine], drawn: Sequence[Drawn]) -> Iterator[Fault]:
    is_bend = layer.startswith("bend")
    lost: Code = "bend-line" if is_bend else "mark-lost"
    stray: Code = "bend-line" if is_bend else "mark-stray"
    wanted = as_lines([one.sides for one in meant], _CHORDS) if meant else _NONE
    found = as_lines([one.sides for one in drawn], _CHORDS) if drawn else _NONE
    gone = list(_off(wanted, found))
    for which, far, at in gone[:FEW]:
        text = f"{meant[which].called}: {shown(far)} of a line on the layer {layer} {_where(drawn)}"
        yield Fault(lost, text, at)
    yield from _and_more(lost, layer, "lines are lost", gone)
    more = list(_off(found, wanted))
    for _, far, at in more[:FEW]:
        yield Fault(stray, f"{shown(far)} of a line on the layer {layer} lie where none was meant, at {_spot(at)}", at)
    yield from _and_more(stray, layer, "lines were not meant", more)
    twice = float(shapely.length(found).sum() - shapely.length(wanted).sum())
    # Curves that a format has no arcs for are not just as long as those.
    if not gone and not more and twice > max(LEAST, 1e-3 * float(shapely.length(wanted).sum())):
        yield Fault("doubled", f"{shown(twice)} of lines on the layer {layer} are drawn twice", _twice(found))


def lost_along(meant: Sequence[MeantLine], ways: Lines) -> Iterator[Fault]:
    """Lines along which none of some ways goes."""
    if not meant:
        return
    gone = list(_off(as_lines([one.sides for one in meant], _CHORDS), ways))
    for which, far, at in gone[:FEW]:
        yield Fault(
            "mark-lost", f"{meant[which].called}: {shown(far)} of a line to mark are not cut to their depth", at
        )
    if len(gone) > FEW:
        yield Fault("mark-lost", f"{len(gone) - FEW} more lines to mark are not cut to their depth", gone[FEW][2])


_NONE: Lines = np.zeros(0, dtype=object)


def _where(drawn: Sequence[Drawn]) -> str:
    return "are not where they were meant" if drawn else "are not in the file"


def _and_more(code: Code, layer: str, what: str, off: Sequence[object]) -> Iterator[Fault]:
    if len(off) > FEW:
        yield Fault(code, f"{len(off) - FEW} more {what} on the layer {layer}")


def _off(lines: Lines, others: Lines) -> Iterator[tuple[int, float, Point]]:
    """Which lines leave the others, over how many mm, and where first."""
    if not len(lines):
        return
    points, own = shapely.get_coordinates(shapely.segmentize(lines, _STEP), return_index=True)
    away = np.ones(len(points), dtype=bool)
    if len(others):
        spots = shapely.points(points)
        near = STRtree(_pieces(others)).query(spots, predicate="dwithin", distance=WITHIN)[0]
        away[near] = False
    # What lies between two places that are off is off.
    long = np.abs(np.diff(points[:, 0] + 1j * points[:, 1], append=points[-1, 0] + 1j * points[-1, 1]))
    follow = np.append(own[:-1] == own[1:], False)
    size = np.bincount(own, weights=np.where(follow & away & np.roll(away, -1), long, 0.0), minlength=len(lines))
    whole = shapely.length(lines)
    for which in np.flatnonzero(np.bincount(own, weights=away, minlength=len(lines))).tolist():
        first = points[np.flatnonzero((own == which) & away)[0]]
        # Of what is shorter than that, all of it counts.
        if size[which] > min(LEAST, 0.5 * whole[which]):
            yield which, float(size[which]), complex(*first)


def _pieces(lines: Lines) -> Lines:
    points, own = shapely.get_coordinates(lines, return_index=True)
    follow = own[:-1] == own[1:]
    ends = np.stack([points[:-1][follow], points[1:][follow]], axis=1)
    found: Lines = shapely.linestrings(ends)
    return found


def _twice(lines: Lines) -> Point | None:
    """Where two lines run along each other."""
    middles = shapely.line_interpolate_point(lines, 0.5, normalized=True)
    which, other = STRtree(lines).query(middles, predicate="dwithin", distance=WITHIN)
    again = which[which != other]
    return complex(middles[again[0]].x, middles[again[0]].y) if len(again) else None


def _spot(point: Point) -> str:
    return f"x {point.real:.2f}, y {point.imag:.2f}"
