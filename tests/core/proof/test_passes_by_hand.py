"""Feeds, turns, steps, directions and powers of a program by hand: each number from both sides."""

import math

import numpy as np
import pytest
import shapely
from leannotch_core.drawings.gcode.words import Dialect
from leannotch_core.geometry.segment import Line, Source
from leannotch_core.joints.fit import Gauge
from leannotch_core.proof.against.power import MeantWork, power_faults
from leannotch_core.proof.depth.dangers import Limits, dangers
from leannotch_core.proof.depth.directions import Edge, direction_faults
from leannotch_core.proof.depth.passes import CutterSetting, Takes, pass_faults
from leannotch_core.proof.depth.program import CHORDS, read_program
from leannotch_core.proof.depth.swept import SweptCutter
from leannotch_core.proof.sheet_proof import caliper

from .test_limits_of_the_proof import texts, ways

SOURCE = Source("test", "side")
TEN = {1: SweptCutter(10)}


def passes(blocks, takes, spins_up=0.0, cutters=None):
    return texts(pass_faults(ways(*blocks), {1: takes}, cutters or TEN, spins_up))


def level(depth, half=20.0, y=0.0):
    return [f"G0 X{-half} Y{y}", f"G1 Z{-depth}", f"X{half}", "G0 Z5"]


# Turns, feeds and depths


@pytest.mark.parametrize(
    ("blocks", "more", "says"),
    [
        (["M4", *level(1)], {}, "turning backwards, and so do 1 more"),
        (level(1), {"spins_up": 2.0}, "it works 0 s after the spindle was switched on, which takes 2 s"),
        (["G4 P2", *level(1)], {"spins_up": 2.0}, None),
        (["G4 P1.5", *level(1)], {"spins_up": 2.0}, "it works 1.5 s after"),
        (["G4 P1.5", "G4 P0.5", *level(1)], {"spins_up": 2.0}, None),
        # Above the sheet nothing is told.
        (["M4", "G1 X20", "G0 Z5", "M3", *level(1)], {}, None),
    ],
)
def test_a_spindle_turns_the_right_way_and_at_its_speed_before_it_works(blocks, more, says):
    found = passes(blocks, Takes(), **more)
    assert [code for code, _ in found] == (["spindle"] if says else [])
    assert says is None or says in found[0][1]


@pytest.mark.parametrize(("top", "told"), [(16000, False), (15960, False), (15940, True)])
def test_a_cutter_turns_no_faster_than_it_may(top, told):
    """16 000, and three in a thousand besides: 15 952."""
    assert bool(passes(level(1), Takes(top=top))) == told


SETTING = CutterSetting(turns=16000, feed=600, ramp=300, plunge=180)


@pytest.mark.parametrize(
    ("blocks", "meant"),
    [
        (["G1 Z-1 F180", "X20 F600"], None),
        (["G1 Z-1 F181", "X20 F600"], "180"),
        (["G1 Z-1 F180.5", "X20 F600"], None),
        (["G1 Z-1 F179.4", "X20 F600"], "180"),
        (["G1 Z-1 F180", "X20 F602"], "600"),
        (["G1 Z-1 F180", "X20 F601.7"], None),
        (["G1 X10 Z-1 F300", "X20 F600"], None),
        (["G1 X10 Z-1 F600"], "300"),
        (["G1 X10 Z-1 F302"], "300"),
        # A hundredth over so long hardly falls, and may go like a slope or like what is level.
        (["G1 Z-1 F180", "X20 Z-1.00005 F300"], None),
        (["G1 Z-1 F180", "X20 Z-1.00005 F600"], None),
        (["G1 Z-1 F180", "X20 Z-1.00005 F450"], "600"),
        # Straight up nothing is held back.
        (["G1 Z-1 F180", "Z0 F999"], None),
        # At speed and above the face any feed will do.
        (["G1 X20 F999"], None),
    ],
)
def test_each_way_goes_as_fast_as_its_kind_is_meant_to(blocks, meant):
    found = passes(["G0 Z0", *blocks], Takes(settings=[SETTING]))
    assert [code for code, _ in found] == (["feed"] if meant else [])
    assert meant is None or f"{meant} at 16000 were meant" in found[0][1]
    # With another setting beside it that says so, all is as meant.
    other = CutterSetting(16000, *(float(found[0][1].split("F")[1].split(" ")[0]) if found else 1.0,) * 3)
    assert passes(["G0 Z0", *blocks], Takes(settings=[other, SETTING])) == [] or not found


@pytest.mark.parametrize(("turns", "told"), [(16000, False), (15960, False), (15940, True), (16060, True)])
def test_a_setting_is_held_against_its_turns(turns, told):
    takes = Takes(settings=[CutterSetting(turns, 600, 600, 600)])
    assert bool(passes(level(1), takes)) == told


@pytest.mark.parametrize(("long", "told"), [(5, False), (4.995, False), (4.985, True)])
def test_a_cutter_goes_no_deeper_than_it_is_long(long, told):
    found = passes(level(5), Takes(long=long))
    assert [code for code, _ in found] == (["pass-depth"] if told else [])


@pytest.mark.parametrize(
    ("blocks", "told"),
    [
        (level(3.02), False),
        (level(3.03), True),
        ([*level(2), *level(5)], False),
        ([*level(2), *level(5.03)], True),
        # What was cut beside it is no help, but what was cut within its own width is.
        ([*level(2, y=4.9), *level(5)], False),
        ([*level(2, y=5.1), *level(5)], True),
        # Nor what comes later, nor half of it.
        ([*level(5), *level(2)], True),
        ([*level(2, half=10), *level(5)], True),
        # Down a slope it is deep nowhere until it has been there.
        (["G0 X-20 Y0", "G1 Z0", "X20 Z-3", "X-20 Z-3", "G0 Z5"], False),
        (["G0 X-20 Y0", "G1 Z0", "X20 Z-3", "X-20 Z-6", "G0 Z5"], True),
        # Straight down in pecks of 4.
        (["G0 X0 Y0", "G1 Z-4", "G0 Z5", "G1 Z-8", "G0 Z5"], False),
        (["G0 X0 Y0", "G1 Z-4.05", "G0 Z5"], True),
    ],
)
def test_a_pass_takes_no_more_than_its_step_below_what_was_cut_there_before(blocks, told):
    """A step of 3 mm, and five in a thousand and a hundredth besides: 3.025."""
    found = passes(blocks, Takes(stepdown=3.0, peck=4.0))
    assert [code for code, _ in found] == (["pass-depth"] if told else [])


# What breaks a cutter


@pytest.mark.parametrize(
    ("blocks", "limits", "says"),
    [
        (["M5", *level(1)], Limits(), "it works with the spindle off, and so do 1 more"),
        (["M5", *level(0)], Limits(), None),
        (["G0 X0 Y0", "G0 Z-1"], Limits(), "it moves at speed through material"),
        (["G0 X0 Y0", "G1 Z-1", "G0 Z5"], Limits(), None),
        (["G0 X0 Y0", "G1 Z-1", "G0 X5 Z5"], Limits(), "it moves at speed through material"),
        (level(6.5), Limits(spoilboard=0.5), None),
        (level(6.52), Limits(spoilboard=0.5), "it goes more than 0.5 mm below the sheet"),
        # 600 mm/min at 16 000 a minute with two teeth: 0.01875; two in a thousand besides.
        (level(1), Limits(chip={1: 0.018715}), None),
        (level(1), Limits(chip={1: 0.018710}), "each tooth takes 0.019 mm"),
        (level(1), Limits(chip={2: 0.001}), None),
    ],
)
def test_what_breaks_a_cutter_is_told_from_both_sides(blocks, limits, says):
    found = texts(dangers(ways(*blocks), 6.0, TEN, limits))
    assert [code for code, _ in found] == (["danger"] if says else [])
    assert says is None or says in found[0][1]


# On which hand


def square(half):
    return shapely.LinearRing([(-half, -half), (half, -half), (half, half), (-half, half)])


@pytest.mark.parametrize("aside", [0.0, 0.019, -0.019, 0.03, -0.03])
@pytest.mark.parametrize("clockwise", [True, False])
def test_an_edge_is_cut_climb_where_what_stays_is_on_the_right(clockwise, aside):
    """Round the outside of a square of 40 by a cutter of 10: clockwise it has the square on its right."""
    far = 25 + aside
    corners = [(-far, -far), (-far, far), (far, far), (far, -far)]
    corners = corners if clockwise else [corners[0], *corners[:0:-1]]
    blocks = [
        "G0 X{} Y{}".format(*corners[0]),
        "G1 Z-2",
        *("G1 X{} Y{}".format(*at) for at in (*corners[1:], corners[0])),
    ]
    edge = [Edge("Plate", square(20))]
    for meant, right in (("climb", clockwise), ("conventional", not clockwise)):
        found = texts(direction_faults(ways(*blocks), edge, TEN, meant))
        # Further off than two hundredths it does not run along it.
        assert bool(found) == (not right and abs(aside) < 0.02)
        assert not found or found == [
            ("direction", f"Plate is cut {'conventional' if meant == 'climb' else 'climb'}, and {meant} was meant")
        ]


@pytest.mark.parametrize(("back", "told"), [(40, False), (59, False), (61, True)])
def test_an_edge_is_cut_otherwise_where_most_of_what_runs_along_it_does(back, told):
    """100 mm along one side of a square of 400, so much of it the wrong way; the order of the two says nothing."""
    wrong = ["G0 X-205 Y0", "G1 Z-2", f"G1 Y{-back}", "G0 Z5"]
    right = ["G0 X-205 Y0", "G1 Z-2", f"G1 Y{100 - back}", "G0 Z5"]
    for blocks in ([*wrong, *right], [*right, *wrong]):
        assert bool(list(direction_faults(ways(*blocks), [Edge("Plate", square(200))], TEN, "climb"))) == told
    # Less than a mm tells nothing.
    little = ["G0 X-205 Y0", "G1 Z-2", "G1 Y-0.9", "G0 Z5"]
    assert not list(direction_faults(ways(*little), [Edge("Plate", square(200))], TEN, "climb"))


def test_four_edges_are_told_and_the_rest_are_counted():
    edges = [
        Edge(f"Plate {n}", shapely.LinearRing([(100 * n, 0), (100 * n + 40, 0), (100 * n + 40, 40), (100 * n, 40)]))
        for n in range(6)
    ]
    blocks = [block for n in range(6) for block in (f"G0 X{100 * n} Y-5", "G1 Z-2", f"G1 X{100 * n + 40}", "G0 Z5")]
    found = texts(direction_faults(ways(*blocks), edges, TEN, "conventional"))
    assert len(found) == 0
    found = texts(direction_faults(ways(*blocks), edges, TEN, "climb"))
    assert [text for _, text in found][-1] == "And 2 more edges are cut conventional" and len(found) == 5
    assert len(texts(direction_faults(ways(*blocks), edges[:4], TEN, "climb"))) == 4


# Beams


def burnt(*blocks):
    text = "\n".join(["G21 G90 G17", "M4 S0", *blocks, "M5", "M2"])
    return read_program([text.encode()], Dialect()).way


ROW = MeantWork("Mark", (Line(0j, 100 + 0j, SOURCE),), 600, 200)


@pytest.mark.parametrize(
    ("block", "code"),
    [
        ("G1 X100 F600 S200", None),
        ("G1 X100 F601.1 S200.3", None),
        ("G1 X100 F601.3 S200", "power"),
        ("G1 X100 F598.7 S200", "power"),
        ("G1 X100 F600 S200.5", "power"),
        ("G1 X98.5 F600 S200", "passes"),
        ("G1 X99.1 F600 S200", None),
        ("G1 X100 Y0.05 F600 S200", None),
        ("G1 X100 Y0.07 F600 S200", "passes"),
        ("G0 X100 S200", "beam-on"),
    ],
)
def test_a_line_is_burnt_as_fast_as_strong_and_as_often_as_meant(block, code):
    """Two in a thousand of 600 are 1.2; of 200, 0.4. One in a hundred of its length may be missing."""
    found = texts(power_faults(burnt("G0 X0 Y0 S0", block), [ROW]))
    assert [one for one, _ in found] == ([code] if code else [])


def test_a_line_is_counted_by_all_that_runs_along_it():
    twice = ["G0 X0 Y0 S0", "G1 X100 F600 S200", "G1 X0", "G0 S0"]
    assert [code for code, _ in texts(power_faults(burnt(*twice), [ROW]))] == ["passes"]
    again = MeantWork("Mark", ROW.sides, 600, 200, passes=2)
    assert texts(power_faults(burnt(*twice), [again])) == []
    # Beside it another row, nearer than a way counts as along a line: each way is the nearer one's.
    beside = MeantWork("Cut", (Line(0.05j, 100 + 0.05j, SOURCE),), 300, 900)
    both = ["G0 X0 Y0 S0", "G1 X100 F600 S200", "G0 X0 Y0.05 S0", "G1 X100 F300 S900"]
    assert texts(power_faults(burnt(*both), [ROW, beside])) == []
    # A row that is filled is worked in it wherever, and is not counted.
    region = MeantWork("Fill", (), 600, 200, region=shapely.box(0, -5, 100, 5))
    rows = [f"G0 X0 Y{y} S0\nG1 X100 F600 S200" for y in (-4, 0, 4)]
    assert texts(power_faults(burnt(*rows), [region])) == []
    slow = [row.replace("F600", "F500") for row in rows]
    [(code, text)] = texts(power_faults(burnt(*slow), [region]))
    assert code == "power" and text.endswith("Fill is worked at 500 mm/min and S200, not at 600 and S200")


# Chords and calipers


@pytest.mark.parametrize("radius", [0.5, 3, 25, 400])
@pytest.mark.parametrize(("word", "sense"), [("G3", 1), ("G2", -1)])
def test_chords_leave_their_arc_by_two_thousandths_at_most_and_run_the_way_it_is_written(radius, word, sense):
    """A quarter from the right of the middle, and a whole round; heights fall evenly along it."""
    end = complex(0, sense * radius)
    way = ways(f"G0 X{radius} Y0", "G1 Z-1", f"{word} X{end.real} Y{end.imag} Z-2 I{-radius} J0")
    arc = way.some((way.feed > 0) & (abs(way.end - way.start) > 0))
    assert arc.start[0] == radius and arc.end[-1] == pytest.approx(end) and arc.z[-1] == -2
    turns = np.angle(arc.end / arc.start) * sense
    assert (turns > 0).all() and turns.sum() == pytest.approx(math.pi / 2)
    assert np.abs(arc.end) == pytest.approx(radius) and len(set(np.round(turns, 9))) == 1
    sag = radius * (1 - math.cos(turns[0] / 2))
    assert sag <= CHORDS + 1e-12
    # No more of them than it takes: with one less they would leave it by more.
    assert radius * (1 - math.cos(math.pi / 4 / (len(arc) - 1))) > CHORDS
    assert arc.from_z[1:] == pytest.approx(arc.z[:-1]) and np.diff(arc.z) == pytest.approx(-1 / len(arc))
    whole = ways(f"G0 X{radius} Y0", "G1 Z-1", f"{word} X{radius} Y0 I{-radius} J0")
    whole = whole.some((whole.feed > 0) & (abs(whole.end - whole.start) > 0))
    assert np.abs(whole.end - whole.start).sum() == pytest.approx(math.tau * radius, rel=0.01)
    assert (np.angle(whole.end / whole.start) * sense > 0).all()


@pytest.mark.parametrize(
    ("at", "direction", "wide"),
    [
        (15 + 5j, 1, 10), (5 + 5j, 1, 10), (5 + 5j, 1j, 20), (15 + 5j, 1j, None), (15 + 15j, 1j, 10), (10 + 15j, 1, 30),
        (25 + 5j, 1, 10), (40 + 5j, 1, None), (15 - 5j, 1j, None),
    ],
)  # fmt: skip
def test_calipers_take_what_is_between_the_nearest_edges_on_both_sides(at, direction, wide):
    """A plate of 30 x 20 with a slot of 10 x 10 from its lower edge: what is measured may be material or opening."""
    plate = shapely.box(0, 0, 30, 20).difference(shapely.box(10, -1, 20, 10))
    found = caliper(plate, Gauge("plate", at, direction))
    assert found == (None if wide is None else pytest.approx(wide))
