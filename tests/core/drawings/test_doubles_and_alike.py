"""Lines that run along one another, and outlines that are one another's copies: by hand, from both sides."""

import cmath
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.drawings.alike import apart, lies_on, motion_between
from leannotch_core.drawings.chains import SNAP
from leannotch_core.drawings.mending.doubles import once
from leannotch_core.geometry.loop import Loop, Outline, circle, polygon
from leannotch_core.geometry.segment import Arc, Line, Motion, Source

SOURCE = Source("test", "side")


def line(a, b):
    return Line(complex(a), complex(b), SOURCE)


def arc(begin, end, radius=10.0, centre=0j):
    """From one angle (degrees) to another, counter-clockwise."""
    a, b = (centre + cmath.rect(radius, math.radians(angle)) for angle in (begin, end))
    return Arc(a, b, centre, True, SOURCE)


def length(found):
    return sum(segment.length for segment in found.kept)


@pytest.mark.parametrize(
    ("lines", "covered", "doubled"),
    [
        # One within another, two that share a third, a chain of three, and two that only meet.
        ([line(0, 30), line(10, 20)], 30, 1),
        ([line(0, 20), line(10, 30)], 30, 1),
        ([line(0, 20), line(40, 10), line(30, 50)], 50, 2),
        ([line(0, 20), line(20, 40)], 40, 0),
        ([line(0, 20), line(0, 20), line(20, 0)], 20, 2),
        # Beside one another, by more than an end may be off.
        ([line(0, 20), line(4j * SNAP, 20 + 4j * SNAP)], 40, 0),
        ([arc(0, 90), arc(45, 180)], math.pi * 10, 1),
        (
            [arc(0, 90), arc(45, 180, radius=10 + 4 * SNAP)],
            math.radians(90) * 10 + math.radians(135) * (10 + 4 * SNAP),
            0,
        ),
        # Over where the longest begins, as they were drawn or the other way round; and a circle begun at two places.
        ([arc(45, 180), arc(0, 90)], math.pi * 10, 1),
        ([arc(45, 180).reversed(), arc(-90, 60), arc(170, 200).reversed()], math.radians(290) * 10, 2),
        ([arc(0, 180), arc(180, 360), arc(90, 270), arc(270, 450)], math.tau * 10, 3),
    ],
)
def test_every_stretch_is_kept_once(lines, covered, doubled):
    found = once(lines)
    assert length(found) == pytest.approx(covered, abs=0.1) and found.doubled == doubled


def test_a_short_line_that_leads_to_another_direction_leaves_both_whole():
    """A speck lies along both of two long lines that meet at half a degree; neither is drawn on the other's way."""
    bent = cmath.rect(20, math.radians(0.5))
    found = once([line(0, 20), line(0, bent), line(0, 0.3)])
    ends = {complex(round(s.end.real, 3), round(s.end.imag, 3)) for s in found.kept if s.length > 5}
    assert length(found) == pytest.approx(40, abs=0.3) and len(ends) >= 2


PLATE = Outline(
    polygon([0, 40, 40 + 30j, 10 + 30j], [SOURCE] * 4),
    (circle(12 + 10j, 3, SOURCE).reversed(), polygon([25 + 8j, 25 + 14j, 31 + 8j], [SOURCE] * 3)),
)


@given(st.floats(0, 360), st.floats(-100, 100), st.booleans())
def test_a_copy_is_known_wherever_it_lies(turn, aside, over):
    motion = Motion(cmath.rect(1, math.radians(turn)), complex(aside, 7), mirrored=over)
    found = motion_between(PLATE, PLATE.moved(motion), mirrored=True)
    assert found is not None and apart(PLATE.moved(found), PLATE.moved(motion)) < 1e-4
    assert (motion_between(PLATE, PLATE.moved(motion), mirrored=False) is None) == over


def changed(**parts):
    holes = {"disc": circle(12 + 10j, 3, SOURCE).reversed(), "other": PLATE.cutouts[1]} | parts
    return Outline(PLATE.outer, tuple(holes.values()))


@pytest.mark.parametrize(
    ("other", "same"),
    [
        (changed(), True),
        (changed(disc=circle(12 + 10j, 3.05, SOURCE).reversed()), False),
        (changed(disc=circle(12.05 + 10j, 3, SOURCE).reversed()), False),
        # A square as large as the disc, where the disc is; and one opening less.
        (changed(disc=polygon([9 + 7j, 9 + 13j, 15 + 13j, 15 + 7j], [SOURCE] * 4)), False),
        (Outline(PLATE.outer, PLATE.cutouts[:1]), False),
    ],
)
def test_what_differs_in_one_opening_is_no_copy(other, same):
    assert (lies_on(PLATE, other) and len(other.loops) == len(PLATE.loops)) == same
    assert (lies_on(other, PLATE) and len(other.loops) == len(PLATE.loops)) == same


def test_arcs_that_bow_the_other_way_are_no_copy():
    def lens(ccw):
        return Outline(
            Loop(
                (
                    Arc(0j, 20 + 0j, 10 + (-15j if not ccw else 15j), ccw, SOURCE),
                    line(20, 20 + 20j),
                    line(20 + 20j, 20j),
                    line(20j, 0),
                )
            )
        )

    assert lies_on(lens(True), lens(True)) and not lies_on(lens(True), lens(False))
