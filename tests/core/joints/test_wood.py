"""Joints of solid wood in dry and in damp air, by hand."""

import cmath
import math

import pytest
from leannotch_core.document.wood import Wood
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.moisture import wood_facts
from leannotch_core.joints.wood import across_grain

from ...projects import finger, part, project, stock, tab


def oak(**air):
    return {"species": "oak, commercial white", "cut_at": 50, "driest": 50, "dampest": 50} | air


def board(stock_id="board", **more):
    return stock(stock_id, material="solid wood", grain="along width", **more)


def told(document, code):
    return [finding for finding in evaluate(document).findings if finding.code == code]


@pytest.mark.parametrize(("driest", "dampest", "beyond"), [(30, 70, False), (28, 70, True), (30, 75, True)])
def test_beyond_what_the_coefficients_hold_for_is_told(driest, dampest, beyond):
    # 30 % gives 6.2 of moisture, 70 % 13.1; they hold from 6 to 14.
    air = oak(driest=driest, dampest=dampest)
    assert wood_facts(Wood.model_validate(air)).beyond is beyond
    document = project([part("plate", 60, 40, "board")], [], [board(wood=air)])
    assert bool(told(document, "wood-beyond")) is beyond


def test_across_its_grain_is_as_a_part_lies():
    def lying(turn, mirrored=False):
        made = {"part": "plate", "copy_number": 1, "sheet": 0, "x": 0, "y": 0, "turn": turn, "mirrored": mirrored}
        return project([part("plate", 9, 9)]).layout.model_validate({"placements": [made]}).placements[0]

    assert across_grain(False, "along width", None) == 1j
    assert across_grain(False, "along height", None) == 1
    assert across_grain(False, "along width", lying(90)) == pytest.approx(1)
    tilted = across_grain(False, "along width", lying(30))
    assert tilted == pytest.approx(cmath.rect(1, math.radians(60)))
    assert across_grain(False, "along width", lying(30, mirrored=True)) == pytest.approx(tilted.conjugate())
    # Where its grain is kept that runs along its width, however it lies.
    assert across_grain(True, "along height", lying(90)) == 1j


def corner(wood, floor_stock="board", **more):
    parts = [part("floor", 200, 300, "board", turns="grain"), part("wall", 300, 60, "board", turns="grain")]
    joint = finger("floor", "right", "wall", "bottom")
    return project(parts, [joint], [board(wood=wood, **more)])


def test_by_hand_a_floor_across_its_grain_pulls_at_a_wall_along_its_own():
    # 0.00365 x (12.0 - 9.27) = 0.995 % of 300 mm is 2.98, and the wall keeps its length.
    [finding] = told(corner(oak(dampest=65)), "wood-pulls")
    assert finding.place.id == corner(None).joints[0].id and "at 65 % humidity one is 2.98 mm longer" in finding.text
    assert not told(corner(oak()), "wood-pulls") and not told(corner(None), "wood-pulls")


def test_what_runs_the_same_way_moves_together():
    parts = [part("left", 60, 300, "board", turns="grain"), part("right", 60, 300, "board", turns="grain")]
    document = project(parts, [finger("left", "right", "right", "left")], [board(wood=oak(driest=30, dampest=70))])
    assert not told(document, "wood-pulls") and not told(document, "wood-binds")


def shelf(thickness, humidity, clearance, dry=50, tabs=1):
    """A shelf whose tab, across its own grain, goes through a slot along that of an upright."""
    stocks = [board(readings=(thickness,), glue=clearance, wood=oak(dampest=humidity, driest=dry))]
    parts = [part("upright", 200, 100, "board", turns="grain"), part("shelf", 60, 120, "board", turns="grain")]
    return project(parts, [tab("shelf", "left", "upright", 60, 50, width="40", tabs=tabs)], stocks)


@pytest.mark.parametrize(("clearance", "binds"), [("0.18", True), ("0.22", False)])
def test_by_hand_a_tab_across_its_grain_binds_in_damp_air(clearance, binds):
    # At 58 % the tab of 40 mm swells by 0.00365 x 1.32 x 40 = 0.19 mm in a slot that runs with the grain.
    assert bool(told(shelf("6", 58, clearance), "wood-binds")) is binds


def test_two_tabs_across_the_grain_pull_by_what_lies_between_their_outer_ends():
    # Tabs of 40 mm, 10 from the ends of 120: 100 mm between them, of which 0.49 % is 0.5 mm.
    [finding] = told(shelf("6", 58, "0.18", tabs=2), "wood-pulls")
    assert "one is 0.5 mm longer" in finding.text and "which leaves 0.18 mm" in finding.text


@pytest.mark.parametrize(("humidity", "opens"), [(49.5, False), (49, True)])
def test_a_joint_that_opens_wider_than_a_loose_fit_is_noted(humidity, opens):
    # From 50 to 49 % the tab of 40 mm shrinks by 0.022: 0.28 becomes 0.302, and a loose fit has 0.3.
    opened = told(shelf("6", 50, "0.28", dry=humidity), "wood-opens")
    assert bool(opened) is opens and all("looser than a loose fit" in one.text for one in opened)


@pytest.mark.parametrize(("room", "pulls"), [("0.5", True), ("1.2", False)])
def test_a_panel_in_its_groove_needs_as_much_room_as_it_swells_by(room, pulls):
    # A panel of 200 mm across its grain swells by 2 mm at 65 %, in a groove that runs with the grain; half at each end.
    panel = part("panel", 60, 200, "board", turns="grain")
    rail = part("rail", 300, 40, "board", turns="grain")
    line = {"part": "rail", "x": "40", "y": "20", "turn": "0"}
    groove = {"kind": "housing", "id": "groove", "a": {"part": "panel", "side": "left"}, "b": line}
    joint = groove | {"groove": "3", "room": room, "fit": "sliding"}
    document = project([panel, rail], [joint], [board(readings=("8",), wood=oak(dampest=65))])
    found = told(document, "wood-pulls")
    assert bool(found) is pulls
    assert all("one is 1.99 mm longer" in one.text and "leaves 1 mm" in one.text for one in found)


def test_what_is_no_solid_wood_any_more_keeps_its_size():
    ply = corner(oak(dampest=65)).stocks[0].model_copy(update={"material": "plywood"})
    document = corner(oak(dampest=65)).model_copy(update={"stocks": [ply]})
    assert not told(document, "wood-pulls")


@pytest.mark.parametrize(("wide", "pulls"), [(19, False), (21, True)])
def test_a_tenth_of_a_millimetre_is_borne_beside_what_the_fit_leaves(wide, pulls):
    """0.995 % of 19 mm is 0.189, of 21 mm 0.209; the glue fit leaves 0.1."""
    parts = [part("floor", 200, wide, "board", turns="grain"), part("wall", wide, 60, "board", turns="grain")]
    joint = finger("floor", "right", "wall", "bottom")
    document = project(parts, [joint], [board(wood=oak(dampest=65))])
    assert bool(told(document, "wood-pulls")) == pulls


def test_dry_air_pulls_as_damp_air_does():
    [finding] = told(corner(oak(driest=35)), "wood-pulls")
    assert "at 35 % humidity" in finding.text
