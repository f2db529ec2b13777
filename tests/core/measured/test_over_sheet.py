"""A sheet that is not of one thickness: slots follow what their parts measure where they lie on it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.hand_over import HandOver
from leannotch_core.document.stock import ThicknessAt
from leannotch_core.edits.command import apply
from leannotch_core.edits.thickness import TakeThickness
from leannotch_core.evaluate import evaluate
from leannotch_core.handover.proved import written
from leannotch_core.layout.sheets import laid_parts
from leannotch_core.machining.prepared import prepare
from leannotch_core.measured.over_sheet import thickness_at, where_parts_lie
from leannotch_core.parts.part import OwnThickness

from ...projects import demo, part, project, stock, tab
from ...shipped import laid_out, on_router

CORNERS = [(0, 0), (1, 0), (0.5, 0.5), (0, 1), (1, 1)]


def over(*readings, places=CORNERS, **known):
    read = [ThicknessAt(x=x, y=y, reading=str(t)) for (x, y), t in zip(places, readings, strict=False)]
    return stock(**known).model_copy(update={"over": read})


read = st.lists(st.floats(2.8, 3.3).map(lambda mm: round(mm, 2)), min_size=5, max_size=5)
share = st.floats(0, 1)


@given(read, share, share)
def test_it_is_what_was_read_there_and_nowhere_beyond_what_was_read(readings, x, y):
    made = over(*readings)
    assert thickness_at(made, np.array(CORNERS)) == pytest.approx(readings)
    [here] = thickness_at(made, np.array([(x, y)]))
    assert min(readings) - 1e-9 <= here <= max(readings) + 1e-9


def test_by_hand_half_way_between_two_readings_it_is_their_mean_and_nearer_to_one_more_of_that():
    made = over(3.0, 3.2, places=[(0, 0.5), (1, 0.5)])
    assert thickness_at(made, np.array([(0.5, 0.5)]))[0] == pytest.approx(3.1)
    # A quarter of the way: weights of 16 and 16/9.
    assert thickness_at(made, np.array([(0.25, 0.5)]))[0] == pytest.approx((16 * 3.0 + 16 / 9 * 3.2) / (16 + 16 / 9))


def lying(made, *spots):
    sheets = [{"stock": "ply", "width": 600, "height": 400}]
    placements = [
        {"part": of, "copy_number": number, "sheet": 0, "x": x, "y": y, "turn": 0} for of, number, x, y in spots
    ]
    laid = [one.model_dump() for one in laid_parts(evaluate(made))]
    lies = {**made.layout.model_dump(), "sheets": sheets, "placements": placements, "laid": laid}
    return made.model_copy(update={"layout": made.layout.model_validate(lies)})


def base_and_fin(*stocks):
    parts = [part("base", 100, 80), part("fin", 60, 40, count=2)]
    return project(parts, [tab("fin", "bottom", "base", 20, 40)], stocks)


def test_a_slot_is_as_wide_as_its_part_is_thick_where_that_lies_and_the_ledger_says_so():
    # Thin on the left, thick on the right: the fins lie at the right edge, their base at the left.
    sheet = over(2.9, 3.2, 2.9, 3.2, places=[(0, 0), (1, 0), (0, 1), (1, 1)])
    made = lying(base_and_fin(sheet), ("base", 1, 10, 160), ("fin", 1, 535, 10), ("fin", 2, 535, 340))
    was = evaluate(made)
    where = {one.part: one for one in where_parts_lie(made, was, made.stocks[0])}
    assert where["fin"].mean > 3.15 and where["base"].mean < 2.96
    assert where["fin"].least <= where["fin"].mean <= where["fin"].most
    taken = apply(made, TakeThickness(do="take thickness", stock="ply"))
    now = evaluate(taken)
    own = float(taken.part("fin").thickness.size.text)
    assert own == pytest.approx(where["fin"].mean, abs=0.005)
    slot, before = (next(row for row in result.ledger if row.insert_at is None) for result in (now, was))
    assert slot.insert == own and slot.gap == pytest.approx(before.gap)
    assert slot.opening - before.opening == pytest.approx(own - was.stocks["ply"].thickness)
    assert now.parts["base"].stock.thickness == float(taken.part("base").thickness.size.text)
    # It lies as it was read: that its slots follow is no reason to lay it out anew.
    assert {one.part: one for one in taken.layout.laid} == {one.part: one for one in laid_parts(now)}
    # The stock itself is what it was, and so is all of it again.
    assert now.stocks == was.stocks
    again = apply(taken, TakeThickness(do="take thickness", stock="ply", mean=True))
    assert evaluate(again).ledger == was.ledger


def test_a_through_cut_goes_by_the_thickest_part_of_its_sheet():
    def through(thickness):
        made = on_router(project([part("plate", 100, 60)], stocks=[stock(readings=("3.0",))]))
        plate = made.parts[0].model_copy(update={"thickness": thickness and OwnThickness(stock="ply", size=thickness)})
        made = laid_out(made.model_copy(update={"parts": [plate]}))
        ready = prepare(made, evaluate(made), 0)
        assert not written(made, evaluate(made), ready, "nc", HandOver()).proof.faults
        return min(stroke.z for run in ready.runs for stroke in run.strokes)

    thin, thick = (through(plate) for plate in (None, stock(readings=("3.2",)).readings[0]))
    assert thick == pytest.approx(thin - 0.2)


def test_without_readings_or_before_it_is_laid_out_nothing_is_taken():
    for made in (lying(base_and_fin(stock()), ("base", 1, 10, 10)), base_and_fin(over(3, 3, 3, 3, 3))):
        assert not where_parts_lie(made, evaluate(made), made.stocks[0])
        with pytest.raises(CannotApply, match="read the sheet in several places"):
            apply(made, TakeThickness(do="take thickness", stock="ply"))


def test_a_thickness_that_is_none_is_told_and_the_mean_goes_on():
    none = OwnThickness(stock=demo().parts[0].stock, size="0")
    wrong = demo().parts[0].model_copy(update={"thickness": none})
    made = demo().model_copy(update={"parts": [wrong, *demo().parts[1:]]})
    found = [one for one in evaluate(made).findings if one.code == "size-unreadable"]
    assert [one.place.id for one in found] == [wrong.id] and "thickness of the part" in found[0].text
    assert wrong.id in evaluate(made).parts


def test_a_part_that_is_of_another_stock_since_is_as_thick_as_that():
    own = OwnThickness(stock="ply", size="3.2")
    plate = project([part("plate", 50, 50)], stocks=[stock(), stock("card", readings=("5",))])
    for of, thick in (("ply", 3.2), ("card", 5)):
        moved = plate.parts[0].model_copy(update={"thickness": own, "stock": of})
        found = evaluate(plate.model_copy(update={"parts": [moved]}))
        assert found.parts["plate"].stock.thickness == thick
