"""Places on an edge stay where they were put; tabs of a router that meet are one. Sums by hand, and shapely."""

from itertools import pairwise

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.document.preparation import EdgePlace, Preparation
from leannotch_core.document.statement import IN_INCHES, IN_MILLIMETRES, statement
from leannotch_core.evaluate import evaluate
from leannotch_core.facts.cutters import NoCutter
from leannotch_core.geometry.loop import Loop
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.machining.edge import OnEdge, found, nearest, place_at, point_of
from leannotch_core.machining.edges import Edges
from leannotch_core.machining.routed.tabs import LiftedTabs, behind

from ...projects import part, project


def loop(corners, sides):
    """A closed line; ``sides`` names each of its segments."""
    ends = [*corners, corners[0]]
    return Loop(
        tuple(
            Line(complex(a), complex(b), Source("plate", side))
            for (a, b), side in zip(pairwise(ends), sides, strict=True)
        )
    )


#: 100 x 40, its bottom in three stretches with two notches of 10 x 5; the loop begins within that bottom.
NOTCHED = loop(
    [40, 60, 60 + 5j, 70 + 5j, 70, 100, 100 + 40j, 40j, 0, 30, 30 + 5j, 40 + 5j],
    ["bottom", "cut", "cut", "cut", "bottom", "right", "top", "left", "bottom", "cut", "cut", "cut"],
)
PLAIN = loop([0, 100, 100 + 40j, 40j], ["bottom", "right", "top", "left"])


@given(
    st.sampled_from([place for place, one in enumerate(NOTCHED.segments) if one.source.side == "bottom"]),
    st.floats(0, 1),
)
def test_a_place_on_a_side_in_pieces_is_where_it_was_put_and_stays_there_without_the_notches(segment, share):
    at = OnEdge(0, segment, share)
    place, point = place_at([NOTCHED], at), point_of([NOTCHED], at)
    assert point_of([NOTCHED], found([NOTCHED], place)) == pytest.approx(point, abs=1e-9)
    # By hand: as far along the whole side as it is from its beginning.
    assert place.share == pytest.approx(point.real / 100, abs=1e-9) and place.side == "bottom"
    assert point_of([PLAIN], found([PLAIN], place)) == pytest.approx(point.real, abs=1e-9)


@pytest.mark.parametrize(("share", "lies"), [(0.31, 30), (0.34, 30), (0.36, 40), (0.39, 40), (0.64, 60), (0.66, 70)])
def test_a_place_in_a_notch_that_was_cut_since_goes_to_its_nearer_corner(share, lies):
    place = EdgePlace(shape="plate", side="bottom", share=share)
    assert point_of([NOTCHED], found([NOTCHED], place)) == pytest.approx(lies)


def test_a_place_on_a_side_that_is_gone_is_nowhere_and_on_the_second_loop_it_is_there():
    hole = Loop(
        (
            Arc(12 + 20j, 8 + 20j, 10 + 20j, True, Source("eye", "edge")),
            Arc(8 + 20j, 12 + 20j, 10 + 20j, True, Source("eye", "edge")),
        )
    )
    place = EdgePlace(shape="eye", side="edge", share=0.25)
    assert found([PLAIN], place) is None
    at = found([PLAIN, hole], place)
    assert at.loop == 1 and abs(point_of([PLAIN, hole], at) - (10 + 20j)) == pytest.approx(2)


@given(st.floats(-30, 130), st.floats(-30, 70))
def test_the_nearest_place_is_nearest_by_the_judge(x, y):
    point = complex(x, y)
    at = nearest([PLAIN, NOTCHED], point)
    rings = [
        shapely.LinearRing([(one.start.real, one.start.imag) for one in line.segments]) for line in (PLAIN, NOTCHED)
    ]
    wanted = min(ring.distance(shapely.Point(x, y)) for ring in rings)
    assert abs(point_of([PLAIN, NOTCHED], at) - point) == pytest.approx(wanted, abs=1e-9)


@pytest.mark.parametrize("share", [0.0, 0.25, 0.5, 0.75, 1.0])
def test_a_cut_begins_where_it_was_put_and_is_the_whole_line_all_the_same(share):
    plate = evaluate(project([part("plate", 80, 40)])).parts["plate"]
    start = {"part": "plate", "at": {"shape": "plate", "side": "right", "share": share}}
    [outer] = Edges(Preparation.model_validate({"starts": [start]})).cut_lines(plate, plate.outline)
    assert outer.pinned and outer.closed
    assert outer.segments[0].start == pytest.approx(80 + 40j * share)
    assert outer.segments[-1].end == pytest.approx(outer.segments[0].start)
    assert sum(one.length for one in outer.segments) == pytest.approx(240)
    for one, following in pairwise(outer.segments):
        assert one.end == pytest.approx(following.start)
    # Without a start the beginning is free.
    [free] = Edges(Preparation()).cut_lines(plate, plate.outline)
    assert not free.pinned


# Tabs


def standing(*middles, lifted=6.0, sloping=False, plunges=True, top=-3.0):
    return LiftedTabs(tuple(middles), lifted, top, sloping, plunges, 10)


def spans(zones):
    return [(round(zone.start, 6), round(zone.end, 6)) for zone in zones]


def test_tabs_are_lifted_over_only_below_their_tops():
    assert standing(20).zones(-3, 100) == [] and standing(20).zones(-2, 100) == []
    assert spans(standing(20).zones(-3.01, 100)) == [(17, 23)]


@pytest.mark.parametrize(("apart", "zones"), [(5.9, [(17, 28.9)]), (6.1, [(17, 23), (23.1, 29.1)])])
def test_tabs_between_which_nothing_is_cut_are_one(apart, zones):
    assert spans(standing(20, 20 + apart).zones(-6, 100)) == zones


def test_sloping_ends_need_room_for_their_slopes():
    """By hand: 3 mm up at 45 degrees are 3 mm along, before and behind."""
    [zone] = standing(50, sloping=True).zones(-6, 100)
    assert (zone.start, zone.end, zone.up, zone.down) == (47, 53, pytest.approx(3), pytest.approx(3))
    assert len(standing(50, 61, sloping=True).zones(-6, 100)) == 1
    assert len(standing(50, 63, sloping=True).zones(-6, 100)) == 2
    # A cutter that must not plunge comes down to and fro behind it instead.
    [zone] = standing(50, sloping=True, plunges=False).zones(-6, 100)
    assert (zone.up, zone.down) == (pytest.approx(3), 0)


def test_a_tab_over_the_line_s_own_end_is_one_with_its_neighbour_there():
    assert spans(standing(99, 4).zones(-6, 100)) == [(96, 107)]
    # One alone at the end is one, and no neighbour of its own.
    assert spans(standing(99).zones(-6, 100)) == [(96, 102)]
    assert spans(standing(-1).zones(-6, 100)) == [(96, 102)]


def test_tabs_that_leave_nothing_to_cut_are_refused():
    with pytest.raises(NoCutter, match="stand so near each other that nothing is cut"):
        standing(0, 5, 10, 15, 20).zones(-6, 25)


def test_behind_a_tab_it_is_as_far_as_to_where_the_cutter_is_down():
    zones = standing(20, 60).zones(-6, 100)
    assert behind(zones, 18, 100) == pytest.approx(5) and behind(zones, 50, 100) == pytest.approx(13)
    assert behind(zones, 70, 100) == pytest.approx(53) and behind([], 5, 100) == 0


# What files say of themselves


def test_a_file_says_its_unit_and_who_makes_up_for_the_kerf():
    assert (
        statement(0.16, True)
        == f"{IN_MILLIMETRES} Kerf of 0.16 mm compensated in this file: cut on the line, no machine offset."
    )
    assert (
        statement(0.2, False, "in")
        == f"{IN_INCHES} Kerf not compensated in this file: offset by 0.1 mm at the machine."
    )
