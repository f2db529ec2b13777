"""DXF drawings of others, drawn with ezdxf: every flat curve lies where ezdxf sees it, in true millimetres."""

import io
import math

import ezdxf
import numpy as np
import pytest
import shapely
from ezdxf.math import Vec3, closed_uniform_bspline
from ezdxf.xclip import XClip
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.purposes import rows_of
from leannotch_core.drawings.told import told_of
from leannotch_core.drawings.way_in import Bringing, ReadDrawing, bring
from leannotch_core.geometry.chords import as_line
from leannotch_core.geometry.loop import Loop, joined_bounds

from ...properties import tried

places = st.tuples(st.integers(-80, 80), st.integers(-80, 80))
angles = st.integers(0, 359)


def saved(document):
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue().encode()


def drawn(draw, **more):
    document = ezdxf.new(**more)
    draw(document.modelspace(), document)
    return document, read_dxf(saved(document))


def as_judge(entities):
    """The entities as fine chords of ezdxf's own."""
    return shapely.MultiLineString([[(p.x, p.y) for p in points] for entity in entities for points in chords(entity)])


def chords(entity):
    if entity.dxftype() == "LWPOLYLINE":
        return [points for piece in entity.virtual_entities() for points in chords(piece)]
    if entity.dxftype() == "LINE":
        return [[entity.dxf.start, entity.dxf.end]]
    return [list(entity.flattening(0.0005))]


def as_read(drawing):
    return shapely.MultiLineString([as_line(line.segments) for line in drawing.lines])


def apart(ours, theirs):
    """How far (mm) either of two sets of lines leaves the other, at points along both."""
    return max(float(shapely.distance(_along(a), b).max()) for a, b in ((ours, theirs), (theirs, ours)))


def _along(lines):
    parts = shapely.get_parts(lines)
    return np.concatenate([shapely.line_interpolate_point(part, np.linspace(0, part.length, 60)) for part in parts])


def agree(drawing, entities, within=0.006):
    ours, theirs = as_read(drawing), as_judge(entities)
    shapely.prepare([ours, theirs])
    assert apart(ours, theirs) < within
    assert ours.length == pytest.approx(theirs.length, rel=2e-4, abs=0.02)


@settings(max_examples=tried(20))
@given(places, st.integers(2, 60), angles, st.integers(20, 340), st.booleans())
def test_arcs_circles_lines_and_polylines_lie_where_they_were_drawn(place, radius, begin, sweep, mirrored):
    """A mirrored entity has its extrusion turned down: x runs the other way in its own coordinates."""

    def draw(space, _):
        down = {"extrusion": (0, 0, -1)} if mirrored else {}
        space.add_arc(place, radius, begin, begin + sweep, dxfattribs=down)
        space.add_circle((place[0] + 90, place[1]), radius / 2, dxfattribs=down)
        space.add_line(place, (place[0] + 3, place[1] + 40))
        space.add_lwpolyline([(*place, 0.4), (0, 90, 0), (30, 95, 0)], format="xyb", dxfattribs=down)

    document, drawing = drawn(draw, units=4)
    agree(drawing, document.modelspace(), within=0.004)
    assert len(drawing.lines) == 4 and drawing.notes == [] and drawing.unit_stated


@settings(max_examples=tried(15))
@given(places, st.integers(10, 60), st.integers(1, 9).map(lambda n: n / 10), angles, st.integers(30, 330))
def test_parts_of_ellipses_become_arcs_within_the_tolerance(place, long, ratio, begin, sweep):
    def draw(space, _):
        turn = Vec3.from_deg_angle(begin, long)
        space.add_ellipse(place, turn, ratio, math.radians(begin), math.radians(begin + sweep))

    document, drawing = drawn(draw, units=4)
    agree(drawing, document.modelspace())


@settings(max_examples=tried(10))
@given(st.lists(places, min_size=4, max_size=7, unique=True))
def test_splines_become_arcs_within_the_tolerance(points):
    def draw(space, _):
        space.add_spline_control_frame([(x, y, 0) for x, y in points])

    document, drawing = drawn(draw, units=4)
    assert apart(as_read(drawing), as_judge(document.modelspace())) < 0.012


@pytest.mark.parametrize("version", ["R12", "R2000", "R2010", "R2018"])
def test_bulges_are_read_alike_from_every_version(version):
    """DXF reference: a bulge is the tangent of a quarter of the arc's angle, so 1 is half a circle."""
    corners = [(0, 0, 0), (40, 0, 1), (40, 20, 0), (0, 20, 1)]

    def draw(space, _):
        add = space.add_polyline2d if version == "R12" else space.add_lwpolyline
        add(corners, format="xyb", close=True)

    _, drawing = drawn(draw, dxfversion=version, units=4)
    [line] = drawing.lines
    assert sum(segment.length for segment in line.segments) == pytest.approx(2 * 40 + 2 * math.pi * 10)
    outline = shapely.polygonize([as_line(line.segments)]).geoms[0]
    assert outline.area == pytest.approx(40 * 20 + math.pi * 100, rel=1e-4)


@pytest.mark.parametrize(("code", "millimetres"), [(1, 25.4), (2, 304.8), (4, 1), (5, 10), (6, 1000), (13, 1e-3)])
def test_units_of_the_header_are_followed(code, millimetres):
    """DXF reference, $INSUNITS: 1 inches, 2 feet, 4 mm, 5 cm, 6 m, 13 microns."""
    length = 10 / millimetres
    _, drawing = drawn(lambda space, _: space.add_line((0, 0), (length, 0)), units=code)
    assert drawing.lines[0].segments[0].length == pytest.approx(10, rel=1e-6) and drawing.unit_stated


@pytest.mark.parametrize(("code", "says"), [(0, "names no unit"), (77, "an unknown unit")])
def test_a_unit_that_is_not_known_is_told(code, says):
    document = ezdxf.new()
    document.header["$INSUNITS"] = code
    document.modelspace().add_line((0, 0), (10, 0))
    drawing = read_dxf(saved(document))
    assert not drawing.unit_stated and says in drawing.notes[0]
    assert drawing.lines[0].segments[0].length == pytest.approx(10)


@settings(max_examples=tried(15))
@given(places, angles, st.sampled_from([(1, 1), (2, 2), (-1, 1), (1.5, 1.5)]))
def test_blocks_are_read_in_place_turned_scaled_and_mirrored(place, turn, scale):
    def draw(space, document):
        block = document.blocks.new("tag")
        block.add_lwpolyline([(0, 0, 0.4), (20, 0, 0), (20, 10, 0)], format="xyb", close=True)
        block.add_circle((6, 4), 2)
        space.add_blockref("tag", place, {"rotation": turn, "xscale": scale[0], "yscale": scale[1]})

    document, drawing = drawn(draw, units=4)
    [reference] = document.modelspace()
    agree(drawing, list(reference.virtual_entities()), within=0.006)


def test_what_is_not_a_flat_curve_is_left_out_and_named():
    def draw(space, _):
        space.add_text("A").set_placement((0, 0))
        space.add_hatch()
        space.add_point((3, 3))
        space.add_line((0, 0), (9, 9))
        space.add_line((1, 1), (1, 1))
        space.add_line((0, 0, 1), (9, 0, 4))
        space.add_line((0, 0, 5), (9, 0, 5))
        space.add_circle((0, 0), 5, dxfattribs={"extrusion": (0, 1, 1)})

    _, drawing = drawn(draw, units=4)
    assert (len(drawing.lines), drawing.points, [text.words for text in drawing.texts]) == (2, 2, ["A"])
    assert sorted(drawing.notes) == [
        "Points and lines without length were left out.",
        "The DXF has CIRCLE entities that do not lie flat, which were left out.",
        "The DXF has HATCH entities without edges, which were left out.",
        "The DXF has LINE entities that do not lie flat, which were left out.",
        "The DXF has live text, which no machine cuts; it was left out.",
    ]


def test_what_is_off_frozen_not_plotted_or_invisible_is_left_out_and_said():
    def draw(space, document):
        for name, change in (("off", "off"), ("frozen", "freeze"), ("seen", "on")):
            getattr(document.layers.add(name, color=3), change)()
        document.layers.add("help").dxf.plot = 0
        for layer in ("off", "frozen", "help", "Defpoints", "seen"):
            space.add_circle((0, 0), 5, dxfattribs={"layer": layer})
        space.add_text("hidden", dxfattribs={"layer": "off"})
        space.add_mline([(0, 0), (9, 9)], dxfattribs={"layer": "off"})
        space.add_hatch(dxfattribs={"layer": "off"}).paths.add_polyline_path([(0, 0), (9, 0), (9, 9)])
        space.add_circle((0, 0), 6, dxfattribs={"invisible": 1})

    _, drawing = drawn(draw, units=4)
    assert [(line.layer, line.colour) for line in drawing.lines] == [("seen", "#00ff00")]
    assert dict(drawing.left_out) == {
        "on a layer that is off": 4, "on a frozen layer": 1, "on a layer that is not plotted": 2, "invisible": 1,
    }  # fmt: skip
    assert not any("which were left out" in note for note in drawing.notes)


def test_what_a_block_has_on_layer_0_is_on_the_layer_of_its_insert_and_arrays_give_every_copy():
    def draw(space, document):
        block = document.blocks.new("hole")
        block.add_circle((0, 0), 1)
        block.add_circle((0, 0), 2, dxfattribs={"layer": "score"})
        more = {"layer": "inner", "column_count": 3, "row_count": 2, "column_spacing": 10, "row_spacing": 5}
        space.add_blockref("hole", (0, 0), dxfattribs=more)

    _, drawing = drawn(draw, units=4)
    found = sorted(
        (line.layer, round(line.segments[0].centre.real), round(line.segments[0].centre.imag)) for line in drawing.lines
    )
    assert found == sorted((layer, x, y) for layer in ("inner", "score") for x in (0, 10, 20) for y in (0, 5))


@pytest.mark.parametrize("kind", ["corners", "unclamped", "periodic", "rational"])
def test_splines_of_every_kind_run_where_ezdxf_sees_them(kind):
    points = [(0, 0), (20, 40), (40, 0), (60, -40), (80, 0), (60, 60), (20, 70)]

    def draw(space, _):
        if kind == "corners":
            # Two cubic pieces that meet in a corner: the knot between them stands three times.
            spline = space.add_spline(dxfattribs={"degree": 3})
            spline.control_points, spline.knots = points, [0, 0, 0, 0, 1, 1, 1, 2, 2, 2, 2]
        elif kind == "unclamped":
            space.add_open_spline(points).knots = list(range(11))
        elif kind == "periodic":
            space.add_spline().apply_construction_tool(closed_uniform_bspline(points))
        else:
            space.add_rational_spline(points, weights=[1, 3, 1, 2, 1, 1, 1])

    document, drawing = drawn(draw, units=4)
    spline = document.modelspace()[0].construction_tool()
    knots = spline.knots()
    at = np.linspace(knots[spline.degree], knots[-spline.degree - 1], 4000)
    theirs = shapely.LineString([(p.x, p.y) for p in spline.points(at)])
    assert apart(as_read(drawing), shapely.MultiLineString([theirs])) < 0.012
    assert as_read(drawing).length == pytest.approx(theirs.length, rel=1e-3)


def test_nearly_full_turns_and_points_are_read():
    def draw(space, _):
        space.add_arc((0, 0), 20, 0, 360)
        space.add_arc((0, 0), 30, 10, 9.9)
        space.add_arc((0, 0), 0, 0, 90)
        space.add_circle((0, 0), 0)
        space.add_lwpolyline([(0, 0), (9, 0), (9, 0), (9, 9)])

    _, drawing = drawn(draw, units=4)
    lengths = [sum(segment.length for segment in line.segments) for line in drawing.lines]
    assert lengths == pytest.approx([2 * math.pi * 20, 2 * math.pi * 30 * 359.9 / 360, 18])
    assert drawing.points == 2 and all(
        abs(getattr(s, "bulge", 0)) <= 1 for line in drawing.lines for s in line.segments
    )


@pytest.mark.parametrize(("measurement", "millimetres"), [(0, 25.4), (1, 1)])
def test_where_no_unit_is_named_the_measuring_system_says_it(measurement, millimetres):
    """DXF reference, header variables: $MEASUREMENT is 0 for English units and 1 for metric."""

    def draw(space, document):
        document.header["$MEASUREMENT"] = measurement
        space.add_line((0, 0), (10, 0))

    _, drawing = drawn(draw, units=0)
    assert drawing.lines[0].segments[0].length == pytest.approx(10 * millimetres)
    assert not drawing.unit_stated


@pytest.mark.parametrize("version", ["R12", "R2000", "R2018"])
def test_binary_files_are_read_like_others(version):
    document = ezdxf.new(version, units=4)
    document.modelspace().add_circle((10, 20), 5, dxfattribs={"layer": "score"})
    stream = io.BytesIO()
    document.write(stream, fmt="bin")
    drawing = read_dxf(stream.getvalue())
    assert [line.layer for line in drawing.lines] == ["score"]
    assert drawing.lines[0].segments[0].radius == pytest.approx(5)


def test_an_empty_model_space_is_told_and_layers_are_kept():
    _, drawing = drawn(lambda space, _: None, units=4)
    assert drawing.lines == [] and "holds no lines" in drawing.notes[0]
    _, drawing = drawn(lambda space, _: space.add_line((0, 0), (9, 0), dxfattribs={"layer": "score"}), units=4)
    assert drawing.lines[0].layer == "score"


def test_a_file_cut_off_anywhere_is_read_or_refused_with_a_sentence():
    whole = saved(drawn(lambda space, _: space.add_lwpolyline([(0, 0), (30, 0), (30, 20)], close=True), units=4)[0])
    for share in np.linspace(0, 0.99, 23):
        try:
            read_dxf(whole[: int(len(whole) * share)])
        except BrokenFile as refusal:
            assert "cannot be read" in str(refusal) and str(refusal).endswith("Save it again.")


def boxes(drawing):
    return sorted(
        tuple(round(v, 6) for v in joined_bounds(s.bounds() for s in line.segments)) for line in drawing.lines
    )


def test_a_block_shows_what_its_clip_leaves_of_it():
    def draw(space, document):
        block = document.blocks.new("B")
        block.add_lwpolyline([(0, 0), (40, 0), (40, 20), (0, 20)], close=True)
        block.add_line((0, 30), (100, 30))
        block.add_circle((200, 0), 5)
        insert = space.add_blockref("B", (100, 0), dxfattribs={"xscale": 2, "yscale": 2})
        XClip(insert).set_block_clipping_path([(10, -5), (60, 35)])
        off = space.add_blockref("B", (500, 0))
        XClip(off).set_block_clipping_path([(10, -5), (60, 35)])
        XClip(off).disable_clipping()

    _, drawing = drawn(draw, units=4)
    assert boxes(drawing)[:2] == [(120, 0, 180, 40), (120, 60, 220, 60)] and len(drawing.lines) == 5
    assert drawing.left_out == {"clipped away": 1}


def test_hatches_and_multiple_lines_are_taken_where_nothing_else_says_what_is_drawn():
    def draw(space, _):
        hatch = space.add_hatch()
        hatch.paths.add_polyline_path([(0, 0), (50, 0), (50, 30), (0, 30)], is_closed=True)
        hatch.paths.add_polyline_path([(10, 10, 1), (20, 10, 1)], is_closed=True)
        space.add_circle((200, 0), 5)
        space.add_hatch().paths.add_edge_path().add_arc((200, 0), 5, 0, 360)
        space.add_mline([(0, 100), (50, 100)])

    _, drawing = drawn(draw, units=4)
    areas = sorted(round(abs(Loop(line.segments).area), 3) for line in drawing.lines if len(line.segments) > 1)
    assert areas == [round(math.pi * 25, 3)] * 2 + [1500]
    assert drawing.taken == {"CIRCLE": 1, "HATCH": 2, "HATCH, by the lines round it": 1, "MLINE": 2}


def test_what_is_drawn_on_paper_alone_is_read_and_said():
    def draw(_, document):
        paper = document.new_layout("Sheet A4")
        paper.add_viewport((50, 50), (100, 100), (0, 0), 100)
        paper.add_lwpolyline([(0, 0), (40, 0), (40, 20), (0, 20)], close=True)

    _, drawing = drawn(draw, units=4)
    assert boxes(drawing) == [(0, 0, 40, 20)] and "its paper “Sheet A4” was read" in drawing.notes[0]


def test_the_frame_of_a_fitted_polyline_is_not_drawn():
    def draw(space, _):
        line = space.add_polyline2d([(0, 0), (10, 8), (20, 0)])
        line.dxf.flags |= 4
        for vertex in line.vertices:
            vertex.dxf.flags |= 8
        line.append_vertices([(0, 0), (10, 100), (20, 0)], {"flags": 16})

    _, drawing = drawn(draw, units=4)
    assert boxes(drawing) == [(0, 0, 20, 8)]


@pytest.mark.parametrize(("noise", "lines"), [(9e-5, 1), (2e-4, 0)])
def test_a_little_noise_in_the_heights_is_flat(noise, lines):
    _, drawing = drawn(lambda space, _: space.add_line((0, 0, 0), (9, 0, noise)), units=4)
    assert len(drawing.lines) == lines


@pytest.mark.parametrize(
    ("layer", "style", "purpose"),
    [
        ("0", "CENTER", "reference"), ("0", "CENTER2", "reference"), ("0", "PHANTOMX2", "reference"),
        ("0", "ACAD_ISO10W100", "reference"), ("Mittellinien", "CONTINUOUS", "reference"),
        ("centre lines", "CONTINUOUS", "reference"), ("by its layer", "BYLAYER", "reference"),
        # Hidden edges, and layers that merely speak of a centre.
        ("0", "HIDDEN", "cut"), ("0", "ACAD_ISO02W100", "cut"), ("centre plate", "CONTINUOUS", "cut"),
    ],
)  # fmt: skip
def test_centre_lines_are_references_unless_they_are_chosen(layer, style, purpose):
    def draw(space, document):
        document.layers.add("by its layer", linetype="CENTER")
        for name in ("ACAD_ISO10W100", "ACAD_ISO02W100"):
            document.linetypes.add(name, [10, 8, -2])
        space.add_lwpolyline([(0, 0), (40, 0), (40, 20), (0, 20)], close=True, dxfattribs={"layer": "plate"})
        space.add_line((-5, 10), (45, 10), dxfattribs={"layer": layer, "linetype": style})

    _, drawing = drawn(draw, units=4, setup=True)
    rows = rows_of(drawing)
    assert [row.purpose for row in rows] == ["cut", purpose]
    way = bring(ReadDrawing(drawing, rows), Bringing())
    assert sum(part.count for part in way.parts) == (1 if purpose == "reference" else 2)
    assert any("taken as a reference, and not cut" in told.says for told in told_of(way)) == (purpose == "reference")
    chosen = bring(ReadDrawing(drawing, rows), Bringing(purposes={rows[1].key: "cut"}))
    assert sum(part.count for part in chosen.parts) == 2


def test_lines_that_differ_in_their_width_alone_are_told_apart_by_it():
    def draw(space, document):
        document.layers.add("wide").dxf.lineweight = 50
        for at, width in ((0, 13), (20, 50), (40, -1)):
            space.add_circle((at, 0), 5, dxfattribs={"lineweight": width, "layer": "wide"})

    _, drawing = drawn(draw, units=4)
    assert [(row.key, row.lines) for row in rows_of(drawing)] == [("0.13 mm wide", 1), ("0.5 mm wide", 2)]
