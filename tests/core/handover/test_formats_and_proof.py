"""Files as other readers see them, and the proof against files made by hand."""

import io
import json
import math
import os
import random
import re
import subprocess
import sys
from dataclasses import replace
from itertools import pairwise, permutations, product
from xml.etree import ElementTree

import ezdxf
import pytest
import shapely
import svgelements
from ezdxf import recover
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.coupons.making import fit_coupon
from leannotch_core.document.operations import ORDER
from leannotch_core.drawings.drawing import BrokenFile, DrawnLine
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.svg import read_svg
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.boolean import subtract
from leannotch_core.geometry.loop import Loop, Outline, polygon
from leannotch_core.geometry.segment import Arc, Line, Motion, Source, cross
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.handover.svg import path_data, write_svg
from leannotch_core.joints.fit import Gauge
from leannotch_core.layout.nest import nest
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.machining.way import corners, shortest_way
from leannotch_core.parts.lettering.single_line import GLYPHS, strokes, text_width
from leannotch_core.parts.shapes.rectangle import rectangle
from leannotch_core.parts.shapes.round_hole import round_hole
from leannotch_core.proof.against.outline import Beam, apart, left_by
from leannotch_core.proof.sheet_proof import caliper, prove_sheet, proved_gap
from leannotch_core.proof.sweep import prove

from ...judges.shapes import judge, outlines
from ...projects import ROOT, cross_lap, demo, finger, part, project, stock, tab
from ...properties import tried
from ...shell import of

main = of("proof")


def laid(document):
    result = evaluate(document)
    first = next(iter(nest(document, result, 0)))
    return document.model_copy(update={"layout": first.layout}), result


def with_hand_over(document, **changes):
    return document.model_copy(update={"hand_over": document.hand_over.model_copy(update=changes)})


# SVG as svgelements measures it, DXF as ezdxf reads it


@pytest.mark.parametrize("turn", [math.pi / 3, math.pi, 1.7 * math.pi, -math.pi / 2, -1.9 * math.pi])
def test_arc_flags_as_svgelements_measures_them(turn):
    """SVG 2, 9.3.8: half circles and large arcs, both ways round."""
    end = 10 * complex(math.cos(turn), math.sin(turn))
    arc = Arc(10 + 0j, end, 0, turn > 0, Source("test", "arc"))
    path = svgelements.Path(path_data([arc], 0, closed=False))
    assert path.length() == pytest.approx(10 * abs(turn), rel=1e-6)
    middle = path.point(0.5)
    assert complex(middle.x, -middle.y) == pytest.approx(arc.at(0.5), abs=1e-5)


def test_a_full_circle_is_one_circle_in_both_files():
    plate = part("plate", 60, 40, cutouts=[hole(10)])
    document, result = laid(with_hand_over(project([plate]), names="leave out"))
    plan = plan_sheet(document, result, 0)
    svg = svgelements.SVG.parse(io.BytesIO(write_svg(plan)))
    circles = [e for e in svg.elements() if isinstance(e, svgelements.Circle)]
    assert [svgelements.Length(c.rx).value() * 25.4 / 96 for c in circles] == pytest.approx([4.92], abs=1e-4)
    space = read_with_ezdxf(write_dxf(plan)).modelspace()
    assert [e.dxftype() for e in space] == ["CIRCLE", "LWPOLYLINE"]
    assert space[0].dxf.radius == pytest.approx(4.92)


def hole(diameter, x="0", y="0", **more):
    hole_shape = {"kind": "round", "diameter": str(diameter)}
    return {"id": more.pop("id", "hole"), "hole": hole_shape, "origin": "middle", "x": x, "y": y, **more}


def read_with_ezdxf(data):
    document, auditor = recover.read(io.BytesIO(data))
    assert not auditor.has_errors
    return document


@pytest.mark.parametrize(("version", "kind"), [("R2010", "LWPOLYLINE"), ("R12", "POLYLINE")])
def test_dxf_as_ezdxf_reads_it_back(version, kind):
    """DXF reference: $INSUNITS 4 is millimetres; a bulge is the tangent of a quarter of the angle."""
    corners = [{"corner": "top left", "kind": "round", "size": "10"}]
    plate = part("plate", 60, 40, corners=corners)
    document, result = laid(with_hand_over(project([plate]), names="leave out", kerf="at the machine"))
    data = write_dxf(plan_sheet(document, result, 0), version)
    found = read_with_ezdxf(data)
    outlines = [e for e in found.modelspace() if e.dxftype() == kind]
    assert len(outlines) == 1 and outlines[0].dxf.layer == "cut"
    if version == "R2010":
        assert found.header["$INSUNITS"] == 4 and outlines[0].closed
        bulges = [b for *_, b in outlines[0].get_points("xyb") if b]
        assert bulges == pytest.approx([math.tan(math.pi / 2 / 4)])
    assert b"Kerf not compensated" in data
    assert data == write_dxf(plan_sheet(document, result, 0), version)


def test_slots_on_the_cutting_layer_are_narrower_by_the_kerf():
    """t + c - k on the cut line: acrylic of 1.97 mm, sliding 0.2, kerf 0.16."""
    document, result = laid(demo())
    polylines = (
        read_with_ezdxf(write_dxf(plan_sheet(document, result, 1))).modelspace().query('LWPOLYLINE[layer=="cut"]')
    )
    widths = set()
    for line in polylines:
        points = line.get_points("xy")
        for (x1, y1), (x2, y2) in zip(points, points[1:] + points[:1], strict=True):
            if abs(math.hypot(x2 - x1, y2 - y1)) < 5 and (x1 == pytest.approx(x2) or y1 == pytest.approx(y2)):
                widths.add(round(math.hypot(x2 - x1, y2 - y1), 6))
    assert widths == {round(1.97 + 0.2 - 0.16, 6)}


# Reading what others wrote: units


@pytest.mark.parametrize(
    ("size", "mm"),
    [
        # CSS Values and Units 3, 6.2: 96 px = 1 in = 25.4 mm; 1 pt = 1/72 in.
        ('width="100mm" height="100mm" viewBox="0 0 100 100"', 100),
        ('width="100px" height="100px" viewBox="0 0 100 100"', 26.458),
        ('width="377.95px" height="377.95px" viewBox="0 0 100 100"', 100),
        ('width="283.46pt" height="283.46pt" viewBox="0 0 100 100"', 100),
        ('width="4in" height="4in" viewBox="0 0 100 100"', 101.6),
    ],
)
def test_svg_units(size, mm):
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="100" height="100"/></svg>'
    piece = prove(read_svg(svg.encode()), 0).pieces[0]
    assert (piece.width, piece.height) == pytest.approx((mm, mm), abs=2e-3)


def test_curves_transforms_and_ellipses_of_foreign_svg_are_measured():
    svg = """<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">
      <g transform="translate(20 10) rotate(90)"><ellipse cx="30" cy="-40" rx="25" ry="15"/></g>
      <path d="M120 20 C120 5 160 5 160 20 S180 60 150 60 Q120 60 120 20 Z"/></svg>"""
    pieces = prove(read_svg(svg.encode()), 0.2).pieces
    ellipse = next(p for p in pieces if p.width == pytest.approx(29.8, abs=0.01))
    assert ellipse.height == pytest.approx(49.8, abs=0.01)
    # Shrunk by 0.1 mm all round: area less half a kerf along the edge (Ramanujan's perimeter), plus the corners' share.
    h = (25 - 15) ** 2 / (25 + 15) ** 2
    around = math.pi * 40 * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))
    assert ellipse.shape.area == pytest.approx(math.pi * 25 * 15 - around * 0.1 + math.pi * 0.01, abs=0.2)


def test_dxf_in_inches_with_splines_and_blocks():
    document = ezdxf.new("R2010", units=1)
    block = document.blocks.new("plate")
    block.add_lwpolyline([(0, 0), (4, 0), (4, 2), (0, 2)], close=True)
    document.modelspace().add_blockref("plate", (10, 10))
    document.modelspace().add_ellipse((2, 20), major_axis=(1, 0), ratio=0.5)
    stream = io.StringIO()
    document.write(stream)
    pieces = prove(read_dxf(stream.getvalue().encode()), 0).pieces
    # An ellipse comes back as arcs that keep within 0.005 mm of it on either side.
    plate, disc = [(p.width, p.height) for p in pieces]
    assert plate == pytest.approx((101.6, 50.8)) and disc == pytest.approx((50.8, 25.4), abs=0.01)


# The proof


def lines_svg(*paths):
    body = "".join(f'<path fill="none" stroke="#000" d="{d}"/>' for d in paths)
    return f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">{body}</svg>'


def test_nested_loops_are_part_slug_part():
    def square(a, b):
        return f"M{a} {a}H{b}V{b}H{a}Z"

    proof = prove(read_svg(lines_svg(square(10, 110), square(30, 90), square(50, 70)).encode()), 0.2)
    found = [(p.kind, round(p.width, 3), p.holes) for p in proof.pieces]
    assert found == [("part", 99.8, 1), ("part", 19.8, 0), ("slug", 59.8, 1)]
    assert proof.pieces[0].shape.area == pytest.approx(99.8**2 - 60.2**2 + 4 * (1 - math.pi / 4) * 0.01, abs=1e-3)
    assert not proof.faults


def test_open_doubled_and_crossing_lines_are_named():
    loose = prove(read_svg(lines_svg("M10 10H60V60H10V11", "M100 10h50v50h-50z", "M150 10V60").encode()), 0.2)
    assert (len(loose.open_chains), loose.doubled) == (1, 1)
    assert [p.kind for p in loose.pieces] == ["part"]
    assert "drawn twice" in loose.faults[0].text and "1 mm from where it began" in loose.faults[1].text
    crossing = prove(read_svg(lines_svg("M10 10h50v50h-50z", "M40 40h50v50h-50z").encode()), 0.2)
    assert any("cross at" in fault.text for fault in crossing.faults)
    # Loose lines in any order and direction are joined: a square from four strokes.
    strokes = prove(read_svg(lines_svg("M10 10H60", "M10 60V10", "M60 10V60", "M60 60H10").encode()), 0)
    assert not strokes.faults and strokes.pieces[0].width == pytest.approx(50)


@settings(max_examples=tried(10))
@given(st.randoms(use_true_random=False))
def test_loose_lines_in_any_order_and_direction_give_the_same_pieces(random):
    """As files of others come: every side a line of its own, shuffled, half of them drawn backwards."""
    document, result = laid(demo())
    drawing = read_dxf(write_dxf(plan_sheet(document, result, 1)))
    whole = prove(drawing, 0.16)
    loose = [s for line in drawing.lines if line.layer == "cut" for s in line.segments]
    random.shuffle(loose)
    loose = [s.reversed() if random.random() < 0.5 else s for s in loose]
    twice = random.sample(loose, 3)
    drawing.lines = [DrawnLine("cut", (segment,)) for segment in [*loose, *twice]]
    proof = prove(drawing, 0.16)
    assert (len(proof.open_chains), proof.doubled) == (0, 3)
    assert sorted(p.shape.area for p in proof.pieces) == pytest.approx(
        sorted(p.shape.area for p in whole.pieces), abs=1e-3
    )


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("a.svg", b"<svg", "broken at line 1"),
        ("a.svg", b"<html/>", "not an SVG"),
        ("a.svg", b'<!DOCTYPE s [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg>&a;</svg>', "not safe"),
        ("a.dxf", b"not a drawing at all", "cannot be read"),
        ("a.dxf", b"", "cannot be read"),
    ],
)
def test_broken_files_get_a_sentence(name, data, says, tmp_path, capsys):
    path = tmp_path / name
    path.write_bytes(data)
    assert main([str(path), "--kerf", "0.2"]) == 2
    assert says in capsys.readouterr().err
    reader = read_svg if name.endswith("svg") else read_dxf
    with pytest.raises(BrokenFile):
        reader(data)


def test_the_proof_command_in_json(tmp_path, capsys):
    document, result = laid(demo())
    path = tmp_path / "tray.dxf"
    path.write_bytes(write_dxf(plan_sheet(document, result, 0)))
    assert main([str(path), "--kerf", "0.16", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert (told["unit"], told["kerf"], told["open"], told["doubled"], told["findings"]) == ("mm", 0.16, 0, 0, [])
    parts = [p for p in told["pieces"] if p["kind"] == "part"]
    assert sorted((p["width"], p["height"]) for p in parts)[-1] == pytest.approx((240, 180), abs=0.01)
    assert [p["holes"] for p in parts].count(1) == 2


@settings(max_examples=tried(13))
@given(
    st.integers(60, 200),
    st.integers(30, 90),
    st.sampled_from(["1.97", "3.07", "5.0", "6.35"]),
    st.sampled_from(["0.08", "0.16", "0.3", "1.0"]),
    st.sampled_from([0.3, 0.1, -0.05]),
    st.sampled_from(["in the file", "at the machine"]),
)
def test_whatever_the_sizes_the_swept_file_gives_parts_and_gaps_as_meant(width, height, t, kerf, clearance, who):
    stocks = [stock("ply", (t,), kerf, glue=str(clearance)), stock("sheet", ("3.9",), kerf, glue=str(clearance))]
    parts = [
        part(
            "wall", width, height, cutouts=[hole(8, repeat={"kind": "grid", "columns": 2, "rows": 1, "step_x": "14"})]
        ),
        part("end", 70, height, "sheet"),
        part("divider", 80, 25, "sheet"),
        part("other", 90, 25),
        part("rib", 50, 40),
        part("plate", 100, 60, "sheet"),
    ]
    joints = [finger("wall", "right", "end", "left"), cross_lap("divider", 40, "other", 30)]
    joints.append(tab("rib", "bottom", "plate", 20, 30, width="9", inset="4"))
    document, result = laid(with_hand_over(project(parts, joints, stocks), kerf=who))
    assert not result.errors
    proved = []
    for index in range(len(document.layout.sheets)):
        plan = plan_sheet(document, result, index)
        for drawing in (read_svg(write_svg(plan)), read_dxf(write_dxf(plan, "R12")), read_dxf(write_dxf(plan))):
            proof = prove_sheet(plan, drawing, result)
            assert proof.faults == []
        proved += proof.parts
    assert all(p.deviation < 0.002 for p in proved) and len(proved) == 6
    for row in result.ledger:
        assert proved_gap(row, proved) == pytest.approx(row.gap, abs=0.001)


def test_the_proof_finds_a_lost_part_and_a_wrong_kerf():
    document, result = laid(demo())
    plan = plan_sheet(document, result, 0)
    drawing = read_dxf(write_dxf(plan))
    drawing.lines.pop()
    assert any("does not come free" in fault.text for fault in prove_sheet(plan, drawing, result).faults)
    drawing = read_dxf(write_dxf(plan_sheet(with_hand_over(document, kerf="at the machine"), result, 0)))
    faults = [fault.text for fault in prove_sheet(plan, drawing, result).faults]
    assert any("says otherwise about the kerf" in text for text in faults)
    assert any("differs from intent by 0.1" in text for text in faults)


def test_inner_cuts_come_before_outer_ones_and_a_part_in_a_hole_first_of_all():
    big = Outline(rectangle("big", 100, 100))
    frame = subtract([big], [Outline(round_hole("hole", 60).moved(Motion(shift=50 + 50j)))])[0]
    assert [loop.area > 0 for loop in frame.loops] == [True, False]
    cutout = {"id": "hole", "hole": {"kind": "round", "diameter": "60"}, "origin": "middle", "x": "0", "y": "0"}
    document, result = laid(with_hand_over(project([part("frame", 100, 100, cutouts=[cutout]), part("tag", 20, 20)])))
    inside = [p.model_copy(update={"x": 45.0, "y": 45.0}) if p.part == "tag" else p for p in document.layout.placements]
    document = document.model_copy(update={"layout": document.layout.model_copy(update={"placements": inside})})
    order = [p for p in plan_sheet(document, result, 0).paths if p.operation == "cut"]
    lengths = [sum(s.length for s in path.segments) for path in order]
    assert lengths == sorted(lengths), "tag, then the hole round it, then the frame"


def test_a_coupon_shows_the_kerf_and_the_fits():
    """Common practice, no source: half the difference of a square hole and the slug that fell out is the kerf."""
    acrylic = stock("acrylic", ("3.92",), "0.2")
    document, result = laid(fit_coupon(acrylic, [-0.05, 0.1, 0.2]))
    assert result.findings == []
    plan = plan_sheet(document, result, 0)
    for drawing in (read_svg(write_svg(plan)), read_dxf(write_dxf(plan))):
        proof = prove_sheet(plan, drawing, result)
        assert proof.faults == []
    comb = next(p for p in proof.parts if p.part == "comb")
    widths = [caliper(comb.shape, Gauge("comb", complex(15 * (i + 1), comb.height - 7), 1)) for i in range(3)]
    assert widths == pytest.approx([3.92 - 0.05, 3.92 + 0.1, 3.92 + 0.2], abs=1e-3)
    slug = next(p for p in proof.proof.pieces if p.kind == "slug")
    assert (20 - slug.width) / 2 == pytest.approx(0.2, abs=1e-3)
    # Each slot is marked with its clearance, in score lines that no cut crosses.
    assert {line.segments[0].source.side for line in plan.paths if line.operation == "score"} == {"-0.05", "0.1", "0.2"}


def test_svg_is_plain_millimetres_with_one_group_an_operation():
    document, result = laid(with_hand_over(demo(), check_square=True))
    plan = plan_sheet(document, result, 0)
    root = ElementTree.fromstring(write_svg(plan))
    assert (root.get("width"), root.get("height"), root.get("viewBox")) == ("400mm", "300mm", "0 0 400 300")
    groups = [e for e in root if e.tag.endswith("}g")]
    assert [g.get("id") for g in groups] == ["score", "cut", "reference"]
    everything = list(root.iter())
    assert not any(e.get("transform") for e in everything) and {g.get("fill") for g in groups} == {"none"}
    assert {g.get("stroke-width") for g in groups} == {"0.25"}
    hairline = ElementTree.fromstring(write_svg(plan, hairline=True))
    assert {g.get("stroke-width") for g in hairline if g.tag.endswith("}g")} == {"0.01"}
    # The check square is 100 mm, off the sheet, and no cut: the proof does not find it.
    square = read_svg(write_svg(plan)).lines[-1]
    assert square.layer == "reference" and sum(s.length for s in square.segments) == pytest.approx(400)
    assert prove_sheet(plan, read_svg(write_svg(plan)), result).faults == []


@given(outlines(), outlines())
def test_edges_are_as_far_apart_as_shapely_measures_fine_chords(meant, other):
    """Against the piece itself with another taken off, so that edges lie far away, too."""
    whole = judge([meant])
    piece = max(shapely.get_parts(whole.difference(judge([other]))), key=lambda shape: shape.area, default=None)
    if piece is None or piece.is_empty:
        return
    assert apart(whole, piece).distance == pytest.approx(whole.boundary.hausdorff_distance(piece.boundary), abs=1e-3)


@given(outlines(), st.sampled_from([0.05, 0.4, 2.0]))
@settings(max_examples=tried(15))
def test_what_a_round_beam_leaves_is_what_no_disc_outside_reaches(meant, radius):
    """By discs: many are put where they keep off the outline, and what none of them touches is left."""
    whole = judge([meant], 0.0001)
    left = left_by(meant, Beam(radius))
    assert left.buffer(1e-3).covers(whole)
    x0, y0, x1, y1 = whole.bounds
    grid = [
        complex(x0 - radius + (x1 - x0 + 2 * radius) * i / 24, y0 - radius + (y1 - y0 + 2 * radius) * j / 24)
        for i in range(25)
        for j in range(25)
    ]
    for at in grid:
        spot = shapely.Point(at.real, at.imag)
        if whole.distance(spot) > radius + 1e-3:
            assert not spot.buffer(radius).intersection(left).area > 1e-4
        elif left.contains(spot) and not whole.buffer(1e-3).contains(spot):
            # No disc that touches it stays off the outline: all middles within its reach are too near.
            assert spot.buffer(radius - 2e-3).within(whole.buffer(radius))


@pytest.mark.parametrize("hairline", [False, True])
def test_every_line_that_is_written_is_solid(hairline):
    """A machine that is driven like a printer cuts a dashed line as dashes. Common practice, no source."""
    document, result = laid(with_hand_over(demo(), check_square=True))
    plan = plan_sheet(document, result, 0)
    path = next(path for path in plan.paths if path.operation == "cut")
    others = [replace(path, operation=operation) for operation in ORDER if operation != "pocket"]
    plan = replace(plan, beside=(*plan.beside, *others, replace(path, operation="pocket", depth=1.5)))
    written = write_svg(plan, hairline=hairline)
    groups = [e for e in ElementTree.fromstring(written) if e.tag.endswith("}g")]
    assert {re.sub(r"-\d.*", "", g.get("id")) for g in groups} == set(ORDER)
    assert all(g.get("stroke").startswith("#") for g in groups) and b"dash" not in written
    drawn = read_with_ezdxf(write_dxf(plan))
    kinds = {layer.dxf.linetype.upper() for layer in drawn.layers} | {
        e.dxf.linetype.upper() for e in drawn.modelspace()
    }
    assert kinds <= {"CONTINUOUS", "BYLAYER"}


def test_the_same_input_gives_the_same_bytes_in_another_process():
    script = (
        "import hashlib; from tests.core.handover.test_formats_and_proof import *; d, r = laid(demo()); "
        "p = plan_sheet(d, r, 0); print(hashlib.sha256(write_svg(p) + write_dxf(p) + write_dxf(p, 'R12')).hexdigest())"
    )
    found = set()
    for seed in ("1", "2"):
        environment = {**os.environ, "PYTHONHASHSEED": seed, "PYTHONPATH": f"{ROOT}:{ROOT / 'core'}:{ROOT / 'cli'}"}
        run = subprocess.run(
            [sys.executable, "-c", script], capture_output=True, check=True, env=environment, text=True
        )
        found.add(run.stdout)
    assert len(found) == 1


def test_every_printable_letter_can_be_scored_within_its_box():
    letters = [c for c in map(chr, range(32, 127)) if c.upper() in GLYPHS]
    assert set("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 .,-+/()") <= {c.upper() for c in letters}
    for letter in [*letters, "é", "\N{GREEK SMALL LETTER OMEGA}"]:
        points = [p for line in strokes(letter, 6) for p in line]
        assert all(abs(p.real) <= 2 + 1e-9 and abs(p.imag) <= 3 + 1e-9 for p in points), letter
        assert points or letter == " "
    wide = [p.real for line in strokes("LONG WALL", 5) for p in line]
    assert max(wide) - min(wide) == pytest.approx(text_width("LONG WALL", 5), abs=1.3)


@pytest.mark.parametrize("sweep", [0, 1])
def test_half_an_ellipse_is_read_whichever_way_it_runs(sweep):
    """SVG 2, 9.3.8: the sweep flag chooses the side; the area of half an ellipse is pi a b / 2."""
    path = f'<path d="M10 50 A40 20 0 0 {sweep} 90 50 Z"/>'
    data = f'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">{path}</svg>'
    [line] = read_svg(data.encode()).lines
    loop = Loop(line.segments)
    assert abs(loop.area) == pytest.approx(math.pi * 40 * 20 / 2, abs=0.3)
    assert loop.bounds == pytest.approx((10, 30, 90, 50) if sweep == 0 else (10, 50, 90, 70), abs=0.006)


def squares(count, chance):
    places = [(chance.uniform(0, 900), chance.uniform(0, 500), chance.uniform(5, 40)) for _ in range(count)]
    return [square(complex(x, y), side) for x, y, side in places]


def square(corner, side):
    points = [corner, corner + side, corner + side * (1 + 1j), corner + side * 1j]
    return polygon(points, [Source("square", "side")] * 4).segments


def way_through(paths, way):
    places = [0, *(paths[path][first].start for path, first in way)]
    return sum(abs(b - a) for a, b in pairwise(places))


@pytest.mark.parametrize("seed", range(4))
def test_the_way_between_a_few_cuts_is_as_good_as_the_best_there_is(seed):
    # By brute force: every order, and each square begun at each of its corners.
    paths = squares(5, random.Random(seed))
    ways = (
        list(zip(order, corners, strict=True))
        for order in permutations(range(5))
        for corners in product(range(4), repeat=5)
    )
    best = min(way_through(paths, way) for way in ways)
    assert way_through(paths, shortest_way(paths, [corners(path) for path in paths], [True] * 5)) <= 1.05 * best


def test_the_way_between_many_cuts_is_a_quarter_shorter_than_nearest_first():
    paths = squares(200, random.Random(4))
    here, waiting, nearest_first = 0, set(range(200)), []
    while waiting:
        path = min(waiting, key=lambda at: abs(paths[at][0].start - here))
        waiting.remove(path)
        nearest_first.append((path, 0))
        here = paths[path][0].start
    way = shortest_way(paths, [corners(path) for path in paths], [True] * 200)
    assert sorted(path for path, _ in way) == list(range(200))
    assert way_through(paths, way) <= 0.75 * way_through(paths, nearest_first)


def test_a_cut_begins_on_a_corner_where_there_is_one():
    # A tag with three round corners and a square one begins at that; a disc has none to begin at.
    rounds = [{"corner": at, "kind": "round", "size": "8"} for at in ("top left", "top right", "bottom left")]
    tag = part("tag", 60, 40, corners=rounds)
    hole = {"id": "h", "hole": {"kind": "round", "diameter": "8"}, "x": "30", "y": "20"}
    document = project([{**tag, "cutouts": [hole]}])
    document = document.model_copy(update={"layout": next(iter(nest(document, evaluate(document), 0))).layout})
    hole, outer = [path for path in plan_sheet(document, evaluate(document), 0).paths if path.operation == "cut"]
    assert all(isinstance(segment, Arc) for segment in hole.segments)
    first, last = outer.segments[0], outer.segments[-1]
    assert (
        isinstance(first, Line) and isinstance(last, Line) and abs(cross(last.end_tangent, first.start_tangent)) > 0.99
    )
