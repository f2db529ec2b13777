"""Numbers of the layout by hand: room for tabs, what lies as it does, and what of which sheet is kept."""

import pytest
import shapely
from leannotch_core.document.sheet import LaidSheet, Layout, Placement
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.bed import Item, Spot
from leannotch_core.layout.offcuts import offcuts
from leannotch_core.layout.rest import largest_rest
from leannotch_core.layout.spacing import room_for_tabs

from ...projects import part, project, stock


def test_beside_a_part_on_tabs_there_is_room_for_a_web_between_two_grooves():
    assert room_for_tabs(6.35, 3) == pytest.approx((9.35, 15.7))


def test_an_item_lies_face_up_unless_it_is_turned_over():
    wedge = Item("wedge", 1, shapely.Polygon([(0, 0), (30, 0), (0, 10)]), (0.0,))
    assert Spot(wedge, 5, 7, 0).polygon().bounds == (5, 7, 35, 17)
    assert Spot(wedge, 5, 7, 90).polygon().bounds == pytest.approx((-5, 7, 5, 37))
    # About x: what pointed up points down.
    assert Spot(wedge, 5, 7, 0, mirrored=True).polygon().bounds == (5, -3, 35, 7)


def test_what_is_kept_of_a_sheet_is_what_the_parts_on_it_leave():
    """100 x 80 of 400 x 200 on the second sheet; the first one, which others were on, is whole."""
    sheets = [LaidSheet(stock="ply", width=400, height=200)] * 2
    lying = [Placement(part="plate", copy_number=1, sheet=1, x=0, y=0, turn=0)]
    document = project(
        [part("plate", 100, 80)],
        stocks=[stock()],
        layout=Layout(margin="0", gap="0", sheets=sheets, placements=lying),
    )
    result = evaluate(document)
    (whole,), (left, *_) = offcuts(document, result, 0), offcuts(document, result, 1)
    # Its edge is drawn half a millimetre within what is left.
    assert whole.area == pytest.approx(399 * 199)
    assert left.area == pytest.approx(400 * 200 - 100 * 80, rel=0.03)


def test_the_largest_rest_reaches_to_the_edges_and_to_what_lies_there():
    left = largest_rest(200, 100, [shapely.box(0, 0, 60, 100)], 2)
    assert (left.left, left.bottom, left.width, left.height) == pytest.approx((62, 0, 138, 100), abs=0.01)
    above = largest_rest(200, 100, [shapely.box(0, 0, 200, 30), shapely.box(150, 30, 200, 100)], 0)
    assert (above.left, above.bottom, above.width, above.height) == pytest.approx((0, 30, 150, 70), abs=0.01)
