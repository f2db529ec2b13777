"""Tool paths, their proof, and the answer to another stepdown."""

from __future__ import annotations

import math
import time

import shapely
from leannotch_core.document.setting import Setting
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.edits.command import apply
from leannotch_core.edits.machine import SetSetting
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.profiles.rack import SHIPPED
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.offset import grow
from leannotch_core.handover.proved import written
from leannotch_core.layout.sheets import motion
from leannotch_core.machining.prepared import prepare
from leannotch_core.project.project import Project
from leannotch_core.proof.depth.report import depth_proved_apart

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def sheet_of_60() -> Project:
    """A full sheet of 60 parts of 18 mm with two holes each, 20 of them with a pocket, on the router that ships."""
    router, mill = shipped()["router"], SHIPPED[0]
    plain = {"name": "Plate", "stock": "birch", "shape": {"kind": "rectangle", "width": "180", "height": "150"}}
    holes = [
        {"id": "eye", "hole": {"kind": "round", "diameter": "30"}, "origin": "middle", "x": "-55", "y": "0"},
        {
            "id": "grip",
            "hole": {"kind": "obround", "width": "50", "height": "20"},
            "origin": "middle",
            "x": "40",
            "y": "50",
        },
    ]
    well = {"id": "well", "hole": {"kind": "rectangle", "width": "60", "height": "40"}, "does": "pocket", "depth": "6"}
    sunk = [*holes, {**well, "origin": "middle", "x": "30", "y": "-20"}]
    parts = [{**plain, "id": f"p_{at}", "cutouts": sunk if at % 3 == 0 else holes} for at in range(many(60))]
    places = [
        Placement(part=f"p_{at}", copy_number=1, sheet=0, x=12 + 195 * (at % 12), y=12 + 165 * (at // 12), turn=0)
        for at in range(many(60))
    ]
    base = grid(2, 0).model_dump()
    stock = {**base["stocks"][0], "nominal": {"text": "18"}, "readings": [{"text": "18"}]}
    return Project.model_validate(
        {
            **base,
            "stocks": [stock],
            "parts": parts,
            "joints": [],
            "layout": Layout(sheets=[LaidSheet(stock="birch", width=2440, height=1220)], placements=places),
            "machines": [router],
            "machine": router.id,
            "cutters": [mill],
            "preparation": {
                "routing": {"cutter": mill.id},
                "holding": {"how": "by count", "count": 4, "width": "5", "height": "5"},
            },
            "hand_over": {"names": "leave out"},
        }
    )


def routing() -> list[Figure]:
    document = sheet_of_60()
    result = evaluate(document)
    began = time.perf_counter()
    ready = prepare(document, result, 0)
    paths = time.perf_counter() - began
    began = time.perf_counter()
    file = written(document, result, ready, "nc", document.hand_over)
    proved = time.perf_counter() - began
    assert not file.proof.faults and len(file.proof.parts) == many(60)
    steps = iter(range(30, 60))

    def another_stepdown() -> None:
        setting = Setting(operation="cut", speed=60, power=16000, cutter=SHIPPED[0].id, stepdown=next(steps) / 10)
        changed = apply(document, SetSetting(do="set setting", stock="birch", setting=setting))
        prepare(changed, evaluate(changed), 0)

    another_stepdown()
    return [
        Figure("tool paths of 60 parts with 20 pockets, s", paths, "limit 2 s", 2),
        Figure("another stepdown of them, shown, s", median_ms(another_stepdown, 3) / 1000, "limit 1 s", 1),
        Figure("the proof of their program, s", proved, "limit 5 s", 5),
        offsets([result.parts[p.part].outline.moved(motion(p)) for p in document.layout.placements]),
    ]


def long_program() -> Figure:
    """A relief of two million lines, read and proved in depth as one of somebody else."""
    lines = ["G21 G90 G17 G94", "T1 M6", "M3 S16000", "F3000", "G0 Z5", "G0 X0 Y0", "G1 Z-1"]
    rows, across = many(2000), 1000
    for row in range(rows):
        for at in range(across) if row % 2 == 0 else reversed(range(across)):
            x, y = 0.6 * at, 0.2 * row
            depth = 1 + 1.5 * (math.sin(x / 30) * math.cos(y / 25) + 1)
            lines.append(f"G1 X{x:.3f} Y{y:.3f} Z-{depth:.3f}")
    data = "\n".join([*lines, "G0 Z5", "M5", "M2"]).encode()
    began = time.perf_counter()
    told = depth_proved_apart(data, {1: 3.175}, 12, True, "the face", 3)
    taken = time.perf_counter() - began
    assert "0 pieces come free" in str(told["sentences"])
    return Figure("a program of two million lines, read and proved, s", taken, "limit 150 s", 150)


def offsets(outlines: list[Outline]) -> Figure:
    """The ways of the cutter round all parts of the sheet, beside shapely's buffers of the same with its chords."""
    shapes = [as_polygon(outline, 0.001) for outline in outlines]
    ours = median_ms(lambda: grow(outlines, 3.175, "round"), 5)
    theirs = median_ms(lambda: shapely.buffer(shapes, 3.175, quad_segs=70), 5)
    return Figure("offsets of a sheet of 60 parts over shapely's, times", ours / theirs, "at most 3 times", 3)
