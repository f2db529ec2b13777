"""A beam's program held against what its rows were meant to do: speed, power, passes, and off in every move between."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely import STRtree
from shapely.geometry.base import BaseGeometry

from ...document.sizes import shown
from ..chords import Point, Side, as_lines
from ..depth.program import ProgramWays
from ..fault import Fault
from .fills import Filled, region_of
from .marks import FEW, LEAST

#: What is worked within this (mm) of a line is worked along it.
_NEAR = 0.06
#: Rows that are no further apart than so much (mm) from it have a way in common.
_SAME = 0.015
#: Speeds and powers are written in tenths: they may differ by this share, and by so much (mm/min, S).
_SHARE, _ROUNDED = 0.002, 0.2

Shapes = npt.NDArray[Any]


@dataclass(frozen=True, slots=True)
class MeantWork:
    """A line, or a region that is filled, as it is meant to be worked: its speed (mm/min), S, and how often."""

    called: str
    sides: Sequence[Side]
    feed: float
    power: float
    passes: int = 1
    region: BaseGeometry | None = None

    @classmethod
    def lead(cls, called: str, start: Point, end: Point, feed: float, power: float) -> MeantWork:
        """A lead-in: a straight line that is gone along once."""
        return cls(called, (_Straight(start, end),), feed, power)

    @classmethod
    def filled(cls, called: str, what: Filled, feed: float, power: float) -> MeantWork:
        """All rows of something that is filled."""
        return cls(called, (), feed, power, what.passes, region_of(what.loops))


class _Straight(NamedTuple):
    start: Point
    end: Point


def power_faults(way: ProgramWays, rows: Sequence[MeantWork]) -> Iterator[Fault]:
    """What of a program, with its ways in the frame of the sheet, is burnt otherwise than it was meant."""
    yield from _on_in_moves(way)
    burnt = way.some((way.feed > 0) & (way.turns > 0) & (np.abs(way.end - way.start) > 1e-6))
    if not len(burnt) or not rows:
        return
    middles = (burnt.start + burnt.end) / 2
    spots = shapely.points(middles.real, middles.imag)
    shapes = [row.region if row.region is not None else _line(row) for row in rows]
    of, which = _along(burnt, spots, shapes)
    feed, power = (np.array([getattr(row, name) for row in rows]) for name in ("feed", "power"))
    right = _alike(burnt.feed[of], feed[which]) & _alike(burnt.turns[of], power[which])
    good, near = np.zeros(len(burnt), dtype=bool), np.zeros(len(burnt), dtype=bool)
    good[of[right]] = True
    near[of] = True
    yield from _wrong(burnt, np.flatnonzero(near & ~good), of, which, rows)
    own = _nearest(of, shapely.distance(spots[of], np.asarray(shapes, dtype=object)[which]))
    yield from _passes(burnt, of[own], which[own], rows, shapes)


def _nearest(of: Any, far: Any) -> Any:
    """Of which rows each way is one: where a round line leaves a straight one, it runs along both for a while."""
    least = np.full(int(of.max(initial=-1)) + 1, np.inf)
    np.minimum.at(least, of, far)
    return far <= least[of] + _SAME


def _along(burnt: ProgramWays, spots: Shapes, shapes: Sequence[BaseGeometry]) -> tuple[Any, Any]:
    """Numbers of ways and of the rows that they run along: all of them, not where they cross."""
    of, which = STRtree(shapes).query(spots, predicate="dwithin", distance=_NEAR)
    rows = np.asarray(shapes, dtype=object)[which]
    on = np.ones(len(of), dtype=bool)
    for ends in (burnt.start, burnt.end):
        on &= shapely.dwithin(rows, shapely.points(ends.real, ends.imag)[of], _NEAR)
    return of[on], which[on]


def _line(row: MeantWork) -> BaseGeometry:
    found: BaseGeometry = as_lines([row.sides], 0.005)[0]
    return found


def _alike(got: npt.NDArray[np.float64], meant: npt.NDArray[np.float64]) -> npt.NDArray[np.bool_]:
    found: npt.NDArray[np.bool_] = np.abs(got - meant) <= np.maximum(_SHARE * meant, _ROUNDED)
    return found


def _on_in_moves(way: ProgramWays) -> Iterator[Fault]:
    on = np.flatnonzero((way.feed <= 0) & (way.turns > 0) & (np.abs(way.end - way.start) > 1e-6))
    if len(on):
        line, at = int(way.line[on[0]]), complex(way.start[on[0]])
        more = f", and in {len(on) - 1} more" if len(on) > 1 else ""
        yield Fault("beam-on", f"Line {line}: the beam is on in a move that cuts nothing{more}", at)


def _wrong(burnt: ProgramWays, wrong: Any, of: Any, which: Any, rows: Sequence[MeantWork]) -> Iterator[Fault]:
    """One fault for each row that is worked otherwise, at its first place."""
    meant: dict[int, int] = {}
    for at, row in zip(of.tolist(), which.tolist(), strict=True):
        meant.setdefault(at, row)
    told: dict[str, int] = {}
    for at in wrong.tolist():
        row = rows[meant[at]]
        if row.called in told:
            continue
        told[row.called] = at
        if len(told) > FEW:
            yield Fault("power", "And more rows are worked otherwise than they were meant", complex(burnt.start[at]))
            return
        is_so = f"{burnt.feed[at]:g} mm/min and S{burnt.turns[at]:g}"
        text = f"Line {int(burnt.line[at])}: {row.called} is worked at {is_so}, not at {row.feed:g} and S{row.power:g}"
        yield Fault("power", text, complex(burnt.start[at]))


def _passes(
    burnt: ProgramWays, of: Any, which: Any, rows: Sequence[MeantWork], shapes: Sequence[BaseGeometry]
) -> Iterator[Fault]:
    """Lines that are followed more or less often than meant, by how far they are followed in all."""
    long = np.bincount(which, weights=np.abs(burnt.end - burnt.start)[of], minlength=len(rows))
    told = 0
    for at, row in enumerate(rows):
        if row.region is not None:
            continue
        whole = shapes[at].length
        off = long[at] - row.passes * whole
        # Chords are shorter than their arcs by next to nothing; a crossing line may take a bit.
        if abs(off) > max(2 * LEAST, 0.01 * whole):
            told += 1
            if told <= FEW:
                burns = f"{shown(float(long[at]))} are burnt along a line that comes to {row.passes} x {shown(whole)}"
                yield Fault("passes", f"{row.called}: {burns}", complex(*shapes[at].coords[0]))
    if told > FEW:
        yield Fault("passes", f"And {told - FEW} more lines are followed more or less often than meant")
