"""Which sheet comes next, what rides on a part, what is kept of a sheet, and rows, by hand."""

from types import SimpleNamespace

import pytest
import shapely
from leannotch_core.document.keep_out import SheetPoint
from leannotch_core.document.sheet import Barred, LaidSheet, Layout, Placement
from leannotch_core.document.sizes import Size
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.bed import Item, SheetToFill, Spot
from leannotch_core.layout.kinds import SheetKind
from leannotch_core.layout.offcuts import offcuts
from leannotch_core.layout.rows import in_rows
from leannotch_core.layout.spacing import spacing
from leannotch_core.layout.stack import Stack, filled, placements_of

from ...projects import part, project, stock
from ..machining.test_router import mill, routed


def kind(number, width, height, worth, at_hand=None):
    frame = (0.0, 0.0, float(width), float(height))
    return SheetKind(number, width, height, worth, at_hand, frame, (), float(width * height), SimpleNamespace())


def squares(count):
    return [Item("plate", number, shapely.box(0, 0, 99, 99), (0.0,)) for number in range(1, count + 1)]


def large(at_hand=None):
    return kind(0, 400, 300, 12, at_hand)


@pytest.mark.parametrize(
    ("kinds", "count", "used", "left"),
    [
        # Two fill the small one nearly: more is counted on at first, and what is last then lies on less.
        ([large(), kind(1, 200, 100, 3)], 1, [1], 0),
        ([large(), kind(1, 200, 100, 3)], 2, [1], 0),
        ([large(), kind(1, 200, 100, 3)], 12, [0], 0),
        ([large(), kind(1, 200, 100, 3)], 13, [0, 1], 0),
        ([large(), kind(1, 200, 100, 3, at_hand=0)], 1, [0], 0),
        ([large(at_hand=1)], 13, [0], 1),
        # Equally worth: the smaller. Where none is sure to hold all: what gives most room for its worth.
        ([kind(0, 400, 300, 3), kind(1, 200, 100, 3)], 1, [1], 0),
        ([large(), kind(1, 300, 300, 8)], 12, [1, 1], 0),
        ([large(), kind(1, 300, 300, 9)], 12, [0], 0),
        # What no sheet holds stays over.
        ([kind(0, 98.9, 300, 3)], 2, [], 2),
    ],
)
def test_the_cheapest_sheet_that_holds_all_is_taken_and_what_is_last_lies_on_less(kinds, count, used, left):
    stack = Stack("ply", kinds, {}, squares(count))
    filled(stack)
    assert ([ground.kind for ground in stack.grounds], len(stack.left_over)) == (used, left)


def test_what_rides_on_a_part_is_turned_and_moved_with_it():
    rider = Item("disc", 1, shapely.box(0, 0, 10, 5), (0.0,))
    host = Item("ring", 1, shapely.box(0, 0, 100, 100), (0.0,), riders=(Spot(rider, 30, 20, 350, mirrored=True),))
    ring, disc = placements_of(Spot(host, 200, 100, 90), 3)
    assert (ring.part, ring.sheet, ring.x, ring.y, ring.turn, ring.mirrored) == ("ring", 3, 200, 100, 90, False)
    # A quarter turn takes (30, 20) to (-20, 30).
    assert (disc.x, disc.y, disc.turn, disc.mirrored) == (pytest.approx(180), pytest.approx(130), 80, True)


def test_what_is_missing_of_a_sheet_is_not_kept_and_what_a_clip_holds_is():
    """By hand: 400 x 200 less a corner of 100 x 50, and a part of 100 x 80 with its margin of 3 and kerf of 0.16."""

    def kept(what, layout="0", outline=()):
        corners = [SheetPoint(x=x, y=y) for x, y in ((300, 150), (400, 150), (400, 200), (300, 200))]
        shape = [SheetPoint(x=x, y=y) for x, y in outline]
        sheet = LaidSheet(
            stock="ply", width=400, height=200, outline=shape, barred=[Barred(what=what, corners=corners)]
        )
        lying = [Placement(part="plate", copy_number=1, sheet=0, x=0, y=0, turn=0)]
        laid = Layout(margin=layout, gap="0", sheets=[sheet], placements=lying)
        document = project([part("plate", 100, 80)], layout=laid)
        return sum(offcut.area for offcut in offcuts(document, evaluate(document), 0))

    whole = 400 * 200 - 100.16 * 80.16
    assert kept("clip") == pytest.approx(whole, abs=0.5 * 1200)
    assert kept("clip") - kept("missing") == pytest.approx(100 * 50, abs=2)
    # Its middle lies on the sheet's corner at 0, 0, so a margin takes a strip along two of its sides.
    assert kept("clip") - kept("clip", "3") == pytest.approx(103.16 * 83.16 - 100.16 * 80.16, abs=15)
    assert kept("clip", outline=((0, 0), (400, 0), (0, 200))) < whole / 2


def test_right_angled_triangles_lie_in_rows_of_pairs_as_rectangles_do():
    wedges = [Item("wedge", n, shapely.Polygon([(0, 0), (40, 0), (0, 30)]), (0.0, 180.0)) for n in range(1, 240)]
    ground = SheetToFill(401, 301, 1, (0.0, 0.0, 401.0, 301.0))
    spots = in_rows(wedges, ground)
    # 10 x 10 rectangles of two each would fill it; one row may be lost where pairs do not begin at the edge.
    assert len(spots) >= 180
    shapes = [spot.polygon() for spot in spots]
    assert shapely.union_all(shapes).area == pytest.approx(len(spots) * 600, rel=1e-3)
    assert shapely.box(-1e-6, -1e-6, 401.001, 301.001).covers(shapely.union_all(shapes))
    # Where they may not be turned about, half of it stays free.
    alone = [Item("wedge", number, item.shape, (0.0,)) for number, item in enumerate(wedges)]
    assert 85 <= len(in_rows(alone, ground)) <= 115


def test_a_cutter_keeps_parts_its_own_width_from_the_edge_and_a_web_more_from_each_other():
    def near(margin, gap, **holding):
        document = routed([part("plate", 60, 40)], [mill(diameter="6")], holding or {"how": "none"})
        layout = document.layout.model_copy(update={"margin": Size(text=margin), "gap": Size(text=gap)})
        document = document.model_copy(update={"layout": layout})
        return spacing(document, evaluate(document))

    assert near("0", "0") == pytest.approx((6, 7))
    assert near("6.5", "6.9") == pytest.approx((6.5, 7))
    assert near("5.9", "7.1") == pytest.approx((6, 7.1))
    tabs = {"how": "by count", "count": 2, "width": "4", "height": "2"}
    assert near("0", "0", **tabs) == pytest.approx((7, 13))
    assert near("7.5", "13.5", **tabs) == pytest.approx((7.5, 13.5))
    beam = project([part("plate", 60, 40)], stocks=[stock()], layout=Layout(margin="1", gap="2"))
    assert spacing(beam, evaluate(beam)) == (1, 2)
