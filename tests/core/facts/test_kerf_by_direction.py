"""Kerfs along x and along y: when readings of both tell that they are two."""

import pytest
from leannotch_core.document.stock import PlugKerf, StripKerf, TypedKerf
from leannotch_core.edits.command import apply
from leannotch_core.edits.machine import SetKnown
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.kerf import HAND, unsure
from leannotch_core.facts.stock import facts

from ...projects import part, project, stock


def typed(width):
    return {"how": "typed", "width": width}


def plug(hole, square):
    return {"how": "plug", "hole": hole, "plug": square}


def codes(known):
    document = project([part("plate", 90, 60)], [], [known])
    return {finding.code: finding.text for finding in evaluate(document).findings}


@pytest.mark.parametrize(("wider", "told"), [(0.03, False), (0.05, True)])
def test_readings_of_both_ways_count_once_they_are_further_apart_than_they_scatter(wider, told):
    # Half the difference of two readings that scatter by 0.02 does by 0.014; the difference of two such by 0.02.
    known = stock(kerf=plug("20.14", "19.86"), up=plug(f"{20.14 + wider}", f"{19.86 - wider}"))
    found = facts(known)
    assert (found.kerf, found.oval) == pytest.approx((0.14 + wider / 2, wider if told else 0))
    assert ("kerf-even" in codes(known)) is not told


def test_what_was_typed_counts_as_it_stands_until_it_is_cut_evenly_again():
    document = project([part("plate", 90, 60)], [], [stock(kerf="0.16")])
    wide = apply(document, SetKnown.model_validate({"do": "set known", "stock": "ply", "up": typed("0.165")}))
    assert facts(wide.stocks[0]).oval == pytest.approx(0.005)
    even = apply(wide, SetKnown(do="set known", stock="ply", evenly=True))
    assert even == document


def test_by_hand_a_strip_is_surer_than_a_plug_and_what_was_typed_is_sure():
    # Eleven readings scatter by 0.02 each, and their sum is ten kerfs; two, and their difference is two.
    strip = StripKerf.model_validate({"how": "strip", "strip": "100", "pieces": ["9.8"] * 10})
    assert unsure(strip) == pytest.approx(0.02 * 11**0.5 / 10)
    assert unsure(PlugKerf.model_validate(plug("20.2", "19.8"))) == pytest.approx(0.02 * 2**0.5 / 2)
    assert unsure(TypedKerf.model_validate(typed("0.2"))) == 0 and HAND == 0.02


def test_between_settings_the_direction_is_reckoned_too():
    def at(speed):
        return {"speed": speed, "power": 50}

    known = {
        "machine": "laser", "kerf": typed("0.1"), "up": typed("0.2"), "at": at(10), "clearances": stock().clearances,
        "kerfs": [{"kerf": typed("0.2"), "at": at(5)}], "settings": [{"operation": "cut", **at(7.5)}],
    }  # fmt: skip
    found = facts(stock(on=[known]), "laser")
    # Doses of 5 and 10, and of 6.67 now: a third of the way, from 0.15 to 0.2, and from 0.1 wider to none.
    assert (found.kerf, found.oval) == pytest.approx((0.15 + 0.05 / 3, 0.1 * 2 / 3))


@pytest.mark.parametrize(("below", "sound"), [("0.06", True), ("0.04", False)])
def test_a_lower_face_that_would_leave_nothing_one_way_is_refused_with_its_numbers(below, sound):
    document = project([part("plate", 90, 60)], [], [stock(kerf="0.1", up=typed("0.2"), below=typed(below))])
    errors = [finding.text for finding in evaluate(document).errors]
    assert (not errors) is sound
    if not sound:
        assert "0.040 mm leaves nothing one way, where the cut is 0.100 mm wider" in errors[0]
