"""Ways between paths and along them, where tabs have room, and what one stock takes of another: number by number."""

import cmath
import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.document.setting import Setting
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.loop import Outline, polygon
from leannotch_core.geometry.segment import Arc, Line, Motion, Source
from leannotch_core.machining.clock import seconds
from leannotch_core.machining.edge import OnEdge
from leannotch_core.machining.holding import clear_of_ends
from leannotch_core.machining.routed.moves import routed_moves
from leannotch_core.machining.routed.pocket import Clearing, by_rings, by_rows
from leannotch_core.machining.routed.profile import Manner, profiled
from leannotch_core.machining.routed.stroke import ClosedWay
from leannotch_core.machining.settings import copied, plunge_speed, ramp_speed
from leannotch_core.machining.way import corners, shortest_way

from ...projects import part, stock
from ...properties import tried
from .test_router import ready_of, routed, sunk

SOURCE = Source("test", "side")
LASER = next(machine for machine in shipped().values() if machine.kind == "beam")
OBLONG = polygon([0, 30, 30 + 10j, 10j], [SOURCE] * 4)
ROUND = ClosedWay.of([Arc(5 + 0j, -5 + 0j, 0j, True, SOURCE), Arc(-5 + 0j, 5 + 0j, 0j, True, SOURCE)])
places = st.builds(complex, st.integers(0, 90), st.integers(0, 90))


# From path to path


def way_of(paths, found, here):
    """How far it is between paths in the order and with the starts that were found; their ends by their own sides."""
    far = 0.0
    for path, first in found:
        loop = paths[path][-1].end == paths[path][0].start
        far += abs(paths[path][first].start - here)
        here = paths[path][first].start if loop else paths[path][-1].end
    return far


@settings(max_examples=tried(40), deadline=None)
@given(st.lists(st.tuples(places, st.integers(1, 9)), min_size=1, max_size=5, unique_by=lambda one: one[0]))
def test_the_way_past_a_few_squares_is_as_short_as_any_order_and_start_gives(wanted):
    paths = [polygon([at, at + n, at + n + n * 1j, at + n * 1j], [SOURCE] * 4).segments for at, n in wanted]
    found = shortest_way(paths, [corners(path) for path in paths], [True] * len(paths))
    assert sorted(path for path, _ in found) == list(range(len(paths)))
    # In any order, each begun at the corner that is best: from corner to corner, as no corner is taken twice.
    best = min(shortest_of(paths, order) for order in itertools.permutations(range(len(paths))))
    assert way_of(paths, found, 0) <= 1.05 * best + 1e-6


def shortest_of(paths, order):
    costs = {0j: 0.0}
    for path in order:
        begins = [segment.start for segment in paths[path]]
        costs = {to: min(cost + abs(to - here) for here, cost in costs.items()) for to in begins}
    return min(costs.values())


def test_open_lines_are_gone_along_from_their_starts_and_the_next_is_near_where_one_ends():
    paths = [
        [Line(a, b, SOURCE)] for a, b in ((50 + 0j, 90 + 0j), (10 + 0j, 40 + 0j), (90 + 10j, 12 + 10j), (10 + 12j, 0j))
    ]
    assert shortest_way(paths, [[0]] * 4, [False] * 4) == [(1, 0), (0, 0), (2, 0), (3, 0)]
    assert shortest_way([], [], []) == []


@pytest.mark.parametrize(("turn", "is_one"), [(2.9, True), (2.8, False), (-2.9, True), (-2.8, False)])
def test_a_corner_turns_by_a_sine_of_more_than_a_twentieth(turn, is_one):
    """0.05 is the sine of 2.866 degrees. What has no corner at all may begin anywhere."""
    ahead = 10 + 10 * cmath.rect(1.0, math.radians(turn))
    bent = [Line(0j, 10 + 0j, SOURCE), Line(10 + 0j, ahead, SOURCE)]
    # The one at its start is a real one.
    bent.append(Arc(ahead, 0j, (ahead + 0j) / 2, False, SOURCE))
    assert (1 in corners(bent)) == is_one and 0 in corners(bent)
    assert corners(ROUND.segments) == [0, 1]


# Along a line


@pytest.mark.parametrize(
    ("place", "at", "ahead"),
    [(0, 0, 1), (12, 12, 1), (30, 30, 1j), (35, 30 + 5j, 1j), (79, 1j, -1j), (80, 0, 1), (92, 12, 1), (-1, 1j, -1j)],
)
def test_a_place_along_a_closed_line_may_be_further_than_once_round(place, at, ahead):
    line = ClosedWay.of(OBLONG.segments)
    assert line.length == 80 and line.at(place) == pytest.approx(at)
    assert line.tangent(place) == pytest.approx(ahead)


def test_what_lies_on_the_way_runs_on_over_its_own_start():
    line = ClosedWay.of(OBLONG.segments)
    ahead = list(line.onward(75, 10))
    assert [(one.start, one.end) for one in ahead] == [(5j, 0), (0, 5)]
    assert sum(one.length for one in line.onward(75, 200)) == pytest.approx(200)
    assert ROUND.at(5 * math.pi / 2) == pytest.approx(5j) and ROUND.tangent(5 * math.pi / 2) == pytest.approx(-1)
    back = ClosedWay.of([Arc(5 + 0j, -5 + 0j, 0j, False, SOURCE), Arc(-5 + 0j, 5 + 0j, 0j, False, SOURCE)])
    assert back.at(5 * math.pi / 2) == pytest.approx(-5j) and back.tangent(5 * math.pi / 2) == pytest.approx(-1)


def test_each_pass_goes_once_round_and_begins_where_the_one_before_it_ended():
    manner = Manner("ramp", 3.0, "climb", 0.0, 3.0, True, lambda spot, within: True)
    first, second = profiled(OBLONG.segments, [-1.0, -2.0], None, manner)
    level = [stroke for stroke in first if stroke.from_z == stroke.z == -1]
    assert sum(stroke.segment.length for stroke in level) == pytest.approx(80)
    assert level[-1].segment.end == pytest.approx(second[0].segment.start)
    assert {stroke.z for stroke in second if stroke.from_z == stroke.z} == {-2.0}
    # By hand: 1 mm at 3 degrees is 19.08 mm a pass.
    slope = 1 / math.tan(math.radians(3))
    assert first[0].segment.start == 0 and level[-1].segment.end == pytest.approx(slope)
    assert second[-1].segment.end == pytest.approx(2 * slope if 2 * slope <= 30 else 30 + (2 * slope - 30) * 1j)


# Holding tabs


@pytest.mark.parametrize(
    ("share", "width", "lies"),
    [(0.5, 4, 15), (0.1, 4, 4), (0.95, 4, 26), (0.05, 1, 1.5), (0.5, 26, 15), (0.4, 26, 15), (0.5, 26.1, None)],
)
def test_a_tab_put_by_hand_keeps_its_half_and_two_mm_from_corners(share, width, lies):
    """On a side of 30 mm; one of less than two mm keeps its own width."""
    put = clear_of_ends([OBLONG], OnEdge(0, 0, share), width)
    assert put is None if lies is None else put == OnEdge(0, 0, pytest.approx(lies / 30))


# What a stock takes of another


def test_a_beam_goes_slower_through_what_is_thicker_and_marks_as_it_did():
    def thick(number, **more):
        return stock(readings=(number,), **more)

    own = [
        Setting(operation="cut", speed=20, power=60, tried="2026-05-01"),
        Setting(operation="score", speed=80, power=20),
    ]
    like = thick("3")
    measured = {"kerf": like.kerf, "clearances": like.clearances, "settings": own}
    like = like.model_validate(like.model_dump() | {"name": "Birch", "on": [{"machine": LASER.id, **measured}]})
    found = {setting.operation: setting for setting in copied(like, thick("6"), LASER)}
    assert (found["cut"].speed, found["cut"].power) == (10, 60) and found["score"].speed == 80
    assert found["cut"].note == "as Birch" and found["cut"].tried == ""
    assert {s.operation: s for s in copied(like, thick("1.5"), LASER)}["cut"].speed == 40
    # No faster than it goes, and no slower than anything does.
    assert {s.operation: s for s in copied(like, thick("0.01"), LASER)}["cut"].speed == round(LASER.working.speed, 1)
    assert {s.operation: s for s in copied(like, thick("1000"), LASER)}["cut"].speed == 0.1
    router = shipped()["router"]
    assert copied(like, thick("6"), router) == []


def test_down_a_slope_at_half_its_feed_and_straight_down_at_three_tenths_unless_it_has_its_own():
    setting = Setting(operation="cut", speed=40, power=16000)
    assert (ramp_speed(setting), plunge_speed(setting)) == (20, 12)
    own = setting.model_copy(update={"ramp": 7.0, "plunge": 3.0})
    assert (ramp_speed(own), plunge_speed(own)) == (7, 3)


# Over the sheet, and down


def test_a_run_is_come_to_over_the_sheet_and_down_at_speed_to_a_mm_above_it():
    ready, _ = ready_of(routed([part("plate", 60, 40, cutouts=[sunk("well", 20, 10, 2)])]))
    moves = routed_moves(ready.runs, 5.0, shipped()["router"], Motion(1 + 0j))
    heights = [(move.from_z, move.z) for move in moves if move.rapid]
    # Lifted first, then over, then down; up again after each run.
    assert heights[:3] == [(0.0, 5.0), (5.0, 5.0), (5.0, 1.0)]
    plunges = [move for move in moves if not move.rapid and move.from_z == 1.0]
    assert len(plunges) == len(ready.runs) and all(move.z == pytest.approx(0) for move in plunges)
    assert all(
        move.segment.length == 0 and move.speed == plunge_speed(run.setting)
        for move, run in zip(plunges, ready.runs, strict=True)
    )
    ups = [move for move in moves if move.rapid and move.z > move.from_z]
    assert len(ups) == len(ready.runs) + 1 and {move.z for move in ups} == {5.0}
    # Home at the safe height, and a sheet that is nearer than a mm is come to no higher than it is safe.
    assert moves[-1].segment.end == 0 and moves[-1].from_z == moves[-1].z == 5.0
    low = routed_moves(ready.runs, 0.5, shipped()["router"], Motion(1 + 0j))
    assert {move.from_z for move in low if not move.rapid and move.from_z > 0} == {0.5}


# Pockets


def clearing(**more):
    given = {
        "radius": 3.0,
        "stepover": 2.0,
        "stepdown": 2.0,
        "ramp": 3.0,
        "direction": "climb",
        "helical": True,
        "plunges": True,
    }
    return Clearing(**given | more)


@pytest.mark.parametrize(("wide", "helical"), [(12.0, True), (8.0, True), (7.0, False), (6.4, False)])
def test_a_helix_needs_a_fifth_of_the_radius_of_room(wide, helical):
    """A pocket of so much both ways leaves the middle of a cutter of 6 mm so much less: half of it is the room."""
    square = Outline(polygon([0, wide, wide + wide * 1j, wide * 1j], [SOURCE] * 4))
    [strokes] = by_rings([square], 0.0, 1.0, clearing())
    spun = [one for one in strokes if isinstance(one.segment, Arc) and one.segment.source.side == "helix"]
    assert bool(spun) == helical
    for one in spun:
        assert one.segment.radius == pytest.approx(min((wide - 6) / 2, 2.7), abs=0.05)
        assert one.segment.centre == pytest.approx((wide + wide * 1j) / 2, abs=0.06)
    assert strokes[-1].z == -1 and min(one.z for one in strokes) == -1


@pytest.mark.parametrize("clear", [by_rings, by_rows])
def test_a_pocket_is_cleared_in_passes_of_equal_depth(clear):
    square = Outline(polygon([0, 40, 40 + 30j, 30j], [SOURCE] * 4))
    strokes = [one for way in clear([square], 1.0, 6.0, clearing()) for one in way]
    # 5 mm in passes of 2 at most: three of 1.667.
    levels = sorted({round(one.z, 4) for one in strokes if one.z == one.from_z}, reverse=True)
    assert levels == [-2.6667, -4.3333, -6.0]
    reach = [one.segment.end for one in strokes if one.z == one.from_z]
    assert (min(p.real for p in reach), max(p.real for p in reach)) == pytest.approx((3, 37), abs=0.01)
    assert (min(p.imag for p in reach), max(p.imag for p in reach)) == pytest.approx((3, 27), abs=0.01)
    assert not by_rings([Outline(polygon([0, 5, 5 + 5j, 5j], [SOURCE] * 4))], 0.0, 1.0, clearing())


def trapezoid(length, top, enters, leaves, acceleration):
    """How long (s) a move takes that gets up to its speed, by the laws of even acceleration."""
    gains, loses = (top - enters) / acceleration, (top - leaves) / acceleration
    ways = (top + enters) / 2 * gains + (top + leaves) / 2 * loses
    assert ways <= length
    return gains + loses + (length - ways) / top


@pytest.mark.parametrize("accelerations", [(1000, 250), (250, 1000), (400, 400)])
@pytest.mark.parametrize("speeds", [(50, 50), (50, 20), (20, 50)])
@pytest.mark.parametrize(("turn", "limit"), [(90, 0.05), (90, 0.01), (45, 0.05), (0, 0.05)])
def test_a_corner_is_gone_round_as_fast_as_the_weaker_of_its_sides_allows(accelerations, speeds, turn, limit):
    """Even acceleration, and sqrt(a r) on an arc of radius r that leaves the corner's point by the limit."""
    way = cmath.rect(1, math.radians(turn))
    moves = [Line(0j, 100 + 0j, SOURCE), Line(100 + 0j, 100 + 100 * way, SOURCE)]
    took = seconds(moves, np.array(speeds, float), np.array(accelerations, float), limit)
    half = math.cos(math.radians(turn / 2))
    radius = limit * half / (1 - half) if turn else math.inf
    through = min(math.sqrt(min(accelerations) * radius), *speeds)
    first = trapezoid(100, speeds[0], 0, through, accelerations[0])
    second = trapezoid(100, speeds[1], through, 0, accelerations[1])
    assert took == pytest.approx([first, second])


def test_a_move_up_and_across_is_as_long_as_both_together():
    up = seconds([Line(0j, 30 + 0j, SOURCE)], np.array([10.0]), np.array([100.0]), 0.05, np.array([40.0]))
    assert up == pytest.approx([trapezoid(50, 10, 0, 0, 100)])
