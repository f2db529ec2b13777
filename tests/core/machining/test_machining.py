"""The machine's clock, the running order, holding tabs, the bed, programs and the simulated machine."""

import io
import json
import math
from dataclasses import replace
from itertools import groupby, pairwise

import numpy as np
import pytest
import shapely
from gcodeparser import parse_gcode_lines
from hypothesis import example, given, settings
from hypothesis import strategies as st
from leannotch_core.coupons.trying import settings_coupon, steps
from leannotch_core.device.carried_out import report
from leannotch_core.device.run import LaidDown, run
from leannotch_core.device.sent import read_sent
from leannotch_core.document.hand_over import HandOver
from leannotch_core.document.machine import Machine
from leannotch_core.document.preparation import EdgePlace, HeldPart, Holding, OnBed, Preparation, StartPoint, Task
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.document.sizes import Size
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.gcode.steps import steps as steps_of
from leannotch_core.drawings.gcode.words import BadBlock
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.bed import bed_of, lying
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.loop import polygon
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.handover.formats import WRITERS
from leannotch_core.handover.gcode import write_gcode
from leannotch_core.handover.proved import proved, written
from leannotch_core.handover.setup_sheet import write_setup_sheet
from leannotch_core.handover.told import as_ours
from leannotch_core.layout.nest import nest
from leannotch_core.layout.offcuts import NARROWEST, SMALLEST, offcuts
from leannotch_core.layout.sheets import placed
from leannotch_core.machining.clock import seconds
from leannotch_core.machining.hatching import hatched
from leannotch_core.machining.holding import opened, with_tabs_apart
from leannotch_core.machining.jobs import Job, JobKey
from leannotch_core.machining.leads import with_leads
from leannotch_core.machining.path import CutPath
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.program import run_up
from leannotch_core.machining.settings import setting_of
from leannotch_core.machining.stepped import own_seconds
from leannotch_core.proof.sheet_proof import prove_sheet
from pypdf import PdfReader

from ...projects import demo, part, project, stock
from ...properties import tried

LASER = shipped()["laser"]
SOURCE = Source("test", "line")


def path(*points):
    return [Line(a, b, SOURCE) for a, b in pairwise(points)]


def took(segments, speed=50.0, acceleration=500.0, corner=0.02):
    count = len(segments)
    return float(seconds(segments, np.full(count, speed), np.full(count, acceleration), corner).sum())


def laid(document, **preparation):
    """The document laid out on its first sheets, and prepared so."""
    first = next(iter(nest(document, evaluate(document), 0)))
    update = {"layout": first.layout, "preparation": Preparation(**preparation)}
    return document.model_copy(update=update)


# The clock


@pytest.mark.parametrize(
    ("length", "by_hand"),
    [
        # v/a + L/v where it gets up to speed, 2 sqrt(L/a) where it does not: 50 mm/s are reached after 2.5 mm.
        (100, 50 / 500 + 100 / 50),
        (5, 2 * math.sqrt(5 / 500)),
        (2, 2 * math.sqrt(2 / 500)),
    ],
)
def test_a_single_move_takes_what_the_formula_says(length, by_hand):
    assert took(path(0, length)) == pytest.approx(by_hand)
    # A straight line in pieces is one move.
    assert took(path(0, length / 3, length / 2, length)) == pytest.approx(by_hand)


def test_a_corner_slows_down_to_the_speed_of_the_arc_that_rounds_it():
    # A right angle left by 0.02 mm: r = d sin(45) / (1 - sin(45)) = 0.0483 mm, at which v = sqrt(a r).
    through = math.sqrt(500 * 0.02 * math.sin(math.pi / 4) / (1 - math.sin(math.pi / 4)))
    ramp = (50 - through) / 500
    slow = (50**2 - through**2) / (2 * 500)
    half = 50 / 500 + ramp + (100 - 50**2 / 1000 - slow) / 50
    assert took(path(0, 100, 100 + 100j)) == pytest.approx(2 * half)
    # Round an arc of 1 mm it is no faster than sqrt(a r), however fast it may go.
    arc = Arc(1 + 0j, -1 + 0j, 0, True, SOURCE)
    assert took([arc] * 2) > 2 * math.pi / math.sqrt(500)


@given(st.lists(st.builds(complex, st.integers(0, 60), st.integers(0, 60)), min_size=2, max_size=12, unique=True))
def test_no_way_is_shorter_than_at_full_speed_nor_longer_than_with_a_stop_at_every_corner(points):
    segments = path(*points)
    whole = took(segments)
    assert whole >= sum(s.length for s in segments) / 50 - 1e-9
    assert whole <= sum(took([segment]) for segment in segments) + 1e-9


def test_filled_engraving_takes_what_the_rule_says():
    """lines * (width + 2 * run-up) / speed + turns, of the brief's rules; lines = height / gap."""
    plate = part("plate", 60, 40, edge="nothing", cutouts=[square(20, does="fill")])
    ready = prepare(laid(project([plate])), evaluate(laid(project([plate]))), 0)
    [row] = [row for row in ready.rows if row.stage == "fill"]
    setting, pace = row.setting, ready.machine.working
    lines = 20 / setting.gap
    assert row.length == pytest.approx(lines * 20, rel=1e-6)
    assert row.pierces == lines
    up = run_up(setting.speed, pace)
    along = lines * (20 + 2 * up) / setting.speed
    # A turn is what it takes to stop and to start again; the step of a gap between is done while it does.
    turns = lines * setting.speed / pace.acceleration
    assert row.seconds == pytest.approx(along + turns, rel=0.02)


def square(side, x="0", y="0", does="cut out", **more):
    hole = {"kind": "rectangle", "width": str(side), "height": str(side)}
    return {"id": more.pop("id", "square"), "hole": hole, "origin": "middle", "x": x, "y": y, "does": does, **more}


@given(st.integers(3, 30), st.integers(1, 20), st.sampled_from([0.1, 0.25, 0.6]))
def test_hatching_covers_what_is_to_be_filled_and_nothing_else(outer, inner, gap):
    ring = [Arc(outer + 0j, -outer + 0j, 0, True, SOURCE), Arc(-outer + 0j, outer + 0j, 0, True, SOURCE)]
    hole = path(*(complex(x, y) * inner / 20 for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1), (-1, -1))))
    rows = hatched([ring, hole], gap)
    ends = [[(s.start.real, s.start.imag), (s.end.real, s.end.imag)] for row in rows for s in row]
    lines, half = shapely.linestrings(ends), inner / 20
    judge = shapely.Point(0, 0).buffer(outer, quad_segs=400).difference(shapely.box(-half, -half, half, half))
    assert shapely.covered_by(lines, judge.buffer(0.01)).all()
    step = 2 * outer / len(rows)
    assert shapely.length(lines).sum() * step == pytest.approx(judge.area, rel=3 * gap / outer + 0.02)
    # Every other row runs back.
    ways = [row[0].end.real > row[0].start.real for row in rows]
    assert all(a != b for a, b in pairwise(ways))


# The running order


def test_what_would_come_too_early_is_told_and_the_rule_mends_it():
    document = laid(demo())
    result = evaluate(document)
    by_rule = prepare(document, result, 0)
    assert not [f for f in by_rule.findings if f.code == "cut-too-early"]
    keys = [job.key for job in by_rule.plan.jobs]
    assert [key.stage for key in keys] == sorted((k.stage for k in keys), key=["score", "inner", "outer"].index)
    # The end wall's outline first, by hand: its grip would be cut in what lies loose.
    wrong = [key for key in keys if key.part == "end_wall" and key.copy_number == 1][::-1]
    order = [Task(stage=key.stage, part=key.part, copy_number=key.copy_number) for key in wrong]
    by_hand = prepare(document.model_copy(update={"preparation": Preparation(order=order)}), result, 0)
    assert [job.key for job in by_hand.plan.jobs if job.key in wrong] == wrong
    assert {job.key for job in by_hand.plan.jobs} == set(keys)
    [first, *_] = [f.text for f in by_hand.findings if f.code == "cut-too-early"]
    assert first == "End wall 1: its outline comes before its inner cuts; then it lies loose"


def test_a_part_that_lies_in_another_comes_out_first_part_after_part_as_well():
    frame = part("frame", 100, 100, cutouts=[square(60)])
    document = project([frame, part("coin", 30, 30)], stocks=[stock(sheets=[{"width": "110", "height": "110"}])])
    for arrange in ("operation", "part"):
        ready = prepare(now := laid(document, arrange=arrange), evaluate(now), 0)
        order = [(job.key.part, job.key.stage) for job in ready.plan.jobs if job.key.stage in ("inner", "outer")]
        assert order.index(("coin", "outer")) < order.index(("frame", "inner")) < order.index(("frame", "outer"))
        assert dict(ready.plan.within) == {("coin", 1): ("frame", 1)}
        assert not ready.findings


def test_a_start_that_was_put_by_hand_stays_on_its_side_when_sizes_change():
    at = EdgePlace(shape="plate", side="top", share=0.25)
    for width in (80, 200):
        plate = part("plate", width, 40)
        ready = prepare(now := laid(project([plate]), starts=[StartPoint(part="plate", at=at)]), evaluate(now), 0)
        [job] = [job for job in ready.plan.jobs if job.key.stage == "outer"]
        [placement] = now.layout.placements
        left, _, right, top = placed(evaluate(now).parts["plate"].outline, placement).bounds
        # Sides run counter-clockwise: a quarter of the top is a quarter from its right end.
        along = (right - left) if placement.turn % 180 == 0 else None
        if along:
            assert job.paths[0].start == pytest.approx(complex(right - 0.25 * along, top + 0.08), abs=0.1)


# Holding tabs


@settings(max_examples=tried(13), deadline=None)
@given(
    st.sampled_from(["by count", "by distance"]),
    st.integers(1, 6),
    st.sampled_from(["0.5", "0.8", "2"]),
    st.sampled_from(["0", "15"]),
    st.sampled_from(list(WRITERS)),
)
def test_what_is_held_hangs_as_wide_as_wanted_in_every_file(how, count, width, waste, kind):
    holding = Holding(how=how, count=count, every="60", width=width, waste=waste)
    document = laid(demo(), holding=holding, lead="1")
    result = evaluate(document)
    ready = prepare(document, result, 0)
    proof = written(document, result, ready, kind, document.hand_over).proof
    assert not proof.faults and all(check.good for check in proof.checks)
    meant = [tab.key for tab in ready.plan.tabs]
    for one in proof.parts:
        assert one.held == meant.count(("outer", one.part, one.copy_number))
        assert one.good and one.held
    assert {piece.held > 0 for piece in proof.proof.pieces if piece.kind == "slug"} == {waste == "15"}
    few = [finding for finding in ready.findings if finding.code == "few-tabs"]
    assert bool(few) == (how == "by count" and count == 1)


@pytest.mark.parametrize(("by", "found"), [(-0.012, True), (-0.008, False), (0.008, False), (0.012, True)])
def test_a_tab_may_be_off_its_width_by_a_hundredth_and_no_more(by, found):
    document = laid(project([part("plate", 90, 60)]), holding=Holding(how="by count", count=3))
    result = evaluate(document)
    plan = prepare(document, result, 0).plan
    drawing = read_dxf(write_dxf(plan))
    proof = prove_sheet(replace(plan, tab_width=plan.tab_width + by), drawing, result)
    assert [fault.code for fault in proof.faults] == ["tabs"] * found


@pytest.mark.parametrize(("far", "tabs"), [(7.99, 1), (8.01, 2)])
def test_tabs_nearer_than_two_of_their_gaps_are_one_tab(far, tabs):
    corners = [0, 40, 40 + 40j, 40j, 0]
    sides = tuple(Line(a, b, Source("plate", "side")) for a, b in pairwise(corners))
    apart = with_tabs_apart(CutPath("cut", sides, True, tabs=(10 + far, 10)), 4)
    assert (len(apart.tabs), len(opened(apart, 4)[1])) == (tabs, tabs)


@pytest.mark.parametrize(("free", "led"), [(-0.003, False), (0.003, True)])
def test_a_lead_in_comes_no_nearer_to_a_kept_part_than_half_its_kerf(free, led):
    """The lead-in of 4 mm leaves a square downwards from its corner; the kept part lies below its end."""
    corners = [0, 40, 40 + 40j, 40j, 0]
    square = CutPath("cut", tuple(Line(a, b, Source("plate", "side")) for a, b in pairwise(corners)), True)
    job = Job(JobKey("outer", "plate", 1), (square,))
    end = with_leads([job], [], lambda part: 4, 0.2)[0].paths[0].lead
    assert abs(end) == pytest.approx(4)
    below = shapely.box(-20, -20, 20, end.imag - 0.1 - free)
    assert (with_leads([job], [below], lambda part: 4, 0.2)[0].paths[0].lead is not None) == led


def test_tabs_keep_away_from_corners_and_joints():
    ready = prepare(now := laid(demo(), holding=Holding(how="by count", count=4)), evaluate(now), 0)
    lies = {(p.part, p.copy_number): p for p in now.layout.placements}
    assert len(ready.plan.tabs) == 20
    for tab in ready.plan.tabs:
        _, part_id, copy = tab.key
        outline = placed(evaluate(now).parts[part_id].outline, lies[part_id, copy])
        here = shapely.Point(tab.middle.real, tab.middle.imag)
        assert outline.exterior.distance(here) < 0.09
        # Fingers begin and end in corners: who keeps off these keeps off the flanks.
        assert shapely.distance(shapely.points(shapely.get_coordinates(outline)), here).min() > 2


def test_tabs_put_by_hand_stay_where_they_were_put_when_the_part_grows():
    own = [EdgePlace(shape="plate", side="top", share=share) for share in (0.2, 0.7)]
    places = {}
    for width in (100, 150):
        now = laid(project([part("plate", width, 40, turns="grain")]), held=[HeldPart(part="plate", tabs=own)])
        ready = prepare(now, evaluate(now), 0)
        [placement] = now.layout.placements
        assert placement.turn == 0
        places[width] = [round((tab.middle.real - placement.x) / width, 3) for tab in ready.plan.tabs]
    assert places[100] == pytest.approx(places[150], abs=0.005)
    assert sorted(places[100]) == pytest.approx([0.3, 0.8], abs=0.005)


# The bed


@given(
    st.sampled_from(["bottom left", "bottom right", "top right", "top left"]),
    st.sampled_from(["right", "left"]),
    st.sampled_from(["up", "down"]),
    st.integers(-180, 180),
    st.integers(0, 200),
    st.integers(0, 200),
)
def test_a_sheet_lies_where_it_is_held_whatever_the_machine_counts_from(datum, x_runs, y_runs, turn, x, y):
    machine = LASER.model_copy(update={"datum": datum, "x_runs": x_runs, "y_runs": y_runs})
    bed = bed_of(machine)
    mark = OnBed(by="mark", mark_x="30", mark_y="10", x=str(x), y=str(y), turn=turn)
    lies, held = lying(mark, machine, bed, 300, 200)
    assert bed.axes(lies(30 + 10j)) == pytest.approx(complex(x, y), abs=1e-9)
    assert held == pytest.approx(lies(30 + 10j), abs=1e-9)
    # There and back is where it was; nothing is stretched.
    both = lies.then(bed.axes)
    assert both.back(both(17 + 5j)) == pytest.approx(17 + 5j, abs=1e-9)
    assert abs(both(17 + 5j) - both(0j)) == pytest.approx(abs(17 + 5j))
    corner = complex(600 * ("right" in datum), 400 * ("top" in datum))
    assert bed.axes(corner) == pytest.approx(0, abs=1e-9)


@pytest.mark.parametrize("kind", list(WRITERS))
def test_files_of_a_sheet_that_lies_turned_on_the_bed_are_proved(kind):
    lies = OnBed(by="bottom left", x="410", y="680", turn=90)
    machine = LASER.model_copy(update={"datum": "top left", "y_runs": "down", "bed_height": Size(text="700")})
    document = laid(demo(), on_bed=lies).model_copy(update={"machines": [machine]})
    result = evaluate(document)
    ready = prepare(document, result, 0)
    assert not written(document, result, ready, kind, document.hand_over).proof.faults


def test_a_program_in_the_words_of_its_machine_is_proved_and_carried_out():
    own = {"begins": ["G28"], "ends": ["M84"], "switches_on": "M106", "switches_off": "M107"}
    document = laid(demo()).model_copy(update={"machines": [LASER.model_copy(update=own)]})
    result = evaluate(document)
    ready = prepare(document, result, 0)
    file = written(document, result, ready, "nc", document.hand_over)
    data = file.data
    assert b"M106" in data and b"M3" not in data
    assert not file.proof.faults
    # What it is switched on by elsewhere is another word here.
    other = proved(document, result, ready, "nc", [data.replace(b"M106", b"M3")])
    assert {"switches"} <= {fault.code for fault in other.faults}
    done = run(read_sent(data, "sheet.nc", ready.machine), ready.machine)
    assert done.length["cut"] > 1000
    with pytest.raises(BrokenFile, match="M84"):
        read_drawing(data, "sheet.nc")


def test_what_leaves_the_bed_or_crosses_a_clip_is_told_with_the_distance():
    far = prepare(now := laid(demo(), on_bed=OnBed(x="300", y="0")), evaluate(now), 0)
    right = max(s.bounds()[2] for job in far.plan.jobs for p in job.paths for s in p.segments)
    [text] = [f.text for f in far.findings if f.code == "leaves-bed"]
    assert f"leaves the bed of Club laser by {right + 300 - 600:.2f} mm at the right" in text
    clip = {"what": "clip", "left": "100", "bottom": "100", "width": "20", "height": "20"}
    clipped = Machine.model_validate({**LASER.model_dump(), "keep_outs": [clip]})
    now = laid(demo())
    there = now.model_copy(update={"machines": [clipped]})
    told = prepare(there, evaluate(there), 0).findings
    [text] = [f.text for f in told if f.code == "crosses-keep-out"]
    assert text.endswith("at x 110, y 110 of the bed; lay the sheet or part elsewhere")
    # Laid out anew, no part lies there any more.
    again = laid(there)
    clip = shapely.box(100, 100, 120, 120)
    parts = [placed(evaluate(again).parts[p.part].outline, p) for p in again.layout.placements if p.sheet == 0]
    assert parts and not any(outline.intersects(clip) for outline in parts)


@pytest.mark.parametrize(
    ("x", "y", "over"),
    [
        ("0", "0", None),
        ("-7", "0", "7 mm over the bed of Club laser, 600 mm x 400 mm, at the left"),
        ("0", "-3", "3 mm over the bed of Club laser, 600 mm x 400 mm, at the bottom"),
        ("205", "-3", "5 mm over the bed of Club laser, 600 mm x 400 mm, at the right"),
        ("-1", "109", "9 mm over the bed of Club laser, 600 mm x 400 mm, at the top"),
    ],
)
def test_a_sheet_that_hangs_over_the_bed_is_told_by_the_side_where_it_does_most(x, y, over):
    """The sheet is 400 x 300 on a bed of 600 x 400."""
    document = laid(demo(), on_bed=OnBed(x=x, y=y))
    told = [f.text for f in prepare(document, evaluate(document), 0).findings if f.code == "sheet-off-bed"]
    assert [text.partition("reaches ")[2] for text in told] == ([over] if over else [])


def test_rows_over_a_ring_go_to_and_fro_over_both_of_its_sides():
    """Every other row from right to left, the pieces of a row one after the other as the head passes over them."""

    def square(half):
        corners = [complex(*at) for at in ((-half, -half), (half, -half), (half, half), (-half, half))]
        return polygon(corners, [Source("test", "side")] * 4).segments

    rows = hatched([square(10), square(5)], 1.0)
    assert len(rows) == 20 and [len(row) for row in rows] == [1] * 5 + [2] * 10 + [1] * 5
    for at, row in enumerate(rows):
        ends = [point.real for line in row for point in (line.start, line.end)]
        assert ends == sorted(ends, reverse=at % 2 == 1)
        assert {round(line.start.imag, 6) for line in row} == {round(-9.5 + at, 6)}
        assert sum(line.length for line in row) == pytest.approx(20 if len(row) == 1 else 10, abs=0.01)


# Programs


def test_a_program_as_another_parser_reads_it():
    """gcodeparser from the registry is the judge of the words; arcs and lengths are worked out here from them."""
    document = laid(demo())
    result = evaluate(document)
    ready = prepare(document, result, 0)
    data = write_gcode(ready)
    assert data == write_gcode(prepare(document, result, 0))
    x = y = 0.0
    cut, on = 0.0, False
    for line in parse_gcode_lines(data.decode()):
        letter, code = line.command
        if (letter, code) in (("M", 3), ("M", 5)):
            on = code == 3
        if letter != "G" or code > 3:
            continue
        to = line.params.get("X", x), line.params.get("Y", y)
        if on and code == 1:
            cut += math.dist((x, y), to)
        elif on:
            cx, cy = x + line.params.get("I", 0), y + line.params.get("J", 0)
            first, last = math.atan2(y - cy, x - cx), math.atan2(to[1] - cy, to[0] - cx)
            assert math.dist((x, y), (cx, cy)) == pytest.approx(math.dist(to, (cx, cy)), abs=0.002)
            cut += ((last - first) * (1 if code == 3 else -1)) % math.tau * math.dist((x, y), (cx, cy))
        assert not (on and code == 0)
        x, y = to
    assert cut == pytest.approx(sum(row.length for row in ready.rows), abs=0.01)
    assert (x, y) == (0, 0)
    lines = data.decode().splitlines()
    assert lines[4] == "G21 G90 G17 G94" and lines[-1] == "M2"
    assert "(Club laser, datum bottom left, 12 jobs)" in lines


def program(*lines):
    return "\n".join(["G21 G90", *lines, "M2"])


@pytest.mark.parametrize(
    ("lines", "line", "says"),
    [
        # NISTIR 6556: modal groups exclude each other, words stand once, arcs agree, G1 needs F.
        (["G0 G1 X1"], 2, "G0 and G1 exclude each other on one line: both say motion"),
        (["G0 X1 X2"], 2, "X stands on it twice"),
        (["G1 X10"], 2, "it works at no speed: G1 needs an F of more than 0 before it"),
        (["G1 F0 X10"], 2, "it works at no speed"),
        (["F100", "G2 X10 Y0 I4 J0"], 3, "an arc begins 4.0000 mm from its centre and ends 6.0000 mm from it"),
        (["F100", "G2 X10 Y0"], 3, "neither where its centre is"),
        (["F100", "G2 X10 Y0 R4"], 3, "no arc of a radius of 4 mm joins points 10.0000 mm apart"),
        (["G41"], 2, "the word G41 is not carried out: where the cutter's middle goes is not"),
        (["A10"], 2, "the word A10 moves an axis that a machine for sheets does not have"),
        (["G0 X"], 2, "“X” is no word of a letter and a number"),
        (["M2", "G0 X1"], 3, "it stands behind the end of the program"),
        (["S-5 M3"], 2, "S-5 is less than nothing"),
        (["G4"], 2, "G4 does not say with P how long to wait"),
        (["(" + "x" * 260 + ")"], 2, "at most 256 are read"),
    ],
)
def test_what_cannot_be_carried_out_is_said_with_its_line(lines, line, says):
    with pytest.raises(BadBlock) as fault:
        list(steps_of(program(*lines)))
    assert (fault.value.line, says in fault.value.text) == (line, True), fault.value.text


def test_words_mean_what_nist_wrote():
    """NISTIR 6556: G20 and G21, G90 and G91, arcs by centre or radius, the larger one for R less than 0; comments."""
    ends = [s.segment.end for s in steps_of("g20 g0 x1 y0\nG91 G0 X1 (half way) Y1\n G21 G90 N5 G0 X 1 0 Y0 ; there\n")]
    assert ends == pytest.approx([25.4, 50.8 + 25.4j, 10])
    by_centre, by_radius, large = (
        list(steps_of(program("G0 X0 Y0", "F600", words)))[-1].segment
        for words in ("G3 X10 Y10 I0 J10", "G3 X10 Y10 R10", "G3 X10 Y10 R-10")
    )
    assert by_radius.centre == pytest.approx(by_centre.centre, abs=1e-9) == pytest.approx(10j)
    assert large.length == pytest.approx(1.5 * math.pi * 10) and by_centre.length == pytest.approx(0.5 * math.pi * 10)


def way_there(length):
    """How long (s) the laser moves along a line at speed, from rest to rest."""
    return LASER.moving.speed / LASER.moving.acceleration + length / LASER.moving.speed


@pytest.mark.parametrize(
    ("begins", "ends", "own"),
    [
        ([], [], 0.0),
        (["G4 P3", "G0 X200 Y0", "G0 X0 Y0"], ["G4 P2"], 5.0 + 2 * way_there(200)),
        (["G1 X9 F0"], [], 0.0),
    ],
)
def test_the_simulated_machine_keeps_the_time_that_was_told(begins, ends, own):
    """Its own lines too, by v/a + L/v from rest to rest; what it cannot carry out takes no time, for it stops there."""
    laser = LASER.model_copy(update={"begins": begins, "ends": ends})
    document = laid(demo(), lead="1.5", holding=Holding(how="by count", count=2))
    ready = prepare(document.model_copy(update={"machines": [laser], "machine": laser.id}), evaluate(document), 0)
    assert ready.own_seconds == pytest.approx(own) == ready.seconds - ready.took.sum()
    done = run(read_sent(write_gcode(ready), "sheet.nc", laser), laser)
    if done.alarms:
        assert not own and begins
        return
    drawn_only = ready.machine.model_copy(update={"reads": ["svg"]})
    assert own_seconds(drawn_only) == 0
    assert done.seconds == pytest.approx(ready.seconds, rel=1e-4) and not done.alarms
    told = report(done)
    assert told["moves"] - 400 * bool(own) == pytest.approx(sum(row.moved for row in ready.rows), abs=0.1)
    assert sum(told["length"].values()) == pytest.approx(sum(row.length for row in ready.rows), abs=0.1)
    json.dumps(told)


@pytest.mark.parametrize("kind", ["svg", "dxf", "pdf"])
def test_a_drawing_is_worked_by_its_layers_or_by_colours_that_the_machine_wants(kind):
    wanted = [{"operation": "score", "stroke": "#123456", "aci": 200, "layer": "Layer 7"}]
    machine = Machine.model_validate({**LASER.model_dump(), "tells": wanted})
    document = laid(demo()).model_copy(update={"machines": [machine]})
    result = evaluate(document)
    ready = prepare(document, result, 0)
    data = WRITERS[kind].write(ready, document.hand_over)
    layers = {line.layer for line in read_drawing(data, f"sheet.{kind}").lines}
    assert layers == {"Layer 7", "cut"}
    assert not prove_sheet(ready.plan, as_ours(read_drawing(data, f"sheet.{kind}"), machine), result).faults
    done = run(read_sent(data, f"sheet.{kind}", machine), machine)
    for operation in ("cut", "score"):
        meant = sum(row.length for row in ready.rows if row.operation == operation)
        assert done.length[operation] == pytest.approx(meant, abs=0.05)


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        (["G0 X700 Y10"], "it leaves the bed by 100 mm at the right"),
        (["G0 X10 Y-3"], "it leaves the bed by 3 mm at the bottom"),
        (["M3 S500", "G0 X100"], "the beam is on in a rapid move"),
        (["M3 S1500", "G1 X100 F600"], "S1500 is out of the range of 0 to 1000"),
        (["G0 X350 Y10", "M3 S500", "G1 X450 F600"], "it works outside the sheet, at x 400.0"),
        (["G0 X60 Y60"], "it crosses the keep-out at x 50.0, y 50.0"),
        (["G0 X1", "G7 X2"], "the word G7 is not known"),
    ],
)
def test_it_stops_with_an_alarm_and_keeps_what_was_done(lines, says):
    sheet = LaidDown((0j, 400 + 0j, 400 + 300j, 300j), ((40 + 40j, 60 + 40j, 60 + 60j, 40 + 60j),))
    done = run(read_sent(program(*lines).encode(), "x.nc", LASER), LASER, laid=sheet)
    [alarm] = done.alarms
    assert says in alarm.text and alarm.line == len(lines) + 1
    assert len(done.steps) < len(lines)
    # The same program from another datum may be right.
    assert not run(read_sent(program("G0 X10 Y-3").encode(), "x.nc", LASER), LASER, 0 + 20j).alarms


def test_a_router_gets_no_program_that_cuts_nothing():
    router = shipped()["router"]
    document = laid(demo().model_copy(update={"machines": [router], "machine": router.id}))
    ready = prepare(document, evaluate(document), 0)
    with pytest.raises(CannotPlan, match="No cutter is chosen for Shed router; choose one of the rack at Prepare"):
        write_gcode(ready)
    assert WRITERS["dxf"].write(ready, document.hand_over)


def test_what_the_machine_does_not_read_is_refused():
    with pytest.raises(BrokenFile, match=r"Shed router reads dxf, nc, not “svg”"):
        read_sent(b"<svg/>", "a.svg", shipped()["router"])


def test_a_pdf_is_as_large_as_the_sheet_and_names_its_layers():
    """Points are 1/72 in (ISO 32000-1, 8.3.2.3); read with pypdf, written with another library."""
    document = laid(demo())
    ready = prepare(document, evaluate(document), 0)
    page = PdfReader(io.BytesIO(WRITERS["pdf"].write(ready, document.hand_over))).pages[0]
    assert [float(side) * 25.4 / 72 for side in page.mediabox[2:]] == pytest.approx([400, 300], abs=0.001)
    groups = page["/Resources"]["/Properties"]
    assert sorted(group["/Name"] for group in groups.values()) == ["cut", "score"]


# Settings


def test_settings_to_start_with_are_slower_in_thicker_stock_and_own_ones_hold():
    thin, thick = (stock(readings=(text,)) for text in ("3", "6"))
    assert setting_of(thin, LASER, "cut").speed == pytest.approx(2 * setting_of(thick, LASER, "cut").speed)
    assert setting_of(thin, LASER, "score") == setting_of(thick, LASER, "score")
    assert not setting_of(thin, LASER, "cut").tried


@pytest.mark.parametrize("operation", ["cut", "score", "fill"])
def test_a_settings_coupon_works_every_square_with_its_own_setting(operation):
    document = demo()
    coupon = settings_coupon(document.stocks[0], LASER, operation, steps("speed", 8, 24, 3), steps("power", 40, 80, 2))
    result = evaluate(coupon)
    ready = prepare(coupon, result, 0)
    tried = {(row.setting.speed, row.setting.power) for row in ready.rows if row.setting.speed < 30}
    assert tried == {(speed, power) for speed in (8, 16, 24) for power in (40, 80)}
    assert not result.findings and not ready.findings
    assert not written(coupon, result, ready, "nc", coupon.hand_over).proof.faults


# Offcuts


@given(st.integers(1, 3), st.integers(40, 180), st.integers(40, 130))
@settings(max_examples=tried(15), deadline=None)
def test_an_offcut_lies_in_what_remains_and_is_most_of_it(count, width, height):
    stocks = [stock(sheets=[{"width": "400", "height": "300"}])]
    document = laid(project([part("plate", width, height, count=count)], stocks=stocks))
    result = evaluate(document)
    found = offcuts(document, result, 0)
    lying = [p for p in document.layout.placements if p.sheet == 0]
    parts = shapely.union_all([placed(result.parts[p.part].outline, p) for p in lying])
    # The sheet less its parts, as shapely sees it: with the margin and kerf round them.
    remains = shapely.box(0, 0, 400, 300).difference(parts.buffer(5.16, join_style="mitre", mitre_limit=2))
    half = NARROWEST / 2
    wide = remains.buffer(-half, join_style="mitre").buffer(half, join_style="mitre").intersection(remains)
    expected = [piece for piece in shapely.get_parts(wide) if piece.area >= SMALLEST]
    assert len(found) == len(expected)
    assert sum(o.area for o in found) <= sum(piece.area for piece in expected) + 1e-6
    assert sum(o.area for o in found) >= 0.9 * sum(piece.area for piece in expected) - SMALLEST
    for offcut in found:
        left, bottom, right, top = shapely.Polygon([(p.real, p.imag) for p in offcut.outline]).bounds
        assert (left, bottom, right, top) == pytest.approx((0, 0, offcut.width, offcut.height), abs=1e-6)


# Common lines


@pytest.mark.parametrize("kind", list(WRITERS))
def test_neighbours_a_kerf_apart_share_their_line_and_are_as_large_as_they_should_be(kind):
    parts = [part("plate", 60, 40, count=4), part("tag", 30, 20)]
    places = [(10, 10, 0), (10 + 60.16, 10, 0), (10, 10 + 40.16, 0), (10 + 60.16, 10 + 40.16, 0)]
    document = project(parts, stocks=[stock(sheets=[{"width": "300", "height": "200"}])])
    lying = [
        Placement(part="plate", copy_number=n, sheet=0, x=x, y=y, turn=turn, by_hand=True)
        for n, (x, y, turn) in enumerate(places, 1)
    ]
    # A shorter neighbour shares a part of a side.
    lying.append(Placement(part="tag", copy_number=1, sheet=0, x=20, y=10 + 80.32, turn=0, by_hand=True))
    layout = Layout(gap="0.16", sheets=[LaidSheet(stock="ply", width=300, height=200)], placements=lying)
    document = document.model_copy(update={"layout": layout, "hand_over": HandOver(names="leave out")})
    result = evaluate(document)
    apart = prepare(document, result, 0)
    shared = prepare(document.model_copy(update={"preparation": Preparation(common_lines=True)}), result, 0)
    cut = [sum(row.length for row in ready.rows) for ready in (apart, shared)]
    # Four times a side between plates, and the tag's.
    assert cut[0] - cut[1] == pytest.approx(2 * 60.16 + 2 * 40.16 + 30.16, abs=0.7)
    drawing = read_drawing(WRITERS[kind].write(shared, document.hand_over), f"sheet.{kind}")
    proof = prove_sheet(shared.plan, drawing, result)
    assert not proof.faults
    sizes = sorted((round(p.proved_width, 2), round(p.proved_height, 2)) for p in proof.parts)
    assert sizes == [(30, 20)] + [(60, 40)] * 4
    # Without being asked for, the doubled line is a fault as ever.
    doubled = read_drawing(WRITERS[kind].write(apart, document.hand_over), f"sheet.{kind}")
    assert prove_sheet(apart.plan, doubled, result).faults


@settings(max_examples=tried(10), deadline=None)
@given(st.integers(1, 4), st.integers(1, 4), st.integers(8, 40), st.integers(8, 40))
# Outlines that go all round: three that touch in their corners, one round another, one that touches itself.
@example(3, 3, 13, 13)
@example(4, 3, 9, 8)
@example(4, 3, 19, 27)
def test_a_grid_of_neighbours_is_cut_by_every_line_once(columns, rows, width, height):
    lying = [
        Placement(
            part="tile",
            copy_number=1 + column + columns * row,
            sheet=0,
            x=5 + column * (width + 0.16),
            y=5 + row * (height + 0.16),
            turn=0,
            by_hand=True,
        )
        for column in range(columns)
        for row in range(rows)
    ]
    tile = part("tile", width, height, count=columns * rows)
    layout = Layout(gap="0.16", sheets=[LaidSheet(stock="ply", width=200, height=200)], placements=lying)
    document = project([tile], stocks=[stock(sheets=[{"width": "200", "height": "200"}])], layout=layout)
    document = document.model_copy(
        update={"hand_over": HandOver(names="leave out"), "preparation": Preparation(common_lines=True)}
    )
    result = evaluate(document)
    ready = prepare(document, result, 0)
    across, up = (columns + 1) * rows * (height + 0.16), (rows + 1) * columns * (width + 0.16)
    assert sum(row.length for row in ready.rows) == pytest.approx(across + up, abs=0.01)
    proof = prove_sheet(ready.plan, read_drawing(write_gcode(ready), "x.nc"), result)
    assert not proof.faults and len(proof.parts) == columns * rows
    assert all(piece.kind == "part" for piece in proof.proof.pieces)


# For those at the machine


def test_a_machine_may_want_its_operations_in_another_order():
    machine = Machine.model_validate({**LASER.model_dump(), "sequence": ["cut"]})
    document = laid(demo()).model_copy(update={"machines": [machine]})
    ready = prepare(document, evaluate(document), 0)
    for kind in ("svg", "dxf", "pdf"):
        lines = read_drawing(WRITERS[kind].write(ready, document.hand_over), f"sheet.{kind}").lines
        assert [layer for layer, _ in groupby(lines, key=lambda line: line.layer)] == ["cut", "score"], kind


def test_the_setup_sheet_says_what_whoever_stands_there_has_to_know():
    document = laid(demo(), on_bed=OnBed(by="bottom left", x="25", y="60"))
    ready = prepare(document, evaluate(document), 0)
    data = write_setup_sheet(ready, document.hand_over)
    assert data == write_setup_sheet(ready, document.hand_over)
    page = PdfReader(io.BytesIO(data)).pages[0]
    # A4 is 210 x 297 mm (ISO 216).
    assert [float(side) * 25.4 / 72 for side in page.mediabox[2:]] == pytest.approx([210, 297], abs=0.001)
    text = page.extract_text()
    for said in (
        "Sorting tray, sheet 1, Club laser",
        "3.07 mm",
        "x 25 mm, y 60 mm",
        "outline: Floor",
        "16 mm/s",
        "70 %",
        "Focus",
        "Never to be burnt",
    ):
        assert said in text
