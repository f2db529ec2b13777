"""The running order and its time, programs, and the simulated machine."""

from __future__ import annotations

import random
from itertools import pairwise

import numpy as np
from leannotch_core.device.run import run
from leannotch_core.device.sent import read_sent
from leannotch_core.document.setting import Setting
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.edits.command import apply
from leannotch_core.edits.machine import SetSetting
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.loop import polygon
from leannotch_core.geometry.segment import Segment, Source
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.handover.gcode import write_gcode
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.ready import on_page
from leannotch_core.machining.way import corners, shortest_way
from leannotch_core.project.project import Project

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def sheet_of_200() -> Project:
    """200 parts with four holes each on a sheet, on the laser that ships."""
    hole = {"id": "cut_1", "hole": {"kind": "round", "diameter": "4"}, "x": "6", "y": "8"}
    repeat = {"kind": "grid", "columns": 4, "rows": 1, "step_x": "8"}
    shape = {"kind": "rectangle", "width": "36", "height": "16"}
    part = {
        "name": "Plate",
        "stock": "birch",
        "shape": shape,
        "count": many(200),
        "cutouts": [hole | {"repeat": repeat}],
    }
    places = [
        Placement(part="plate", copy_number=i + 1, sheet=0, x=5 + 38 * (i % 15), y=5 + 18 * (i // 15), turn=0)
        for i in range(many(200))
    ]
    layout = Layout(sheets=[LaidSheet(stock="birch", width=600, height=400)], placements=places)
    laser = shipped()["laser"]
    machine = {"machines": [laser], "machine": laser.id}
    fields = {"parts": [{"id": "plate", **part}], "joints": [], "layout": layout, **machine}
    return Project.model_validate({**grid(2, 0).model_dump(), **fields})


def machining() -> list[Figure]:
    document = sheet_of_200()
    result = evaluate(document)
    ready = prepare(document, result, 0)
    whole = median_ms(lambda: prepare(Project.model_validate(document.model_dump()), result, 0), 3)
    speeds = iter(range(5, 100))

    def set_speed() -> None:
        setting = Setting(operation="cut", speed=next(speeds), power=70)
        changed = apply(document, SetSetting(do="set setting", stock="birch", setting=setting))
        prepare(changed, evaluate(changed), 0)

    set_speed()
    program = write_gcode(ready)
    ratio = median_ms(lambda: write_gcode(ready), 5) / median_ms(lambda: write_dxf(on_page(ready)), 5)
    done = run(read_sent(program, "sheet.nc", ready.machine), ready.machine)
    ran = median_ms(lambda: run(read_sent(program, "sheet.nc", ready.machine), ready.machine), 3) / 1000
    return [
        Figure("running order and time of 200 parts with 800 holes, s", whole / 1000, "limit 0.5 s", 0.5),
        Figure("another setting of them, with its new time, ms", median_ms(set_speed, 5), "limit 100 ms", 100),
        Figure("their program over their DXF, times", ratio, "at most 2 times", 2),
        Figure("500 times real time over the simulated run, times", 500 * ran / done.seconds, "at most 1", 1),
        *tours(),
    ]


def tours() -> list[Figure]:
    """Ways between squares: beside the best of all for few, and beside nearest first for many."""
    chance = random.Random(2)
    few, cuts = _squares(many(12), chance), _squares(many(200), chance)
    best = _shortest_of_all(few)
    here, waiting = 0j, set(range(len(cuts)))
    nearest: list[tuple[int, int]] = []
    while waiting:
        path = min(waiting, key=lambda at: abs(cuts[at][0].start - here))
        waiting.remove(path)
        nearest.append((path, 0))
        here = cuts[path][0].start
    return [
        Figure(
            "the way between 12 cuts over the best there is, times", _long(few, _way(few)) / best, "limit 1.05", 1.05
        ),
        Figure(
            "the way between 200 cuts over nearest first",
            _long(cuts, _way(cuts)) / _long(cuts, nearest),
            "limit 0.75",
            0.75,
        ),
    ]


def _squares(count: int, chance: random.Random) -> list[tuple[Segment, ...]]:
    sides = [Source("square", "side")] * 4
    places = [complex(chance.uniform(0, 900), chance.uniform(0, 600)) for _ in range(count)]
    return [polygon([at, at + 20, at + 20 + 20j, at + 20j], sides).segments for at in places]


def _shortest_of_all(paths: list[tuple[Segment, ...]]) -> float:
    """The best of all orders and starts, by trying every set that may come before each (Held and Karp 1962)."""
    places = np.array([segment.start for path in paths for segment in path])
    owner = np.repeat(np.arange(len(paths)), [len(path) for path in paths])
    way = np.abs(places[:, None] - places[None, :])
    least = np.full((1 << len(paths), len(places)), np.inf)
    for start, path in enumerate(owner.tolist()):
        least[1 << path, start] = abs(places[start])
    for gone in range(1, 1 << len(paths)):
        reached = np.flatnonzero(np.isfinite(least[gone]))
        for at in np.flatnonzero((gone >> owner) & 1 == 0) if len(reached) else ():
            then = gone | 1 << int(owner[at])
            least[then, at] = min(least[then, at], (least[gone, reached] + way[reached, at]).min())
    return float(least[-1].min())


def _way(paths: list[tuple[Segment, ...]]) -> list[tuple[int, int]]:
    return shortest_way(paths, [corners(path) for path in paths], [True] * len(paths))


def _long(paths: list[tuple[Segment, ...]], way: list[tuple[int, int]]) -> float:
    places = [0j, *(paths[path][first].start for path, first in way)]
    return sum(abs(b - a) for a, b in pairwise(places))
