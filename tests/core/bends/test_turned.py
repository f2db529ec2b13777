"""How what lies outward of a bend turns with it, against a rotation matrix of trimesh; and what the strip takes."""

import cmath
import math

import numpy as np
import pytest
import trimesh.transformations
from leannotch_core.bends.allowance import Allowance
from leannotch_core.bends.folded import turned
from leannotch_core.bends.laid import LaidBend

#: 2 mm bent by an inside radius of 3 mm.
THICK, RADIUS, K = 2.0, 3.0, 0.4


def laid(slant, angle, up, flange=False):
    """A bend of 40 mm whose middle line runs through 7, 5 at a slant (degrees), so that onward is square to it."""
    along, middle = cmath.rect(1, math.radians(slant)), 7 + 5j
    allowance = Allowance(angle, RADIUS, K, THICK)
    return LaidBend("bend", "Bend", allowance, up, middle - 20 * along, middle + 20 * along, along / 1j, flange)


@pytest.mark.parametrize("slant", [0, 30, 90, 135, 250])
@pytest.mark.parametrize("angle", [20, 90, 160])
@pytest.mark.parametrize("up", [True, False])
def test_it_turns_about_the_middle_of_the_inside_radius(slant, angle, up):
    bend = laid(slant, angle, up)
    out, along = bend.onward, bend.along
    pose = turned(bend, out)
    # The middle of the inside radius: over the upper face, or under the lower one, where the bend begins.
    begin = bend.middle - out * bend.half
    height = THICK + RADIUS if up else -RADIUS
    axis = [along.real, along.imag, 0]
    sense = np.cross(axis, [out.real, out.imag, 0])[2] * (1 if up else -1)
    judge = trimesh.transformations.rotation_matrix(math.radians(angle) * sense, axis, [begin.real, begin.imag, height])
    finish = bend.middle + out * bend.half
    for far, at, z in ((0, 0, 0), (10, 0, THICK), (25, 12, 1)):
        flat = finish + far * out + at * along
        # Without the bend it would begin where the bend does.
        short = flat - 2 * bend.half * out
        assert pose @ [flat.real, flat.imag, z, 1] == pytest.approx(judge @ [short.real, short.imag, z, 1], abs=1e-9)


@pytest.mark.parametrize("flange", [True, False])
def test_the_strip_of_a_flange_ends_with_it_and_that_of_a_line_does_not(flange):
    bend = laid(30, 90, True, flange)
    for beyond, across, within in ((19.9, 0, True), (20.1, 0, not flange), (0, 0.99, True), (0, 1.01, False)):
        point = bend.middle + beyond * bend.along + across * bend.half * bend.onward
        assert bend.takes(point) == within
