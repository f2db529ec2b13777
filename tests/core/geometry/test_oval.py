"""What an oval leaves beside an outline, held against shapely's buffer in a plane in which the oval is round."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.geometry.beam import Oval
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Loop, Outline, circle, polygon
from leannotch_core.geometry.offset import grow
from leannotch_core.geometry.segment import Arc, Line, Source
from shapely import affinity

from ...properties import tried

OWN = Source("plate", "side")
axes = st.floats(0.05, 2)


def swept(polygon, oval, **how):
    """The polygon and all that an oval covers whose middle goes round it."""
    flat = affinity.rotate(polygon, -oval.turn, origin=(0, 0))
    round_one = affinity.scale(flat, 1 / oval.x, 1 / oval.y, origin=(0, 0)).buffer(1, quad_segs=256, **how)
    return affinity.rotate(affinity.scale(round_one, oval.x, oval.y, origin=(0, 0)), oval.turn, origin=(0, 0))


def shape(*corners):
    return polygon(corners, [OWN] * len(corners))


PLATE = shape(0, 40, 40 + 30j, 30j)


@settings(max_examples=tried(20), deadline=None)
@given(axes, axes, st.floats(-180, 180))
def test_round_a_ring_it_is_as_far_as_the_oval_reaches(x, y, turn):
    oval = Oval(x, y, turn)
    hole = max(x * x / y, y * y / x) + max(x, y) + 0.5
    ring = Outline(circle(3 + 4j, hole + 20, OWN), (circle(3 + 4j, hole, OWN).reversed(),))
    [got] = grow([ring], oval)
    assert as_polygon(got, 0.0002).hausdorff_distance(swept(as_polygon(ring, 0.0002), oval)) < 0.003
    assert {segment.source for loop in got.loops for segment in loop} == {OWN}


@settings(max_examples=tried(20), deadline=None)
@given(axes, axes, st.floats(-180, 180), st.sampled_from(["sharp", "round"]))
def test_corners_stay_sharp_or_are_rolled_round(x, y, turn, corner):
    oval = Oval(x, y, turn)
    plate = Outline(PLATE, (shape(10 + 10j, 10 + 18j, 20 + 18j, 20 + 10j),))
    [got] = grow([plate], oval, corner)
    if corner == "round":
        assert as_polygon(got, 0.0002).hausdorff_distance(swept(as_polygon(plate, 0.0002), oval)) < 0.003
    else:
        right, up = abs(oval.reach(1).real), abs(oval.reach(1j).imag)
        assert got.outer.bounds == pytest.approx((-right, -up, 40 + right, 30 + up), abs=1e-9)
        assert [len(loop.segments) for loop in got.loops] == [4, 4]


def test_a_cut_out_narrower_than_the_oval_that_way_closes_up():
    narrow = shape(10 + 10j, 10 + 15j, 10.18 + 15j, 10.18 + 10j)
    assert len(grow([Outline(PLATE, (narrow,))], Oval(0.08, 0.1))[0].cutouts) == 1
    assert grow([Outline(PLATE, (narrow,))], Oval(0.1, 0.08))[0].cutouts == ()
    pin = circle(20 + 15j, 0.09, OWN).reversed()
    assert grow([Outline(PLATE, (pin,))], Oval(0.08, 0.1))[0].cutouts == ()


def test_a_fillet_rounder_than_the_oval_leaves_a_sharp_inside_corner():
    corners = [0j, 30 + 0j, 30 + 10j, 10.05 + 10j, 10 + 10.05j, 10 + 30j, 30j]
    sides = [Line(a, b, OWN) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
    sides[3] = Arc(10.05 + 10j, 10 + 10.05j, 10.05 + 10.05j, False, OWN)
    [got] = grow([Outline(Loop(tuple(sides)))], Oval(0.1, 0.08))
    assert not any(isinstance(segment, Arc) for segment in got.outer)
    assert min(abs(segment.start - (10.1 + 10.08j)) for segment in got.outer) < 1e-9
