"""Lines and arcs as chords for shapely: worked out here from their ends and centres alone.

The proof shares no code with the kernel that made the lines it judges, not even this.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, Polygon

Point = complex
#: An array of shapely lines.
Lines = npt.NDArray[Any]


class Side(Protocol):
    """A line from ``start`` to ``end`` (mm); an arc has a ``centre`` besides, and runs ``ccw`` or not."""

    @property
    def start(self) -> Point: ...
    @property
    def end(self) -> Point: ...


def lengths(sides: Sequence[Side]) -> npt.NDArray[np.float64]:
    """How long (mm) each side is."""
    start, end = (np.array([getattr(side, which) for side in sides], dtype=complex) for which in ("start", "end"))
    around = np.abs(sweeps(sides)) * np.abs(start - centres(sides))
    return np.where(is_arc(sides), around, np.abs(end - start))


def places(sides: Sequence[Side], shares: npt.NDArray[np.float64]) -> npt.NDArray[np.complex128]:
    """The point of each side at a share of its length."""
    start, end = (np.array([getattr(side, which) for side in sides], dtype=complex) for which in ("start", "end"))
    middle = centres(sides)
    found: npt.NDArray[np.complex128] = np.where(
        is_arc(sides), middle + (start - middle) * np.exp(1j * sweeps(sides) * shares), start + (end - start) * shares
    )
    return found


def boxes(sides: Sequence[Side]) -> npt.NDArray[np.float64]:
    """Left, bottom, right and top (mm) of a box round each side: as far out as its arc may rise over its chord."""
    start, end = (np.array([getattr(side, which) for side in sides], dtype=complex) for which in ("start", "end"))
    radius, turned = np.abs(start - centres(sides)), np.abs(sweeps(sides))
    rise = np.where(turned < np.pi, radius * (1 - np.cos(turned / 2)), 2 * radius)
    low = np.minimum(start.real, end.real) - rise, np.minimum(start.imag, end.imag) - rise
    high = np.maximum(start.real, end.real) + rise, np.maximum(start.imag, end.imag) + rise
    return np.column_stack([*low, *high])


class Ring(Protocol):
    @property
    def segments(self) -> Sequence[Side]: ...


class RingedShape(Protocol):
    """An outer ring and the rings of its openings."""

    @property
    def outer(self) -> Ring: ...
    @property
    def cutouts(self) -> Sequence[Ring]: ...


def is_arc(sides: Sequence[Side]) -> npt.NDArray[np.bool_]:
    """Which of some sides are arcs."""
    return np.array([hasattr(side, "centre") for side in sides], dtype=bool)


def centres(sides: Sequence[Side]) -> npt.NDArray[np.complex128]:
    """The centres of arcs; of a line its start."""
    found: npt.NDArray[np.complex128] = np.array([getattr(side, "centre", side.start) for side in sides], np.complex128)
    return found


def sweeps(sides: Sequence[Side]) -> npt.NDArray[np.float64]:
    """The angle (radians) that each arc turns through, counter-clockwise positive; 0 of a line."""
    start = np.array([side.start for side in sides], dtype=complex)
    end = np.array([side.end for side in sides], dtype=complex)
    middle, arcs = centres(sides), is_arc(sides)
    ccw = np.array([bool(getattr(side, "ccw", True)) for side in sides], dtype=bool)
    with np.errstate(divide="ignore", invalid="ignore"):
        turned = np.angle((end - middle) / (start - middle))
    turned = np.where(ccw, np.mod(turned, 2 * np.pi), -np.mod(-turned, 2 * np.pi))
    # An arc that ends where it begins goes all the way round.
    turned = np.where(np.abs(turned) < 1e-12, np.where(ccw, 2 * np.pi, -2 * np.pi), turned)
    return np.where(arcs, turned, 0.0)


def as_lines(chains: Sequence[Sequence[Side]], tolerance: float) -> Lines:
    """Each chain of sides as a shapely line whose chords leave the arcs by at most ``tolerance`` mm."""
    sides = [side for chain in chains for side in chain]
    start, centre, sweep = np.array([side.start for side in sides]), centres(sides), sweeps(sides)
    spoke = start - centre
    with np.errstate(divide="ignore", invalid="ignore"):
        step = 2 * np.arccos(np.maximum(0.0, 1 - tolerance / np.abs(spoke)))
    step = np.where(np.abs(spoke) > tolerance, step, np.pi)
    count = np.maximum(1, np.ceil(np.abs(sweep) / step)).astype(np.intp)
    own = np.repeat(np.arange(len(sides)), count)
    place = np.arange(len(own)) - np.repeat(np.cumsum(count) - count, count)
    along = centre[own] + spoke[own] * np.exp(1j * sweep[own] * place / count[own])
    # Starts and ends are taken as they are: neighbours meet in them to the last bit.
    along = np.where(place == 0, start[own], along)
    last = np.cumsum([len(chain) for chain in chains])
    stops = np.cumsum(count)[last - 1]
    points = np.insert(along, stops, [sides[end - 1].end for end in last])
    indices = np.repeat(np.arange(len(chains)), np.diff(stops, prepend=0) + 1)
    found: Lines = shapely.linestrings(np.column_stack([points.real, points.imag]), indices=indices)
    return found


def as_line(sides: Iterable[Side], tolerance: float) -> LineString:
    """Sides that follow each other as a shapely line whose chords leave the arcs by at most ``tolerance`` mm."""
    found: LineString = as_lines([list(sides)], tolerance)[0]
    return found


def as_polygon(shape: RingedShape, tolerance: float) -> Polygon:
    """An outline as a shapely polygon, as `as_lines` has its rings."""
    rings = as_lines([shape.outer.segments, *(ring.segments for ring in shape.cutouts)], tolerance)
    return Polygon(rings[0].coords, [ring.coords for ring in rings[1:]])
