"""What the proof lets pass and what it tells, from both sides of each number, without a project around it."""

import math
from dataclasses import replace

import pytest
import shapely
from leannotch_core.drawings.gcode.words import Dialect
from leannotch_core.geometry.segment import Line, Source
from leannotch_core.proof.against.fills import BurntPiece, Filled, fill_faults
from leannotch_core.proof.against.marks import Drawn, MeantLine, marks_faults
from leannotch_core.proof.against.outline import Beam
from leannotch_core.proof.depth.freed import HOP, freed
from leannotch_core.proof.depth.order import CopyOnSheet, routed_order_faults
from leannotch_core.proof.depth.program import read_program
from leannotch_core.proof.depth.swept import SweptCutter, below

SOURCE = Source("test", "side")


def side(a, b):
    return [Line(complex(a), complex(b), SOURCE)]


def texts(faults):
    return [(fault.code, fault.text) for fault in faults]


# Marks


@pytest.mark.parametrize(("off", "told"), [(0.045, False), (0.055, True)])
def test_a_mark_may_lie_aside_by_a_twentieth_of_a_mm(off, told):
    faults = list(marks_faults([MeantLine("score", "A", side(0, 20))], [Drawn("score", side(off * 1j, 20 + off * 1j))]))
    assert {fault.code for fault in faults} == ({"mark-lost", "mark-stray"} if told else set())


@pytest.mark.parametrize(("short", "told"), [(0.15, False), (0.4, True)])
def test_little_of_a_mark_is_not_missed(short, told):
    faults = list(marks_faults([MeantLine("score", "A", side(0, 20))], [Drawn("score", side(0, 20 - short))]))
    assert bool(faults) == told
    if told:
        [(code, text)] = texts(faults)
        assert code == "mark-lost" and text.startswith("A: ") and "of a line on the layer score are not where" in text


@pytest.mark.parametrize("many", [1, 6, 7, 9])
def test_six_faults_of_a_kind_are_told_one_by_one_and_the_rest_are_counted(many):
    faults = texts(marks_faults([MeantLine("score", f"A {at}", side(at * 3j, 20 + at * 3j)) for at in range(many)], []))
    told = [text for _, text in faults if "not in the file" in text]
    assert len(told) == min(many, 6)
    assert [text for _, text in faults if "more" in text] == (
        [f"{many - 6} more lines are lost on the layer score"] if many > 6 else []
    )


# Fills


def square(size=20.0):
    corners = [0, size, size + size * 1j, size * 1j]
    return [line for a, b in zip(corners, [*corners[1:], 0], strict=True) for line in side(a, b)]


def rows(gap, turn=1, *, left_out=(), size=20.0):
    count = round(size / gap)
    for at in range(count):
        if at not in left_out:
            y = (at + 0.5) * gap * 1j
            yield BurntPiece("fill", turn * y, turn * (size + y))


@pytest.mark.parametrize("turn", [1, 1j, complex(math.cos(0.4), math.sin(0.4))])
def test_a_square_is_filled_by_its_rows_however_it_lies(turn):
    loops = [[Line(one.start * turn, one.end * turn, SOURCE) for one in square()]]
    meant = [Filled("fill", "A", "a", loops, 0.5)]
    assert list(fill_faults(meant, list(rows(0.5, turn)))) == []
    # One row less leaves twice the gap, and that is said where it is.
    [(code, text)] = texts(faults := list(fill_faults(meant, list(rows(0.5, turn, left_out=[12])))))
    assert (code, text) == ("mark-lost", "A: rows to fill lie 1 mm apart, not 0.5 mm")
    assert (faults[0].at / turn).imag == pytest.approx(12.5 * 0.5)
    # The outermost row counts to the edge.
    assert len(list(fill_faults(meant, list(rows(0.5, turn, left_out=[0]))))) == 1


@pytest.mark.parametrize(("skew", "told"), [(0.04, False), (0.06, True)])
def test_a_row_may_be_askew_by_a_twentieth_of_a_mm(skew, told):
    askew = [row if at else BurntPiece("fill", row.start, row.end + skew * 1j) for at, row in enumerate(rows(0.5))]
    faults = texts(fill_faults([Filled("fill", "A", "a", [square()], 0.5)], askew))
    assert any("runs across the others" in text for _, text in faults) == told


@pytest.mark.parametrize(
    ("reach", "code"), [(0.0, None), (-0.2, None), (-0.5, "mark-lost"), (0.2, None), (0.5, "mark-stray")]
)
def test_a_row_ends_at_the_edge(reach, code):
    some = [row if at != 7 else BurntPiece("fill", row.start, row.end + reach) for at, row in enumerate(rows(0.5))]
    found = {fault.code for fault in fill_faults([Filled("fill", "A", "a", [square()], 0.5)], some)}
    assert found == ({code} if code else set())


def test_a_row_that_is_gone_over_too_often_or_fills_nothing_is_told():
    meant = [Filled("fill", "A", "a", [square()], 0.5, passes=2)]
    once = list(rows(0.5))
    assert list(fill_faults(meant, once * 2)) == []
    assert texts(fill_faults(meant, once))[0] == ("passes", "A: a row to fill is gone over 1.0 times, not 2")
    [(code, text)] = texts(
        fill_faults(meant, [*once, *once, BurntPiece("fill", 40, 60), BurntPiece("fill", 40 + 1j, 60 + 1j)])
    )
    assert code == "mark-stray" and text.endswith("lies where nothing is to be filled, and 1 more")
    assert {code for code, _ in texts(fill_faults(meant, []))} == {"mark-lost"}


# Depth


def ways(*blocks):
    """The ways of a program that is written for these tests."""
    text = "\n".join(["G21 G90 G17", "T1 M6", "S16000 M3", "F600", *blocks, "G0 Z5", "M5", "M2"])
    return read_program([text.encode()], Dialect()).way


CUTTERS = {1: SweptCutter(3)}


def ring(size, z, at=0.0):
    """A square about a place, walked round once."""
    a, b = at - size / 2, at + size / 2
    return [f"G0 X{a} Y{a}", f"G1 Z{z}", f"G1 X{b}", f"Y{b}", f"X{a}", f"Y{a}", "G0 Z5"]


PLATE = CopyOnSheet("Plate", shapely.box(-20, -20, 20, 20).difference(shapely.box(-8, -8, 8, 8)), Beam(1.5))
LEVEL = -6.0


@pytest.mark.parametrize(
    ("order", "says"),
    [
        (["mark", "inner", "outer"], None),
        (["inner", "outer", "mark"], "after it was cut into"),
        (["inner", "mark", "outer"], "after it was cut into"),
        (["mark", "outer", "inner"], "an inner cut comes after the cut round it"),
        (["outer", "mark"], "after it was cut out"),
    ],
)
def test_what_a_router_does_too_late_is_told(order, says):
    steps = {
        "outer": ring(43, LEVEL - 0.2),
        "inner": ring(13, LEVEL - 0.2),
        # Two mm deep beside the opening.
        "mark": ["G0 X-15 Y14", "G1 Z-2", "G1 X15", "G0 Z5"],
    }
    way = ways(*(block for name in order for block in steps[name]))
    found = texts(routed_order_faults([PLATE], way, LEVEL, CUTTERS))
    assert [code for code, _ in found] == (["order"] if says else [])
    assert not says or says in found[0][1]


@pytest.mark.parametrize("on", [{"on_outer": True}, {"on_inner": True}])
def test_where_the_cutter_runs_on_an_edge_what_is_inside_is_no_mark(on):
    """On the line of its opening or outline half the cutter is inside: that is no mark that comes too late."""
    way = ways(*ring(43, LEVEL - 0.2), "G0 X-15 Y14", "G1 Z-2", "G1 X15", "G0 Z5")
    beside, on_it = (replace(PLATE, beam=Beam(1.5, **how)) for how in ({}, on))
    assert texts(routed_order_faults([beside], way, LEVEL, CUTTERS))
    assert texts(routed_order_faults([on_it], way, LEVEL, CUTTERS)) == []


@pytest.mark.parametrize("first", ["small", "hole"])
def test_a_part_in_a_cut_out_of_another_is_cut_out_before_that_falls(first):
    small = CopyOnSheet("Small", shapely.box(-3, -3, 3, 3), Beam(1.5))
    steps = {"small": ring(9, LEVEL - 0.2), "hole": ring(13, LEVEL - 0.2)}
    other = "hole" if first == "small" else "small"
    way = ways(*steps[first], *steps[other], *ring(43, LEVEL - 0.2))
    found = texts(routed_order_faults([PLATE, small], way, LEVEL, CUTTERS))
    late = ("order", "Small is cut out after the cut-out of Plate that it lies in")
    assert found == ([] if first == "small" else [late])


@pytest.mark.parametrize(
    ("shape", "above", "reach"),
    [
        (SweptCutter(6), 0.5, 3), (SweptCutter(6, "ball"), 1.0, math.sqrt(9 - 4)), (SweptCutter(6, "ball"), 3.0, 3),
        (SweptCutter(6, "ball"), 9.0, 3), (SweptCutter(6, "V", 90), 1.5, 1.5), (SweptCutter(6, "V", 90), 5.0, 3),
        (SweptCutter(6, "V", 60), 3.0, math.sqrt(3)),
    ],
)  # fmt: skip
def test_a_cutter_reaches_as_far_as_its_tip_is_wide_there(shape, above, reach):
    assert shape.reach(above) == pytest.approx(reach)


def test_a_way_that_dives_is_cut_off_where_it_passes_a_level():
    """By hand: from z 0 to -8 over 40 mm it passes -6 after 30 mm, and comes up through it after 10."""
    way = ways("G0 X0 Y0", "G1 Z0", "G1 X40 Z-8", "G1 X0 Z0")
    low = below(way.some(way.feed > 0), -6)
    flat = [(a.real, b.real) for a, b in zip(low.start, low.end, strict=True) if abs(a - b) > 1e-9]
    assert flat == [(pytest.approx(30), pytest.approx(40)), (pytest.approx(40), pytest.approx(30))]


@pytest.mark.parametrize(("lift", "held"), [(3.5, True), (HOP + 2.5, True), (HOP + 3.5, False)])
def test_a_gap_in_a_cut_is_a_tab_where_the_cutter_hops_over_it(lift, held):
    """The last side of a square is left off for a while, at speed above the sheet: what stands there holds it. A hop is
    as long as the tab and the cutter's width of 3.
    """
    z = LEVEL - 0.2
    way = ways(
        "G0 X-21.5 Y-21.5", f"G1 Z{z}", "G1 X21.5", "Y21.5", "X-21.5", f"Y{lift / 2}", "G0 Z5", f"G0 Y{-lift / 2}",
        f"G1 Z{z}", "G1 Y-21.5", "G0 Z5",
    )  # fmt: skip
    found = freed(way, 6, CUTTERS)
    assert len(found.tabs) == int(held)
    if held:
        [tab] = found.tabs
        assert (tab.width, tab.height) == (pytest.approx(lift - 3, abs=0.02), pytest.approx(6))
        assert tab.middle == pytest.approx(-21.5, abs=0.02)
