"""The kernel against shapely at high resolution, whatever the shapes."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.geometry.biarc import arcs_along, bezier, ellipse
from leannotch_core.geometry.boolean import intersect, subtract, union
from leannotch_core.geometry.chords import as_line
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.offset import grow
from leannotch_core.geometry.segment import Arc, Line, Motion, Source
from leannotch_core.parts.shapes.rectangle import rectangle
from leannotch_core.parts.shapes.round_hole import round_hole
from shapely import LineString

from ...judges.shapes import arcs, area, check_closed, differ, judge, outlines, sources

SOURCE = Source("test", "side")

#: Chords of 0.0002 mm on up to 80 mm of arc: what the judge itself may be off by, in mm².
JUDGE_ERROR = 0.03


@given(outlines("a"), outlines("b"))
def test_booleans_agree_with_the_judge_and_with_each_other(a, b):
    both, either, rest = intersect([a], [b]), union([a], [b]), subtract([a], [b])
    assert area(either) + area(both) == pytest.approx(a.area + b.area, abs=1e-4)
    assert area(rest) == pytest.approx(a.area - area(both), abs=1e-4)
    for region, by_judge in (
        (both, judge([a]).intersection(judge([b]))),
        (either, judge([a]).union(judge([b]))),
        (rest, judge([a]).difference(judge([b]))),
    ):
        check_closed(region)
        assert differ(judge(region), by_judge) < JUDGE_ERROR


@given(outlines("a"), outlines("b"))
def test_a_boolean_leaves_every_arc_on_its_own_circle_and_every_source_known(a, b):
    circles = {(round(s.centre.real, 5), round(s.centre.imag, 5), round(s.radius, 5)) for s in arcs([a, b])}
    region = union([a], [b])
    for arc in arcs(region):
        assert (round(arc.centre.real, 5), round(arc.centre.imag, 5), round(arc.radius, 5)) in circles
    assert sources(region) <= sources([a, b])
    # A chord in place of an arc would be a short line between two points of one circle.
    lines = [s for o in region for loop in o.loops for s in loop if isinstance(s, Line)]
    drawn = {s.source for o in (a, b) for loop in o.loops for s in loop if isinstance(s, Line)}
    assert {line.source for line in lines} <= drawn


@given(outlines("a"), st.sampled_from([0.08, 0.5, 1.5, -0.08, -0.4, -1.0]), st.sampled_from(["sharp", "round"]))
def test_offset_agrees_with_shapelys_buffer(a, distance, corner):
    grown = grow([a], distance, corner)
    check_closed(grown)
    join = {"sharp": "mitre", "round": "round"}[corner]
    by_judge = judge([a]).buffer(distance, join_style=join, mitre_limit=10, quad_segs=256)
    assert differ(judge(grown), by_judge) < JUDGE_ERROR


@given(outlines("a"), outlines("b"), st.sampled_from([0.05, 0.3]))
def test_growing_and_shrinking_a_cut_part_returns_it_where_no_corner_is_inward(a, b, distance):
    region = subtract([a], [b])
    again = grow(grow(region, distance), -distance)
    # What comes back holds all of the part; only slits and inward corners may fill up.
    assert judge(region).difference(judge(again).buffer(1e-3)).area < JUDGE_ERROR


def test_twins_and_touching_shapes_give_named_answers():
    square = Outline(rectangle("square", 10, 10))
    beside = Outline(rectangle("beside", 10, 10).moved(Motion(shift=10)))
    at_corner = Outline(rectangle("corner", 10, 10).moved(Motion(shift=10 + 10j)))
    inside = Outline(round_hole("hole", 10).moved(Motion(shift=5 + 5j)))
    assert area(union([square], [square])) == 100
    assert subtract([square], [square]) == []
    assert len(union([square], [beside])) == 1 and area(union([square], [beside])) == 200
    assert len(union([square], [at_corner])) == 2
    # A circle that touches all four sides leaves four corners.
    assert len(subtract([square], [inside])) == 4
    assert area(subtract([square], [inside])) == pytest.approx(100 - 25 * math.pi)


def test_a_cut_through_an_edge_leaves_both_halves_with_its_source():
    wall = Outline(rectangle("wall", 100, 40))
    hole = Outline(round_hole("hole", 20).moved(Motion(shift=50 + 40j)))
    cut = subtract([wall], [hole])[0].moved(Motion(turn=1j, mirrored=True))
    halves = [s for s in cut.outer if s.source == Source("wall", "top")]
    assert sorted(round(s.length, 9) for s in halves) == [40, 40]
    assert [s.source for s in cut.outer if isinstance(s, Arc)] == [Source("hole", "wall")]


@pytest.mark.parametrize("corner", ["sharp", "round"])
def test_kerf_compensation_of_square_circle_and_slot(corner):
    """Against shapely's buffer at high resolution; the areas also by hand."""
    kerf = 0.16
    square = grow([Outline(rectangle("s", 10, 10))], kerf / 2, "sharp")[0]
    assert square.bounds == pytest.approx((-0.08, -0.08, 10.08, 10.08), abs=1e-9)
    assert square.area == pytest.approx(10.16**2, abs=1e-9)
    circle = grow([Outline(round_hole("c", 10))], kerf / 2, corner)[0]
    assert circle.outer.circle() == pytest.approx((0, 5.08))
    plate = subtract([Outline(rectangle("p", 40, 20))], [Outline(rectangle("slot", 3.17, 12, base=10 - 1j))])
    cut = grow(plate, kerf / 2, corner)[0]
    by_judge = judge(plate).buffer(kerf / 2, join_style={"sharp": "mitre", "round": "round"}[corner], quad_segs=256)
    assert differ(judge([cut]), by_judge) < 1e-4
    walls = sorted(s.start.real for s in cut.outer if isinstance(s, Line) and s.source.side in ("left", "right"))
    assert any(abs(b - a - (3.17 - kerf)) < 1e-9 for a in walls for b in walls)


@pytest.mark.parametrize(
    ("curve", "begin", "end"),
    [
        (bezier(0, 10 + 30j, 40 - 20j, 50 + 5j), 0, 1),
        (bezier(0, 0, 20j, 20 + 20j), 0, 1),
        (ellipse(0, 30, 12j), 0.0, 2 * math.pi),
    ],
)
@pytest.mark.parametrize("tolerance", [0.05, 0.005])
def test_curves_become_tangent_arcs_within_the_tolerance(curve, begin, end, tolerance):
    found = arcs_along(curve, begin, end, SOURCE, tolerance)
    for before, after in pairwise(found):
        assert abs(before.end - after.start) < 1e-9
        assert abs(before.end_tangent - after.start_tangent) < 1e-4
    exact = [curve(begin + (end - begin) * i / 4000)[0] for i in range(4001)]
    fitted = as_line(tuple(found), 1e-5)
    assert fitted.hausdorff_distance(LineString([(p.real, p.imag) for p in exact])) < tolerance * 1.3
    # Straight lines within the same tolerance: Douglas and Peucker's, by shapely, need several times as many.
    lines = len(LineString([(p.real, p.imag) for p in exact]).simplify(tolerance).coords) - 1
    assert len(found) * (4 if tolerance < 0.01 else 1.5) < lines
