"""Sides of outlines as the proof measures them, against numbers worked out by hand."""

import math

import pytest
from leannotch_core.geometry.segment import Arc, Line, Source
from leannotch_core.proof.chords import boxes, lengths, places

S = Source("s", "s")
#: A line of 3, 4, 5; a quarter of a circle of 2 mm to the left, and three quarters of it to the right.
SIDES = [
    Line(10 + 10j, 13 + 14j, S),
    Arc(12 + 0j, 10 + 2j, 10 + 0j, True, S),
    Arc(12 + 0j, 10 + 2j, 10 + 0j, False, S),
]


def test_how_long_sides_are():
    assert lengths(SIDES) == pytest.approx([5, math.pi, 3 * math.pi])


def test_where_a_share_of_a_side_lies():
    third, whole = (places(SIDES, share) for share in (1 / 3, 1.0))
    assert third == pytest.approx([11 + 34j / 3, 10 + 2 * (math.cos(math.pi / 6) + 0.5j), 10 - 2j], abs=1e-12)
    assert whole == pytest.approx([13 + 14j, 10 + 2j, 10 + 2j])


def test_no_side_leaves_its_box():
    for side, (left, bottom, right, top) in zip(SIDES, boxes(SIDES).tolist(), strict=True):
        low_x, low_y, high_x, high_y = side.bounds()
        assert left <= low_x + 1e-9 and bottom <= low_y + 1e-9 and right >= high_x - 1e-9 and top >= high_y - 1e-9
