"""A kerf belongs to the speed and power that it was measured at: between two it is reckoned, beyond them it is told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.coupons.learning import with_results
from leannotch_core.document.setting import CutAt, Setting
from leannotch_core.document.stock import PlugKerf, TypedKerf
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.kerf import measured_kerfs
from leannotch_core.facts.stock import facts
from numpy import interp

from ...projects import part, project, stock

LASER = {"id": "laser", "name": "Test laser"}


def set_to(known, speed, power=70.0, passes=1):
    """The stock as it is cut from now on."""
    on = known.known("laser").model_copy(
        update={"settings": [Setting(operation="cut", speed=speed, power=power, passes=passes)]}
    )
    return known.model_copy(update={"on": [on]})


def measured(*cuts):
    """A stock of which a kerf was measured at each (speed, kerf) in turn."""
    known = stock().with_known("laser", clearances=stock().clearances)
    for at, (speed, kerf) in enumerate(cuts):
        known = with_results(set_to(known, speed), f"2026-11-{at + 1:02}", "laser", [], kerf=TypedKerf(width=f"{kerf}"))
    return known


def told(known):
    made = project([part("plate", 50, 50)], stocks=[known], machines=[LASER], machine="laser")
    return {one.code: one.text for one in evaluate(made).findings}


def test_by_hand_half_way_between_two_doses_the_kerf_is_half_way():
    known = measured((20, 0.16), (10, 0.20))
    # 70 % at 20 mm/s is a dose of 3.5, at 10 of 7; 5.25 is that of 13.333 mm/s.
    now = set_to(known, 70 / 5.25)
    assert facts(now, "laser").kerf == pytest.approx(0.18)
    assert "0.16 mm at 20 mm/s, 70 % and 0.2 mm at 10 mm/s, 70 %" in told(now)["kerf-reckoned"]


@pytest.mark.parametrize(("speed", "kerf"), [(25, 0.16), (20.001, 0.16), (9.999, 0.20), (5, 0.20)])
def test_beyond_what_was_measured_the_nearest_is_taken_and_that_is_told(speed, kerf):
    now = set_to(measured((20, 0.16), (10, 0.20)), speed)
    assert facts(now, "laser").kerf == kerf
    assert "nor beyond it" in told(now)["kerf-beyond"]


@pytest.mark.parametrize("speed", [20, 10])
def test_at_what_was_measured_nothing_is_told_whichever_was_the_last(speed):
    now = set_to(measured((20, 0.16), (10, 0.20)), speed)
    assert facts(now, "laser").kerf == {20: 0.16, 10: 0.20}[speed]
    assert not told(now).keys() & {"kerf-reckoned", "kerf-beyond"}


def test_a_kerf_measured_again_at_the_same_settings_takes_the_place_of_the_first():
    known = measured((20, 0.16), (10, 0.20), (20, 0.17))
    assert facts(set_to(known, 20), "laser").kerf == 0.17
    assert [one.at for one in known.known("laser").kerfs] == [CutAt(speed=10, power=70)]


def test_power_and_passes_count_as_speed_does():
    known = measured((20, 0.16), (10, 0.20))
    assert facts(set_to(known, 20, power=35, passes=3), "laser").kerf == pytest.approx(0.18)


def test_a_kerf_of_which_nobody_said_at_what_it_was_measured_holds_everywhere():
    known = set_to(stock().with_known("laser", clearances=stock().clearances), 20)
    assert facts(known, "laser").kerf == 0.16
    assert not told(known).keys() & {"kerf-reckoned", "kerf-beyond"}


speeds = st.lists(st.integers(5, 60), min_size=2, max_size=5, unique=True)


@given(speeds, st.integers(5, 60))
def test_it_is_what_numpy_reads_off_the_line_through_all_that_was_measured(cuts, speed):
    kerfs = [round(0.1 + at * 0.013, 4) for at in range(len(cuts))]
    doses = sorted((70 / one, kerf) for one, kerf in zip(cuts, kerfs, strict=True))
    known = set_to(measured(*zip(cuts, kerfs, strict=True)), speed)
    assert facts(known, "laser").kerf == pytest.approx(interp(70 / speed, *zip(*doses, strict=True)), abs=1e-9)


def test_a_kerf_that_could_not_be_read_says_nothing_at_other_settings():
    known = set_to(stock().with_known("laser", clearances=stock().clearances), 20)
    wrong = known.with_known("laser", kerf=PlugKerf(hole="19", plug="20"))
    right = set_to(wrong, 10).with_known("laser", kerf=TypedKerf(width="0.2"))
    assert [one.cut.above for one in measured_kerfs(right.known("laser"))] == [0.2]
    assert facts(set_to(right, 15), "laser").kerf == 0.2 and "nor beyond it" in told(set_to(right, 15))["kerf-beyond"]
