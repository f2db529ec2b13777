"""Moves and what is measured: compositions by their points, middles and distances by shapely."""

import cmath
import math

import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from leannotch_core.geometry.beam import Round
from leannotch_core.geometry.chords import as_line, as_polygon
from leannotch_core.geometry.measure import centroid, distance, gap, nearest
from leannotch_core.geometry.segment import Arc, Line, Motion, move

from ...judges.shapes import outlines
from ...properties import tried
from .test_curves import SOURCE, arc, points, segments

motions = st.builds(
    lambda angle, shift, mirrored: Motion(cmath.rect(1, math.radians(angle)), shift, mirrored),
    st.integers(0, 359),
    points,
    st.booleans(),
)


@given(motions, motions, points)
def test_a_move_after_another_takes_points_where_both_do(first, second, point):
    assert first.then(second)(point) == pytest.approx(second(first(point)), abs=1e-9)
    assert first.back(first(point)) == pytest.approx(point, abs=1e-9)
    # Distances stay.
    assert abs(first(point) - first(0)) == pytest.approx(abs(point), abs=1e-9)


@pytest.mark.parametrize("angle", [0, 30, 89.5, 90, 100, 135, 180, 269, 270, 359, -90, 450, -33])
def test_a_turn_is_by_so_many_degrees_and_a_quarter_of_one_is_exact(angle):
    turned = move(angle, shift=2 + 1j)(3 + 0j) - (2 + 1j)
    assert turned == pytest.approx(3 * cmath.rect(1, math.radians(angle)), abs=1e-12)
    if angle % 90 == 0:
        assert turned in (3, 3j, -3, -3j)


@settings(max_examples=tried(30))
@given(outlines("a"), motions)
def test_the_middle_of_an_outline_is_the_judge_s_wherever_it_lies(outline, place):
    judged = as_polygon(outline, 1e-4).centroid
    assert centroid(outline) == pytest.approx(complex(judged.x, judged.y), abs=2e-3)
    assert centroid(outline.moved(place)) == pytest.approx(place(centroid(outline)), abs=1e-6)


@settings(max_examples=tried(75))
@given(segments, segments)
def test_the_gap_of_two_segments_is_the_judge_s_and_lies_between_its_ends(a, b):
    wide, on_a, on_b = gap(a, b)
    one, other = as_line([a], 1e-5), as_line([b], 1e-5)
    assert wide == pytest.approx(one.distance(other), abs=2e-4)
    assert abs(on_a - on_b) == pytest.approx(wide, abs=1e-6)
    for line, spot in ((one, on_a), (other, on_b)):
        assert line.distance(shapely.Point(spot.real, spot.imag)) < 1e-4


@given(segments, points)
def test_the_nearest_point_of_a_segment_is_the_judge_s(segment, point):
    assume(not hasattr(segment, "centre") or abs(point - segment.centre) > 1)
    found = nearest(segment, point)
    line = as_line([segment], 1e-6)
    assert abs(found - point) == pytest.approx(line.distance(shapely.Point(point.real, point.imag)), abs=1e-5)


@settings(max_examples=tried(20))
@given(outlines("a"), outlines("b"), st.integers(0, 359))
def test_the_distance_of_two_outlines_is_the_judge_s(a, b, way):
    moved = b.moved(Motion(shift=cmath.rect(200, math.radians(way))))
    assert distance(a, moved) == pytest.approx(as_polygon(a, 1e-4).distance(as_polygon(moved, 1e-4)), abs=1e-3)


def test_the_gap_between_an_arc_and_a_line_by_hand():
    """A half circle of 10 about 0, and a line at y = 14; one below it is nearest to the ends."""
    half = arc(0, 10, 0, 180)
    assert gap(half, Line(-20 + 14j, 20 + 14j, SOURCE))[0] == pytest.approx(4)
    assert gap(half, Line(-20 - 3j, 20 - 3j, SOURCE))[0] == pytest.approx(3)
    # A circle about the same place keeps its distance all the way round.
    assert gap(half, arc(0, 4, 0, 180))[0] == pytest.approx(6)


@pytest.mark.parametrize(
    ("radius", "beside", "ccw", "turned"),
    [(3, 4, False, True), (5, 4, False, False), (3, -4, True, True), (5, -4, True, False), (3, 4, True, False)],
)
def test_something_round_turns_an_arc_inside_out_that_is_tighter_than_itself(radius, beside, ccw, turned):
    """On the inside of a round of 3 mm a disc of 4 has no room; on the outside it has, however tight that is."""
    arc = Arc(complex(radius, 0), complex(-radius, 0), 0j, ccw, SOURCE)
    assert Round(beside).turns(arc) == turned
