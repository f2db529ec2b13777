"""Layouts: how tight they are beside a strip solver that is there for any shapes, and how soon the first one is there.

The cases are known ones: a tangram, a sheet cut by straight lines, discs in rows, rings that discs fit in.
"""

from __future__ import annotations

import math
import random
import statistics
import time
from collections.abc import Sequence
from typing import Any

import shapely
from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.bed import Item, SheetToFill
from leannotch_core.layout.beside import beside
from leannotch_core.layout.effort import Effort
from leannotch_core.layout.fill import fill, riding
from leannotch_core.layout.grown import grown_polygon
from leannotch_core.layout.nest import nest
from leannotch_core.layout.search import separated, tighter
from leannotch_core.parts.shapes.rectangle import Rectangle
from shapely import LineString, Point, Polygon, box
from shapely.ops import split

from bench.figure import Figure, many, median_ms

QUARTERS = (0.0, 90.0, 180.0, 270.0)
EIGHTHS = tuple(45.0 * step for step in range(8))

#: Side 100: two large triangles, a middle one, two small ones, a square and a parallelogram.
TANGRAM = (
    ((0, 0), (100, 0), (50, 50)),
    ((0, 0), (50, 50), (0, 100)),
    ((100, 0), (100, 50), (75, 25)),
    ((75, 25), (100, 50), (75, 75), (50, 50)),
    ((50, 50), (75, 75), (50, 100), (25, 75)),
    ((0, 100), (25, 75), (50, 100)),
    ((100, 50), (100, 100), (50, 100)),
)


def items_of(shapes: Sequence[Polygon], gap: float, turns: tuple[float, ...], part: str = "") -> list[Item]:
    """Shapes as items; all of one ``part``, or each of its own."""
    return [Item(part or f"p{at}", at + 1, grown_polygon(shape, gap / 2), turns) for at, shape in enumerate(shapes)]


def shards(count: int = 25) -> list[Polygon]:
    """600 x 400 cut by straight lines, the largest piece each time."""
    chance = random.Random(3)
    pieces = [box(0, 0, 600, 400)]
    while len(pieces) < count:
        pieces.sort(key=lambda piece: -piece.area)
        piece = pieces.pop(0)
        middle, angle = piece.representative_point(), chance.uniform(0, math.pi)
        x, y = 2000 * math.cos(angle), 2000 * math.sin(angle)
        pieces += split(piece, LineString([(middle.x - x, middle.y - y), (middle.x + x, middle.y + y)])).geoms
    return pieces


def mixed() -> list[Polygon]:
    """60 parts: 8 rings, 24 discs that fit in them, rectangles, triangles, angles and bays."""
    chance = random.Random(5)
    radii = [chance.uniform(35, 50) for _ in range(8)]
    shapes = [Point(0, 0).buffer(r).difference(Point(0, 0).buffer(r - 8)) for r in radii]
    shapes += [Point(0, 0).buffer(chance.uniform(8, 12), quad_segs=12) for _ in range(24)]
    for at in range(28):
        w, h = chance.uniform(70, 120), chance.uniform(60, 80)
        plate = box(0, 0, w, h)
        angle, bay = box(w * 0.3, h * 0.3, w, h), Point(w / 2, h).buffer(min(w, h) * 0.35)
        wedge = Polygon([(0, 0), (w, 0), (w * 0.3, h)])
        shapes.append((plate, wedge, plate.difference(angle), plate.difference(bay))[at % 4])
    return shapes


def nesting(document: Any) -> list[Figure]:
    return [
        _tangram(),
        *(_beside_the_solver(*case) for case in _strips()),
        _discs_in_rows(),
        _discs_in_rings(),
        _first(items_of(mixed(), 2, QUARTERS), 0.3, "60 mixed parts"),
        _first(items_of([box(0, 0, 30, 22)] * many(200), 2, QUARTERS, "tag"), 1.0, "200 equal parts"),
        _first_of(document),
        _dragged(document),
    ]


def _tangram() -> Figure:
    items = items_of([Polygon(shape) for shape in TANGRAM], 0, EIGHTHS)
    times = []
    for seed in range(1, 1 + many(3, 1)):
        began = time.monotonic()
        ground = SheetToFill(101, 101, 1.0, (0.0, 0.0, 101.0, 101.0))
        found = separated([ground], items, Effort.of(many(30, 1), None, lambda: False), seed)
        times.append(time.monotonic() - began if found else math.inf)
    return Figure("tangram of side 100 on one sheet of 101, s", statistics.median(times), "limit 10 s", 10.0)


def _strips() -> list[tuple[str, list[Item], float, int]]:
    return [
        ("25 shards of 600 x 400, 10 s", items_of(shards(), 0, QUARTERS), 400.0, many(10, 1)),
        ("60 mixed parts with rings and discs, 10 s", items_of(mixed(), 2, QUARTERS), 392.0, many(10, 1)),
    ]


def _beside_the_solver(what: str, items: list[Item], height: float, seconds: int) -> Figure:
    """Length of strip that all items take, beside that of the solver in as many seconds."""
    solver = _solver(items, height, seconds)
    return Figure(f"{what}: length of strip, mm", _strip(items, height, seconds), f"strip solver {solver:.1f}", solver)


def _strip(items: list[Item], height: float, seconds: float) -> float:
    effort = Effort.of(seconds, None, lambda: False)
    ground = SheetToFill(1e4, height, 1.0, (0.0, 0.0, 1e4, height), (), 0)
    fill(ground, riding(items))
    *_, last = [ground], *(found for found in tighter([ground], effort, 1))
    return max(float(spot.polygon().bounds[2]) for spot in last[0].spots)


def _solver(items: list[Item], height: float, seconds: int) -> float:
    import spyrrow

    known = [
        spyrrow.Item(
            str(at),
            [(x, y) for x, y in shapely.get_coordinates(item.shape.exterior)[:-1].tolist()],
            1,
            list(item.turns),
        )
        for at, item in enumerate(items)
    ]
    config = spyrrow.StripPackingConfig(total_computation_time=seconds, seed=1)
    return float(spyrrow.StripPackingInstance("strip", height, known).solve(config).width)


def _discs_in_rows() -> Figure:
    """200 discs in rows that lie in the gaps of each other: 15 and 14 upright, 14 rows."""
    across = 26.0
    items = items_of([Point(0, 0).buffer(12, quad_segs=32)] * many(200), 2, QUARTERS, "disc")
    ground = SheetToFill(600, 400, 1.0, (4.0, 4.0, 596.0, 396.0))
    fill(ground, items)
    reach = max(float(spot.polygon().bounds[2]) for spot in ground.spots) - 4
    known = across + 13 * across * math.sqrt(3) / 2
    return Figure("200 discs in rows, mm", reach, f"regular arrangement {known:.1f}", known)


def _discs_in_rings() -> Figure:
    shapes = mixed()[:32]
    hosts = riding(items_of(shapes, 2, QUARTERS))
    discs = {item.part for item in items_of(shapes, 2, QUARTERS)[8:]}
    inside = sum(rider.item.part in discs for host in hosts for rider in host.riders)
    return Figure("discs that lie in rings, of 24", inside, "all fit; goal 0.9", 24)


def _first(items: list[Item], limit: float, what: str) -> Figure:
    def one() -> float:
        began = time.monotonic()
        waiting = riding(items)
        while waiting:
            ground = SheetToFill(600, 400, 1.0, (4.0, 4.0, 596.0, 396.0))
            waiting = fill(ground, waiting)
        return time.monotonic() - began

    return Figure(
        f"first layout of {what}, s", statistics.median(one() for _ in range(many(3, 1))), f"limit {limit} s", limit
    )


def _dragged(document: Any) -> Figure:
    """The answer to one place of a dragged part among 300 on one sheet."""
    tag = document.parts[0].model_copy(
        update={"shape": Rectangle(width=Size(text="40"), height=Size(text="25")), "cutouts": [], "count": many(300)}
    )
    stock = document.stock(tag.stock)
    large = stock.sheets[0].model_copy(update={"width": Size(text="1000"), "height": Size(text="600")})
    stocks = [stock.model_copy(update={"sheets": [large]})]
    document = document.model_copy(update={"parts": [tag], "joints": [], "stocks": stocks})
    result = evaluate(document)
    layout = next(iter(nest(document, result, 0))).layout
    document = document.model_copy(update={"layout": layout})
    moved = layout.placements[many(300) // 2].model_copy(update={"x": 501.0, "y": 302.0})
    return Figure(
        "a dragged part among 300, ms", median_ms(lambda: beside(document, result, moved, 4)), "limit 50 ms", 50
    )


def _first_of(document: Any) -> Figure:
    result = evaluate(document)

    def one() -> float:
        began = time.monotonic()
        next(iter(nest(document, result, 0)))
        return time.monotonic() - began

    return Figure(
        "first layout of the demo, s", statistics.median(one() for _ in range(many(3, 1))), "limit 0.3 s", 0.3
    )
