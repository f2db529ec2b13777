"""Outlines brought from drawings: what ezdxf and plain SVG hold comes out as the same shape, whole and of true size."""

import io
import math

import ezdxf
import pytest
import shapely
from ezdxf import units
from hypothesis import given
from hypothesis import strategies as st
from leannotch_core.document.sizes import Size
from leannotch_core.document.starter import Starter
from leannotch_core.drawings.outline import CannotBring, bring_outline
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import BringOutline, MirrorPart, PutPart
from leannotch_core.edits.starter import LetGo, PutStarter
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.segment import Arc
from leannotch_core.parts.shapes.brought import Brought
from leannotch_core.said import Said

from ...judges.shapes import judge
from ...projects import part, project, stock

SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">{}</svg>'


def svg(body):
    return SVG.format(body).encode()


def dxf(draw, unit=units.MM):
    document = ezdxf.new(units=unit)
    draw(document.modelspace())
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue().encode()


def drawn(data, width=None, height=None):
    """The finished part that a file gives, by default as large as in the file."""
    shape = bring_outline(data).shape
    sizes = {name: {"text": str(value)} for name, value in (("width", width), ("height", height)) if value}
    one = part("one", 10, 10) | {"shape": shape.model_dump() | sizes}
    document = project([one])
    result = evaluate(document)
    assert not result.errors
    return document, result


radii = st.integers(20, 200).map(lambda n: n / 10)


@given(radii, st.booleans())
def test_a_rounded_plate_with_a_hole_comes_in_as_lines_arcs_and_one_circle(radius, loose):
    """Drawn with ezdxf, as a polyline or as loose lines and arcs; its area by hand."""
    width, height, bulge = 120, 80, math.tan(math.pi / 8)
    corners = [
        (radius, 0, 0), (width - radius, 0, bulge), (width, radius, 0), (width, height - radius, bulge),
        (width - radius, height, 0), (radius, height, bulge), (0, height - radius, 0), (0, radius, bulge),
    ]  # fmt: skip

    def draw(space):
        plate = space.add_lwpolyline(corners, format="xyb", close=True)
        space.add_circle((60, 40), 15)
        if loose:
            plate.explode()

    _, result = drawn(dxf(draw))
    outline = result.parts["one"].outline
    assert (result.parts["one"].width, result.parts["one"].height) == (120, 80)
    assert outline.area == pytest.approx(120 * 80 - (4 - math.pi) * radius**2 - math.pi * 15**2, abs=1e-4)
    assert sum(isinstance(segment, Arc) for segment in outline.outer) == 4
    [hole] = outline.cutouts
    centre, hole_radius = hole.circle()
    assert (centre, hole_radius) == (pytest.approx(60 + 40j), pytest.approx(15))


@given(st.integers(30, 300), st.integers(30, 300))
def test_a_stretched_outline_fills_its_size_and_differs_from_the_true_stretch_by_less_than_a_hundredth(width, height):
    shape = "M10 50 A40 40 0 0 1 90 50 L90 90 L70 90 A10 10 0 0 0 50 90 L10 90 Z"
    data = svg(f'<path d="{shape}"/>')
    _, whole = drawn(data)
    _, stretched = drawn(data, width, height)
    before, after = (judge([result.parts["one"].outline]) for result in (whole, stretched))
    left, bottom, right, top = after.bounds
    assert (left, bottom, right, top) == pytest.approx((0, 0, width, height), abs=0.006)
    wanted = shapely.transform(before, lambda xy: xy * [width / 80, height / 80])
    assert after.hausdorff_distance(wanted) < 0.012


def test_inches_are_read_as_inches_and_a_missing_unit_is_told():
    """CSS Values 3: 96 px are 1 in, so that 100 px without a unit are 26.458 mm."""

    def square(space):
        space.add_lwpolyline([(0, 0), (2, 0), (2, 1), (0, 1)], close=True)

    assert drawn(dxf(square, units.IN))[1].parts["one"].width == pytest.approx(50.8)
    unstated = bring_outline(dxf(square, 0))
    assert unstated.shape.width.text == "2" and "names no unit" in unstated.notes[0]
    plain = b'<svg xmlns="http://www.w3.org/2000/svg"><rect width="100" height="50"/></svg>'
    brought = bring_outline(plain)
    assert float(brought.shape.width.text) == pytest.approx(26.4583, abs=1e-4) and "96 px" in brought.notes[0]


def test_doubled_lines_are_taken_once_and_what_does_not_belong_stays_behind():
    body = (
        '<rect x="10" y="10" width="80" height="60"/><path d="M10 10 H90"/><path d="M0 5 L5 5"/>'
        '<circle cx="40" cy="40" r="10"/><circle cx="40" cy="40" r="4"/><rect x="120" y="20" width="30" height="30"/>'
        '<g id="score"><path d="M20 20 H60 V30 H20 Z"/></g>'
    )
    brought = bring_outline(svg(body))
    assert len(brought.shape.rings) == 2
    assert any("drawn twice" in note for note in brought.notes)
    assert any("2 more outlines were left out" in note for note in brought.notes)
    assert any("1 open line was" in note for note in brought.notes)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (svg('<path fill="none" stroke="#000" d="M10 10 L60 10 L60 40 L10 10.5"/>'), "0.5 mm apart"),
        (svg('<text x="5" y="20">A</text>'), "holds no lines to cut. The SVG has live text"),
        (svg('<rect width="0.09" height="0.09"/>'), "encloses nothing"),
        (b"<svg><g></svg>", "broken at line 1"),
        (
            b'<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>',
            "not safe",
        ),
        (b"PK\\x03\\x04 a picture", "cannot be read"),
    ],
)
def test_what_holds_no_outline_is_refused_with_a_sentence(data, says):
    with pytest.raises(CannotBring, match=says):
        bring_outline(data)


def test_an_outline_that_crosses_itself_is_refused_and_the_part_stays_as_it_was():
    with pytest.raises(CannotBring, match="crosses itself"):
        bring_outline(svg('<path d="M10 10 L60 60 L60 10 L10 70 Z"/>'))
    ring = [{"x": x, "y": y} for x, y in ((10, 10), (60, 60), (60, 10), (10, 70))]
    bow = Brought.model_validate({"width": "50", "height": "60", "rings": [ring]})
    document = project([part("one", 50, 50)])
    after = apply(document, BringOutline(do="bring outline", id="one", outline=bow))
    [error] = evaluate(after).errors
    assert "crosses itself" in error.text


def test_a_mirrored_outline_is_the_mirror_image():
    document, before = drawn(svg('<path d="M10 10 H90 V40 A30 30 0 0 1 60 70 H10 Z M20 20 H40 V30 H20 Z"/>'))
    after = evaluate(apply(document, MirrorPart(do="mirror part", id="one")))
    flipped = shapely.transform(judge([before.parts["one"].outline]), lambda xy: xy * [-1, 1] + [80, 0])
    assert flipped.symmetric_difference(judge([after.parts["one"].outline])).area < 0.05
    assert flipped.symmetric_difference(judge([before.parts["one"].outline])).area > 100


def test_a_figure_takes_a_brought_silhouette_undistorted_and_keeps_it_when_its_numbers_change():
    starter = Starter.model_validate({"id": "figure_1", "kind": "figure", "stock": "ply", "second_stock": "ply"})
    document = apply(project([], stocks=[stock()]), PutStarter(do="put starter", starter=starter))
    fish = bring_outline(svg('<path d="M10 50 A40 40 0 0 1 90 50 A40 20 0 0 1 10 50 Z"/>')).shape
    document = apply(document, BringOutline(do="bring outline", id="figure_1_length", outline=fish))
    silhouette = evaluate(document).parts["figure_1_length"]
    # 80 x 60 as drawn, and 160 high as the figure is: 213.33 long.
    assert (silhouette.width, silhouette.height) == (pytest.approx(213.3333, abs=0.01), 160)
    assert evaluate(document).findings == []
    # Scaled alike both ways, its round half stays one arc: of 40 mm at 60 mm high, so of 106.67 at 160.
    assert any(abs(s.radius - 106.667) < 0.01 for s in silhouette.outline.outer if isinstance(s, Arc))
    taller = {**document.starters[0].sizes, "height": Size(text="200")}
    higher = document.starters[0].model_copy(update={"sizes": taller})
    after = apply(document, PutStarter(do="put starter", starter=higher))
    result = evaluate(after)
    assert result.parts["figure_1_length"].part.shape.kind == "brought"
    [told] = result.findings
    assert told.level == "note" and "is stretched narrower" in told.text
    assert len(result.ledger) == 2 and all(row.gap == pytest.approx(0.1) for row in result.ledger)


def test_a_part_whose_shape_its_starter_keeps_takes_none_from_a_file_until_it_is_let_go():
    starter = Starter.model_validate({"id": "rack_1", "kind": "rack", "stock": "ply", "second_stock": "ply"})
    document = apply(project([], stocks=[stock()]), PutStarter(do="put starter", starter=starter))
    bring = BringOutline(
        do="bring outline",
        id="rack_1_upright",
        outline=bring_outline(svg('<rect width="120" height="80" rx="9"/>')).shape,
    )
    with pytest.raises(Said, match="Upright keeps the shape that its starter, Rack, gives it"):
        apply(document, bring)
    plain = apply(apply(document, LetGo(do="let go", id="rack_1")), bring)
    assert evaluate(plain).parts["rack_1_upright"].width == 120


def test_a_part_that_is_put_with_a_broken_ring_is_told_and_nothing_else_is_lost():
    ring = [{"x": 0, "y": 0}, {"x": 10, "y": 0}]
    flat = part("flat", 10, 10) | {"shape": {"kind": "brought", "width": "10", "height": "10", "rings": [ring]}}
    document = project([part("plate", 40, 30)])
    after = apply(document, PutPart.model_validate({"do": "put part", "part": flat}))
    result = evaluate(after)
    assert "one line" in result.errors[0].text and list(result.parts) == ["plate"]
