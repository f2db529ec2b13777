"""Meshes: extrusions that trimesh makes, turned at random, come back as the outlines that they were made of."""

import io
import math
import re
import zipfile

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.drawings.held import held_in
from leannotch_core.drawings.likely_unit import likely_unit
from leannotch_core.drawings.meshes.bodies import bodies_of
from leannotch_core.drawings.meshes.cut import AXES, Cut
from leannotch_core.drawings.meshes.plates import NotAPlate, plate_of
from leannotch_core.drawings.meshes.space import bodies_in
from leannotch_core.drawings.told import told_of
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.edits.command import apply
from leannotch_core.edits.part import MirrorPart
from leannotch_core.geometry.segment import Arc

from ...judges.brought_bodies import apart, assembled, laid_flat, stl
from ...projects import ROOT
from ...properties import tried

turns = st.tuples(st.integers(0, 628), st.integers(-5, 5), st.integers(-5, 5), st.integers(1, 5))


def turned(mesh, turn, place=(40, -30, 12)):
    angle, *axis = turn
    other = mesh.copy()
    other.apply_transform(trimesh.transformations.rotation_matrix(angle / 100, axis))
    other.apply_translation(place)
    return other


def less(body, *tools):
    return trimesh.boolean.difference([body, *tools], engine="manifold")


def drill(radius, x, y, depth=60.0, top=30.0):
    tool = trimesh.creation.cylinder(radius, depth, sections=64)
    tool.apply_translation((x, y, top - depth / 2))
    return tool


@settings(max_examples=tried(12))
@given(turns, turns, st.integers(2, 12))
def test_plates_come_back_in_their_true_outline_however_they_stand(first, second, thick):
    plate = less(trimesh.creation.box((100, 60, thick)), drill(8, 20, 10), drill(5, -30, -10))
    way = bring(read(stl(turned(plate, first), turned(plate, second, (300, 0, 0))), "kit.stl"), Bringing())
    assert [part.count for part in way.parts] == [2]
    outline = way.parts[0].outline
    # By hand: the circles that the cylinders' 64 sides stand for.
    assert outline.area == pytest.approx(6000 - math.pi * (64 + 25), rel=1e-4)
    assert all(isinstance(segment, Arc) for loop in outline.cutouts for segment in loop)
    assert f", {thick} mm" in outline.outer.segments[0].source.shape


@settings(max_examples=tried(10))
@given(turns, st.integers(10, 40).map(lambda n: n / 10))
def test_blind_holes_become_pockets_as_deep_as_they_are_from_whichever_side(turn, deep):
    plate = less(trimesh.creation.box((80, 50, 5)), drill(6, 20, 0, depth=10 + deep, top=12.5))
    found = plate_of(turned(plate, turn))
    assert found.thickness == pytest.approx(5, abs=1e-3) and found.below == 0
    assert found.outline.area == pytest.approx(4000, rel=1e-4) and not found.outline.cutouts
    ((pocket, depth),) = found.pockets
    assert depth == pytest.approx(deep, abs=1e-3) and pocket.area == pytest.approx(math.pi * 36, rel=3e-3)


def leaning(degrees):
    wedge = trimesh.creation.box((60, 60, 10))
    upper = wedge.vertices[:, 2] > 0
    wedge.vertices[upper, 0] += 10 * math.tan(math.radians(degrees))
    return wedge


def with_a_gap():
    box = trimesh.creation.box((9, 9, 2))
    return trimesh.Trimesh(box.vertices, box.faces[1:])


@pytest.mark.parametrize(
    ("mesh", "why"),
    [
        (leaning(2.1), "lean by 2.1 degrees"),
        (trimesh.creation.icosphere(3, 20), "curved"),
        (with_a_gap(), "not closed"),
    ],
)
def test_what_is_no_plate_is_told_with_the_reason(mesh, why):
    with pytest.raises(NotAPlate, match=why):
        plate_of(mesh)


def test_a_cut_shows_what_it_meets_and_tells_what_it_misses_and_by_how_much():
    low, high = trimesh.creation.box((40, 30, 10)), trimesh.creation.box((20, 20, 10))
    high.apply_translation((0, 0, 10.4))
    data = stl(low, high)
    with pytest.raises(BrokenFile, match=r"only touches it\. .* begins 0\.4 mm above"):
        read(data, "kit.stl", cut=Cut(heights=(5.0,)))
    for height, area in ((0.0, 1200), (10.0, 400)):
        way = bring(read(data, "kit.stl", cut=Cut(heights=(height,))), Bringing())
        assert [part.outline.area for part in way.parts] == [pytest.approx(area)]
    sideways = read(data, "kit.stl", cut=Cut(AXES["x"]))
    assert (sideways.drawing.cut.heights, sideways.drawing.cut.low) == ((0,), pytest.approx(-20))
    # trimesh's own section is the judge.
    judged = low.section([0, 0, 1], [0, 0, 0]).length
    ours = sum(s.length for line in read(data, "kit.stl", cut=Cut(heights=(0.0,))).drawing.lines for s in line.segments)
    assert ours == pytest.approx(judged)


@pytest.mark.parametrize("kind", ["stl", "obj", "ply", "3mf", "glb"])
def test_every_format_gives_the_same_plate(kind):
    plate = less(trimesh.creation.box((100, 60, 5)), drill(8, 20, 10))
    # glTF 2.0, 3.4: all lengths are metres.
    scaled = plate.copy().apply_scale(0.001) if kind == "glb" else plate
    written = stl(plate) if kind == "stl" else trimesh.Scene(scaled).export(file_type=kind)
    data = written.encode() if isinstance(written, str) else written
    way = bring(read(data, f"plate.{kind}"), Bringing())
    assert [part.outline.area for part in way.parts] == [pytest.approx(6000 - math.pi * 64, rel=1e-3)]


@pytest.mark.parametrize(
    ("data", "name", "says"),
    [
        (b"", "empty.stl", "cannot be read|no body"),
        (stl(trimesh.creation.box((1, 1, 1)))[:300], "cut off.stl", "cannot be read"),
        (b"PK\x03\x04 no archive", "broken.3mf", "cannot be read"),
        (b"glTF" + bytes(40), "broken.glb", "cannot be read"),
        (bytes(80) + (2_000_000).to_bytes(4, "little"), "large.stl", "cannot be read|triangles"),
        (b"v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", "nan.obj", "finite|cannot be read|no lines|no body"),
        (b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n", "flat.obj", "no lines"),
    ],
)
def test_a_bad_mesh_ends_in_a_sentence(data, name, says):
    with pytest.raises(BrokenFile, match=says):
        read(data, name)


def test_the_clubs_sieve_shaker_is_eight_plates_and_a_cone():
    data = (ROOT / "demo" / "brought" / "sieve_shaker.stl").read_bytes()
    assert len(bodies_of(data, "stl").bodies) == 9
    found = read(data, "sieve_shaker.stl")
    way = bring(found, Bringing())
    assert sorted((p.count, len(p.outline.cutouts)) for p in way.parts) == [(1, 4), (1, 15), (2, 0), (2, 1), (2, 2)]
    assert np.isclose(way.mend.arcs, 25) and any("Body 9 is no plate" in note for note in found.drawing.notes)


@settings(max_examples=tried(12))
@given(turns, turns, st.integers(0, 1))
def test_plates_stand_in_space_as_they_stood_in_the_mesh(first, second, over):
    # An L, twice, the second one turned over or not: what is mirrored in the plane is turned over in space.
    plate = less(trimesh.creation.box((100, 60, 6)), trimesh.creation.box((60, 30, 9)).apply_translation((25, 20, 0)))
    other = plate.copy().apply_transform(trimesh.transformations.rotation_matrix(math.pi * over, (1, 0, 0)))
    bodies = [turned(plate, first, (0, 0, 0)), turned(other, second, (150, 40, 30))]
    document = laid_flat(stl(*bodies))
    assert [part.count for part in document.parts] == [2] and len(document.parts[0].stands) == 2
    stood = apart(assembled(document).values())
    assert stood == pytest.approx(apart([body.bounds.ravel() for body in bodies]), abs=2e-3)
    # Seen from the other side it stands where it stood.
    turned_over = apply(document, MirrorPart(do="mirror part", id=document.parts[0].id))
    assert apart(assembled(turned_over).values()) == pytest.approx(stood, abs=2e-3)


def test_the_sieve_shaker_stands_as_it_stood_until_a_joint_says_otherwise():
    data = (ROOT / "demo" / "brought" / "sieve_shaker.stl").read_bytes()
    document = laid_flat(data, "sieve_shaker.stl")
    plates = [body.mesh for body in bodies_of(data, "stl").bodies if body.name != "Body 9"]
    stood = assembled(document)
    assert apart(stood.values()) == pytest.approx(apart([mesh.bounds.ravel() for mesh in plates]), abs=0.01)


def test_several_cuts_lie_side_by_side_and_one_can_be_off_any_face():
    body = less(trimesh.creation.box((60, 40, 30)), drill(8, 10, 0))
    found = read(stl(body), "block.stl", cut=Cut(heights=(-10.0, 5.0)))
    way = bring(found, Bringing())
    assert [part.count for part in way.parts] == [2] and [row.key for row in way.rows] == [
        "Body 1 at -10",
        "Body 1 at 5",
    ]
    assert way.parts[0].outline.area == pytest.approx(2400 - math.pi * 64, rel=1e-3)
    # A face that leans by 30 degrees: as much longer as its cosine says.
    tilted = trimesh.creation.box((60, 40, 50))
    tilted.apply_transform(trimesh.transformations.rotation_matrix(math.radians(30), (0, 1, 0)))
    face = (math.sin(math.radians(30)), 0.0, math.cos(math.radians(30)))
    (part,) = bring(read(stl(tilted), "t.stl", cut=Cut(face)), Bringing()).parts
    assert part.outline.area == pytest.approx(2400)
    (part,) = bring(read(stl(tilted), "t.stl", cut=Cut()), Bringing()).parts
    assert part.outline.area == pytest.approx(2400 / math.cos(math.radians(30)))


def test_a_hole_of_one_triangle_is_closed_and_a_larger_one_is_not():
    plate = trimesh.creation.box((90, 60, 3))
    lacking = trimesh.Trimesh(plate.vertices, plate.faces[1:])
    (body,) = bodies_in(stl(lacking), "stl")
    assert (body["closed"], body["filled"], body["thick"]) == (True, 1, pytest.approx(3))
    open_box = trimesh.Trimesh(plate.vertices, plate.faces[4:])
    (body,) = bodies_in(stl(open_box), "stl")
    assert (body["closed"], body["filled"], body["why"]) == (False, 0, "it is not closed")


def chamfered(width, height, thick, chamfer):
    """A plate whose upper edge is broken all round."""
    low = [(x, y, z) for x in (0, width) for y in (0, height) for z in (0, thick - chamfer)]
    high = [(x, y, thick) for x in (chamfer, width - chamfer) for y in (chamfer, height - chamfer)]
    return trimesh.Trimesh([*low, *high]).convex_hull


def test_chamfers_and_countersinks_are_told_and_the_plate_is_read_without_them():
    plate = chamfered(80, 50, 6, 1)
    cone = trimesh.creation.cone(radius=6, height=6, sections=64)
    cone.apply_transform(trimesh.transformations.rotation_matrix(math.pi, (1, 0, 0)))
    cone.apply_translation((20, 20, 6.001))
    through = trimesh.creation.cylinder(radius=2.5, height=30, sections=64)
    through.apply_translation((20, 20, 0))
    found_in = read(stl(less(less(plate, cone), through)), "kit.stl")
    found = bring(found_in, Bringing())
    ((part,), drawing) = found.parts, found.drawing
    assert part.outline.outer.area == pytest.approx(4000) and not part.lines
    (hole,) = part.outline.cutouts
    assert -hole.area == pytest.approx(math.pi * 6.25, rel=5e-3)
    assert any("chamfers or countersinks" in note and "45 degrees steep" in note for note in drawing.notes)
    became = {held.kind: held.became for held in held_in(drawing)}
    assert (became["plate"], became["chamfer or countersink"]) == ({"taken": 1}, {"slopes are not cut": 2})
    # All round its upper edge and round the hole, each told where it is.
    middle = sum(segment.start for segment in hole) / len(hole.segments)
    (sunk,) = (one for one in told_of(bring(found_in, Bringing())) if "countersinks" in one.says)
    assert len(sunk.places) == 2 and min(abs(at - middle) for at in sunk.places) < 0.3


def test_closed_rooms_doubled_triangles_and_bodies_without_area_are_told():
    room = trimesh.creation.box((10, 8, 2))
    room.invert()
    hollow = trimesh.util.concatenate([trimesh.creation.box((40, 30, 6)), room])
    drawing = read(stl(hollow), "kit.stl").drawing
    assert drawing.taken["plate"] == 1 and any("a closed room of 10 x 8 x 2 mm" in note for note in drawing.notes)
    box = trimesh.creation.box((40, 30, 6))
    twice = trimesh.Trimesh(box.vertices, np.vstack([box.faces, box.faces[:3]]), process=False)
    drawing = read(stl(twice), "kit.stl").drawing
    assert drawing.taken["plate"] == 1 and "3 triangles are in the mesh twice; each was taken once." in drawing.notes
    # Inside out, as some programs write them.
    box.invert()
    assert read(stl(box), "kit.stl").drawing.taken["plate"] == 1


def test_the_unit_of_a_mesh_is_offered_by_how_thick_its_plates_are():
    """A plate of 3 mm in metres, in inches, and as it is."""
    for scale, unit in ((1e-3, "m"), (1 / 25.4, "in"), (1, None)):
        box = trimesh.creation.box((80, 50, 3)).apply_scale(scale)
        likely = likely_unit(bring(read(stl(box), "kit.stl"), Bringing()), {"birch": 3.07}, [600 + 400j])
        assert (likely.unit if likely else None) == unit
        assert likely is None or "its plate is 3 mm thick, as your birch measures 3.07 mm" in likely.because


@pytest.mark.parametrize(
    ("unit", "mm"),
    [("micron", 0.001), ("millimeter", 1), ("centimeter", 10), ("inch", 25.4), ("foot", 304.8), ("meter", 1000)],
)
def test_the_units_of_3mf_are_read_as_the_standard_writes_them(unit, mm):
    """3MF Core Specification, 3.4."""
    scene = trimesh.Scene(trimesh.creation.box((4, 2, 0.3)))
    with zipfile.ZipFile(io.BytesIO(scene.export(file_type="3mf"))) as packed:
        files = {name: packed.read(name) for name in packed.namelist()}
    model = next(name for name in files if name.endswith(".model"))
    files[model] = re.sub(rb'unit="\w+"', f'unit="{unit}"'.encode(), files[model])
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        for name, data in files.items():
            packed.writestr(name, data)
    drawing = read_drawing(out.getvalue(), "plate.3mf")
    assert drawing.unit_stated and drawing.per_unit == mm


def cuboid(x, y, z, width, depth, height):
    return trimesh.creation.box((width, depth, height)).apply_translation(
        (x + width / 2, y + depth / 2, z + height / 2)
    )


def chest(t):
    """An open box of five plates and a divider, 160 x 100 outside, in one piece."""
    places = [
        (0, 0, 0, 160, 100, t), (0, 0, t, 160, t, 60), (0, 100 - t, t, 160, t, 60),
        (0, t, t, t, 100 - 2 * t, 60), (160 - t, t, t, t, 100 - 2 * t, 60), (80, t, t, t, 100 - 2 * t, 40),
    ]  # fmt: skip
    return [cuboid(*place) for place in places]


@pytest.mark.parametrize("thick", [1.5, 3.0, 6.2])
@pytest.mark.parametrize("angle", [0, 70])
def test_a_body_that_was_merged_of_plates_is_taken_apart_again(thick, angle):
    plates = chest(thick)
    merged = turned(trimesh.boolean.union(plates, engine="manifold"), (angle, 1, 2, 3))
    found = bodies_of(merged.export(file_type="stl"), "stl")
    volumes = sorted(body.mesh.volume for body in found.bodies)
    assert volumes == pytest.approx(sorted(plate.volume for plate in plates), rel=1e-3)
    drawing = read(merged.export(file_type="stl"), "chest.stl").drawing
    assert drawing.taken["plate"] == 6 and any("is merged of 6 plates" in note for note in drawing.notes)


@pytest.mark.parametrize(
    "block",
    [
        # A routed pocket, a bar, and two steps: no two faces meet at an angle one thickness behind their like.
        less(cuboid(0, 0, 0, 120, 80, 12), cuboid(20, 20, 6, 50, 40, 20)),
        trimesh.boolean.union([cuboid(0, 0, 0, 120, 80, 6), cuboid(0, 0, 0, 60, 80, 12)], engine="manifold"),
        cuboid(0, 0, 0, 40, 30, 20),
    ],
)
def test_what_is_one_piece_is_not_taken_apart(block):
    assert len(bodies_of(stl(block), "stl").bodies) == 1
