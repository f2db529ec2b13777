"""Walls that lean: gaps on both faces, held against solids that are sliced, the file swept, and numbers by hand."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import all_clashes, leaning
from leannotch_core.document.hand_over import HandOver
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.kerf import Walls
from leannotch_core.facts.stock import facts
from leannotch_core.handover.proved import written
from leannotch_core.joints.walls import FACES, lying
from leannotch_core.machining.prepared import prepare
from leannotch_core.proof.faces import proved_on_faces

from ...projects import demo, finger, part, project, splice, stock, tab
from ...properties import tried
from ...shipped import laid_out


def leaned(above="0.16", below="0.22", made_for="the middle", **more):
    return stock(kerf=above, below={"how": "typed", "width": below}, made_for=made_for, **more)


def box_corner(*stocks, **more):
    return project(
        [part("floor", 120, 80), part("wall", 120, 60)], [finger("floor", "top", "wall", "bottom")], stocks, **more
    )


@pytest.mark.parametrize(
    ("made_for", "kerf", "above", "below"),
    [("the upper face", 0.16, 0, 0.06), ("the middle", 0.19, -0.03, 0.03), ("the lower face", 0.22, -0.06, 0)],
)
def test_a_kerf_is_made_up_for_on_the_face_that_is_asked(made_for, kerf, above, below):
    told = facts(leaned(made_for=made_for))
    assert told.kerf == pytest.approx(kerf)
    assert told.walls.faces == pytest.approx((above, below))


def test_walls_are_straight_where_nothing_is_known_of_the_lower_face():
    told = facts(stock())
    assert told.walls == Walls() and not told.walls.leaning
    assert evaluate(box_corner(stock())).ledger == evaluate(box_corner(leaned(below="0.16"))).ledger


def test_by_hand_a_slot_in_a_sheet_is_wider_below_and_its_tab_is_held_where_it_is_widest():
    made = project([part("base", 120, 80), part("fin", 60, 40)], [tab("fin", "bottom", "base", 30, 40)], [leaned()])
    width, length = sorted(evaluate(made).ledger, key=lambda row: row.insert_at is not None)
    # The sheet's own thickness is not cut: only the slot leans, by 0.03 mm to either side of the middle.
    assert width.insert_at is None and (width.above, width.below) == pytest.approx((-0.03, 0.03))
    # The tab is cut too: its widest face, 0.03 wider than in the middle, goes through all of the slot.
    assert (length.above, length.below) == pytest.approx((-0.06, 0))
    straight = evaluate(made.model_copy(update={"stocks": [stock(kerf="0.19")]})).ledger
    assert length.tightest == pytest.approx(next(row for row in straight if row.insert_at).tightest - 0.06)


def test_what_lies_in_one_plane_meets_face_by_face_unless_one_was_turned_over():
    def row(mirrored):
        halves = [part("left", 100, 60), part("right", 100, 60)]
        lie = [{"part": "left", "copy_number": 1, "sheet": 0, "x": 10, "y": 10, "turn": 0}]
        lie.append({"part": "right", "copy_number": 1, "sheet": 0, "x": 150, "y": 100, "turn": 0, "mirrored": mirrored})
        sheets = [{"stock": "ply", "width": 600, "height": 400}]
        joint = splice("left", "right", "right", "left", size="20", depth="10")
        made = project(halves, [joint], [leaned()], layout={"sheets": sheets, "placements": lie})
        return evaluate(made).ledger[0]

    assert (row(False).above, row(False).below) == pytest.approx((-0.06, 0.06))
    assert (row(True).above, row(True).below) == pytest.approx((0, 0))


def slices_of(body, thickness):
    """The widths of a plate with one opening on its lower and its upper face: of itself and of the opening."""
    for z in (1e-6, thickness - 1e-6):
        outer, *inner = sorted((np.array(p) for p in body.slice(z).to_polygons()), key=lambda p: -np.ptp(p[:, 0]))
        yield np.ptp(outer[:, 0]), [np.ptp(one[:, 0]) for one in inner]


kerfs = st.floats(0.05, 0.4).map(lambda mm: round(mm, 3))


@settings(max_examples=tried(20), deadline=None)
@given(kerfs, kerfs, st.sampled_from(["the upper face", "the middle", "the lower face"]))
def test_solids_whose_walls_lean_have_the_gaps_of_the_ledger(above, below, made_for):
    made = project(
        [part("base", 120, 80), part("fin", 60, 40)],
        [tab("fin", "bottom", "base", 30, 40)],
        [leaned(str(above), str(below), made_for)],
    )
    result = evaluate(made)
    row = next(row for row in result.ledger if row.insert_at is not None)
    base, fin = result.parts["base"], result.parts["fin"]
    under, over = slices_of(leaning(base), base.stock.thickness)
    # The tabs, half way down to their tips: the widest of both faces.
    cut = leaning(fin).trim_by_plane((0, -1, 0), -1.5)
    tabs = [
        max(np.ptp(np.array(p)[:, 0]) for p in cut.slice(z).to_polygons()) for z in (1e-6, fin.stock.thickness - 1e-6)
    ]
    for slots, wider in ((over[1], row.above), (under[1], row.below)):
        assert min(slots) - max(tabs) == pytest.approx(row.opening - row.insert + wider, abs=1e-4)
    outside = [under[0], over[0]]
    for width, walls in zip(outside, (base.stock.walls.below, base.stock.walls.above), strict=True):
        assert width == pytest.approx(120 - walls, abs=1e-6)


def test_the_file_is_swept_on_both_faces_and_gives_the_gaps_of_the_ledger():
    below = leaned(below="0.20").below
    bare = demo().model_copy(update={"machine": ""})
    tray = laid_out(
        bare.model_copy(update={"stocks": [one.model_copy(update={"below": below}) for one in bare.stocks]})
    )
    result = evaluate(tray)
    faces = {face: [] for face in FACES}
    for index in range(len(tray.layout.sheets)):
        file = written(tray, result, prepare(tray, result, index), "dxf", HandOver())
        assert not file.proof.faults
        for face, came_free in file.proof.faces.items():
            faces[face] += came_free
    rows = [row for row in result.ledger if row.leaning]
    assert len(rows) > 10
    for row in rows:
        assert proved_on_faces(row, faces, lying(tray.layout.placements)) == pytest.approx(
            (row.gap + row.above, row.gap + row.below), abs=0.004
        )


def test_what_goes_in_by_the_middle_and_not_on_its_tighter_face_is_told_from_both_sides():
    def codes(below, **more):
        return {one.code for one in evaluate(box_corner(leaned("0.16", below, glue="0.05", **more))).findings}

    # Either part leans by a quarter of 0.05: together half of it, on the tighter face.
    assert "walls-too-tight" not in codes("0.209")
    assert "walls-too-tight" in codes("0.211")
    assert "walls-too-tight" not in codes("0.3", made_for="the upper face")


@pytest.mark.parametrize(("thick", "below", "told"), [("5", "0.33", False), ("5", "0.34", True), ("4.9", "0.5", False)])
def test_walls_that_lean_far_in_a_thick_sheet_are_noted(thick, below, told):
    # tan 1° of 5 mm is 0.0873 a side: 0.16 + 2 x 0.0873 = 0.3346.
    found = evaluate(project([part("base", 50, 50)], stocks=[leaned("0.16", below, readings=(thick,))])).findings
    assert ("walls-lean" in {one.code for one in found}) == told


def test_the_dry_fit_sees_what_is_too_tight_on_one_face_and_not_what_a_press_fit_promises():
    def found(glue, below):
        made = box_corner(leaned("0.16", below, glue=glue))
        result = evaluate(made)
        return all_clashes(result, assemble(made, result))

    assert not found("0.1", "0.20")
    assert [clash.promised for clash in found("0.02", "0.40")] == [False]
    assert all(clash.promised for clash in found("-0.05", "0.20"))
    assert found("-0.05", "0.20")


def test_a_web_that_only_the_wider_face_takes_away_is_told_by_the_proof():
    def faults(below):
        holes = [{"kind": "rectangle", "width": "20", "height": "20"}] * 2
        cuts = [{"id": f"h{at}", "hole": hole, "x": str(30 + 20.4 * at), "y": "30"} for at, hole in enumerate(holes)]
        plate = part("plate", 100, 60, cutouts=cuts)
        made = project([plate], stocks=[leaned("0.16", below, "the upper face", smallest_web="0.2")])
        made = laid_out(made)
        file = written(made, evaluate(made), prepare(made, evaluate(made), 0), "dxf", HandOver())
        return [fault.text for fault in file.proof.faults]

    # The web of 0.4 mm loses on its lower face by how much the cut is wider there.
    assert not faults("0.5")
    assert faults("0.6") == ["On the lower face: Plate 1 has 1 cut-outs of 2"]
