"""Standard things against what is published of them, and what is taken over from a reference."""

import math

import pytest
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.loop import joined_bounds
from leannotch_core.layout.nest import nest
from leannotch_core.machining.lettered import marks
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.parts.standards.library import LIBRARY
from leannotch_core.parts.standards.others import PAPER

from ...projects import part, project
from .test_placing import board, box, boxes, do, shapes


def size_of(name):
    left, bottom, right, top = joined_bounds(outline.bounds for outline in LIBRARY[name].outlines)
    return right - left, top - bottom


def holes_of(name):
    return [2 * loop.circle()[1] for outline in LIBRARY[name].outlines for loop in outline.cutouts]


@pytest.mark.parametrize(
    ("name", "size", "holes"),
    [
        # ISO 4762 (head) and ISO 273 (medium clearance hole), from memory.
        ("M3 socket screw", (5.5, 5.5), [3.4]),
        ("M6 socket screw", (10, 10), [6.6]),
        # ISO 7089, from memory.
        ("M4 washer", (9, 9), [4.3]),
        # IEC 60086-2, from memory.
        ("LR6 cell (AA), end on", (14.5, 14.5), []),
        ("LR6 cell (AA), lying", (50.5, 14.5), []),
        # IEC 61960-3: the figures of the designation are the largest diameter and height, from memory.
        ("ICR19/66 cell, lying", (66, 19), []),
        ("ICP5/34/50 cell", (34, 50), []),
        # ISO 15, from memory.
        ("608 bearing", (22, 22), [8]),
        ("623 bearing", (10, 10), [3]),
        # IEC 60715, from memory.
        ("35 mm rail, seen along it", (35, 7.5), []),
        # ISO/IEC 7810, ID-1, from memory: 3.370 x 2.125 in.
        ("Card ID-1", (3.370 * 25.4, 2.125 * 25.4), []),
    ],
)
def test_standard_things_measure_what_is_published(name, size, holes):
    assert size_of(name) == pytest.approx(size, abs=0.01)
    assert holes_of(name) == pytest.approx(holes)


def test_nuts_are_as_wide_over_their_corners_as_a_hexagon_is():
    """ISO 4032: an M3 nut is 5.5 mm over its flats (from memory); over the corners a hexagon has 2/sqrt(3) of that."""
    wide, high = size_of("M3 hexagon nut")
    assert sorted((wide, high)) == pytest.approx(sorted((5.5, 5.5 * 2 / math.sqrt(3))))


def test_paper_is_halved_from_a_square_metre_by_the_rule_of_its_standard():
    """ISO 216: A0 has one square metre at 1 to the root of 2; each next one halves the longer side, rounded down."""
    long, short = round(1000 * 2**0.25), round(1000 / 2**0.25)
    for number in range(1, 8):
        long, short = short, long // 2
        if f"A{number}" in PAPER:
            assert PAPER[f"A{number}"] == (short, long)
    assert size_of("A4 sheet") == (210, 297)


def test_every_standard_thing_says_its_source():
    assert len(LIBRARY) > 35
    for name, thing in LIBRARY.items():
        assert any(word in thing.source for word in ("ISO", "IEC")) and thing.says and thing.outlines, name


BOARD = {
    "kind": "brought",
    "width": "60",
    "height": "40",
    "rings": [
        [{"x": 0, "y": 0}, {"x": 60, "y": 0}, {"x": 60, "y": 40}, {"x": 0, "y": 40}],
        [{"x": 4, "y": 5.5, "bulge": -1}, {"x": 7, "y": 5.5, "bulge": -1}],
        [{"x": 53, "y": 34.5, "bulge": -1}, {"x": 56, "y": 34.5, "bulge": -1}],
        [{"x": 20, "y": 10}, {"x": 20, "y": 20}, {"x": 35, "y": 20}, {"x": 35, "y": 10}],
    ],
}


def test_holes_of_a_reference_are_cut_larger_and_go_where_it_goes():
    document = board(box("ref", x="80", y="60", hole=BOARD, does="reference"))
    taken = do(document, do="take holes", part="board", id="ref", larger="0.2")
    before = boxes(taken)
    sizes = sorted((round(b[2] - b[0], 3), round(b[3] - b[1], 3)) for cut_id, b in before.items() if cut_id != "ref")
    assert sizes == [(3.2, 3.2), (3.2, 3.2), (15.2, 10.2)]
    assert before["hole"] == pytest.approx((80 - 30 + 3.9, 60 - 20 + 3.9, 80 - 30 + 7.1, 60 - 20 + 7.1))
    moved = boxes(do(taken, do="move shapes", part="board", ids=["ref"], x="11", y="-7"))
    for cut_id, was in before.items():
        assert moved[cut_id] == pytest.approx((was[0] + 11, was[1] - 7, was[2] + 11, was[3] - 7))
    assert len(evaluate(taken).parts["board"].outline.cutouts) == 3


def test_a_reference_is_never_on_a_sheet():
    things = [
        box("board", x="80", y="60", hole=BOARD, does="reference"),
        box("card", x="120", y="60", hole={"kind": "standard", "thing": "Card ID-1"}, does="reference"),
        box("other", x="60", y="60", hole={"kind": "part", "part": "small"}, does="reference"),
        box("seen", x="90", y="60", hole=PICTURE, does="reference"),
    ]
    document = project([part("board", 200, 120, cutouts=things), part("small", 20, 10)])
    result = evaluate(document)
    laid = document.model_copy(update={"layout": next(iter(nest(document, result, 0))).layout})
    plan = plan_sheet(laid, result, 0)
    assert len([path for path in plan.paths if path.operation == "cut"]) == 2
    assert not marks(result.parts["board"]) and result.parts["board"].lines
    cut = board(box("seen", hole={"kind": "picture", "picture": "", "width": "8", "height": "6"}))
    assert "is only there to design round" in evaluate(cut).errors[0].text


PICTURE = {"kind": "picture", "picture": "", "width": "80", "height": "60"}


def test_a_picture_is_set_to_scale_by_a_known_length():
    document = board(box("seen", x="100", y="60", hole=PICTURE, does="reference"))
    scaled = do(
        document, do="set to scale", part="board", id="seen", length="30",
        first={"x": 70, "y": 50}, second={"x": 90, "y": 50},
    )  # fmt: skip
    placed = shapes(scaled)["seen"]
    left, bottom, right, top = placed.box
    assert (right - left, top - bottom) == pytest.approx((120, 90))
    # The first place stays where it is: it lay 10 right of the left side and 20 above the lower one.
    assert (left + 10 * 1.5, bottom + 20 * 1.5) == pytest.approx((70, 50))
