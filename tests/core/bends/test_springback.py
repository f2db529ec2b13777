"""Angles to set for those that are to come out, and the radius that a die gives where none was measured."""

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.document.bend import Bending
from leannotch_core.document.hand_over import HandOver
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.bending import bending_facts
from leannotch_core.handover.setup_sheet import write_setup_sheet
from leannotch_core.machining.prepared import prepare
from pypdf import PdfReader

from ...shipped import laid_out, projects


def bent(*pairs, material="aluminium", **more):
    springs = [{"put": str(put), "got": str(got)} for put, got in pairs]
    return bending_facts(Bending.model_validate({"springs": springs, **more}), 2.0, material)


def test_by_hand_a_square_bend_that_came_out_at_87_is_set_to_more():
    # K = 87/90 = 0.9667, and 90/0.9667 = 93.10.
    assert bent((90, 87)).put(90) == pytest.approx(93.103, abs=1e-3)
    assert bent((90, 87)).put(45) == pytest.approx(46.552, abs=1e-3)


def test_the_factor_of_a_handbook_s_example_gives_its_angle_back():
    """Sheet steel of 0.0359 in bent to 0.5 in springs back to 0.531 in (Kalpakjian and Schmid, from memory).

    The factor K = (2 Ri/t + 1) / (2 Rf/t + 1) is also that of the angles: 90 set comes out as 90 K.
    """
    factor = (2 * 0.5 / 0.0359 + 1) / (2 * 0.531 / 0.0359 + 1)
    assert factor == pytest.approx(0.944, abs=1e-3)
    facts = bent((90, round(90 * factor, 3)))
    assert facts.put(90 * factor) == pytest.approx(90, abs=1e-3)
    assert facts.put(90) == pytest.approx(90 / 0.944, abs=0.05)


def test_between_two_angles_the_share_is_between_and_beyond_them_the_nearest():
    facts = bent((45, 44), (120, 114))
    shares = 44 / 45, 114 / 120
    assert facts.put(79) == pytest.approx(79 / (sum(shares) / 2))
    assert facts.put(20) == pytest.approx(20 / shares[0]) and facts.put(150) == pytest.approx(150 / shares[1])


@given(
    st.lists(
        st.tuples(st.integers(10, 160), st.floats(0.85, 1.0)), min_size=1, max_size=6, unique_by=lambda one: one[0]
    )
)
def test_what_was_measured_comes_out_again_whatever_it_was(measured):
    pairs = [(put, round(put * share, 3)) for put, share in measured]
    if len({got for _, got in pairs}) == len(pairs):
        facts = bent(*pairs)
        assert all(facts.put(got) == pytest.approx(put, abs=1e-6) for put, got in pairs)


@pytest.mark.parametrize(("got", "good"), [(60, True), (59.9, False), (110, True), (110.1, False)])
def test_what_no_sheet_does_is_left_out_and_told_from_both_sides(got, good):
    facts = bent((100, got), (90, 87))
    assert facts.misread == (() if good else ((got, 100.0),))
    assert len(facts.springs) == (2 if good else 1)
    rest = projects()["tide_gauge_rest"]
    springs = [{"put": "100", "got": str(got)}]
    bending = rest.stocks[0].bending.model_validate({**rest.stocks[0].bending.model_dump(), "springs": springs})
    made = rest.model_copy(update={"stocks": [rest.stocks[0].model_copy(update={"bending": bending})]})
    told = [one.text for one in evaluate(made).findings if one.code == "spring-misread"]
    assert bool(told) != good and evaluate(made).parts.keys() == evaluate(rest).parts.keys()


def test_the_radius_is_measured_else_by_the_die_else_the_thickness():
    assert bent().radius == 2.0 and not bent().by_die
    # 16 to 20 % of the opening are common practice.
    assert bent(die="16").radius == pytest.approx(2.56) and bent(die="16").by_die
    assert bent(die="16", material="other").radius == pytest.approx(2.88)
    assert bent(die="16", radius="1.5").radius == 1.5 and not bent(die="16", radius="1.5").by_die


def test_the_setup_sheet_has_the_angle_to_set_for_every_bend():
    made = next(one for name, one in projects().items() if "drip" in name)
    stock = made.stocks[0]
    sprung = stock.bending.model_validate({**stock.bending.model_dump(), "springs": [{"put": "90", "got": "88"}]})
    made = laid_out(made.model_copy(update={"stocks": [stock.model_copy(update={"bending": sprung})]}))
    ready = prepare(made, evaluate(made), 0)
    words = PdfReader(io.BytesIO(write_setup_sheet(ready, HandOver()))).pages[1].extract_text()
    wanted = {bend.bend.angle for part in evaluate(made).parts.values() for bend in part.bends}
    assert wanted and all(f"{angle * 90 / 88:.1f}°" in words for angle in wanted)
