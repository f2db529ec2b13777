"""What is taken over of readings: the kerf of either face, and nothing that they do not tell."""

import pytest
from leannotch_core.document.edit import CannotApply
from leannotch_core.edits.command import apply
from leannotch_core.edits.measured import MeasureParts, TakeKerf
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.stock import facts
from leannotch_core.measured.gaps import measured_gaps

from ...projects import part, project, stock, tab


def cut_and_read(wide_above, wide_below, faces=("top", "bottom"), **known):
    """A part and its fin, cut this much wider than 0.16 on either face, and read to a hundredth."""
    hole = {"kind": "rectangle", "width": "40", "height": "20"}
    plate = part("plate", 160, 120, cutouts=[{"id": "hole", "hole": hole, "x": "40", "y": "70"}])
    made = project([plate, part("fin", 80, 40)], [tab("fin", "bottom", "plate", 30, 30)], [stock(**known)])
    kerf = facts(made.stocks[0]).kerf
    lengths = [("plate", "", "across", 160), ("plate", "", "up", 120), ("plate", "hole", "across", 40)]
    lengths += [("plate", "hole", "up", 20), ("fin", "", "across", 80)]
    readings = [
        {"part": of, "cut_out": cut, "way": way, "face": face, "reading": f"{size + (1 if cut else -1) * wider:.2f}"}
        for face, wider in (("top", wide_above - kerf), ("bottom", wide_below - kerf))
        if face in faces
        for of, cut, way, size in lengths
    ]
    return apply(made, MeasureParts(do="measure parts", id="first", date="2026-11-03", readings=readings))


def taken(made):
    return apply(made, TakeKerf(do="take measured kerf", id="first"))


def test_both_faces_are_taken_where_both_were_read_and_the_ledger_has_both():
    made = cut_and_read(0.20, 0.28)
    known = taken(made).stocks[0]
    assert float(known.kerf.width.text) == pytest.approx(0.20, abs=0.01)
    assert float(known.below.width.text) == pytest.approx(0.28, abs=0.02)
    assert known.history[-1].kerf == float(known.kerf.width.text)
    assert known.history[-1].below == float(known.below.width.text)
    row = next(at for at, row in enumerate(evaluate(made).ledger) if row.insert_at)
    gap = evaluate(made).ledger[row].gap
    # The slot gained 0.04 above and 0.12 below; its tab is held by the face that lost least, 0.04.
    assert measured_gaps(made, evaluate(made))[row] == pytest.approx((gap + 0.08, gap + 0.16), abs=0.02)
    after = evaluate(taken(made)).ledger[row]
    assert after.below - after.above == pytest.approx(0.08, abs=0.02)


def test_a_taper_that_was_known_stays_where_only_one_face_was_read_and_goes_where_it_is_told_that_there_is_none():
    known = {"kerf": "0.16", "below": {"how": "typed", "width": "0.22"}, "made_for": "the upper face"}
    above = taken(cut_and_read(0.20, 0.26, faces=("top",), **known)).stocks[0]
    assert float(above.below.width.text) - float(above.kerf.width.text) == pytest.approx(0.06, abs=1e-9)
    straight = taken(cut_and_read(0.20, 0.20, **known)).stocks[0]
    assert straight.below is None
    assert taken(cut_and_read(0.20, 0.20, faces=("top",))).stocks[0].below is None


def test_a_cut_that_is_wider_along_y_is_taken_by_direction_and_stays_where_later_readings_do_not_tell():
    sizes = {("plate", "", "across"): 160, ("plate", "", "up"): 120, ("plate", "hole", "across"): 40,
             ("plate", "hole", "up"): 20, ("fin", "", "across"): 80}  # fmt: skip
    made = cut_and_read(0.20, 0.20, faces=("top",))
    readings = [
        {"part": of, "cut_out": cut, "way": way, "reading": f"{size + (1 if cut else -1) * wider:.2f}"}
        for (of, cut, way), size in sizes.items()
        for wider in [0.00 if way == "across" else 0.10]
        for _ in range(6)
    ]
    made = apply(made, MeasureParts(do="measure parts", id="first", date="2026-11-03", readings=readings))
    known = taken(made).stocks[0]
    across, up = float(known.kerf.width.text), float(known.up.width.text)
    assert (across, up) == pytest.approx((0.16, 0.26), abs=0.03) and facts(known).oval == pytest.approx(up - across)
    after = taken(made)
    few = [one for one in readings[:2]]
    again = apply(after, MeasureParts(do="measure parts", id="second", date="2026-11-04", readings=few))
    assert again.measured[-1].oval == pytest.approx(facts(known).oval)


def test_a_kerf_that_would_leave_nothing_one_way_is_not_taken():
    made = cut_and_read(0.05, 0.05, faces=("top",), kerf="0.1", up={"how": "typed", "width": "0.22"})
    with pytest.raises(CannotApply, match="leaves nothing one way"):
        taken(made)
