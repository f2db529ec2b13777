"""Ellipses, curves and letters as arcs; measures; parts mirrored, scaled and drawn by hand; pockets."""

import cmath
import math
from pathlib import Path

import pytest
import shapely
from fontTools.pens.areaPen import AreaPen
from fontTools.ttLib import TTFont
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.svg import read_svg
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart, ReshapeCurve, ScalePart
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline
from leannotch_core.geometry.measure import centroid, distance
from leannotch_core.geometry.segment import Arc
from leannotch_core.handover.dxf import write_dxf
from leannotch_core.handover.svg import write_svg
from leannotch_core.layout.nest import nest
from leannotch_core.machining.plan import plan_sheet
from leannotch_core.parts.lettering import outlines as lettering
from leannotch_core.parts.lettering.outlines import Typesetting, islands, text_outlines
from leannotch_core.parts.shapes.ellipse import ellipse
from leannotch_core.proof.sheet_proof import prove_sheet

from ...judges.shapes import arcs, area, judge, outlines
from ...projects import cross_lap, finger, part, project, stock, tab, text

FONTS = Path(lettering.__file__).parent / "fonts"


def corner_between(before, after):
    """Angle in degrees by which the outline turns between two segments."""
    return abs(math.degrees(cmath.phase(after.start_tangent / before.end_tangent)))


# Measures


@given(outlines("a"))
def test_area_centroid_and_length_are_exact_with_arcs(a):
    by_judge = as_polygon(a, 0.0002)
    assert a.area == pytest.approx(by_judge.area, abs=0.02)
    middle = centroid(a)
    assert (middle.real, middle.imag) == pytest.approx((by_judge.centroid.x, by_judge.centroid.y), abs=2e-3)
    assert a.outer.length == pytest.approx(by_judge.exterior.length, abs=0.02)


@given(outlines("a"), outlines("b"))
def test_the_distance_between_outlines_is_the_judges(a, b):
    by_judge = as_polygon(a, 0.0002).exterior.distance(as_polygon(b, 0.0002).exterior)
    assert distance(a, b) == pytest.approx(by_judge, abs=1e-3)


# Ellipses and curves


@given(st.integers(5, 200), st.integers(5, 200))
def test_an_ellipse_is_tangent_arcs_within_five_thousandths(width, height):
    loop = ellipse("e", width, height)
    assert all(isinstance(segment, Arc) for segment in loop)
    exact = math.pi * width * height / 4
    # A band of the tolerance all round is what the area may be off by at most.
    assert Outline(loop).area == pytest.approx(exact, abs=0.005 * loop.length)
    around = zip(loop.segments, loop.segments[1:] + loop.segments[:1], strict=True)
    assert max(corner_between(a, b) for a, b in around) < 0.01
    for segment in loop:
        x, y = segment.at(0.5).real / (width / 2), segment.at(0.5).imag / (height / 2)
        assert abs(math.hypot(x, y) - 1) * min(width, height) / 2 < 0.006


SPOTS = st.sampled_from([(0.2, 0.2), (0.8, 0.3), (0.5, 0.9), (0.5, 0.5), (0.2, 0.2000000001)])


@given(st.lists(st.tuples(SPOTS, st.booleans()), min_size=3, max_size=6))
def test_a_curve_with_points_on_one_another_is_drawn_or_refused_and_answered_at_once(knots):
    """Two points on one another kept the evaluation going for ever, and a corner on one of them divided by zero."""
    shape = {"kind": "curve", "width": "48.57", "height": "80"}
    shape["knots"] = [{"x": x, "y": y, "corner": corner} for (x, y), corner in knots]
    found = evaluate(project([part("wall", 50, 80) | {"shape": shape}]))
    if "wall" in found.parts:
        left, bottom, right, top = found.parts["wall"].outline.bounds
        assert (right - left, top - bottom) == pytest.approx((48.57, 80), abs=0.02)
        outline = found.parts["wall"].outline
        assert outline.area > 0.0049 * outline.outer.length / 2
    else:
        assert any("point" in finding.text for finding in found.errors), [finding.text for finding in found.errors]


knots = st.lists(
    st.tuples(st.integers(0, 20), st.integers(0, 20), st.booleans()), min_size=3, max_size=7, unique_by=lambda k: k[:2]
)


@given(knots, st.integers(20, 200), st.integers(20, 200))
def test_a_curve_fills_its_width_and_height_or_says_why_not(points, width, height):
    shape = {"kind": "curve", "width": str(width), "height": str(height)}
    shape["knots"] = [{"x": x / 20, "y": y / 20, "corner": corner} for x, y, corner in points]
    result = evaluate(project([part("a", 1, 1, shape=shape)]))
    if result.errors:
        assert "crosses itself" in result.errors[0].text or "on one line" in result.errors[0].text
        return
    left, bottom, right, top = result.parts["a"].outline.bounds
    assert (left, bottom, right, top) == pytest.approx((0, 0, width, height), abs=0.02)


def test_dragging_a_point_of_a_curve_moves_that_point_and_lets_the_others_stay():
    drawn = [(0, 0, True), (100, 0, True), (80, 50, False), (20, 60, False)]
    knots = [{"x": x, "y": y, "corner": c} for x, y, c in drawn]
    command = ReshapeCurve.model_validate({"do": "reshape curve", "id": "a", "knots": knots})
    changed = apply(project([part("a", 100, 60)]), command)
    result = evaluate(changed)
    outline = result.parts["a"].outline.outer
    boundary = as_polygon(Outline(outline), 0.001).exterior
    left = min(0.0, *(s.start.real for s in outline))
    for x, y, _ in drawn:
        assert boundary.distance(shapely.Point(x - left, y)) < 0.02


# Letters


@pytest.mark.parametrize(("font", "text"), [("plain", "BOX 48"), ("stencil", "QUADRAT 8"), ("plain", "Ärmel & gå")])
def test_letters_have_the_area_that_the_fonts_own_outlines_have(font, text):
    """fontTools' area pen on the shipped file is the judge; the cap height is H's (OpenType OS/2 sCapHeight)."""
    file = TTFont(FONTS / lettering.FILES[font])
    glyphs, letters = file.getGlyphSet(), file.getBestCmap()
    scale = 20 / file["OS/2"].sCapHeight
    wanted = 0.0
    for letter in text:
        pen = AreaPen(glyphs)
        glyphs[letters[ord(letter)]].draw(pen)
        wanted += abs(pen.value) * scale**2
    drawn = text_outlines("t", text, Typesetting(font, 20))
    # Glyphs of the plain font may overlap within a letter, which counts once here and twice there.
    assert area(drawn) == pytest.approx(wanted, rel=0.01)
    assert arcs(drawn)
    low, high = min(o.bounds[1] for o in text_outlines("t", "H", Typesetting(font, 20))), 10
    assert low == pytest.approx(-high, abs=0.3)


def test_tracking_alignment_and_bend_set_letters_where_they_belong():
    plain = text_outlines("t", "HHH", Typesetting("plain", 10, align="left"))
    wide = text_outlines("t", "HHH", Typesetting("plain", 10, tracking=2, align="left"))
    ends = [max(o.bounds[2] for o in text) for text in (plain, wide)]
    assert ends[1] - ends[0] == pytest.approx(4, abs=1e-9)
    right = text_outlines("t", "HHH", Typesetting("plain", 10, align="right"))
    assert max(o.bounds[2] for o in right) <= 0 < min(o.bounds[2] for o in plain)
    # On an arc of 60 mm every letter's foot keeps its distance from the arc's centre.
    bent = text_outlines("t", "IIIIIII", Typesetting("plain", 10, bend=60))
    assert len(bent) == 7
    feet = {round(min(abs(s.start - complex(0, -65)) for s in o.outer), 1) for o in bent}
    assert max(feet) - min(feet) < 0.2


def test_a_plain_font_loses_its_islands_unless_bridges_or_the_stencil_hold_them():
    def sign(**hole):
        cut = {"id": "text", "origin": "middle", "x": "0", "y": "0"}
        cut["hole"] = {"kind": "text", "text": "BOA", "height": "20", **hole}
        return project([part("sign", 120, 60, cutouts=[cut])])

    lost = evaluate(sign(font="plain"))
    [finding] = [f for f in lost.findings if "fall" in f.text]
    assert "4 islands" in finding.text and finding.mends[0].command.path[-1] == "bridges"
    assert islands(text_outlines("t", "BOA", Typesetting("plain", 20))) == 4
    for held in (sign(font="plain", bridges=finding.mends[0].command.value), sign(font="stencil")):
        result = evaluate(held)
        assert not [f for f in result.findings if "fall" in f.text]
        assert len(result.parts["sign"].finished.pieces) == 1
    bridged = text_outlines("t", "O", Typesetting("plain", 20, bridges=1.5))
    assert area(bridged) < area(text_outlines("t", "O", Typesetting("plain", 20)))


# Added, kept, sunk


def test_shapes_are_added_kept_and_sunk_as_the_judge_would():
    def cut(name, does, hole, x, y):
        return {"id": name, "does": does, "hole": hole, "x": str(x), "y": str(y), "depth": "1.2"}

    circle = {"kind": "round", "diameter": "50"}
    tongue = {"kind": "rectangle", "width": "30", "height": "10"}
    made = [
        cut("ear", "add", circle, 100, 30),
        cut("tongue", "pocket", tongue, 40, 30),
        cut("hole", "cut out", {"kind": "ellipse", "width": "20", "height": "8"}, 100, 30),
    ]
    result = evaluate(project([part("a", 100, 60, cutouts=made)]))
    assert not result.findings
    drawn = result.parts["a"]
    ear = shapely.Point(100, 30).buffer(25, quad_segs=512)
    wanted = shapely.box(0, 0, 100, 60).union(ear).area - math.pi * 20 * 8 / 4
    assert drawn.outline.area == pytest.approx(wanted, abs=0.1)
    assert [(pocket.depth, pocket.outline.area) for pocket in drawn.pockets] == [(1.2, pytest.approx(300))]
    kept = project([part("a", 100, 60, cutouts=[cut("disc", "keep", circle, 50, 30)])])
    assert evaluate(kept).parts["a"].outline.area == pytest.approx(math.pi * 25**2)
    deep = project([part("a", 100, 60, cutouts=[cut("t", "pocket", tongue, 50, 30) | {"depth": "9"}])])
    [finding] = evaluate(deep).findings
    assert "goes through" in finding.text and finding.mends[0].command.value == "1.53"


def test_a_grown_rim_is_the_judges_buffer():
    grown = project([part("a", 100, 60, rim={"by": "5", "corners": "round"})])
    wanted = shapely.box(0, 0, 100, 60).buffer(5, quad_segs=512).area
    assert evaluate(grown).parts["a"].outline.area == pytest.approx(wanted, abs=0.05)


@pytest.mark.parametrize(("kind", "who"), [("svg", "in the file"), ("dxf", "in the file"), ("dxf", "at the machine")])
def test_pockets_and_engraving_stay_off_the_cutting_layer_and_are_proved(kind, who):
    joint = tab("shelf", "left", "side", 30, 20, pocket="1.5", width="14", inset="5")
    mark = text("STAKE 7", "40", "40", "engrave", font="stencil", height="8")
    document = project([part("side", 90, 70, cutouts=[mark]), part("shelf", 60, 45)], [joint], hand_over={"kerf": who})
    result = evaluate(document)
    assert not result.findings
    first = next(iter(nest(document, result, 0)))
    plan = plan_sheet(document.model_copy(update={"layout": first.layout}), result, 0)
    drawing = read_svg(write_svg(plan)) if kind == "svg" else read_dxf(write_dxf(plan))
    proof = prove_sheet(plan, drawing, result)
    assert proof.faults == []
    layers = [line.layer for line in drawing.lines]
    first_cut = min(layers.index(layer) for layer in layers if "cut" in layer)
    assert layers.index("engrave") < layers.index("pocket-1.50") < first_cut
    # The pocket that is swept is as large as the ledger's opening.
    side = next(p for p in proof.parts if p.part == "side")
    sunk = side.pockets
    assert sum(shape.area for shape in sunk) == pytest.approx(2 * 14.1 * 3.17, rel=2e-3)


# Mirrored and scaled


@given(st.sampled_from(["left", "right", "top", "bottom"]), st.integers(1, 30))
def test_a_mirrored_part_is_its_mirror_image_with_its_joints_on_the_edges_they_were_on(side, inset):
    cut = {"id": "c", "hole": {"kind": "text", "text": "F", "height": "12"}, "x": "30", "y": "20", "turn": "20"}
    parts = [part("a", 100, 60, cutouts=[cut], corners=[{"corner": "top left", "kind": "round", "size": "8"}])]
    parts += [part("b", 100, 100), part("c", 70, 90)]
    joints = [
        finger("a", side, "b", "left", inset_start=str(inset), starts="b"),
        cross_lap("c", 25, "b", 50),
        tab("c", "left", "a", 15, 8, tabs=1, width="9", line={"turn": "0"}),
    ]
    before = project(parts, joints, [stock()])
    after = apply(before, MirrorPart(do="mirror part", id="a"))
    drawn = [evaluate(p).parts["a"].outline for p in (before, after)]
    flipped = shapely.transform(judge([drawn[0]]), lambda xy: xy * [-1, 1] + [100, 0])
    assert flipped.symmetric_difference(judge([drawn[1]])).area < 0.05
    twice = apply(after, MirrorPart(do="mirror part", id="a"))
    assert judge([evaluate(twice).parts["a"].outline]).symmetric_difference(judge([drawn[0]])).area < 0.05
    swapped = {"left": "right", "right": "left"}.get(side, side)
    assert after.joints[0].a.side == swapped
    sides = {s.source.side for s in drawn[1].outer if s.source.shape == "a"}
    assert "left" in sides and "right" in sides


def test_a_widened_mirrored_part_with_a_hole_through_its_edge_still_has_its_joint_on_it():
    hole = {"id": "bite", "hole": {"kind": "round", "diameter": "16"}, "x": "0", "y": "30"}
    joints = [finger("end", "right", "wall", "left", width="6")]
    widened = project([part("wall", 130, 60, cutouts=[hole]), part("end", 80, 60)], joints)
    mirrored = apply(widened, MirrorPart(do="mirror part", id="wall"))
    result = evaluate(mirrored)
    assert mirrored.joints[0].b.side == "right"
    # The bite splits the right edge: what is left of it on both sides still knows that it is the right edge.
    own = [s for s in result.parts["wall"].outline.outer if s.source.shape == "wall" and s.source.side == "right"]
    assert own and all(s.start.real == pytest.approx(130) for s in own)
    assert any(s.start.imag < 22 for s in own) and any(s.start.imag > 38 for s in own)


@given(st.sampled_from([0.5, 1.5, 2, 3.25]))
def test_a_scaled_part_has_the_square_of_the_factor_in_area(factor):
    cut = {"id": "c", "hole": {"kind": "obround", "width": "30", "height": "10"}, "x": "40", "y": "25", "turn": "30"}
    corners = [{"corner": "top left", "kind": "round", "size": "8"}]
    before = project([part("a", 100, 60, cutouts=[cut], corners=corners, rim={"by": "1"})])
    after = apply(before, ScalePart(do="scale part", id="a", factor=factor))
    areas = [evaluate(p).parts["a"].outline.area for p in (before, after)]
    assert areas[1] == pytest.approx(areas[0] * factor**2, rel=1e-4)
