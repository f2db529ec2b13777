"""The way in: which parts a drawing has, how large they are, what goes with them; and ``notch bring``."""

import cmath
import io
import json
import math

import ezdxf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.bring import main
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.evaluate import evaluate
from leannotch_core.machining.plan import marks
from leannotch_core.project import read_project

from ..projects import ROOT, project, stock

LABELS = ROOT / "demo" / "brought" / "specimen_labels.svg"


def dxf(draw, units=4):
    document = ezdxf.new(units=units)
    draw(document.modelspace(), document)
    stream = io.StringIO()
    document.write(stream)
    return read(stream.getvalue().encode(), "drawing.dxf")


def corners(shape, place, turn=0.0, mirrored=False):
    way = cmath.rect(1, math.radians(turn))
    points = [complex(*p).conjugate() if mirrored else complex(*p) for p in shape]
    return [((way * p + complex(*place)).real, (way * p + complex(*place)).imag) for p in points]


FLAG = [(0, 0), (40, 0), (40, 12), (15, 12), (15, 30), (0, 30)]


@settings(max_examples=40)
@given(st.integers(0, 359), st.integers(1, 359))
def test_equal_outlines_are_one_part_with_a_count_however_they_are_turned(first, second):
    def draw(space, _):
        for number, turn in enumerate((first, second)):
            space.add_lwpolyline(corners(FLAG, (number * 120, 0), turn), close=True)
        space.add_lwpolyline(corners(FLAG, (240, 0), second, mirrored=True), close=True)

    drawing = dxf(draw)
    assert sorted(part.count for part in bring(drawing, Bringing()).parts) == [1, 2]
    assert [part.count for part in bring(drawing, Bringing(mirrored=True)).parts] == [3]


def test_openings_islands_lines_and_pockets_go_with_the_part_that_they_lie_in():
    def draw(space, document):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
        space.add_circle((30, 30), 20)
        space.add_circle((30, 30), 8)
        space.add_line((60, 10), (90, 10), dxfattribs={"layer": "score"})
        space.add_lwpolyline(
            [(60, 30), (80, 30), (80, 50), (60, 50)], close=True, dxfattribs={"layer": "Pocket 1.5 mm"}
        )
        space.add_line((200, 0), (210, 0), dxfattribs={"layer": "engrave"})

    way = bring(dxf(draw), Bringing())
    plate, disc = sorted(way.parts, key=lambda part: -part.outline.area)
    assert (len(plate.outline.cutouts), disc.count, way.beside) == (1, 1, 1)
    part = part_from(plate, "plate", "ply")
    result = evaluate(project([part.model_dump()], [], [stock("ply", ("3",))]))
    found = result.parts["plate"]
    # By hand: 100 x 60 less a hole of 40.
    assert not result.errors and found.outline.area == pytest.approx(6000 - math.pi * 400, abs=1e-3)
    assert [(path.operation, path.segments[0].start, path.segments[0].end) for path in marks(found)] == [
        ("score", pytest.approx(60 + 10j), pytest.approx(90 + 10j))
    ]
    assert [(pocket.depth, pocket.outline.bounds) for pocket in found.pockets] == [
        (1.5, pytest.approx((60, 30, 80, 50)))
    ]


@pytest.mark.parametrize("frame", [None, False, True])
def test_a_rectangle_round_everything_is_a_sheet_unless_the_maker_says_that_it_is_a_part(frame):
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (230, 0), (230, 120), (0, 120)], close=True)
        for number in range(20):
            x, y = 5 + 45 * (number % 5), 5 + 28 * (number // 5)
            space.add_lwpolyline([(x, y), (x + 40, y), (x + 40, y + 25), (x, y + 25)], close=True)

    way = bring(dxf(draw), Bringing(frame=frame))
    assert [(part.count, len(part.outline.cutouts)) for part in way.parts] == (
        [(1, 20)] if frame is False else [(20, 0)]
    )
    assert way.frame is not None and way.frame.size == pytest.approx(230 + 120j)


def test_a_plate_with_holes_is_a_part_and_no_sheet():
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True)
        for x in (20, 50, 80):
            space.add_circle((x, 30), 6)

    way = bring(dxf(draw), Bringing())
    assert way.frame is None and [len(part.outline.cutouts) for part in way.parts] == [3]


def test_a_drawing_is_as_large_as_its_unit_says():
    def draw(space, _):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)

    drawing = dxf(draw, units=0)
    # CSS Values and Units 3, 6.2, for px; an inch is 25.4 mm.
    for unit, width in ((None, 100), ("in", 2540), ("px", 26.458), ("cm", 1000)):
        assert bring(drawing, Bringing(unit=unit)).width == pytest.approx(width, abs=1e-3)
    assert bring(drawing, Bringing(scale=1.5)).parts[0].outline.area == pytest.approx(5000 * 2.25)


def test_a_badly_drawn_sheet_is_brought_from_the_shell_and_its_mends_are_told(tmp_path, capsys):
    out = tmp_path / "labels.json"
    assert main([str(LABELS), "--out", str(out), "--unit", "mm", "--join", "0.3", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [(p["count"], p["openings"], round(p["width"], 3), round(p["height"], 3)) for p in told["parts"]] == [
        (6, 1, 70, 26), (1, 6, 150, 40), (2, 0, 40, 40),
    ]  # fmt: skip
    assert told["mended"] == {"joined": 2, "doubled": 1, "points": 1, "arcs": 2}
    assert told["parts"][2]["area"] == pytest.approx(math.pi * 400, rel=1e-3)
    document = read_project(out.read_bytes())
    assert [part.count for part in document.parts] == [6, 1, 2] and not evaluate(document).errors
    assert main([str(tmp_path / "none.dxf"), "--out", str(out)]) == 2
    assert read_project(out.read_bytes()) == document
