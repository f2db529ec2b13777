"""Edges on faces: butted ones stand on them, housed ones seat in their grooves and slide as far as there is room."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.poses import Copy, assemble
from leannotch_core.assembly.solids import all_clashes, placed, solid
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart, ScalePart
from leannotch_core.evaluate import evaluate

from ...projects import part, project, stock
from ...properties import tried

thicknesses = st.integers(10, 120).map(lambda n: n / 10)
grooved = st.integers(40, 120).map(lambda n: n / 10)
clearances = st.sampled_from([0.3, 0.2, 0.1, 0.0])


def housing(board, side, on, x, y, turn="0", **more):
    line = {"part": on, "x": str(x), "y": str(y), "turn": turn, **more.pop("line", {})}
    ends = {"a": {"part": board, "side": side}, "b": line}
    return {"kind": "housing", "id": more.pop("id", f"{board}_{side}_on"), **ends, **more}


def in_space(document):
    result = evaluate(document)
    assembly = assemble(document, result)
    bodies = {copy: placed(solid(result.parts[copy.part]), pose) for copy, pose in assembly.poses.items()}
    return result, assembly, bodies


@settings(max_examples=tried(25))
@given(grooved, thicknesses, clearances, st.integers(1, 4), st.sampled_from(["thickness/2", "thickness/3"]))
def test_shelves_seat_in_the_grooves_of_both_uprights(upright, shelf, clearance, shelves, groove):
    """Inside width by hand: the shelf's length less what lies in both grooves."""
    lines = {"line": {"lines": shelves, "step": "45"}}
    parts = [part("left", 120, 260, "a", face="inside"), part("right", 120, 260, "a", face="inside")]
    parts.append(part("shelf", 200, 120, "b", count=shelves))
    joints = [
        housing("shelf", "left", "left", "width", 50, "180", groove=groove, line={**lines["line"], "step": "-45"}),
        housing("shelf", "right", "right", 0, 50, groove=groove, **lines),
    ]
    stocks = [stock("a", (str(upright),), glue=str(clearance)), stock("b", (str(shelf),), glue=str(clearance))]
    result, assembly, bodies = in_space(project(parts, joints, stocks))
    assert not result.findings and (assembly.gaps, assembly.missing, len(assembly.groups)) == ([], [], 1)
    assert all_clashes(result, assembly) == []
    deep = upright / 2 if groove.endswith("2") else upright / 3
    left, right = bodies[Copy("left", 1)], bodies[Copy("right", 1)]
    low, high = sorted((left.bounding_box(), right.bounding_box()))
    assert high[0] - low[3] == pytest.approx(200 - 2 * deep)
    # Upright as drawn, and the play of a shelf in its groove is half the clearance up and down.
    assert low[5] - low[2] == pytest.approx(260)
    board = bodies[Copy("shelf", 1)]
    play = clearance / 2
    assert (board.translate((0, 0, play * 0.98)) ^ left).volume() < 1e-3
    assert (board.translate((0, 0, play + 0.02)) ^ left).volume() > 0
    assert {round(row.gap, 9) for row in result.ledger} == {clearance}


@given(grooved, thicknesses, st.integers(2, 12).map(lambda n: n / 10))
def test_a_board_slides_along_its_groove_as_far_as_there_is_room(side, board, room):
    parts = [part("side", 160, 80, "a", face="inside"), part("board", 60, 100, "b")]
    joints = [housing("board", "left", "side", 20, 40, groove="thickness/2", room=str(room), fit="sliding")]
    result, assembly, bodies = in_space(project(parts, joints, [stock("a", (str(side),)), stock("b", (str(board),))]))
    [pocket] = result.parts["side"].pockets
    left, bottom, right, top = pocket.outline.bounds
    assert (right - left, top - bottom) == (pytest.approx(100 + 2 * room), pytest.approx(board + 0.2))
    along = assembly.poses[Copy("side", 1)][:3, 0]
    body, groove = bodies[Copy("board", 1)], bodies[Copy("side", 1)]
    for way in (along, -along):
        assert (body.translate(way * room * 0.99) ^ groove).volume() < 1e-3
        assert (body.translate(way * (room + 0.05)) ^ groove).volume() > 0
    # And there is as much below it.
    assert (body.translate(-assembly.poses[Copy("side", 1)][:3, 2] * room * 0.99) ^ groove).volume() < 1e-3


@given(thicknesses, thicknesses)
def test_a_butted_edge_stands_on_the_face_and_cuts_nothing(base, wall):
    parts = [part("base", 120, 90, "a", face="inside"), part("wall", 120, 50, "b")]
    joints = [housing("wall", "bottom", "base", 0, 45)]
    result, assembly, bodies = in_space(project(parts, joints, [stock("a", (str(base),)), stock("b", (str(wall),))]))
    assert not result.ledger and not result.findings and all_clashes(result, assembly) == []
    assert [len(list(result.parts[name].outline.outer)) for name in ("base", "wall")] == [4, 4]
    assert bodies[Copy("wall", 1)].bounding_box()[2] == pytest.approx(base)
    height = bodies[Copy("wall", 1)].bounding_box()[5] - bodies[Copy("base", 1)].bounding_box()[2]
    assert height == pytest.approx(50 + base)


def test_a_round_cutter_gets_its_reliefs_and_a_butted_edge_needs_none():
    router = [stock("a", ("6",), kerf="3.175"), stock("b", ("6",), kerf="3.175")]
    parts = [part("side", 160, 80, "a", face="inside"), part("board", 60, 100, "b")]
    plain = evaluate(project(parts, [housing("board", "left", "side", 30, 40, groove="3")], router))
    assert [finding.place.field for finding in plain.findings] == ["relief"]
    relieved = evaluate(
        project(parts, [housing("board", "left", "side", 30, 40, groove="3", relief="dog-bone")], router)
    )
    assert not relieved.findings
    # A circle through each corner, its centre on the bisector, takes r^2 (pi/2 - 1) more; r is the cutter's and 0.05.
    taken = relieved.parts["side"].pockets[0].outline.area - plain.parts["side"].pockets[0].outline.area
    assert taken == pytest.approx(4 * (3.175 / 2 + 0.05) ** 2 * (math.pi / 2 - 1), rel=1e-6)
    assert not evaluate(project(parts, [housing("board", "left", "side", 30, 40)], router)).findings


@pytest.mark.parametrize(
    ("more", "at", "says", "field"),
    [
        ({"groove": "3.07"}, (20, 40), "leaves no floor", "groove"),
        ({"groove": "1", "room": "1"}, (20, 40), "Room of 1.00 mm does not fit", "room"),
        ({"groove": "1"}, (20, 0.5), "over the side of Side", ""),
    ],
)
def test_a_groove_that_cannot_be_is_left_out_with_the_mend(more, at, says, field):
    parts = [part("side", 160, 80), part("board", 60, 100)]
    result = evaluate(project(parts, [housing("board", "left", "side", *at, **more)]))
    [finding] = result.findings
    assert says in finding.text and [mend.command.path[-1] for mend in finding.mends] == ([field] if field else [])
    assert not result.parts["side"].pockets


def test_a_mirrored_or_scaled_side_keeps_its_groove_where_it_was():
    parts = [part("side", 160, 80, face="inside"), part("board", 60, 100)]
    document = project(parts, [housing("board", "left", "side", 20, 30, groove="1")])
    half = (3.07 + 0.1) / 2
    assert pocket_of(document) == pytest.approx((20, 30 - half, 120, 30 + half))
    mirrored = apply(document, MirrorPart(do="mirror part", id="side"))
    assert pocket_of(mirrored) == pytest.approx((40, 30 - half, 140, 30 + half))
    # The line begins twice as far from both edges; the board is as long as it was.
    scaled = apply(document, ScalePart(do="scale part", id="side", factor=2))
    assert pocket_of(scaled) == pytest.approx((40, 60 - half, 140, 60 + half))


def pocket_of(document):
    [pocket] = evaluate(document).parts["side"].pockets
    return pocket.outline.bounds
