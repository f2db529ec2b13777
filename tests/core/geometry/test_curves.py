"""Curves, corners and strokes: where they meet, how far they reach, what stands for them; by sums and shapely."""

import cmath
import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from leannotch_core.geometry.biarc import (
    arcs_along,
    bezier,
    bezier_bounds,
    biarc,
    follows,
    open_through,
    smooth_through,
)
from leannotch_core.geometry.chords import as_line, as_polygon
from leannotch_core.geometry.corner import CornerTooLarge, chamfered, is_corner, rounded
from leannotch_core.geometry.loop import Loop, Outline, polygon
from leannotch_core.geometry.meet import meeting_points
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.geometry.shallow import RISE, SHALLOW, along_ellipse, chords, without_shallow
from leannotch_core.geometry.stroke import knots_of_stroke

from ...properties import tried

SOURCE = Source("test", "side")
points = st.tuples(st.integers(-40, 40), st.integers(-40, 40)).map(lambda at: complex(*at))


def arc(centre, radius, begin, sweep):
    start, end = (centre + cmath.rect(radius, math.radians(angle)) for angle in (begin, begin + sweep))
    return Arc(start, end, centre, sweep > 0, SOURCE)


lines = st.tuples(points, points).filter(lambda ends: ends[0] != ends[1]).map(lambda ends: Line(*ends, SOURCE))
sweeps = st.integers(20, 320).flatmap(lambda angle: st.sampled_from([angle, -angle]))
arcs = st.builds(arc, points, st.integers(3, 40), st.integers(0, 359), sweeps)
segments = lines | arcs


# Where they meet


@settings(max_examples=tried(40))
@given(segments, segments)
def test_two_segments_meet_where_the_judge_finds_them_to(a, b):
    """Every point that is told lies on both, and none is missing that shapely finds where they cross for sure."""
    found = meeting_points(a, b)
    one, other = as_line([a], 1e-4), as_line([b], 1e-4)
    for point in found:
        spot = shapely.Point(point.real, point.imag)
        assert max(one.distance(spot), other.distance(spot)) < 1e-4
    crossing = one.intersection(other)
    for piece in shapely.get_parts(crossing):
        if piece.geom_type == "Point":
            near = min((abs(point - complex(piece.x, piece.y)) for point in found), default=math.inf)
            # Where they run almost alongside, chords cross far from where the curves do.
            assert near < 1e-2 or one.intersection(other.buffer(1e-4)).length > 5e-3


ENDS = [
    # Ends that touch: of both, of one within the other, from either side.
    (Line(0, 10, SOURCE), Line(10, 10 + 8j, SOURCE), [10]),
    (Line(0, 10, SOURCE), Line(20 + 8j, 10, SOURCE), [10]),
    (Line(10, 0, SOURCE), Line(10, 10 + 8j, SOURCE), [10]),
    (Line(0, 10, SOURCE), Line(4, 4 + 8j, SOURCE), [4]),
    (Line(0, 10, SOURCE), Line(4 + 8j, 4, SOURCE), [4]),
    (Line(4, 4 + 8j, SOURCE), Line(0, 10, SOURCE), [4]),
    # A shared stretch has its ends, and one that lies in another both of its own.
    (Line(0, 10, SOURCE), Line(6, 16, SOURCE), [6, 10]),
    (Line(0, 10, SOURCE), Line(8, 2, SOURCE), [2, 8]),
    (Line(8, 2, SOURCE), Line(0, 10, SOURCE), [2, 8]),
    (Line(0, 10, SOURCE), Line(11, 16, SOURCE), []),
    (Line(0, 10, SOURCE), Line(1j, 10 + 1j, SOURCE), []),
    # A line that touches a circle, one that passes it, and circles within one another.
    (Line(-9 + 5j, 9 + 5j, SOURCE), arc(0, 5, 0, 180), [5j]),
    (Line(-9 + 5.01j, 9 + 5.01j, SOURCE), arc(0, 5, 0, 180), []),
    (Line(-9, 9, SOURCE), arc(0, 5, 0, 359), [-5, 5]),
    (arc(0, 5, 0, 359), arc(1, 3, 0, 359), []),
    (arc(0, 5, -20, 340), arc(8, 3, 90, 180), [5]),
    (arc(0, 5, 0, 180), arc(0, 5, 90, 180), [-5, 5j]),
]


@pytest.mark.parametrize(("a", "b", "meet"), ENDS)
def test_segments_that_touch_meet_at_their_ends(a, b, meet):
    found = {complex(round(point.real, 6), round(point.imag, 6)) + 0 for point in meeting_points(a, b)}
    assert len(found) == len(meet)
    assert all(min(abs(point - other) for other in found) < 1e-6 for point in meet)


# How far they reach


@given(st.lists(points, min_size=4, max_size=4))
def test_a_bezier_curve_reaches_just_as_far_as_its_points_do(four):
    at = np.linspace(0, 1, 4001)
    a, b, c, d = four
    whole = (1 - at) ** 3 * a + 3 * (1 - at) ** 2 * at * b + 3 * (1 - at) * at**2 * c + at**3 * d
    wanted = whole.real.min(), whole.imag.min(), whole.real.max(), whole.imag.max()
    assert bezier_bounds([tuple(four)]) == pytest.approx(wanted, abs=2e-5)


@given(st.lists(points, min_size=4, max_size=4), st.floats(0.01, 0.99))
def test_a_bezier_curve_runs_as_its_slope_says(four, t):
    curve = bezier(*four)
    (here, slope), (before, _), (after, _) = curve(t), curve(t - 1e-6), curve(t + 1e-6)
    step = (after - before) / 2e-6
    assume(abs(step) > 1)
    # A third of the derivative: the direction is what counts.
    assert slope * 3 == pytest.approx(step, abs=1e-2)
    assert abs(here - before) < 1e-3


# What stands for them


@given(points, points, st.integers(0, 359), st.integers(0, 359))
def test_a_pair_of_arcs_leaves_and_arrives_as_it_is_asked_and_shares_a_tangent(a, b, out, into):
    assume(abs(b - a) > 1)
    leave, arrive = (cmath.rect(1, math.radians(angle)) for angle in (out, into))
    pair = biarc(a, leave, b, arrive, SOURCE)
    assert pair[0].start == pytest.approx(a) and pair[-1].end == pytest.approx(b)
    if len(pair) == 2:
        assert pair[0].end == pytest.approx(pair[1].start)
        assert pair[0].end_tangent == pytest.approx(pair[1].start_tangent, abs=1e-5)
        assert pair[0].start_tangent == pytest.approx(leave, abs=1e-5)
        assert pair[1].end_tangent == pytest.approx(arrive, abs=1e-5)


def test_a_pair_follows_a_curve_as_far_as_it_is_off_and_no_further():
    half = [arc(0, 10, 0, 90), arc(0, 10, 90, 90)]

    def wider(t):
        return cmath.rect(10.2, t), 1j * cmath.rect(1, t)

    assert follows(half, wider, 0, math.pi, 0.201) and not follows(half, wider, 0, math.pi, 0.199)
    # Beyond its ends the way to the nearest of them counts.
    assert follows(half, wider, -0.02, math.pi, 0.5) and not follows(half, wider, -1, math.pi, 0.5)


def test_a_curve_through_knots_runs_along_its_neighbours_and_straight_into_corners():
    square = [(0j, True), (10 + 0j, False), (10 + 10j, False), (10j, True)]
    pieces = smooth_through(square)
    assert [piece[0] for piece in pieces] == [knot for knot, _ in square] and pieces[-1][3] == 0
    # From a corner straight on, by a third of the way.
    assert pieces[0][1] == pytest.approx(10 / 3) and pieces[3][1] == pytest.approx(10j - 10j / 3)
    # At a smooth knot along the chord of its neighbours, before and after it.
    along = (10 + 10j) / abs(10 + 10j)
    assert pieces[0][2] == pytest.approx(10 - along * 10 / 3) and pieces[1][1] == pytest.approx(10 + along * 10 / 3)
    assert len(open_through(square)) == 3


@given(st.floats(1, 1e6), st.floats(5, 300), st.sampled_from([1, -1]), st.floats(0.001, 0.1))
def test_chords_leave_their_arc_by_no_more_than_is_said_and_are_no_more_than_needed(radius, sweep, way, tolerance):
    whole = arc(3 + 4j, radius, 20, way * min(sweep, math.degrees(2000 / radius)))
    found = chords(whole, tolerance)
    assert found[0].start == whole.start and found[-1].end == whole.end
    for one, following in pairwise(found):
        assert one.end == following.start
    middles = [abs((one.start + one.end) / 2 - whole.centre) for one in found]
    rise = max(radius - middle for middle in middles)
    assert rise <= tolerance * (1 + 1e-6) + 1e-9 * radius
    assert all(abs(abs(one.end - whole.centre) - radius) < 1e-6 * radius for one in found)
    # Each is as long as the next, and half as many would leave it by too much.
    assert len(found) < 3 or rise > tolerance / 4


@pytest.mark.parametrize(("radius", "kept"), [(SHALLOW - 1, True), (SHALLOW, False), (SHALLOW + 1, False)])
def test_an_arc_about_a_place_that_no_machine_has_becomes_chords(radius, kept):
    shallow, straight = arc(0, radius, 90, 0.2), Line(0, 1, SOURCE)
    found = list(without_shallow([straight, shallow]))
    assert found[0] == straight and (found[1:] == [shallow]) == kept
    assert SHALLOW == 20_000 and RISE == 0.001


def test_a_piece_of_a_huge_ellipse_keeps_its_ends_and_its_rise():
    wide, high = 50_000, 30_000
    begin, sweep = 1.2, 0.02

    def at(angle):
        return wide * math.cos(angle) + 1j * high * math.sin(angle)

    found = along_ellipse(0, wide, 1j * high, begin, sweep, (at(begin), at(begin + sweep)), SOURCE)
    assert (found[0].start, found[-1].end) == (at(begin), at(begin + sweep))
    dense = shapely.LineString([(p.real, p.imag) for p in map(at, np.linspace(begin, begin + sweep, 20_001))])
    stops = [*(one.start for one in found), found[-1].end]
    line = shapely.LineString([(stop.real, stop.imag) for stop in stops])
    assert shapely.hausdorff_distance(line, dense) < 2 * RISE


@pytest.mark.parametrize("still", [bezier(3j, 3j, 3j, 3j), bezier(0j, 1e-10 + 0j, 0j, 0j), lambda t: (5 + 0j, 1 + 0j)])
def test_a_curve_that_goes_nowhere_is_followed_by_nothing_and_at_once(still):
    assert arcs_along(still, 0.0, 1.0, SOURCE) == []


@given(st.lists(st.tuples(st.sampled_from([0j, 9 + 0j, 9 + 7j, 2 + 5j]), st.booleans()), min_size=3, max_size=6))
def test_knots_on_one_another_are_run_through_once_and_never_for_ever(knots):
    for pieces in (smooth_through(knots), open_through(knots)):
        for piece in pieces:
            found = arcs_along(bezier(*piece), 0.0, 1.0, SOURCE)
            assert len(found) < 60
            assert not found or abs(found[-1].end - piece[3]) < 1e-6


# Corners


def wedge(angle):
    """A triangle with a corner of so many degrees at the origin, its sides 20 and 30 long."""
    return polygon([0j, 20 + 0j, cmath.rect(30, math.radians(angle))], [SOURCE] * 3)


@pytest.mark.parametrize("angle", [20, 60, 90, 120, 160])
def test_a_corner_is_rounded_up_to_where_its_arc_reaches_the_end_of_the_shorter_side(angle):
    """The arc touches the sides r / tan(angle / 2) from the corner: 20 mm at the most."""
    loop, largest = wedge(angle), 20 * math.tan(math.radians(angle / 2))
    for radius in (largest / 10, largest * 0.999):
        done = rounded(loop, 0, radius, SOURCE)
        [found] = [segment for segment in done.segments if isinstance(segment, Arc)]
        touch = radius / math.tan(math.radians(angle / 2))
        assert abs(found.start) == pytest.approx(touch) and abs(found.end) == pytest.approx(touch)
        # By hand: what lies between the sides and the arc is gone.
        gone = radius * touch - radius**2 * (math.pi - math.radians(angle)) / 2
        assert loop.area - done.area == pytest.approx(gone)
        assert not any(is_corner(done, at) for at, one in enumerate(done.segments) if one is found)
    with pytest.raises(CornerTooLarge) as refusal:
        rounded(loop, 0, largest * 1.01, SOURCE)
    assert refusal.value.largest == pytest.approx(largest, abs=0.01) and refusal.value.largest < largest + 1e-9


@given(st.floats(0.5, 25), st.floats(0.5, 35), st.integers(20, 160))
def test_a_corner_is_cut_off_as_far_along_each_side_as_was_said(before, after, angle):
    loop = wedge(angle)
    # The corner at the origin lies between the long side, which comes before it, and the short one.
    if before > 30 or after > 20:
        with pytest.raises(CornerTooLarge) as refusal:
            chamfered(loop, 0, before, after, SOURCE)
        assert refusal.value.largest == (30 if before > 30 else 20)
        return
    done = chamfered(loop, 0, before, after, SOURCE)
    gone = before * after * math.sin(math.radians(angle)) / 2
    assert loop.area - done.area == pytest.approx(gone, abs=1e-4)


def test_only_what_turns_is_a_corner():
    half = arc(0, 10, 0, 180)
    bow = Loop((half, Line(-10, 10, SOURCE)))
    assert is_corner(bow, 0) and is_corner(bow, 1)
    straight = Loop((Line(0, 5, SOURCE), Line(5, 10, SOURCE), Line(10, 10j, SOURCE), Line(10j, 0, SOURCE)))
    assert [is_corner(straight, at) for at in range(4)] == [True, False, True, True]
    # Back the way it came is the sharpest corner there is.
    spike = Loop((Line(0, 10, SOURCE), Line(10, 0, SOURCE)))
    assert is_corner(spike, 0) and is_corner(spike, 1)


# Strokes


def trembling(points_of, amount):
    """Points as a hand draws them, the same each time."""
    shake = np.random.default_rng(4).normal(0, amount, (len(points_of), 2))
    return [point + complex(*off) for point, off in zip(points_of, shake, strict=True)]


@pytest.mark.parametrize("closed", [True, False])
def test_a_stroke_round_a_square_has_its_corners_and_no_others(closed):
    corners = [0, 60, 60 + 60j, 60j, 0]
    drawn = [a + (b - a) * step / 60 for a, b in pairwise(corners) for step in range(60)]
    drawn = drawn if closed else [*drawn, 0j]
    knots = knots_of_stroke(trembling(drawn, 0.15), 1.5, closed)
    sharp = [point for point, corner in knots if corner]
    # An open stroke ends where it began: those two are ends, and no corners.
    wanted = corners[:4] if closed else corners[1:4]
    assert len(sharp) == len(wanted)
    for corner in wanted:
        assert min(abs(point - corner) for point in sharp) < 1.2
    assert len(knots) < 12


def test_a_stroke_round_a_circle_has_no_corner_and_stays_near_it():
    drawn = trembling([cmath.rect(40, angle) for angle in np.linspace(0, 2 * math.pi, 300)[:-1]], 0.1)
    knots = knots_of_stroke(drawn, 1.0, closed=True)
    assert not any(corner for _, corner in knots) and 5 < len(knots) < 40
    assert all(abs(abs(point) - 40) < 0.6 for point, _ in knots)
    spread = as_polygon(Outline(polygon([point for point, _ in knots], [SOURCE] * len(knots))), 0.01)
    assert spread.area == pytest.approx(math.pi * 1600, rel=0.06)


def test_an_open_stroke_begins_and_ends_where_it_was_drawn():
    drawn = [complex(x, 8 * math.sin(x / 9)) for x in np.linspace(0, 80, 200)]
    knots = knots_of_stroke(drawn, 0.5, closed=False)
    assert knots[0][0] == pytest.approx(drawn[0], abs=1e-6) and knots[-1][0] == pytest.approx(drawn[-1], abs=1e-6)
    assert [point.real for point, _ in knots] == sorted(point.real for point, _ in knots)
    # Drawn twice where it lies, and in one place alone: nothing to follow.
    assert len(knots_of_stroke([p for p in drawn for _ in range(2)], 0.5, closed=False)) == len(knots)
    for short in ([], [1 + 1j], [1 + 1j] * 5):
        with pytest.raises(ValueError, match="too short to follow"):
            knots_of_stroke(short, 0.5, closed=True)
