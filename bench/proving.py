"""Plan, files and proof."""

from __future__ import annotations

import io

from ezdxf import units
from ezdxf.filemanagement import new
from leannotch_core.document.limits import MOST_OF_OURS
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.segment import Motion
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.machining.jobs import Job, JobKey
from leannotch_core.machining.path import CutPath
from leannotch_core.machining.plan import SheetPlan, plan_sheet
from leannotch_core.parts.shapes.rectangle import CornerSize, rectangle
from leannotch_core.parts.shapes.round_hole import round_hole
from leannotch_core.project.project import Project
from leannotch_core.proof.sheet_proof import prove_sheet

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def proof_of_a_sheet() -> list[Figure]:
    """Plan and proof of a sheet of 50 parts with 40 round holes each."""

    hole = {"id": "cut_1", "hole": {"kind": "round", "diameter": "3"}, "x": "6", "y": "6"}
    repeat = {"kind": "grid", "columns": 8, "rows": 5, "step_x": "6", "step_y": "6"}
    part = {"name": "Plate", "stock": "birch", "cutouts": [hole | {"repeat": repeat}]}
    shape = {"kind": "rectangle", "width": "58", "height": "40"}
    parts = [{"id": f"plate_{i}", "shape": shape, **part} for i in range(many(50))]
    places = [
        Placement(part=f"plate_{i}", copy_number=1, sheet=0, x=5 + 61 * (i % 10), y=5 + 43 * (i // 10), turn=0)
        for i in range(many(50))
    ]
    layout = Layout(sheets=[LaidSheet(stock="birch", width=620, height=225)], placements=places)
    document = Project.model_validate({**grid(2, 0).model_dump(), "parts": parts, "joints": [], "layout": layout})
    result = evaluate(document)
    plan = plan_sheet(document, result, 0)
    drawing = read_dxf(write_dxf(plan), MOST_OF_OURS)
    planned = median_ms(lambda: plan_sheet(document, result, 0), 3) / 1000
    proved = median_ms(lambda: prove_sheet(plan, drawing, result), 3) / 1000
    return [
        Figure("the plan of 50 parts with 40 holes each, s", planned, "for comparison 1 s", 1),
        Figure("the proof of that sheet, s", proved, "goal 6 s", 6),
    ]


def dxf_export() -> Figure:
    """Our writer over ezdxf alone, for 500 outlines with a hole each."""

    outer = rectangle("part", 30, 20, {"top left": CornerSize("round", 4)})
    hole = round_hole("hole", 6).moved(Motion(shift=15 + 10j))
    places = [Motion(shift=complex(35 * (i % 25), 25 * (i // 25))) for i in range(many(500))]
    loops = [loop.moved(place) for place in places for loop in (hole, outer)]
    paths = tuple(CutPath("cut", loop.segments, True) for loop in loops)
    job = Job(JobKey("outer", "bench", 1), paths)
    plan = SheetPlan("bench", 900, 600, 0.16, True, (job,), (), ())
    points = [[(s.start.real, s.start.imag, getattr(s, "bulge", 0.0)) for s in loop.segments] for loop in loops]

    def alone() -> None:
        document = new("R2010", units=units.MM)
        space = document.modelspace()
        document.layers.add("cut")
        for index, vertices in enumerate(points):
            if index % 2 == 0:
                x, y, _ = vertices[0]
                space.add_circle((x - 3, y), 3, dxfattribs={"layer": "cut"})
            else:
                space.add_lwpolyline(vertices, format="xyb", close=True, dxfattribs={"layer": "cut"})
        document.write(io.StringIO())

    ratio = median_ms(lambda: write_dxf(plan), 5) / median_ms(alone, 5)
    return Figure("DXF export of 500 outlines with holes over ezdxf alone, times", ratio, "at most 2 times", 2)
