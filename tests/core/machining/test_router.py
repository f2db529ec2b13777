"""The router: feeds and speeds, tool paths, programs, and their proof in depth.

Sizes are invented unless a source is named.
"""

import math
import re

import gcodeparser
import manifold3d
import pytest
import shapely
from hypothesis import Phase, given, settings
from hypothesis import strategies as st
from leannotch_core.device.engaged import engaged
from leannotch_core.device.run import LaidDown, run
from leannotch_core.device.sent import read_sent
from leannotch_core.document.cutter import Cutter
from leannotch_core.document.preparation import Preparation
from leannotch_core.drawings.gcode.words import Dialect
from leannotch_core.edits.command import apply
from leannotch_core.edits.cutter import PutCutter, RemoveCutter
from leannotch_core.edits.machine import SetSetting
from leannotch_core.edits.preparation import SetPreparation, with_mends
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.cutters import NoCutter, chip_of, cutter_facts, cutting_speed, feed
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline, circle, polygon
from leannotch_core.geometry.offset import grow
from leannotch_core.geometry.segment import Motion, Source
from leannotch_core.handover.gcode import cutters_of, write_gcode
from leannotch_core.handover.proved import proved as proof_of
from leannotch_core.handover.proved import written
from leannotch_core.handover.read_back import read_program_back
from leannotch_core.layout.nest import nest
from leannotch_core.layout.spacing import spacing
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.routed.depths import passes
from leannotch_core.machining.routed.facing import faced
from leannotch_core.machining.routed.pocket import Clearing, by_rings, by_rows, left_over, rest
from leannotch_core.machining.routed.reach import bands
from leannotch_core.machining.settings import starting
from leannotch_core.parts.pocket import Pocket
from leannotch_core.proof.depth.dangers import Limits
from leannotch_core.proof.depth.program import read_program
from leannotch_core.proof.depth.report import depth_report, prove_depth
from leannotch_core.proof.depth.swept import SweptCutter, gone
from leannotch_core.said import Said

from ...projects import part, project, stock, text
from ...properties import tried

ROUTER = shipped()["router"]
SOURCE = Source("test", "side")


def mill(cutter_id="mill", diameter="6.35", **more):
    return {"id": cutter_id, "name": f"{diameter} mill", "diameter": diameter, "cutting_length": "30", **more}


def sunk(cut_id, width, height, depth, x="0", y="0", **hole):
    shape = {"kind": "rectangle", "width": str(width), "height": str(height), **hole}
    return {"id": cut_id, "hole": shape, "does": "pocket", "depth": str(depth), "origin": "middle", "x": x, "y": y}


def hole(cut_id, diameter, x="0", y="0"):
    return {"id": cut_id, "hole": {"kind": "round", "diameter": str(diameter)}, "origin": "middle", "x": x, "y": y}


def routed(parts, cutters=None, holding=None, machine=None, thickness="18", hand_over=None, **routing):
    """A project that is cut by a router, laid out."""
    cutters = cutters or [mill()]
    wanted = {"cutter": cutters[0]["id"], **routing}
    used = ROUTER.model_copy(update=machine or {})
    document = project(
        parts,
        stocks=[stock(readings=(thickness,), nominal=thickness)],
        machines=[used],
        machine=used.id,
        cutters=cutters,
        preparation={
            "routing": wanted,
            "holding": holding or {"how": "by count", "count": 4, "width": "5", "height": "5"},
        },
        hand_over={"names": "leave out", **(hand_over or {})},
    )
    last = next(iter(nest(document, evaluate(document), 0)))
    return document.model_copy(update={"layout": last.layout})


def ready_of(document):
    result = evaluate(document)
    return prepare(document, result, 0), result


def proved(document):
    ready, result = ready_of(document)
    return ready, written(document, result, ready, "nc", document.hand_over)


def proved_text(document, program):
    """The proof of a program that somebody has changed since it was written."""
    ready, result = ready_of(document)
    return proof_of(document, result, ready, "nc", [program.encode()])


def chord(way):
    """A straight way as a line for shapely."""
    return shapely.LineString([(point.real, point.imag) for point in (way.segment.start, way.segment.end)])


# Feeds and speeds


def test_feeds_and_speeds_come_out_as_in_worked_examples():
    # v_c = pi * d * n / 1000 and v_f = n * z * f_z: the usual handbook formulas, with examples from memory.
    assert cutting_speed(100, 318.3) == pytest.approx(100, abs=0.01)
    assert feed(18_000, 2, 0.25) * 60 == pytest.approx(9000)
    assert chip_of(feed(12_345, 3, 0.08), 12_345, 3) == pytest.approx(0.08)
    # 80 in/min with a 1/16 in cutter of two flutes at 24 000 rpm: 0.042 mm a tooth.
    assert chip_of(80 * 25.4 / 60, 24_000, 2) == pytest.approx(0.0423, abs=1e-4)


def test_passes_are_equal_and_as_common_practice_has_them():
    # Common practice, no source: 18 mm ply to 18.05 in two passes or more; 0.475 in ply in passes of 0.25 in.
    assert passes(18.05, 9.1) == [-9.025, -18.05]
    assert len(passes(0.475 * 25.4, 0.25 * 25.4)) == 2
    assert passes(6, 6) == [-6] and passes(6.001, 6)[0] == pytest.approx(-3.0005)
    assert passes(9, 2, begun=5) == [-7, -9]


@pytest.mark.parametrize("material", ["plywood", "MDF", "acrylic", "aluminium"])
def test_starting_values_lie_in_the_good_range_whatever_the_cutter(material):
    for diameter in ("1.5", "3.175", "6.35", "12.7"):
        one = Cutter.model_validate(mill(diameter=diameter))
        sheet = stock(material=material, readings=("9",))
        setting = starting(sheet, ROUTER, "cut", one)
        assert setting.speed <= ROUTER.working.speed and 0 < setting.stepdown <= float(diameter)
        document = routed([part("plate", 60, 40, count=1)], [mill(diameter=diameter)])
        document = document.model_copy(update={"stocks": [stock(material=material, readings=("9",))]})
        ready, _ = ready_of(document)
        assert not {f.code for f in ready.findings} & {"rubs", "chip-load", "deep-step"}


# Tool paths, proved

#: A sheet takes a third of a second: an example that fails is told as it is.
WITHOUT_SHRINKING = (Phase.explicit, Phase.reuse, Phase.generate)

sizes = st.integers(14, 60)
cutter_sizes = st.sampled_from(["3.175", "5", "6.35"])


@settings(max_examples=tried(10), deadline=None, phases=WITHOUT_SHRINKING)
@given(
    diameter=cutter_sizes,
    plunges=st.booleans(),
    entry=st.sampled_from(["ramp", "helix", "straight"]),
    direction=st.sampled_from(["climb", "conventional"]),
    clearing=st.sampled_from(["offsets", "zigzag"]),
    goes=st.sampled_from(["one after the other", "pass by pass"]),
    corners=st.sampled_from(["round", "sharp"]),
    finishing=st.sampled_from(["0", "0.3"]),
    lead=st.sampled_from(["0", "4"]),
    ends=st.sampled_from(["upright", "sloping"]),
    width=sizes,
    height=sizes,
    depth=st.floats(1, 10).map(lambda d: round(d, 2)),
    opening=st.integers(8, 30),
)
def test_whatever_is_asked_for_is_cut_and_proved(
    diameter, plunges, entry, direction, clearing, goes, corners, finishing, lead, ends, width, height, depth, opening
):
    plate = part("plate", 110, 90, cutouts=[sunk("well", width, height, depth, x="-15"), hole("eye", opening, x="36")])
    document = routed(
        [plate],
        [mill(diameter=diameter, plunges=plunges)],
        {"how": "by count", "count": 3, "width": "4", "height": "3", "ends": ends},
        thickness="12",
        entry=entry,
        direction=direction,
        clearing=clearing,
        goes=goes,
        corners=corners,
        finishing=finishing,
        lead=lead,
    )
    ready, file = proved(document)
    assert file.proof.faults == [] and len(file.proof.parts) == 1 and file.proof.parts[0].held == 3
    assert not [check.what for check in file.proof.checks if not check.good]
    # Nothing goes at speed below the face; what goes along an outline has its material on the hand that was asked for.
    assert all(min(move.z, move.from_z) >= -1e-9 for move in ready.moves if move.rapid and move.segment.length)
    whole = as_polygon(evaluate(document).parts["plate"].outline)
    place = document.layout.placements[0]
    lies = shapely.affinity.translate(shapely.affinity.rotate(whole, place.turn, origin=(0, 0)), place.x, place.y)
    beside = []
    for move in ready.moves:
        level = not move.rapid and move.operation == "cut" and move.z == move.from_z and move.z < -11
        if not level or move.segment.length < 3 or hasattr(move.segment, "centre"):
            continue
        off = 1j * move.segment.start_tangent * (float(diameter) / 2 + float(finishing) + 0.05)
        spots = (move.segment.at(0.5) - off, move.segment.at(0.5) + off)
        right, left = (shapely.Point(spot.real, spot.imag) for spot in spots)
        right, left = (right, left) if direction == "climb" else (left, right)
        assert not lies.contains(left)
        beside.append(lies.contains(right))
    assert sum(beside) > 3
    # The clock of the machine is the clock of the proof's program.
    done = run(read_sent(write_gcode(ready), "x.nc", ready.machine), ready.machine)
    assert not done.alarms and done.seconds == pytest.approx(ready.seconds, rel=1e-3)


@settings(max_examples=tried(2), deadline=None, phases=WITHOUT_SHRINKING)
@given(
    st.sampled_from(["ramp", "straight"]),
    st.integers(3, 8),
    st.sampled_from(["upright", "sloping"]),
    st.sampled_from(["3.175", "6.35"]),
    st.integers(14, 24),
)
def test_the_stock_less_the_swept_cutter_sliced_is_what_the_proof_says(entry, depth, ends, diameter, wide):
    plate = part("plate", 50, 40, cutouts=[sunk("well", wide, 14, depth)])
    holding = {"how": "by count", "count": 2, "width": "4", "height": "3", "ends": ends}
    document = routed([plate], [mill(diameter=diameter)], holding, thickness="10", entry=entry, corners="sharp")
    ready, file = proved(document)
    way = read_program_back([file.data], ready).way
    # manifold3d judges: a flat cutter sweeps the hull of itself at both ends of a straight way.
    radius = float(diameter) / 2
    cylinder = manifold3d.Manifold.cylinder(20, radius, radius, 96)
    cuts = [
        manifold3d.Manifold.batch_hull([cylinder.translate((p.real, p.imag, z)) for p, z in ((a, za), (b, zb))])
        for a, b, za, zb, f in zip(way.start, way.end, way.from_z, way.z, way.feed, strict=True)
        if min(za, zb) < 0 and f > 0
    ]
    block = manifold3d.Manifold.cube((120, 120, 10)).translate((-20, -20, -10))
    left = block - manifold3d.Manifold.batch_boolean(cuts, manifold3d.OpType.Add)
    for level in (-9.9, -7.5, -depth - 0.05, -depth + 0.05, -0.5):
        taken = gone(way, level, {1: SweptCutter(float(diameter))}).area
        assert 120 * 120 - left.slice(level).area() == pytest.approx(taken, rel=2e-3)


@pytest.mark.parametrize("clear", [by_rings, by_rows])
@pytest.mark.parametrize("share", [0.3, 0.5])
def test_what_stays_of_a_pocket_is_what_is_told(clear, share):
    outline = Outline(
        polygon([0, 60, 60 + 40j, 35 + 40j, 30 + 12j, 25 + 40j, 40j], [SOURCE] * 7),
        (circle(12 + 15j, 5, SOURCE).reversed(),),
    )
    how = Clearing(2.5, share * 5, 4, 3, "climb", helical=True, plunges=True)
    strokes = [stroke for some in clear([outline], 0, 7, how) for stroke in some]
    lines = [
        shapely.LineString([(p.real, p.imag) for p in (s.segment.at(k / 96) for k in range(97))])
        for s in strokes
        if s.z == -7 and s.segment.length
    ]
    # Shapely judges: the pocket less the cutter along everything that is followed at its floor.
    stays = as_polygon(outline).difference(shapely.union_all(shapely.buffer(lines, 2.5, quad_segs=64)))
    assert stays.buffer(-0.01).buffer(0.01).area == pytest.approx(left_over([outline], 2.5).area, rel=0.03)
    assert shapely.union_all(shapely.buffer(lines, 2.5)).difference(as_polygon(outline).buffer(0.01)).area < 0.01


def test_a_smaller_cutter_clears_the_rest_and_goes_nowhere_else():
    square = Outline(polygon([0, 40, 40 + 30j, 30j], [SOURCE] * 4))
    small = Clearing(1.5, 1.2, 3, 3, "climb", helical=False, plunges=True)
    strokes = [stroke for some in rest([square], 0, 5, 4.0, small) for stroke in some]
    lines = [chord(stroke) for stroke in strokes if stroke.segment.length and stroke.z == -5]
    swept = shapely.union_all(shapely.buffer(lines, 1.5, quad_segs=64))
    corners = left_over([square], 4.0)
    assert corners.difference(swept).area == pytest.approx(left_over([square], 1.5).area, rel=0.05)
    assert swept.area < 0.35 * 40 * 30 and sum(line.length for line in lines) < 300


def test_where_pockets_overlap_the_deeper_holds():
    def box(x):
        return Outline(polygon([x, x + 20, x + 20 + 20j, x + 20j], [SOURCE] * 4))

    found = bands((Pocket(box(0), 4), Pocket(box(10), 7)))
    assert [(begun, depth, round(sum(o.area for o in region))) for region, begun, depth in found] == [
        (0, 4, 600),
        (4, 7, 400),
    ]
    overlapping = [sunk("low", 30, 30, 4, x="-10"), sunk("deep", 30, 30, 7, x="10")]
    _, file = proved(routed([part("plate", 100, 70, cutouts=overlapping)]))
    assert file.proof.faults == []
    report = depth_report(_swept(file.data, 18.0))
    depths = sorted(piece["depth"] for piece in report["pieces"] if piece["kind"] == "pocket")
    assert depths == [4, 7]


def test_round_all_over_and_smaller_than_the_cutter_is_no_hole():
    """A circle that turns inside out winds as before: the kernel has to know it by its place."""
    ring = Outline(circle(0j, 10, SOURCE))
    assert [round(grow([ring], -d)[0].area, 3) for d in (9,)] == [round(math.pi, 3)]
    assert grow([ring], -10.001) == [] and grow([ring], -25) == []
    plate = Outline(polygon([0, 60, 60 + 40j, 40j], [SOURCE] * 4), (circle(30 + 20j, 2, SOURCE).reversed(),))
    assert [len(grow([plate], d)[0].cutouts) for d in (1, 1.999, 2.001, 6)] == [1, 1, 0, 0]
    shape = shapely.union_all([as_polygon(o) for o in grow([plate], 6, "round")])
    assert shape.area == pytest.approx(shapely.box(0, 0, 60, 40).buffer(6, quad_segs=256).area, rel=1e-4)


# Holes, marks, leads


def test_a_hole_as_wide_as_a_cutter_is_drilled_in_pecks():
    holes = [hole("just", 6.35, x="-20"), hole("small", 3.175, x="20"), hole("wide", 9, y="15")]
    cutters = [mill(), mill("fine", "3.175")]
    ready, file = proved(routed([part("plate", 90, 60, cutouts=holes)], cutters, drills=["fine"], peck="5"))
    assert file.proof.faults == [] and file.proof.parts[0].deviation < 0.01
    drills = [row for row in ready.rows if row.stage == "drill"]
    assert {row.worked.name for row in drills} >= {"3.175 mill"} or len(drills) == 1
    heights = re.findall(r"^G1 Z(-[\d.]+)", file.data.decode(), re.M)
    assert [heights.count(peck) for peck in ("-4.525", "-9.05", "-13.575")] == [2, 2, 2]
    # Between two pecks it comes out of the hole.
    assert re.search(r"G1 Z-4\.525.*\nG1 Z0.*\nG1 Z-9\.05", file.data.decode())


def test_marks_are_cut_to_their_depth_by_a_v_as_wide_as_told():
    facts = cutter_facts(Cutter.model_validate(mill("vee", "12.7", tip="V", angle="90")))
    assert facts.width_at(1.5) == pytest.approx(3) and facts.width_at(50) == 12.7
    marked = part("plate", 90, 60, cutouts=[text("NORTH", "45", "30")])
    cutters = [mill(), mill("vee", "12.7", tip="V")]
    ready, file = proved(routed([marked], cutters, marks="vee", mark_depth="0.8"))
    assert file.proof.faults == [] and cutters_of(ready)[0].id == "vee"
    low = min(move.z for move in ready.moves if move.cutter == "vee")
    assert low == -0.8


def test_a_pair_of_lead_arcs_begins_and_ends_on_the_waste():
    ready, _ = proved(routed([part("plate", 90, 60)], lead="5", entry="straight"))
    last = [run for run in ready.runs if run.operation == "cut"][-1]
    whole = as_polygon(evaluate(routed([part("plate", 90, 60)])).parts["plate"].outline)
    for end in (last.start, last.end):
        assert (
            whole.distance(shapely.Point(end.real - ready.plan.placements[0].x, end.imag - ready.plan.placements[0].y))
            > 6
        )


def test_all_outlines_go_down_together_where_that_is_asked_for():
    def order(goes):
        ready, file = proved(routed([part("plate", 50, 40, count=2)], goes=goes))
        assert file.proof.faults == []
        return [(run.job, round(run.strokes[-1].z, 2)) for run in ready.runs]

    one, together = order("one after the other"), order("pass by pass")
    assert [job for job, _ in one] == [0, 1]
    assert [job for job, _ in together] == [0, 1] * 3
    assert [z for _, z in together] == sorted((z for _, z in together), reverse=True)


def test_a_part_that_is_cut_on_its_line_is_told_so_and_measured():
    document = routed([part("plate", 90, 60)], on_line=[{"part": "plate", "stage": "outer"}])
    _, file = proved(document)
    assert file.proof.faults == [] and file.proof.parts[0].proved_width == pytest.approx(90 - 6.35, abs=0.01)
    assert any("cut on its line" in note for note in file.proof.notes)


# The program


def _swept(program, thickness, dialect=None, **shape):
    read = read_program([program], dialect or Dialect.of(ROUTER))
    return prove_depth(read, thickness, {1: SweptCutter(6.35, **shape)}, Limits())


@pytest.mark.parametrize(
    "machine",
    [
        {"unit": "in"},
        {"arcs": "short chords"},
        {"line_numbers": True, "decimals": 3},
        {"changes": "M6", "begins": ["G54"], "ends": ["G0 X0"]},
    ],
    ids=lambda machine: next(iter(machine)),
)
def test_what_a_machine_wants_otherwise_its_profile_says(machine):
    plate = part("plate", 90, 60, cutouts=[sunk("well", 30, 20, 6), text("N", "10", "10")])
    _, file = proved(routed([plate], [mill(), mill("fine", "3.175")], machine=machine, marks="fine"))
    said = file.data.decode()
    assert file.proof.faults == [] and said.rstrip().splitlines()[-1].endswith("M2")
    assert ("G20" in said) == (machine.get("unit") == "in")
    assert (re.search(r"\bG[23] ", said) is None) == (machine.get("arcs") == "short chords")
    assert ("T2 M6" in said) == ("changes" in machine) and ("T2 M0" in said) == ("changes" not in machine)
    # A parser that others wrote knows every word, and finds the same depth.
    lines = gcodeparser.GcodeParser(re.sub(r"^N\d+ ", "", said, flags=re.M)).lines
    heights = [line.params["Z"] for line in lines if "Z" in line.params]
    unit = 25.4 if machine.get("unit") == "in" else 1
    assert min(heights) * unit == pytest.approx(-18.1, abs=0.02)


def test_a_helix_is_arcs_that_fall_and_its_end_is_where_it_says():
    """NIST IR 6556, 3.5.3: an arc with Z is a helix, and I and J are its centre from where it begins."""
    _, file = proved(routed([part("plate", 90, 60, cutouts=[sunk("well", 40, 30, 6)])], entry="helix"))
    falling = re.findall(r"G3 X([-\d.]+).*Z(-[\d.]+) I([-\d.]+) J([-\d.]+)", file.data.decode())
    assert falling and all(math.hypot(float(i), float(j)) < 3.2 for *_, i, j in falling)


def test_each_cutter_may_have_a_program_of_its_own():
    plate = part("plate", 90, 60, cutouts=[text("NE", "20", "20")])
    wanted = {"programs": "one a cutter"}
    _, file = proved(routed([plate], [mill(), mill("fine", "3.175")], marks="fine", hand_over=wanted))
    assert list(file.files) == ["fine", "mill"] and file.proof.faults == []
    assert all(data.count(b"M2\n") == 1 and b" M0" not in data for data in file.files.values())


# Proof of what went wrong


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda p: p.replace("Z-6 ", "Z-6.3 ").replace("Z-6\n", "Z-6.3\n"), "is cut below its floor"),
        (lambda p: re.sub(r"^G1 Z-13.*\n", "", p, flags=re.M).replace("Z-13 ", "Z-18.1 "), "holding tabs are left of"),
        (lambda p: re.sub(r"M3 S\d+", "M5", p), "it works with the spindle off"),
        (lambda p: p.replace("G0 Z5\nG0 X", "G0 Z-2\nG0 X"), "it moves at speed through material"),
        (lambda p: p.replace("Z-18.1", "Z-17.9"), "does not come free"),
        (lambda p: p.replace("Z-18.1", "Z-22.5"), "below the sheet"),
        (
            lambda p: p.replace("M2\n", "G0 X30 Y30\nG1 Z-1 F300\nX60\nG0 Z5\nM2\n"),
            "something is cut that was not meant",
        ),
        (lambda p: p.replace("M3 S", "T7 M6\nM3 S", 1), "it works with cutter T7; the rack has T1"),
    ],
    ids=["floor", "tabs", "spindle", "speed", "not through", "too deep", "stray", "cutter"],
)
def test_a_program_that_was_changed_is_found_out(change, says):
    document = routed([part("plate", 120, 80, cutouts=[sunk("well", 40, 30, 6)])])
    program = write_gcode(ready_of(document)[0]).decode()
    assert proved_text(document, program).faults == []
    changed = change(program)
    assert changed != program
    assert any(says in fault.text for fault in proved_text(document, changed).faults)


def test_anybodys_program_is_swept_and_what_it_leaves_is_told():
    square = ["G21 G90", "M3 S16000", "G0 Z5", "G0 X0 Y0"]
    for z in (-4, -8, -12.1):
        square += [f"G1 Z{z} F300", "G1 X60 F1500", "Y40", "X0", "Y0"]
    square += ["G0 Z5", "G0 X30 Y20", "G1 Z-5 F300", "X40", "G0 Z5", "M5", "M2"]
    report = depth_report(_swept("\n".join(square).encode(), 12.0))
    [plate] = [piece for piece in report["pieces"] if piece["kind"] == "part"]
    assert (plate["width"], plate["height"], plate["held"]) == (pytest.approx(53.65), pytest.approx(33.65), 0)
    [slot] = [piece for piece in report["pieces"] if piece["kind"] == "pocket"]
    assert (slot["depth"], slot["width"]) == (5, pytest.approx(16.35, abs=1e-3))
    assert report["below"] == pytest.approx(0.1) and report["findings"] == []
    blunt = depth_report(_swept("\n".join(square).encode(), 12.0, plunges=False))
    assert "does not plunge goes down steeper" in blunt["findings"][0]


# What is told


@pytest.mark.parametrize(
    ("parts", "routing", "code"),
    [
        ([part("plate", 90, 60, cutouts=[hole("eye", 5)])], {}, "too-narrow"),
        ([part("plate", 90, 60, cutouts=[sunk("groove", 40, 5, 4)])], {}, "pocket-too-narrow"),
        ([part("plate", 90, 60, cutouts=[sunk("well", 40, 30, 18)])], {}, "pocket-through"),
        ([part("plate", 90, 60)], {"overcut": "15"}, "too-deep"),
        ([part("tag", 14, 14)], {}, "too-small-to-hold"),
        ([part("plate", 90, 60, cutouts=[hole("a", 20, x="-12"), hole("b", 20, x="12")])], {}, "thin-web"),
    ],
    ids=["opening", "pocket", "through", "length", "small", "web"],
)
def test_what_a_cutter_cannot_do_is_told_at_its_place(parts, routing, code):
    document = routed(parts, **routing)
    ready, _ = ready_of(document)
    found = next(finding for finding in ready.findings if finding.code == code)
    assert re.search(r"\d", found.text)
    assert found.place.x is not None or code == "too-deep"


def test_findings_have_mends_that_settle_them():
    plate = part("plate", 90, 60, cutouts=[hole("eye", 5)])
    document = routed([plate], [mill(), mill("fine", "3.175")], {"how": "none"}, safe="3", clips="8")
    barred = [{"what": "clip", "corners": [{"x": 300, "y": 200}, {"x": 320, "y": 200}, {"x": 320, "y": 220}]}]
    sheet = document.layout.sheets[0].model_dump() | {"barred": barred}
    layout = document.layout.model_dump() | {"sheets": [sheet]}
    document = type(document).model_validate({**document.model_dump(), "layout": layout})
    ready, _ = ready_of(document)
    codes = {"not-held", "clips-too-high", "too-narrow"}
    assert codes <= {finding.code for finding in ready.findings}
    for code in codes:
        finding = next(f for f in ready_of(document)[0].findings if f.code == code)
        [mend] = with_mends(finding, document).mends
        document = apply(document, mend.command)
        assert code not in {f.code for f in ready_of(document)[0].findings}


def test_parts_are_laid_a_cutter_and_a_web_apart():
    # Common practice, no source: a gap of 7 mm for a cutter of 6.35 mm.
    document = routed([part("plate", 90, 60, count=4)], holding={"how": "none"})
    assert spacing(document, evaluate(document)) == (6.35, pytest.approx(7.35))
    assert not {"no-room-between"} & {f.code for f in ready_of(document)[0].findings}
    # What hangs on tabs hangs in a web of waste with a groove on either side of it.
    held = routed([part("plate", 90, 60, count=4)])
    assert spacing(held, evaluate(held)) == (pytest.approx(7.35), pytest.approx(13.7))
    ready, file = proved(held)
    assert file.proof.faults == [] and not {"no-room-for-tabs"} & {f.code for f in ready.findings}


@pytest.mark.parametrize(
    ("command", "says"),
    [
        (SetPreparation(preparation={"routing": {"cutter": "mill", "ramp": "90"}}), "A ramp of 90 degrees is no slope"),
        (SetPreparation(preparation={"routing": {"cutter": "gone"}}), "“gone” is not in the rack any more"),
        (SetPreparation(preparation={"routing": {"cutter": "mill", "safe": "0"}}), "would drag the cutter"),
        (SetPreparation(preparation={"routing": {"cutter": "mill", "overcut": "-1"}}), "it must be 0 or more"),
        (
            SetSetting(do="set setting", stock="ply", setting={"operation": "cut", "speed": 50, "power": 16000}),
            "A stepdown of 0 never gets through the sheet",
        ),
        (
            SetSetting(
                do="set setting",
                stock="ply",
                setting={"operation": "cut", "speed": 50, "power": 16000, "cutter": "mill", "stepdown": 40},
            ),
            "cuts 30 mm deep; a stepdown of 40 mm",
        ),
        (
            PutCutter(do="put cutter", cutter={"id": "vee", "name": "Vee", "tip": "V", "angle": "180"}),
            "Vee has an angle of 180 degrees",
        ),
        (
            PutCutter(do="put cutter", cutter={"id": "bad", "name": "Bad", "diameter": "0"}),
            "Bad, diameter: “0” comes to",
        ),
    ],
)
def test_what_cannot_be_is_refused_with_a_sentence(command, says):
    with pytest.raises(Said, match=re.escape(says)):
        apply(routed([part("plate", 60, 40)]), command)


@pytest.mark.parametrize(
    ("wanted", "says"),
    [({"peck": "0.001"}, "Drilling in pecks comes to more than 1000 times"), ({"ramp": "0.2"}, "type a larger step")],
)
def test_what_would_have_no_end_is_said_in_place_of_being_done(wanted, says):
    plate = part("plate", 90, 60, cutouts=[hole("just", 6.35), hole("tight", 6.5, x="20")])
    document = routed([plate], [mill(plunges="ramp" not in wanted)], **wanted)
    with pytest.raises(CannotPlan, match=says):
        ready_of(document)


def test_a_cutter_that_is_taken_out_of_the_rack_leaves_its_work_to_the_first():
    document = routed([part("plate", 60, 40)], [mill(), mill("fine", "3")], pockets="fine", drills=["fine"])
    left = apply(document, RemoveCutter(do="remove cutter", id="fine")).preparation.routing
    assert (left.cutter, left.pockets, left.drills) == ("mill", "", [])
    nothing = apply(document, RemoveCutter(do="remove cutter", id="mill"))
    # Without a cutter the router is one with a kerf again.
    assert evaluate(nothing).stocks["ply"].kerf == pytest.approx(0.16) and prepare(nothing, evaluate(nothing), 0)


def test_a_cutter_is_measured_like_a_thickness():
    document = routed([part("plate", 60, 40)], [mill(readings=["6.30", "6.32"])])
    assert evaluate(document).stocks["ply"].kerf == pytest.approx(6.31)
    _, file = proved(document)
    assert file.proof.faults == []


def test_facing_goes_over_all_of_the_board():
    one = cutter_facts(Cutter.model_validate(mill("wide", "22", plunges=False)))
    setting = starting(stock(readings=("18",)), ROUTER, "pocket", Cutter.model_validate(mill("wide", "22")))
    given = {"left": 0, "bottom": 0, "width": 400, "height": 300, "depth": 0.5, "stepover": 0.6, "ramp": 3, "safe": 5}
    moves = faced(one, setting, ROUTER, Motion(), **given)
    lines = [chord(move) for move in moves if move.z == -0.5 and move.segment.length and not move.rapid]
    assert shapely.union_all(shapely.buffer(lines, 11)).covers(shapely.box(0, 0, 400, 300))
    with pytest.raises(NoCutter, match="leaves no flat floor"):
        faced(cutter_facts(Cutter.model_validate(mill(tip="ball"))), setting, ROUTER, Motion(), **given)


# The simulated machine


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        (["G0 X50 Y50", "G1 Z-3 F500"], "it works with the spindle off, at z -3.00"),
        (["M3 S16000", "G0 X50 Y50", "G1 Z-3 F500", "G0 X80"], "it moves at speed below the face"),
        (["M3 S16000", "G0 Z5", "G0 X50 Y50", "G1 Z-13.5 F500"], "z -13.50 is below the spoilboard's limit of -13.00"),
        (["M3 S16000", "G0 Z5", "G0 X50", "G1 Z-1 F9000"], "F9000 is more than the 6000 mm/min"),
        (["M3 S30000", "G0 X5 Y5", "G1 Z-1 F500"], "S30000 is out of the range of 6000 to 24000"),
        (["M3 S16000", "G0 Z5", "G0 X150 Y150"], "it crosses the keep-out at x 160.0, y 150.0"),
    ],
)
def test_the_machine_stops_before_it_breaks_something(lines, says):
    bed = LaidDown((), ((150 + 140j, 170 + 140j, 170 + 160j, 150 + 160j),), thickness=10, tall=8)
    program = "\n".join(["G21 G90", *lines, "M2"]).encode()
    [alarm] = run(read_sent(program, "x.nc", ROUTER), ROUTER, laid=bed).alarms
    assert says in alarm.text
    # Higher than the clips it goes over them.
    over = program.replace(b"G0 Z5", b"G0 Z9")
    assert b"Z5" not in program or "keep-out" not in str(run(read_sent(over, "x.nc", ROUTER), ROUTER, laid=bed).alarms)


def test_a_full_slot_is_engaged_as_wide_as_the_cutter_and_a_pass_beside_it_less():
    slot = [(0j, -2.0), (60 + 0j, -2.0)]
    beside = [(0 + 2j, -2.0), (60 + 2j, -2.0)]
    again = list(slot)
    widths = engaged([slot, beside, again], [6.0, 6.0, 6.0])
    assert widths[0] == pytest.approx(6, rel=0.12) and widths[1] == pytest.approx(2, rel=0.25) and widths[2] == 0


def test_preparation_of_earlier_documents_reads_as_before():
    assert Preparation.model_validate({}).routing.cutter == ""


def test_a_sheet_that_is_all_cut_is_made_ready_with_nothing_to_do():
    document = routed([part("plate", 100, 80, count=2)])
    lying = [placement.model_copy(update={"cut": True}) for placement in document.layout.placements]
    document = document.model_copy(update={"layout": document.layout.model_copy(update={"placements": lying})})
    ready, _ = ready_of(document)
    assert ready.plan.placements == () and ready.rows == [] and ready.findings == []
