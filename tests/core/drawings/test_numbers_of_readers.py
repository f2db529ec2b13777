"""Numbers of those who read drawings, from both sides: arcs that are too small, slots by their depth, sizes."""

import math

import pytest
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.following import Follow, places_of
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.recognised import FoundPart
from leannotch_core.drawings.taken import part_from
from leannotch_core.geometry.loop import Outline, polygon
from leannotch_core.geometry.segment import Arc, Motion, Source

SOURCE = Source("test", "side")


def outline(points):
    return Outline(polygon([complex(*point) for point in points], [SOURCE] * len(points)))


@pytest.mark.parametrize(("radius", "drawn"), [(2, 5), (4, 5), (4.99, 5), (5, 5), (8, 8)])
@pytest.mark.parametrize(("large", "sweep"), [(0, 0), (0, 1), (1, 0), (1, 1)])
def test_an_arc_that_does_not_reach_is_scaled_up_until_it_does(radius, drawn, large, sweep):
    """SVG 2, 9.5.1: radii that are too small are scaled up until there is just one solution, half a round."""
    path = f"M10 20 A{radius} {radius} 0 {large} {sweep} 20 20"
    size = 'width="40mm" height="40mm" viewBox="0 0 40 40"'
    data = f'<svg xmlns="http://www.w3.org/2000/svg" {size}><path d="{path}"/></svg>'
    segments = [one for line in read_drawing(data.encode()).lines for one in line.segments if isinstance(one, Arc)]
    assert segments and all(one.radius == pytest.approx(drawn) for one in segments)
    assert all(math.isfinite(one.sweep) for one in segments)
    half = math.asin(5 / drawn)
    turned = sum(abs(one.sweep) for one in segments)
    assert turned == pytest.approx(2 * (math.pi - half if large and drawn > 5 else half), abs=1e-6)
    # Which way it bows: below or above the line between its ends, as the sweep flag says (y runs up here).
    middle = [one.at(0.5) for one in segments]
    assert all((at.imag > 20) == bool(sweep) for at in middle)


def notched(deep, wide=3.0, beside=20.0, shifted=0.0):
    """A plate with a notch from above, one of whose flanks may be begun deeper than the other."""
    left, right = beside, beside + wide
    return outline(
        [
            (0, 0),
            (left + right, 0),
            (left + right, 30),
            (right, 30),
            (right, 30 - deep),
            (left, 30 - deep),
            (left, 30 - shifted),
            (0, 30 - shifted),
        ]
    )


@pytest.mark.parametrize(
    ("deep", "shifted", "found"), [(1.4, 0, 0), (1.6, 0, 1), (3.0, 1.6, 0), (3.0, 1.4, 1), (12, 0, 1), (12, 10.6, 0)]
)
def test_a_notch_is_a_slot_where_its_flanks_stand_opposite_each_other_half_a_thickness(deep, shifted, found):
    slots = [place for place in places_of(notched(deep, shifted=shifted), 3.0) if place.kind == "slot"]
    assert len(slots) == found


@pytest.mark.parametrize(("wide", "found"), [(2.93, 0), (2.95, 1), (3.0, 1), (3.19, 1), (3.21, 0)])
def test_a_slot_is_as_wide_as_the_sheet_and_a_little_clearance(wide, found):
    slots = [place for place in places_of(notched(10, wide), 3.0) if place.kind == "slot"]
    assert [slot.drawn for slot in slots] == pytest.approx([wide] * found)


@pytest.mark.parametrize(("beside", "found"), [(3.4, 0), (3.5, 1)])
def test_what_is_beside_a_slot_is_wider_than_a_stroke_of_a_letter(beside, found):
    assert len([place for place in places_of(notched(10, beside=beside), 3.0) if place.kind == "slot"]) == found


def test_a_place_that_is_left_out_does_not_follow():
    plate = notched(10)
    [(place, follows)] = Follow(3.0).places(plate)
    assert follows and place.at(plate) == pytest.approx(21.5 + 25j)
    for off, does in ((0.05, False), (0.07, True)):
        [(_, follows)] = Follow(3.0, (place.at(plate) + off,)).places(plate)
        assert follows == does


@pytest.mark.parametrize(("side", "taken"), [(0.049, False), (0.051, True)])
def test_a_part_is_no_thinner_than_anything_can_be_cut(side, taken):
    for found in (outline([(0, 0), (30, 0), (30, side), (0, side)]), outline([(0, 0), (side, 0), (side, 30), (0, 30)])):
        part = FoundPart(found, "Strip", [], [], [Motion()])
        if taken:
            assert part_from(part, "strip", "ply").count == 1
        else:
            with pytest.raises(BrokenFile, match="too small to be cut; check its unit"):
                part_from(part, "strip", "ply")
