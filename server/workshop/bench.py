"""``notch bench [--json]``: how fast it is, as ratios to a limit or to a library, measured in one run."""

from __future__ import annotations

import io
import json
import os
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Figure:
    """A measured value beside what it is held against; ``ratio`` is the one over the other."""

    what: str
    value: float
    against: str
    limit: float

    @property
    def ratio(self) -> float:
        return self.value / self.limit


def median_ms(work: Callable[[], object], times: int = 9) -> float:
    """Median time of ``work`` in milliseconds."""
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return statistics.median(taken)


def _forget() -> None:
    from leannotch_core.layout.sheets import fingerprint, polygon_of
    from leannotch_core.parts.cutting_out import finish

    for remembered in (finish, fingerprint, polygon_of):
        remembered.cache_clear()


def evaluation(document: Any) -> list[Figure]:
    from leannotch_core.evaluate import evaluate
    from leannotch_core.sizes import Size

    def from_nothing() -> None:
        _forget()
        evaluate(document)

    lengths = iter(range(241, 1000))

    def after_an_edit() -> None:
        floor = next(part for part in document.parts if part.id == "floor")
        shape = floor.shape.model_copy(update={"width": Size(text=str(next(lengths)))})
        parts = [p.model_copy(update={"shape": shape}) if p.id == "floor" else p for p in document.parts]
        evaluate(document.model_copy(update={"parts": parts}))

    return [
        Figure("evaluate the demo from nothing, ms", median_ms(from_nothing), "at most 60 ms", 60),
        Figure("evaluate after one dimension edit, ms", median_ms(after_an_edit), "at most 20 ms", 20),
    ]


def edit_through_the_api() -> Figure:
    from django.test import Client

    client = Client(headers={"host": "127.0.0.1"})
    version = client.get("/api/projects/sorting-tray").json()["version"]
    lengths = iter(range(241, 1000))

    def edit() -> None:
        nonlocal version
        command = {"do": "put name", "name": {"name": "tray_length", "size": {"text": str(next(lengths))}}}
        body = json.dumps({"version": version, "command": command})
        answer = client.post("/api/projects/sorting-tray/edit", body, content_type="application/json")
        version = answer.json()["version"]

    return Figure("an edit of the whole tray through the API, ms", median_ms(edit), "at most 100 ms", 100)


def large_edit() -> list[Figure]:
    """One part's edit in a project of 200 parts and 400 joints: until it is answered, and what is sent."""
    from django.test import Client

    from workshop.revisions import create

    document = _grid(200, 400)
    project = create(document)
    client = Client(headers={"host": "127.0.0.1", "accept-encoding": "gzip"})
    part = document.parts[3].model_dump(mode="json")
    version, sent = project.version, 0
    lengths = iter(range(201, 1000))

    def edit() -> None:
        nonlocal version, sent
        part["shape"]["width"]["text"] = str(next(lengths))
        body = json.dumps({"version": version, "command": {"do": "put part", "part": part}})
        answer = client.post(f"/api/projects/{project.slug}/edit", body, content_type="application/json")
        version, sent = version + 1, len(answer.content)

    return [
        Figure("an edit at 200 parts and 400 joints, ms", median_ms(edit), "goal 150 ms", 150),
        Figure("what its answer sends, kB", sent / 1000, "goal 60 kB", 60),
    ]


def proof_of_a_sheet() -> list[Figure]:
    """Plan and proof of a sheet of 50 parts with 40 round holes each."""
    from leannotch_core.cutting.plan import plan_sheet
    from leannotch_core.document import LaidSheet, Layout, Placement, Project
    from leannotch_core.evaluate import evaluate
    from leannotch_core.formats.drawing import MOST_OF_OURS
    from leannotch_core.formats.dxf import read_dxf, write_dxf
    from leannotch_core.proof.sheet_proof import prove_sheet

    hole = {"id": "cut_1", "hole": {"kind": "round", "diameter": "3"}, "x": "6", "y": "6"}
    repeat = {"columns": 8, "rows": 5, "step_x": "6", "step_y": "6"}
    part = {"name": "Plate", "stock": "birch", "cutouts": [hole | {"repeat": repeat}]}
    shape = {"kind": "rectangle", "width": "58", "height": "40"}
    parts = [{"id": f"plate_{i}", "shape": shape, **part} for i in range(50)]
    places = [
        Placement(part=f"plate_{i}", copy_number=1, sheet=0, x=5 + 61 * (i % 10), y=5 + 43 * (i // 10), turn=0)
        for i in range(50)
    ]
    layout = Layout(sheets=[LaidSheet(stock="birch", width=620, height=225)], placements=places)
    document = Project.model_validate({**_grid(2, 0).model_dump(), "parts": parts, "joints": [], "layout": layout})
    result = evaluate(document)
    plan = plan_sheet(document, result, 0)
    drawing = read_dxf(write_dxf(plan), MOST_OF_OURS)
    planned = median_ms(lambda: plan_sheet(document, result, 0), 3) / 1000
    proved = median_ms(lambda: prove_sheet(plan, drawing, result), 3) / 1000
    return [
        Figure("the plan of 50 parts with 40 holes each, s", planned, "for comparison 1 s", 1),
        Figure("the proof of that sheet, s", proved, "goal 6 s", 6),
    ]


def _grid(parts: int, joints: int) -> Any:
    """``parts`` crossing boards with ``joints`` cross-laps among them."""
    from leannotch_core.document import Project

    from workshop.demo import FOLDER

    document = json.loads((FOLDER / "sorting_tray.json").read_bytes())
    half = parts // 2
    boards = [
        {
            "id": f"board_{i}",
            "name": f"Board {i}",
            "stock": "birch",
            "shape": {"kind": "rectangle", "width": "200", "height": "30"},
        }
        for i in range(parts)
    ]
    laps = [
        {
            "kind": "cross-lap",
            "id": f"lap_{i}",
            "a": {"part": f"board_{i % half}", "side": "top", "at": str(10 + 12 * (i // half))},
            "b": {"part": f"board_{half + (i + i // half) % half}", "side": "bottom", "at": str(10 + 12 * (i // half))},
        }
        for i in range(joints)
    ]
    return Project.model_validate({**document, "parts": boards, "joints": laps})


def growth() -> Figure:
    from leannotch_core.evaluate import evaluate

    small, large = _grid(20, 40), _grid(200, 400)

    def taken(document: Any) -> float:
        def work() -> None:
            _forget()
            evaluate(document)

        return median_ms(work, 5)

    ratio = taken(large) / taken(small)
    return Figure("200 parts and 400 joints over 20 and 40, times", ratio, "at most 12 times", 12)


def dxf_export() -> Figure:
    """Our writer over ezdxf alone, for 500 outlines with a hole each."""
    import ezdxf.filemanagement
    from ezdxf import units
    from leannotch_core.cutting.plan import CutPath, SheetPlan
    from leannotch_core.formats.dxf import write_dxf
    from leannotch_core.geometry.segment import Motion
    from leannotch_core.parts.shapes import CornerSize, rectangle, round_hole

    outer = rectangle("part", 30, 20, {"top left": CornerSize("round", 4)})
    hole = round_hole("hole", 6).moved(Motion(shift=15 + 10j))
    places = [Motion(shift=complex(35 * (i % 25), 25 * (i // 25))) for i in range(500)]
    loops = [loop.moved(place) for place in places for loop in (hole, outer)]
    paths = tuple(CutPath("cut", loop.segments, True) for loop in loops)
    plan = SheetPlan("bench", 900, 600, 0.16, True, paths, (), ())
    points = [[(s.start.real, s.start.imag, getattr(s, "bulge", 0.0)) for s in loop.segments] for loop in loops]

    def alone() -> None:
        document = ezdxf.filemanagement.new("R2010", units=units.MM)
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


def nesting(document: Any) -> list[Figure]:
    """Used share of the birch up to the rightmost part; its bound is 1, beside the solver's own strip."""
    from leannotch_core.evaluate import evaluate
    from leannotch_core.layout.fill import Item
    from leannotch_core.layout.nest import nest
    from leannotch_core.layout.sheets import placed, polygon_of, turns_allowed
    from leannotch_core.layout.strip import pack

    birch = document.model_copy(
        update={
            "stocks": document.stocks[:1],
            "parts": [p for p in document.parts if p.stock == "birch"],
            "joints": [j for j in document.joints if j.kind == "finger"],
        }
    )
    result = evaluate(birch)
    area = sum(part.outline.area * part.part.count for part in result.parts.values())

    def share(seconds: float) -> float:
        *_, last = nest(birch, result, seconds)
        reach = max(placed(result.parts[p.part].outline, p).bounds[2] for p in last.layout.placements)
        return float(area / ((300 - 10) * (reach - 5)))

    items = [
        Item(p.part.id, copy, polygon_of(p.outline), tuple(turns_allowed(p.part, "along width")))
        for p in result.parts.values()
        for copy in range(p.part.count)
    ]
    solver = area / (290 * min(length for length, _ in pack(items, 290, 2, 10, lambda: False)))
    against = f"area bound 1; solver alone {solver:.3f}"
    return [Figure(f"nesting the demo, used share after {s} s", share(s), against, solver) for s in (2, 10)]


def kernel() -> list[Figure]:
    """Booleans and offset over raw shapely, on the same shapes in chords of 0.005 mm."""
    import shapely
    from leannotch_core.geometry.boolean import intersect, subtract, union
    from leannotch_core.geometry.chords import as_polygon
    from leannotch_core.geometry.loop import Outline
    from leannotch_core.geometry.offset import grow
    from leannotch_core.geometry.segment import Motion
    from leannotch_core.parts.shapes import obround, round_hole

    plate = [Outline(obround("plate", 300, 200))]
    holes = [
        Outline(round_hole(f"hole{i}", 24).moved(Motion(shift=complex(30 * (i % 10) - 135, 40 * (i // 10) - 100))))
        for i in range(60)
    ]
    chords = as_polygon(plate[0], 0.005)
    many = shapely.union_all([as_polygon(hole, 0.005) for hole in holes])
    cut = subtract(plate, holes)
    shape = shapely.union_all([as_polygon(outline, 0.005) for outline in cut])
    pairs: list[tuple[str, Callable[[], object], Callable[[], object]]] = [
        ("union", lambda: union(plate, holes), lambda: chords.union(many)),
        ("subtraction", lambda: subtract(plate, holes), lambda: chords.difference(many)),
        ("intersection", lambda: intersect(plate, holes), lambda: chords.intersection(many)),
        ("offset", lambda: grow(cut, 0.08), lambda: shape.buffer(0.08, join_style="mitre")),
    ]
    return [
        Figure(
            f"{name} of a plate with 60 holes over shapely, times", median_ms(ours) / median_ms(raw), "aim 5 times", 5
        )
        for name, ours, raw in pairs
    ]


def arcs_of_curves() -> list[Figure]:
    """Arcs that curves become, beside those of splitting them into equal steps until all keep the tolerance."""
    import math

    from leannotch_core.geometry.biarc import TOLERANCE, Curve, arcs_along, bezier, ellipse, follows, pair_of_arcs
    from leannotch_core.geometry.segment import Source

    source = Source("bench", "curve")

    def in_equal_steps(curve: Curve, end: float) -> int:
        steps = 1
        while True:
            spans = [(end * i / steps, end * (i + 1) / steps) for i in range(steps)]
            pairs = [pair_of_arcs(curve, *span, source) for span in spans]
            if all(follows(pair, curve, *span, TOLERANCE) for pair, span in zip(pairs, spans, strict=True)):
                return sum(map(len, pairs))
            steps += 1

    curves = {
        "a quarter of an ellipse of 120 x 80": (ellipse(0, 60, 40j), math.pi / 2),
        "a bend of a Bezier curve": (bezier(0, 60 + 5j, 70 + 40j, 90 + 90j), 1.0),
        "a Bezier curve with an inflection": (bezier(0, 80 + 60j, -20 + 40j, 90 + 90j), 1.0),
    }
    return [
        Figure(
            f"arcs of {name}",
            len(arcs_along(curve, 0, end, source)),
            f"{in_equal_steps(curve, end)} in equal steps",
            in_equal_steps(curve, end),
        )
        for name, (curve, end) in curves.items()
    ]


def divider_grid() -> list[Figure]:
    """A grid of 30 x 20 dividers as 600 joints of their own, and as one joint with all its copies put in space."""
    from leannotch_core.assembly.poses import assemble
    from leannotch_core.document import Project
    from leannotch_core.evaluate import evaluate

    document = _grid(2, 0).model_dump()
    board = document["parts"][0]
    size = {"kind": "rectangle", "height": "40", "corners": []}
    across = [{**board, "id": f"a{i}", "shape": {**size, "width": "640"}} for i in range(20)]
    along = [{**board, "id": f"b{i}", "shape": {**size, "width": "440"}} for i in range(30)]
    laps = [
        {
            "kind": "cross-lap",
            "id": f"lap_{i}_{j}",
            "a": {"part": f"a{i}", "side": "top", "at": str(20 + 20 * j)},
            "b": {"part": f"b{j}", "side": "bottom", "at": str(20 + 20 * i)},
        }
        for i in range(20)
        for j in range(30)
    ]
    grid = Project.model_validate({**document, "parts": across + along, "joints": laps})

    def work() -> None:
        _forget()
        evaluate(grid)

    per_joint = median_ms(work, 3) / len(laps)
    ends = {
        "a": {"part": "a", "side": "top", "at": "20", "slots": 30, "step": "20"},
        "b": {"part": "b", "side": "bottom", "at": "20", "slots": 20, "step": "20"},
    }
    pair = [{**across[0], "id": "a", "count": 20}, {**along[0], "id": "b", "count": 30}]
    one = Project.model_validate({**document, "parts": pair, "joints": [{"kind": "cross-lap", "id": "grid", **ends}]})
    result = evaluate(one)
    standing = median_ms(lambda: assemble(one, result), 3)
    return [
        Figure("a grid of 30 x 20 dividers, ms per joint", per_joint, "1 ms, for comparison", 1),
        Figure("the same grid in one joint put in space, ms", standing, "50 ms, for comparison", 50),
    ]


def largest_tray() -> list[Figure]:
    """A tray of 12 x 8 compartments: where all its parts sit, and what of them clashes."""
    from leannotch_core.assembly.poses import assemble
    from leannotch_core.assembly.solids import all_clashes
    from leannotch_core.document import Starter
    from leannotch_core.evaluate import evaluate
    from leannotch_core.sizes import Size
    from leannotch_core.starters.live import put_starter

    sizes = {"length": "640", "width": "420", "columns": "12", "rows": "8"}
    typed = {name: Size(text=text) for name, text in sizes.items()}
    tray = Starter(id="tray_1", kind="tray", stock="birch", second_stock="birch", sizes=typed)
    document = put_starter(_grid(2, 0).model_copy(update={"parts": [], "joints": []}), tray)
    result = evaluate(document)
    assembly = assemble(document, result)
    standing = median_ms(lambda: assemble(document, result), 7)
    clashing = median_ms(lambda: all_clashes(result, assembly), 3)
    return [
        Figure("poses and closure of a tray of 12 x 8 compartments, ms", standing, "at most 50 ms", 50),
        Figure("clashes of that tray, in the background, over its poses, times", clashing / standing, "none", 1),
    ]


def figures() -> list[Figure]:
    from leannotch_core.document import read_project

    from workshop.demo import FOLDER, load_demo

    load_demo()
    document = read_project((FOLDER / "sorting_tray.json").read_bytes())
    return [
        *evaluation(document),
        edit_through_the_api(),
        *large_edit(),
        *proof_of_a_sheet(),
        dxf_export(),
        growth(),
        *kernel(),
        *arcs_of_curves(),
        *divider_grid(),
        *largest_tray(),
        *nesting(document),
    ]


def main(arguments: list[str]) -> int:
    """Measures in a data folder of its own, so that no maker's data is touched."""
    with tempfile.TemporaryDirectory() as data:
        os.environ["NOTCH_DATA"] = data
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "leannotch.settings")
        import django
        from django.core.management import call_command

        django.setup()
        call_command("migrate", verbosity=0)
        found = figures()
    if "--json" in arguments:
        print(json.dumps([{**asdict(figure), "ratio": round(figure.ratio, 3)} for figure in found], indent=1))
    else:
        for figure in found:
            print(f"{figure.what:66} {figure.value:9.3f}   {figure.against}; ratio {figure.ratio:.2f}")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
