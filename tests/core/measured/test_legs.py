"""Legs of bent parts, measured outside: by how much K is another than was thought, told apart from the kerf."""

import math

import pytest
from leannotch_core.bends.allowance import Allowance
from leannotch_core.bends.legs import legs_of
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.machine import Lies
from leannotch_core.edits.command import apply
from leannotch_core.edits.measured import MeasureParts, Reading, TakeK, TakeKerf
from leannotch_core.evaluate import evaluate
from leannotch_core.measured.explained import explained, telling
from leannotch_core.measured.lengths import lengths_of, lengths_of_stock
from leannotch_core.measured.picked_up import picked_up

from ...shipped import projects

REST = projects()["tide_gauge_rest"]
STOCK = REST.parts[0].stock


def read(made, number, lies, asked=None):
    """The rest cut and bent as such a machine does, and its lengths that tell most read."""
    result = evaluate(made)
    asked = asked or telling(lengths_of_stock(made, result, STOCK))
    values = picked_up(lies, asked, result.stocks[STOCK].kerf, f"day_{number}")
    readings = [
        Reading(part=one.part, cut_out=one.cut_out, way=one.way, reading=f"{value:.2f}")
        for one, value in zip(asked, values, strict=True)
    ]
    return apply(
        made, MeasureParts(do="measure parts", id=f"day_{number}", date=f"2026-11-{number:02}", readings=readings)
    )


def test_each_leg_is_asked_for_once_and_as_long_as_it_is_outside():
    part = evaluate(REST).parts[REST.parts[0].id]
    legs = [one for one in lengths_of(part) if one.way in ("before", "onward")]
    all_of_them = legs_of(part.folded)
    between = [leg for leg in all_of_them if not leg.at_edge]
    assert len(legs) == len(all_of_them) - len(between) // 2
    assert {round(one.meant, 6) for one in legs} == {round(leg.outside, 6) for leg in all_of_them}
    assert {one.grows for one in legs} == {0.0, -0.5}
    assert any(one.way in ("before", "onward") for one in telling(lengths_of(part)))


def test_by_hand_a_larger_k_makes_the_legs_of_a_square_bend_short():
    part = evaluate(REST).parts[REST.parts[0].id]
    legs = [one for one in lengths_of(part) if one.way in ("before", "onward")]
    bend = next(one for one in part.bends if one.bend.angle == 90)
    ends = [one for one in legs if one.cut_out == bend.id and one.grows]
    # A square bend of 2 mm takes pi/2 x 2 mm more of the flat were K one more, half of it from either leg.
    assert ends and all(one.bent == pytest.approx(-math.pi / 2 * bend.bend.thickness / 2) for one in ends)


def test_after_two_rounds_a_bent_rest_has_the_legs_that_were_asked():
    lies = Lies(kerf=1.1, neutral=0.06)
    made = REST
    kerf = evaluate(made).stocks[STOCK].kerf
    lies = lies.model_copy(update={"kerf": kerf + 0.05})
    was = evaluate(made).stocks[STOCK].bending.own_k(2.0)
    for number in (1, 2):
        now = evaluate(made).stocks[STOCK].bending.own_k(evaluate(made).stocks[STOCK].thickness)
        # What is off is as much less as was taken over.
        made = read(made, number, lies.model_copy(update={"neutral": was + 0.06 - now}))
        made = apply(made, TakeKerf(do="take measured kerf", id=f"day_{number}"))
        made = apply(made, TakeK(do="take measured K", id=f"day_{number}"))
    facts = evaluate(made).stocks[STOCK]
    left = was + 0.06 - facts.bending.own_k(facts.thickness)
    assert abs(left) * math.pi / 2 * facts.thickness <= 0.03
    assert abs(facts.kerf - lies.kerf) <= 0.02


def test_outsides_alone_tell_nothing_of_k():
    asked = [one for one in lengths_of_stock(REST, evaluate(REST), STOCK) if one.way in ("across", "up")]
    made = read(REST, 1, Lies(kerf=0.2, neutral=0.2), asked)
    assert not explained(made.measured[-1]).of("K").known
    with pytest.raises(CannotApply, match="Measure legs of bent parts"):
        apply(made, TakeK(do="take measured K", id="day_1"))


def test_a_k_that_lies_outside_the_sheet_is_refused():
    stock = REST.stocks[0]
    bending = stock.bending.model_validate({**stock.bending.model_dump(), "neutral": {"how": "typed", "k": 0.04}})
    thin = REST.model_copy(update={"stocks": [stock.model_copy(update={"bending": bending})]})
    made = read(thin, 1, Lies(kerf=evaluate(thin).stocks[STOCK].kerf, neutral=-0.08))
    with pytest.raises(CannotApply, match="outside the sheet"):
        apply(made, TakeK(do="take measured K", id="day_1"))


def test_a_leg_grows_with_the_sheet_as_the_flat_pattern_of_a_thicker_one_says():
    # Bent of the same flat, what the deduction takes off a thicker sheet comes out at both legs.
    part = evaluate(REST).parts[REST.parts[0].id]
    bends = {one.id: one.bend for one in part.bends}
    ends = [one for one in lengths_of(part) if one.way in ("before", "onward") and one.grows == -0.5]
    for leg in ends:
        bend = bends[leg.cut_out]
        thin, thick = (
            Allowance(bend.angle, bend.radius, bend.k, one).deduction for one in (bend.thickness, bend.thickness + 0.01)
        )
        assert leg.through == pytest.approx((thick - thin) / 2 / 0.01, abs=1e-6)
    assert len(ends) >= 2
