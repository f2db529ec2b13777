"""Ways of a router held against material, one by one: what is cleared already, floors that slope, ends that meet."""

import math
from pathlib import Path

import numpy as np
import pytest
import shapely
from leannotch_core.geometry.segment import Line, Source
from leannotch_core.proof.against.fills import BurntPiece, Filled, fill_faults
from leannotch_core.proof.depth.dangers import Limits, dangers
from leannotch_core.proof.depth.freed import freed
from leannotch_core.proof.depth.slopes import slopes
from leannotch_core.proof.depth.swept import SAME, SweptCutter, gone
from leannotch_core.proof.round_beam import passed_over

from .test_limits_of_the_proof import rows, square, texts, ways

THICK = 6.0


def trench(*, tool=1, depth=2.0, y=0.0, half=20.0):
    """One way of a tool along x at a depth."""
    return [f"T{tool} M6", f"G0 X{-half} Y{y}", f"G1 Z{-depth}", f"G1 X{half}", "G0 Z5"]


def told(blocks, cutters, limits=None):
    return texts(dangers(ways(*blocks), THICK, cutters, limits or Limits()))


@pytest.mark.parametrize(
    ("wide", "narrow", "deep", "free"),
    [(6, 3, 2.0, True), (6, 6, 2.0, True), (3, 6, 2.0, False), (6, 5.9, 2.0, True), (6, 3, 1.5, False)],
)
def test_a_cutter_moves_at_speed_only_where_another_made_room_for_it(wide, narrow, deep, free):
    """The second cutter goes 2 mm deep through what the first has cleared, by that one's own width and depth."""
    cutters = {1: SweptCutter(wide), 2: SweptCutter(narrow)}
    found = told([*trench(depth=deep), "T2 M6", "G0 X-15 Y0", "G0 Z-2", "G0 X15", "G0 Z5"], cutters)
    assert ([code for code, _ in found] == []) == free
    if not free:
        assert "moves at speed through material" in found[0][1]


def test_room_is_made_by_what_was_there_before_and_by_nothing_after():
    cutters = {1: SweptCutter(6), 2: SweptCutter(3)}
    fast = ["T2 M6", "G0 X-15 Y0", "G0 Z-2", "G0 X15", "G0 Z5"]
    assert told([*fast, *trench()], cutters) and not told([*trench(), *fast], cutters)
    # Side by side two narrow ways make the room of a wide one; 0.1 mm between them stands in its way.
    for apart, free in ((2.9, True), (3.1, False)):
        both = [*trench(y=-apart / 2), *trench(y=apart / 2)]
        through = ["T2 M6", "G0 X-15 Y0", "G0 Z-2", "G0 X15", "G0 Z5"]
        assert (told([*both, *through], {1: SweptCutter(3), 2: SweptCutter(3)}) == []) == free


def test_a_hole_that_is_gone_round_more_than_once_leaves_nothing_standing_in_it():
    """A ramp and a round of a hole of 5.5 mm under a cutter of 3.175 mm; it stands to the last bit in a file, for with
    any other last bits shapely's buffer has no hole there.
    """
    round_twice = shapely.from_wkb((Path(__file__).parent / "round_twice.wkb").read_bytes())
    (over,) = passed_over([round_twice], 3.175 / 2, 32)
    assert not over.interiors and over.area == pytest.approx(math.pi * 2.75**2, rel=1e-3)


@pytest.mark.parametrize("left", [0.05, 0.5, 3])
def test_what_no_tool_reaches_in_the_middle_of_a_round_stands(left):
    """A round of the radius of the tool and what is left, alone and with another beside it that leaves nothing."""
    turns = np.linspace(0, 2.2 * math.pi, 400)
    wide, narrow = (radius * np.column_stack([np.cos(turns), np.sin(turns)]) for radius in (2 + left, 1.2))
    alone = passed_over([shapely.LineString(wide)], 2, 64)[0]
    both = passed_over([shapely.MultiLineString([wide, narrow + 20])], 2, 64)[0]
    for shape, count in ((alone, 1), (both, 2)):
        parts = shapely.get_parts(shape).tolist()
        holes = [hole for part in parts for hole in part.interiors]
        assert len(parts) == count and len(holes) == 1
        assert shapely.Polygon(holes[0]).area == pytest.approx(math.pi * left**2, rel=0.05)


@pytest.mark.parametrize(("degrees", "told_of"), [(20, False), (29, False), (31, True), (80, True)])
def test_a_cutter_that_does_not_plunge_goes_down_no_steeper_than_it_may(degrees, told_of):
    along = 2 / math.tan(math.radians(degrees))
    blocks = ["G0 X0 Y0", "G1 Z0", f"G1 X{along:.4f} Z-2", "G1 X20", "G0 Z5"]
    found = told(blocks, {1: SweptCutter(6, plunges=False)}, Limits(steepest=30))
    assert bool(found) == told_of
    assert not told(blocks, {1: SweptCutter(6)}, Limits(steepest=30))


@pytest.mark.parametrize(("flutes", "most", "over"), [(2, 0.02, False), (2, 0.018, True), (1, 0.03, True)])
def test_each_tooth_takes_no_more_than_its_cutter_bears(flutes, most, over):
    """600 mm/min at 16 000 a minute are 0.01875 mm a tooth with two, and twice that with one."""
    found = told(trench(), {1: SweptCutter(6, flutes=flutes)}, Limits(chip={1: most}))
    assert bool(found) == over


@pytest.mark.parametrize(("floor", "left"), [(2.0, False), (1.995, False), (1.98, True), (1.0, True)])
def test_a_floor_that_slopes_is_one_unless_it_is_made_level_as_deep(floor, left):
    """Down over 30 mm to 2 mm, and then level along the same way at some depth."""
    down = ["G0 X-15 Y0", "G1 Z0", "G1 X15 Z-2", "G0 Z5"]
    found = texts(slopes(ways(*down, *trench(depth=floor)), THICK, {1: SweptCutter(6)}))
    assert bool(found) == left
    if left:
        assert found[0][0] == "depth" and "a floor slopes from 0 mm to 2 mm deep" in found[0][1]


#: How far it goes, to which height, and whether that is a floor that slopes.
SLOPES = [(0.9, -2, False), (1.1, -2, True), (9, -2.004, True), (9, -6, False), (9, -5.9, True), (9, -0.005, False)]


def test_a_slope_is_long_and_stays_in_the_sheet_to_be_one():
    cutters = {1: SweptCutter(1)}
    for far, down, left in SLOPES:
        way = ways("G0 X0 Y0", "G1 Z0", f"G1 X{far} Z{down}", "G0 Z5")
        assert bool(texts(slopes(way, THICK, cutters))) == left


def test_ends_that_are_one_place_but_for_how_they_are_written_free_a_part():
    """A square of two halves, whose ends are off by less than what counts as the same, and by more."""
    for off, pieces in ((SAME, 2), (4.0, 0)):
        half = ["G0 X-10 Y-10", "G1 Z-6.2", "G1 X10", "Y10", "G0 Z5"]
        other = [f"G0 X{10 + off} Y10", "G1 Z-6.2", "G1 X-10 Y10", f"Y{-10 + off}", "G0 Z5"]
        found = freed(ways(*half, *other), THICK, {1: SweptCutter(3)})
        assert len(found.pieces) == pieces or (pieces == 2 and [one.kind for one in found.pieces] == ["part"])


def test_two_cutters_free_what_each_of_them_goes_round():
    """A wide one goes half round, a narrow one the rest, so that the part is as large as both leave it."""
    blocks = [
        "T1 M6", "G0 X-13 Y-13", "G1 Z-6.2", "G1 X13", "Y13", "G0 Z5",
        "T2 M6", "G0 X13 Y13", "G1 Z-6.2", "G1 X-13", "Y-13", "G0 Z5",
    ]  # fmt: skip
    found = freed(ways(*blocks), THICK, {1: SweptCutter(6), 2: SweptCutter(4)})
    [piece] = [one for one in found.pieces if one.kind == "part"]
    left, bottom, right, top = piece.shape.bounds
    assert (left, bottom, right, top) == pytest.approx((-11, -10, 10, 11), abs=1e-3)


def test_what_is_gone_at_a_level_is_what_went_there_with_its_own_width():
    cutters = {1: SweptCutter(6), 2: SweptCutter(3)}
    way = ways(*trench(depth=3), *trench(tool=2, depth=5, y=20))
    assert gone(way, -2, cutters).bounds == pytest.approx((-23, -3, 23, 21.5), abs=1e-2)
    assert gone(way, -4, cutters).bounds == pytest.approx((-21.5, 18.5, 21.5, 21.5), abs=1e-2)
    assert gone(way, -5.5, cutters).is_empty


@pytest.mark.parametrize("turn", [1, 1j, complex(math.cos(0.4), math.sin(0.4))])
def test_a_row_that_is_lost_or_too_long_is_told_where_it_is(turn):
    source = Source("test", "side")
    loops = [[Line(one.start * turn, one.end * turn, source) for one in square()]]
    meant = [Filled("fill", "A", "a", loops, 0.5)]
    cut_short = [
        BurntPiece("fill", row.start, row.end - 6 * turn) if at == 7 else row for at, row in enumerate(rows(0.5, turn))
    ]
    [fault] = fill_faults(meant, cut_short)
    assert fault.code == "mark-lost" and _on_row(fault.at / turn, 14, 20)
    too_far = [
        BurntPiece("fill", row.start, row.end + 6 * turn) if at == 7 else row for at, row in enumerate(rows(0.5, turn))
    ]
    [fault] = fill_faults(meant, too_far)
    assert fault.code == "mark-stray" and _on_row(fault.at / turn, 20, 26)


def _on_row(at, begin, end):
    """Whether a place lies on the row that is not as it was meant."""
    return begin - 0.1 <= at.real <= end + 0.1 and abs(at.imag - 3.75) < 1e-6
