"""What a service takes and what it cannot make, each limit from both sides; the offers and prices are invented."""

import pytest
from leannotch_core.bureau.catalogue import Catalogue, OfferedThickness, catalogue
from leannotch_core.bureau.orders import progress
from leannotch_core.bureau.quote import GAP, Rule, SetBend, look, quote, rules
from leannotch_core.bureau.seen import seen
from leannotch_core.drawings.drawing import BrokenFile
from pydantic import ValidationError

from .test_bureau import ALUMINIUM, asked, codes, dxf, plate


def sheet(width, height, *more):
    """A rectangle with whatever is drawn in it."""

    def draw(space):
        space.add_lwpolyline(
            [(0, 0), (width, 0), (width, height), (0, height)], close=True, dxfattribs={"layer": "cut"}
        )
        for one in more:
            one(space)

    return seen(dxf(draw), "sheet.dxf")


LONG, SHORT = sorted((ALUMINIUM.width, ALUMINIUM.height), reverse=True)


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize(
    ("beyond", "told"), [((-0.1, -0.1), False), ((0.1, -200), True), ((-200, 0.1), True), ((-500, -0.1), False)]
)
def test_a_part_may_be_as_large_as_the_sheet_less_its_edges_either_way_round(beyond, told, turned):
    size = LONG - 2 * GAP + beyond[0], SHORT - 2 * GAP + beyond[1]
    files = sheet(*(size[::-1] if turned else size))
    found = codes(files)
    assert ("too-large" in found) == told
    if told:
        assert found["too-large"].stops and found["too-large"].part == 0
        assert f"the sheet is {ALUMINIUM.width:g} x {ALUMINIUM.height:g} mm" in found["too-large"].text


@pytest.mark.parametrize(("wide", "told"), [(-0.02, True), (0.02, False)])
def test_a_hole_and_a_slot_may_be_as_small_as_the_smallest(wide, told):
    size = ALUMINIUM.smallest_hole + wide
    for draw in (
        lambda space: space.add_circle((30, 30), size / 2, dxfattribs={"layer": "cut"}),
        lambda space: space.add_lwpolyline(
            [(20, 20), (20, 40), (20 + size, 40), (20 + size, 20)], close=True, dxfattribs={"layer": "cut"}
        ),
    ):
        found = codes(sheet(100, 60, draw))
        assert ("small-hole" in found) == told
        if told:
            rule = found["small-hole"]
            assert rule.stops and f"{size:.2f} mm across" in rule.text
            # Where it is, on the part.
            assert abs(complex(rule.x, rule.y) - (30 + 30j)) < 15


def bent_at(length):
    def fold(space):
        space.add_line((0, 40), (length, 40), dxfattribs={"layer": "bend-up"})

    return sheet(length, 120, fold)


@pytest.mark.parametrize(("more", "told"), [(-1, False), (1, True)])
def test_a_bend_may_be_as_long_as_the_press(more, told):
    offer = ALUMINIUM.model_copy(update={"bends": ALUMINIUM.bends.model_copy(update={"longest": 300.0})})
    files = bent_at(300 + more)
    wanted, _, _ = asked(files)
    looked = look(files, wanted, catalogue().stock("aluminium"), offer)
    found = {rule.code: rule for rule in rules(files, wanted, offer, looked)}
    assert ("long-bend" in found) == told
    if told:
        rule = found["long-bend"]
        assert "is 301 mm long; the press takes 300 mm" in rule.text and rule.stops
        assert (rule.x, rule.y) == (pytest.approx(150.5), pytest.approx(40, abs=0.5))


@pytest.mark.parametrize("count", [500, 501])
def test_a_drawing_with_more_of_a_part_than_there_may_be_is_refused_with_the_number(count):
    def draw(space):
        for at in range(count):
            x, y = 12 * (at % 25), 12 * (at // 25)
            space.add_lwpolyline([(x, y), (x + 9, y), (x + 9, y + 9), (x, y + 9)], close=True)

    if count > 500:
        with pytest.raises(BrokenFile, match="is there 501 times; a part has at most 500 copies"):
            seen(dxf(draw), "many.dxf")
    else:
        assert seen(dxf(draw), "many.dxf")[0].parts[0].count == 500


def test_what_stops_an_order_comes_first():
    files = seen(dxf(plate), "plate.dxf")
    wanted, offer, looked = asked(files, size_is_right=False)
    stops = [rule.stops for rule in rules(files, wanted, offer, looked)]
    assert stops == sorted(stops, reverse=True) and True in stops and False in stops
    assert not codes(files)["open-lines"].stops and not codes(files)["live-text"].stops
    assert codes(files, stock="", thickness=0)["no-stock"].stops


@pytest.mark.parametrize(("angle", "taken"), [(0, True), (170, True), (170.5, False), (-1, False)])
def test_a_bend_is_set_from_flat_to_as_far_as_a_press_goes(angle, taken):
    if taken:
        assert SetBend(id="b", angle=angle, up=True).angle == angle
    else:
        with pytest.raises(ValidationError):
            SetBend(id="b", angle=angle, up=True)


def test_an_offer_costs_nothing_for_what_it_names_no_price_of():
    """A finish that is only by area, and a sheet that is not bent."""
    plain = {"thickness": 2.0, "kerf": 0.2, "width": 1000, "height": 500, "smallest_hole": 1, "smallest_web": 1}
    offer = OfferedThickness.model_validate({**plain, "square_metre": 10, "metre": 1, "pierce": 0.1, "days": 0})
    assert (offer.bend, offer.bends) == (0, None)
    raw = {
        "name": "Invented", "says": "", "setting_up": 0, "breaks": [],
        "stocks": [{"id": "alu", "name": "Alu", "material": "aluminium", "finishes": ["dull"], "offers": [offer]}],
        "finishes": [{"id": "dull", "name": "Dull", "square_metre": 100}],
    }  # fmt: skip
    theirs = Catalogue.model_validate(raw)
    files = sheet(200, 100)
    wanted, _, _ = asked(files, stock="alu", thickness=2.0, finishes=["dull"])
    found = quote(wanted, offer, look(files, wanted, theirs.stock("alu"), offer), theirs)
    lines = {line.what: line.total for line in found.lines}
    # By hand: a part of 0.02 m² at 100; nothing for each part or hole of it, and no day more.
    assert lines["Dull"] == pytest.approx(2.0) and found.days == 0 and "Bends" not in lines
    for field, worst in (("thickness", 0), ("kerf", 0), ("smallest_hole", 0), ("days", -1)):
        with pytest.raises(ValidationError):
            OfferedThickness.model_validate(
                {**plain, "square_metre": 10, "metre": 1, "pierce": 0.1, "days": 0, field: worst}
            )


@pytest.mark.parametrize(("sets", "more"), [(1, 0), (49, 0), (50, 1), (99, 1), (100, 2)])
def test_each_fifty_sets_take_a_day_more(sets, more):
    files = sheet(200, 100)
    wanted, offer, looked = asked(files, sets=sets)
    assert quote(wanted, offer, looked, catalogue()).days == offer.days + more


@pytest.mark.parametrize(
    ("day", "told", "state"),
    [
        (3, [], "received"), (3, ["near"], "received"), (4, ["near"], "sent back"), (4, [], "being cut"),
        (8, [], "on its way"), (9, [], "delivered"), (9, ["near"], "sent back"), (30, [], "delivered"),
    ],
)  # fmt: skip
def test_where_an_order_is_on_a_day(day, told, state):
    """Ordered on day 3 with six days promised."""
    found = progress(
        3, day, 6, bent=False, finished=False, told=[Rule(code="not-bent", text=c, stops=False) for c in told]
    )
    assert (found.state, found.arrives) == (state, 9)


def test_of_many_reasons_three_are_told():
    told = [Rule(code="not-bent", text=f"Reason {n}.", stops=False) for n in range(5)]
    assert progress(0, 1, 6, bent=False, finished=False, told=told).why == "Reason 0. Reason 1. Reason 2."
