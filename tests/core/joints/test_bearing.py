"""What openings really hold by: round corners that take of the play, reliefs that give to it and take of the sides."""

import math

import manifold3d
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.edits.command import apply
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.joints.bearing import play, stops_short
from shapely.affinity import translate

from ...projects import cross_lap, part, project, stock, tab
from ...properties import tried
from ..parts.test_told_at_shape import codes, finding
from .test_joints import X, Y, Z, solid, stand


def slides(clearance, radius):
    """How far a square insert moves in an opening with round corners, tried out with shapely."""
    half = 10 + clearance / 2
    hole = shapely.box(-half, -half, half, half).buffer(-radius, quad_segs=256).buffer(radius, quad_segs=256)
    insert = shapely.box(-10, -10, 10, 10)
    fits = [s for s in np.linspace(0, clearance / 2, 400) if hole.buffer(1e-9).covers(translate(insert, s))]
    return 2 * max(fits) if fits else None


@settings(max_examples=tried(15))
@given(st.floats(0.02, 0.5), st.floats(0.02, 0.6))
def test_round_corners_take_as_much_play_as_an_insert_that_is_slid_finds(clearance, radius):
    found = slides(clearance, radius)
    left = play(clearance, radius)
    assert (left < 0) == (found is None) or abs(left) < 2e-3
    if found is not None:
        assert left == pytest.approx(found, abs=clearance / 150 + 1e-3)


@settings(max_examples=tried(15))
@given(st.floats(0, 0.5), st.floats(0.02, 2))
def test_an_insert_stops_short_of_the_floor_where_its_corners_meet_the_rounds(clearance, radius):
    half = 10 + clearance / 2
    notch = shapely.box(-half, 0, half, 40).buffer(-radius, quad_segs=256).buffer(radius, quad_segs=256)
    notch = shapely.union(notch, shapely.box(-half, 20, half, 60))
    low, high = 0.0, radius + 0.1
    for _ in range(40):
        middle = (low + high) / 2
        stands = shapely.box(-10, middle, 10, middle + 10)
        low, high = (low, middle) if notch.buffer(1e-7).covers(stands) else (middle, high)
    assert stops_short(clearance, radius) == pytest.approx(high, abs=2e-3)


def test_the_ledger_shows_what_corners_leave_and_what_reliefs_add():
    walls = [part("wall", 100, 60), part("base", 140, 80)]
    plain = evaluate(project(walls, [tab("wall", "bottom", "base", 20, 40)]))
    # By hand: a = 0.08 - 0.05 = 0.03; 2 (sqrt(0.08² - 0.03²) - 0.03) = 0.0883.
    assert [row.gap for row in plain.ledger] == pytest.approx([0.0883, 0.0883], abs=1e-4)
    bones = project(walls, [tab("wall", "bottom", "base", 20, 40, width="20", relief="dog-bone", cutter="3")])
    found = evaluate(bones)
    width = next(row for row in found.ledger if row.kind == "tab, its width")
    # By hand: the ends of the slot are gone, the circles meet: their far sides lie 1.55 (1 - cos) beyond each end.
    centre = complex(1.55, 1.55) / math.sqrt(2)
    deep = math.sqrt(1.55**2 - (3.17 / 2 - centre.imag) ** 2) - centre.real
    assert width.gap == pytest.approx(0.1 + 2 * deep, abs=5e-3)
    warning = finding(found, "relief-eats-bearing")
    assert "leave 0 % of the sides that bear" in warning.text
    [mend] = warning.mends
    assert mend.label == "Cut it as T-bone, long side"
    assert "relief-eats-bearing" not in codes(evaluate(apply(bones, mend.command)))


def test_round_corners_that_take_most_of_the_play_offer_a_relief():
    tight = stock(glue="0.05")
    walls = [part("wall", 100, 60), part("base", 140, 80)]
    found = evaluate(project(walls, [tab("wall", "bottom", "base", 20, 40)], [tight]))
    told = finding(found, "root-takes-play")
    assert "radius in Base take 0.04 mm of 0.05 mm of its play" in told.text
    mended = apply(project(walls, [tab("wall", "bottom", "base", 20, 40)], [tight]), told.mends[0].command)
    assert "root-takes-play" not in codes(evaluate(mended))


@pytest.mark.parametrize("share", ["1/3", "1/2", "2/3"])
def test_which_part_gets_which_share_of_a_lap(share):
    """The first part's slot is H*s + e/2 deep, the other's H*(1-s) + e/2."""
    found = evaluate(
        project([part("a", 100, 40), part("b", 90, 40)], [cross_lap("a", 50, "b", 45, share=share, seating="0.4")])
    )
    s = eval(share)
    for name, deep in (("a", 40 * s + 0.2), ("b", 40 * (1 - s) + 0.2)):
        whole = as_polygon(found.parts[name].outline)
        assert 4000 - whole.area if name == "a" else 3600 - whole.area == pytest.approx(deep * 3.17, abs=0.01)


def slid(body, other, way):
    """How far (mm) a body that stands free of another goes one way before they meet."""
    low, high = 0.0, 4.0
    for _ in range(14):
        middle = (low + high) / 2
        free = (body ^ other.translate(tuple(np.array(way, float) * middle))).volume() < 1e-5
        low, high = (middle, high) if free else (low, middle)
    return low


#: Clearance, kerf, relief and width of the tab: a beam's corners that take little and nearly all of the play, and each
#: relief of a cutter of 0.8 mm.
AT_REST = [
    (0.12, 0.1, "none", 15), (0.12, 0.2, "none", 24), (0.12, 0.4, "none", 15), (0.2, 0.4, "none", 24),
    (0.3, 0.4, "none", 15), (0.2, 0.2, "dog-bone", 15), (0.12, 0.1, "T-bone, long side", 24),
    (0.3, 0.4, "T-bone, short side", 15),
]  # fmt: skip


@pytest.mark.parametrize(("clearance", "kerf", "relief", "width"), AT_REST)
def test_a_tab_at_rest_has_the_play_that_the_ledger_shows(clearance, kerf, relief, width):
    """A slot as its beam or cutter leaves it, round in its corners: the tab is slid until the solids meet."""
    cutter = 0.8 if relief != "none" else kerf
    parts = [part("shelf", 70, 110), part("side", 160, 160)]
    joint = tab("shelf", "left", "side", 20, 30, width=str(width), relief=relief, cutter=str(cutter))
    stocks = [stock(glue=str(clearance), kerf=str(kerf), readings=("4",))]
    result = evaluate(project(parts, [joint], stocks))
    side = result.parts["side"]
    # What a round tool of this radius leaves of the plate.
    left = as_polygon(side.outline, 1e-4).buffer(cutter / 2, quad_segs=64).buffer(-cutter / 2, quad_segs=64)
    # What lies far from the slot is met by nothing.
    left = left.intersection(shapely.box(0, 0, 60, 80))
    loops = [np.array(r.coords)[:-1] for r in (left.exterior, *left.interiors)]
    section = manifold3d.CrossSection(loops, manifold3d.FillRule.EvenOdd)
    plate = manifold3d.Manifold.extrude(section, side.stock.thickness)
    # Above the face, so that only the tab is in the slot.
    shelf = stand(solid(result.parts["shelf"]), Z, X, np.array([20, 30, 0]) - np.cross(Z, X) * 2)
    assert (plate ^ shelf).volume() < 1e-4
    gaps = {row.kind: row.gap for row in result.ledger}
    for kind, way in (("tab, its width", X), ("tab, its thickness", Y)):
        both = slid(plate, shelf, way) + slid(plate, shelf, -way)
        assert both == pytest.approx(gaps[kind], abs=5e-3), kind
