"""Outlines that cross themselves: no mend is sure, so they are told, with the place."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from ...geometry.chords import as_lines
from ...geometry.loop import Loop, joined_bounds
from ...geometry.segment import Point

#: Chords leave the arcs that they stand for by at most this (mm), or this share of how large all is.
_CHORD, _SHARE = 0.01, 1e-5


def crossing(closed: Sequence[Loop]) -> tuple[list[Loop], list[tuple[Loop, Point]]]:
    """The loops that run round once, and those that cross themselves, each with a point where it does."""
    if not closed:
        return [], []
    left, bottom, right, top = joined_bounds(loop.bounds for loop in closed)
    chord = max(_CHORD, _SHARE * max(right - left, top - bottom))
    lines = as_lines([loop.segments for loop in closed], chord)
    simple = shapely.is_simple(lines)
    crossed = [(closed[i], _point(lines[i])) for i in np.flatnonzero(~simple).tolist()]
    return [loop for loop, runs in zip(closed, simple.tolist(), strict=True) if runs], crossed


def _point(line: shapely.LineString) -> Point:
    """A corner that the line has only once it is divided where it crosses itself; else any, where it turns back."""
    corners = set(map(tuple, shapely.get_coordinates(line).tolist()))
    divided = map(tuple, shapely.get_coordinates(shapely.node(line)).tolist())
    x, y = next((place for place in divided if place not in corners), next(iter(corners)))
    return complex(x, y)
