"""Polygons as programs of all sorts write them: a little off at their ends, drawn in pieces, twice, or there and back.

Shapely is the judge of how much they enclose.
"""

from __future__ import annotations

import cmath
import math
import random
from collections.abc import Callable, Iterator
from functools import partial

import shapely
from leannotch_core.drawings.way_in import ReadDrawing, WayIn

from .verdict import Foreign

Corners = list[complex]


def polygons(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many polygons, of all ways to draw them in turn."""
    for at in range(number):
        name, draw = list(WAYS.items())[at % len(WAYS)]
        corners = _corners(chosen)
        area = shapely.Polygon([(corner.real, corner.imag) for corner in corners]).area
        data = _svg(draw(corners, chosen))
        yield Foreign(f"polygon, {name}", f"polygon_{at}.svg", data, partial(_judge, area))


def _corners(chosen: random.Random) -> Corners:
    count = chosen.randint(3, 12)
    spokes = [chosen.uniform(15, 45) for _ in range(count)]
    return [50 + 50j + cmath.rect(spoke, math.tau * i / count) for i, spoke in enumerate(spokes)]


def _aside(chosen: random.Random, most: float) -> complex:
    return cmath.rect(chosen.uniform(0.1, 1) * most, chosen.uniform(0, math.tau))


def _little_off(corners: Corners, chosen: random.Random) -> list[Corners]:
    """It ends up to 10 µm from where it began, and is closed from there."""
    return [[*corners, corners[0] + _aside(chosen, 0.0099), corners[0]]]


def _twice_the_last(corners: Corners, chosen: random.Random) -> list[Corners]:
    at = chosen.randrange(len(corners))
    return [[*corners[:at], corners[at] + _aside(chosen, 1e-4), *corners[at:], corners[0]]]


def _in_pieces(corners: Corners, chosen: random.Random) -> list[Corners]:
    """Side by side, in any order and direction, with ends up to 4 µm apart."""
    sides = [[a + _aside(chosen, 0.004), b] for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
    chosen.shuffle(sides)
    return [side[::-1] if chosen.random() < 0.5 else side for side in sides]


def _side_twice(corners: Corners, chosen: random.Random) -> list[Corners]:
    at = chosen.randrange(len(corners))
    return [[*corners, corners[0]], [corners[at - 1], corners[at]]]


def _with_a_point(corners: Corners, _: random.Random) -> list[Corners]:
    return [[*corners, corners[0]], [corners[0], corners[0]]]


def _run_over(corners: Corners, chosen: random.Random) -> list[Corners]:
    """Its last side runs on past the first one by up to 0.03 mm."""
    last = corners[0] - corners[-1]
    return [[corners[0], *corners[1:], corners[0] + last / abs(last) * chosen.uniform(0.011, 0.03)]]


WAYS: dict[str, Callable[[Corners, random.Random], list[Corners]]] = {
    "a little off": _little_off,
    "a corner twice": _twice_the_last,
    "in pieces": _in_pieces,
    "a side twice": _side_twice,
    "with a point": _with_a_point,
    "run over": _run_over,
}


def _svg(runs: list[Corners]) -> bytes:
    paths = "".join("M" + "L".join(f"{corner.real:.6f} {corner.imag:.6f}" for corner in run) for run in runs)
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">'
    return f'{head}<path fill="none" stroke="#000" d="{paths}"/></svg>'.encode()


def _judge(area: float, _: ReadDrawing, way: WayIn) -> Iterator[str]:
    enclosed = sum(part.outline.area * part.count for part in way.parts)
    if len(way.parts) != 1 or abs(enclosed - area) > 2.5:
        yield f"{len(way.parts)} parts of {enclosed:.2f} mm² for one of {area:.2f}"
