"""What is folded, face by face, and what lies too near a bend: by hand."""

import cmath
import math

import numpy as np
import pytest
import shapely
from leannotch_core.bends.allowance import Allowance
from leannotch_core.bends.folded import fold, root_of
from leannotch_core.bends.laid import LaidBend
from leannotch_core.bends.near import apart, edge_near, reached, way_clear
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Loop, Outline, polygon
from leannotch_core.geometry.segment import Arc, Source

SOURCE = Source("plate", "side")
THICK, RADIUS, K = 2.0, 3.0, 0.4
#: The neutral line of a quarter is pi / 2 times (3 + 0.4 x 2) long, of the angle's share for any other.
ARC = math.pi / 2 * 3.8


def box(left, bottom, right, top):
    corners = [complex(left, bottom), complex(right, bottom), complex(right, top), complex(left, top)]
    return Outline(polygon(corners, [SOURCE] * 4))


def bend(at, up=True, angle=90.0, wide=40.0, name="bend", flange=False):
    """A bend across a plate that lies along x, so far from its left end, to the right."""
    return LaidBend(
        name, name, Allowance(angle, RADIUS, K, THICK), up, complex(at, 0), complex(at, wide), 1 + 0j, flange
    )


def at(pose, x, y, z=0.0):
    return (pose @ [x, y, z, 1])[:3]


def test_a_channel_stands_as_high_as_its_flat_leg_and_half_its_radius_says():
    """A plate of 200 with bends at 50 and 150: the middle stays, both ends stand up."""
    folded = fold([box(0, 0, 200, 40)], [bend(50, name="a"), bend(150, name="b")], 200 + 40j, THICK)
    assert folded.faces.flat[0].area == pytest.approx((100 - ARC) * 40)
    middle, left, right = (folded.face_at(complex(x, 20)) for x in (100, 10, 190))
    assert folded.root == middle and {middle, left, right} == {0, 1, 2}
    assert folded.normal(middle) == pytest.approx([0, 0, 1])
    # The drawn side of what stands up looks inwards.
    assert folded.normal(right) == pytest.approx([-1, 0, 0], abs=1e-9)
    assert folded.normal(left) == pytest.approx([1, 0, 0], abs=1e-9)
    # The flat leg is 50 less half the arc; up from the middle of the inside radius, over where it begins.
    leg, begin = 50 - ARC / 2, 150 - ARC / 2
    assert at(folded.pose_at(190 + 20j), 200, 0) == pytest.approx([begin + THICK + RADIUS, 0, THICK + RADIUS + leg])
    assert at(folded.pose_at(190 + 20j), 200, 0, THICK) == pytest.approx([begin + RADIUS, 0, THICK + RADIUS + leg])
    wide, deep, high = folded.size
    assert (wide, deep, high) == pytest.approx((100 - ARC + 2 * (THICK + RADIUS), 40, THICK + RADIUS + leg))
    # A place on what is bent belongs to the nearest face, one beside all of them too.
    assert folded.face_at(complex(150 - ARC / 2 + 0.1, 20)) == middle and folded.face_at(300 + 20j) == right
    assert folded.face_at(complex(150 + ARC / 2 - 0.1, 20)) == right and folded.face_at(100 + 90j) == middle


def test_bent_down_it_hangs_below_the_face_it_was_drawn_on():
    folded = fold([box(0, 0, 200, 40)], [bend(150, up=False)], 200 + 40j, THICK)
    leg, begin = 50 - ARC / 2, 150 - ARC / 2
    assert at(folded.pose_at(190 + 20j), 200, 0) == pytest.approx([begin + RADIUS, 0, -RADIUS - leg])
    assert folded.normal(folded.face_at(190 + 20j)) == pytest.approx([1, 0, 0], abs=1e-9)
    assert folded.size[2] == pytest.approx(THICK + RADIUS + leg)


@pytest.mark.parametrize("angle", [30.0, 135.0])
def test_at_any_angle_what_is_folded_is_as_wide_as_its_lines_say(angle):
    """Past a bend of 135 degrees the round itself reaches furthest out, and not a corner."""
    turn = math.radians(angle)
    half = turn * 3.8 / 2
    folded = fold([box(0, 0, 200, 40)], [bend(150, angle=angle)], 200 + 40j, THICK)
    begin, leg, outer = 150 - half, 50 - half, THICK + RADIUS
    # The outer skin goes round the middle of the inside radius, then on along its tangent.
    end = complex(begin, outer) + outer * cmath.rect(1, turn - math.pi / 2) + leg * cmath.rect(1, turn)
    inner = end + THICK * cmath.rect(1, turn + math.pi / 2)
    furthest = max(end.real, inner.real, begin + outer * (math.sin(turn) if turn < math.pi / 2 else 1.0))
    assert folded.size[0] == pytest.approx(furthest, abs=1e-3)
    assert folded.size[2] == pytest.approx(max(end.imag, inner.imag), abs=1e-3)


def test_round_corners_of_a_face_count_for_its_size():
    ends = [Arc(100 + 0j, 100 + 40j, 100 + 20j, True, SOURCE)]
    lines = box(0, 0, 100, 40).outer.segments
    plate = Outline(Loop((lines[0], *ends, lines[2], lines[3])))
    folded = fold([plate], [], 120 + 40j, THICK)
    assert folded.size == pytest.approx((120, 40, THICK)) and folded.bent == ()
    assert np.array_equal(folded.pose_at(50 + 20j), np.eye(4))


def test_the_root_is_the_face_with_most_of_the_drawn_rectangle():
    faces = [box(100, 0, 260, 40), box(0, 0, 90, 40), box(-300, 0, -10, 40)]
    assert root_of(faces, 100 + 40j) == 1 and root_of(faces, 300 + 40j) == 0
    assert root_of(faces[::-1], 100 + 40j) == 1
    # Only as much of it as is up there too.
    assert root_of([box(0, 35, 100, 400), box(100, 0, 140, 40)], 140 + 40j) == 1


def test_a_ring_of_bends_that_does_not_close_is_told():
    """Round a hole four faces hang on four bends; folded by equal angles they do not meet again."""
    ring = box(0, 0, 200, 200)
    hole = box(80, 80, 120, 120).outer.reversed()
    faces = [Outline(ring.outer, (hole,))]
    across = [
        LaidBend(name, name, Allowance(90.0, RADIUS, K, THICK), True, begin, end, onward, True)
        for name, begin, end, onward in (
            ("s", 100 + 0j, 100 + 80j, 1 + 0j), ("n", 100 + 120j, 100 + 200j, 1 + 0j),
            ("w", 0 + 100j, 80 + 100j, 1j), ("e", 120 + 100j, 200 + 100j, 1j),
        )
    ]  # fmt: skip
    assert len(fold(faces, across, 200 + 200j, THICK).circular) == 1
    assert fold(faces, across[:2], 200 + 200j, THICK).circular == ()


# Too near


@pytest.mark.parametrize(
    ("cut", "far"),
    [
        (box(60, 10, 70, 20), 10), (box(30, 10, 40, 20), 10), (box(45, 10, 55, 20), 0), (box(51, 10, 55, 20), 0),
        (box(64.1, 10, 70, 20), None), (box(63.9, 10, 70, 20), 13.9),
    ],
)  # fmt: skip
def test_a_cut_is_as_far_from_a_bend_as_from_where_that_begins(cut, far):
    half = ARC / 2
    found = apart(bend(50), cut, 14 - half)
    assert found == (None if far is None else pytest.approx(max(0.0, far - half)))


def test_moved_clear_it_is_as_far_as_is_wanted_on_its_own_side():
    for left, side in ((53, 1), (40, -1), (47, 1), (45, -1)):
        cut = box(left, 10, left + 8, 20)
        moved = left + way_clear(bend(50), cut, 4.0).real
        nearest = moved if side > 0 else moved + 8
        assert side * (nearest - 50) == pytest.approx(ARC / 2 + 4)
        assert way_clear(bend(50), cut, 4.0).imag == 0
    # One that is round is furthest beside its own ends.
    disc = Loop((Arc(60 + 4j, 60 - 4j, 60 + 0j, True, SOURCE), Arc(60 - 4j, 60 + 4j, 60 + 0j, True, SOURCE)))
    assert min(point.real for point in reached(disc, -1 + 0j)) == pytest.approx(56)
    assert max(point.real for point in reached(disc, 1 + 0j)) == pytest.approx(64)
    assert 60 - 4 + way_clear(bend(50, wide=0.0), Outline(disc), 4.0).real == pytest.approx(50 + ARC / 2 + 4)


def notched(corner, source="plate"):
    """The outer edge of a plate of 200 x 40 with a notch from the top, 10 wide and 20 deep, begun so far from 0."""
    corners = [0, 200, 200 + 40j, corner + 10 + 40j, corner + 10 + 20j, corner + 20j, corner + 40j, 40j]
    sources = [Source("plate", "side")] * 3 + [Source(source, "notch")] * 3 + [Source("plate", "side")] * 2
    return polygon([complex(point) for point in corners], sources)


@pytest.mark.parametrize(
    ("corner", "within", "near"),
    [(60, 10, 10), (60, 9.9, None), (30, 10.1, 10), (30, 9.9, None), (53.1, 5, 3.1)],
)
def test_a_notch_is_as_near_a_bend_as_its_nearer_side(corner, within, near):
    """From the middle of the bend, less half of what it takes."""
    half = ARC / 2
    found = edge_near(bend(50), notched(corner), within - half + 1e-5, (50 - half, 150 - half))
    if near is None:
        assert found is None
        return
    place, far = found
    assert far == pytest.approx(near - half)
    assert place.real == pytest.approx(corner if corner > 50 else corner + 10)
    # A leg that is no longer than that ends there, and a bend that ends below the notch has nothing beside it.
    short = (near - half, 150 - half) if corner < 50 else (50 - half, near - half)
    assert edge_near(bend(50), notched(corner), within, short) is None
    assert edge_near(bend(50, wide=19.7), notched(corner), within, (50.0, 150.0)) is None
    assert edge_near(bend(50), notched(corner, "plate/relief"), within, (50 - half, 150 - half)) is None


def test_of_a_notch_over_the_bend_its_sides_count_and_its_floor_does_not():
    place, far = edge_near(bend(50), notched(43), 20.0, (50.0, 150.0))
    assert (place.real, far) == (53, pytest.approx(3 - ARC / 2))


def test_a_strip_is_what_the_bend_takes_of_the_sheet_and_reaches_beyond_its_ends():
    one = bend(50)
    assert as_polygon(one.strip(), 1e-3).bounds == pytest.approx((50 - ARC / 2, 0, 50 + ARC / 2, 40))
    assert as_polygon(one.strip(5), 1e-3).bounds == pytest.approx((50 - ARC / 2, -5, 50 + ARC / 2, 45))
    turned = LaidBend("b", "b", one.bend, True, 40 + 50j, 0 + 50j, 1j)
    assert as_polygon(turned.strip(5), 1e-3).bounds == pytest.approx((-5, 50 - ARC / 2, 45, 50 + ARC / 2))
    assert turned.strip().outer.area > 0 and one.strip().outer.area > 0
    assert one.half == pytest.approx(ARC / 2) and one.middle == 50 + 20j and one.along == -1j
    assert shapely.LineString([(p.real, p.imag) for p in one.tangents[0]]).length == 40
