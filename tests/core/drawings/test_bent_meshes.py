"""Meshes of bent sheets: profiles drawn by hand and folded flat patterns, turned at random, come back as they were."""

import math

import numpy as np
import pytest
import shapely
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.bends.legs import legs_of
from leannotch_core.document.starter import Starter
from leannotch_core.drawings.meshes.bent import unfolded
from leannotch_core.drawings.taken import part_from
from leannotch_core.drawings.way_in import Bringing, bring, read
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.project.project import Project
from leannotch_core.starters.live import put_starter

from ...judges.bent_sheets import bent_sheet, flat_length
from ...judges.brought_bodies import stl
from ...projects import project, stock
from ...properties import tried

#: The thickness and the radius (mm) of the sheets that are drawn by hand.
T, R = 2.0, 3.0


def brought(*meshes):
    way = bring(read(stl(*meshes), "bent.stl"), Bringing())
    return way, [part_from(part, f"part_{at}", "two") for at, part in enumerate(way.parts)]


def metal():
    return stock("two", readings=("2",), material="aluminium", nominal="2")


def folded(part):
    return evaluate(Project(name="bent", stocks=[metal()], parts=[part])).parts[part.id]


@settings(max_examples=tried(15))
@given(
    st.lists(st.integers(12, 60), min_size=4, max_size=4),
    st.lists(st.sampled_from([20, 45, 80, 90]), min_size=1, max_size=3),
    st.sampled_from([2, 10, 45]),
    st.integers(0, 628),
)
def test_a_bent_sheet_becomes_a_part_with_bends_as_long_as_by_hand(legs, turned, step, way):
    # Up and down in turn, so that no leg meets another one.
    angles = [angle * (-1) ** at for at, angle in enumerate(turned)]
    legs = legs[: len(angles) + 1]
    sheet = bent_sheet(legs, angles, step=step, turn=(way / 100, (3, 1, 2)))
    found, (part,) = brought(sheet)
    flat = flat_length(legs, angles)
    left, bottom, right, top = found.parts[0].outline.bounds
    # K between the rows of the stock's table is a chord of its curve.
    assert sorted((right - left, top - bottom)) == pytest.approx(sorted((flat, 80)), abs=0.01)
    assert sorted(float(bend.angle.text) for bend in part.bends) == pytest.approx(sorted(map(abs, angles)), abs=0.01)
    assert [float(bend.radius.text) for bend in part.bends] == pytest.approx([R] * len(angles), abs=0.002)
    assert f"{len(angles)} bend" in " ".join(found.notes)
    # Folded again its legs are those of the body, up and down in turn.
    own = folded(part)
    assert not own.folded.circular and len(own.bends) == len(angles)
    straight = {leg.face: leg.straight for leg in legs_of(own.folded)}
    assert sorted(straight.values()) == pytest.approx(sorted(legs), abs=0.01)
    assert sum(bend.up for bend in own.bends) == math.ceil(len(angles) / 2)


def test_holes_stay_where_they_are_and_equal_sheets_are_counted():
    drill = trimesh.creation.cylinder(5, 300, sections=64)
    drill.apply_transform(trimesh.transformations.rotation_matrix(math.pi / 2, (1, 0, 0)))
    drill.apply_translation((15, 0, 30))
    plain = bent_sheet([40, 60], [90], turn=(0, (0, 0, 1)))
    holed = trimesh.boolean.difference([plain, drill], engine="manifold")
    other = holed.copy().apply_transform(trimesh.transformations.rotation_matrix(2, (1, 1, 0)))
    mirrored = holed.copy().apply_transform(np.diag([1.0, 1.0, -1.0, 1.0]))
    found, parts = brought(holed, other.apply_translation((300, 0, 0)), mirrored.apply_translation((0, 300, 0)))
    # A left one is no right one: turned over it would be bent the other way.
    assert [part.count for part in parts] == [2, 1]
    (hole,) = found.parts[0].outline.cutouts
    left, bottom, right, top = found.parts[0].outline.bounds
    x, y = hole.bounds[0] + 5, hole.bounds[1] + 5
    across, along = sorted((min(x - left, right - x), min(y - bottom, top - y)))
    assert (across, along) == pytest.approx((15, 30), abs=0.01)


def test_what_differs_only_in_how_it_is_bent_is_another_part():
    # Legs so long that both are as long flat: the neutral lines of 45 and of 90 degrees differ.
    longer = flat_length([], [45])
    _, parts = brought(
        bent_sheet([40, 60], [90]),
        bent_sheet([40, 60 + longer], [45]).apply_translation((300, 0, 0)),
    )
    assert sorted(part.bends[0].angle.text for part in parts) == ["45", "90"]


@pytest.mark.parametrize("kind", ["bent_bracket", "bent_rest", "bent_box"])
@pytest.mark.parametrize("step", [5, 30])
def test_a_folded_flat_pattern_comes_back_flat(kind, step):
    starter = Starter(id="s", kind=kind, stock="two", second_stock="two")
    (part,) = evaluate(put_starter(project([], stocks=[metal()]), starter)).parts.values()
    mesh = in_chords(part, step)
    assert mesh.is_watertight
    sheet = unfolded(mesh)
    assert sheet.thickness == pytest.approx(T, abs=1e-3)
    # The stock of the starter has the same table.
    assert sheet.outline.area == pytest.approx(part.outline.area, rel=1e-3)
    assert sorted(bend.bend.angle for bend in sheet.bends) == pytest.approx(sorted(b.bend.angle for b in part.bends))
    assert [len(sheet.outline.cutouts), len(sheet.bends)] == [len(part.outline.cutouts), len(part.bends)]
    _, (again,) = brought(mesh)
    own = folded(again)
    assert not own.folded.circular and len(own.folded.faces.hinges) == len(part.folded.faces.hinges)
    legs, before = (sorted(leg.straight for leg in legs_of(one)) for one in (own.folded, part.folded))
    assert legs == pytest.approx(before, abs=0.01)


def in_chords(part, step):
    """A bent part as a mesh: two skins of flat faces and strips of ``step`` degrees, and the walls between them."""
    folded = part.folded
    seen = [
        (as_polygon(face, 0.01), lambda flat, z, pose=pose: stood(flat, z, pose))
        for face, pose in zip(folded.faces.flat, folded.poses, strict=True)
    ]
    seen += [(piece, bent.place) for bent in folded.bent for piece in slices(bent, step)]
    known, corners, skin = {}, [], []
    for shape, place in seen:
        flat, faces = trimesh.creation.triangulate_polygon(shape)
        names = []
        for x, y in flat.round(4).tolist():
            if (x, y) not in known:
                known[x, y] = len(corners)
                corners.append([place(np.array([complex(x, y)]), np.array([z]))[0] for z in (0.0, T)])
            names.append(known[x, y])
        one, other = flat[faces[:, 1]] - flat[faces[:, 0]], flat[faces[:, 2]] - flat[faces[:, 0]]
        over = one[:, 0] * other[:, 1] < one[:, 1] * other[:, 0]
        faces[over] = faces[over, ::-1]
        skin += np.array(names)[faces].tolist()
    edges = {(face[at - 1], face[at]) for face in skin for at in range(3)}
    walls = [(a, b) for a, b in edges if (b, a) not in edges]
    triangles = [
        *([2 * a + 1, 2 * b + 1, 2 * c + 1] for a, b, c in skin),
        *([2 * a, 2 * c, 2 * b] for a, b, c in skin),
        *([2 * a, 2 * b, 2 * b + 1] for a, b in walls),
        *([2 * a, 2 * b + 1, 2 * a + 1] for a, b in walls),
    ]
    return trimesh.Trimesh(np.array(corners).reshape(-1, 3), triangles)


def stood(flat, z, pose):
    return (np.stack([flat.real, flat.imag, z, np.ones(len(flat))], axis=1) @ pose.T)[:, :3]


def slices(bent, step):
    """A bent piece in strips of so many degrees."""
    bend, shape = bent.hinge.bend, as_polygon(bent.hinge.piece, 0.01)
    cuts = np.linspace(-bend.half, bend.half, max(1, round(bend.bend.angle / step)) + 1)[1:-1]
    pieces = [shape]
    for cut in cuts:
        ends = [bend.middle + bend.onward * cut + bend.along * far for far in (-1000, 1000)]
        line = shapely.LineString([(end.real, end.imag) for end in ends])
        pieces = [part for piece in pieces for part in shapely.ops.split(piece, line).geoms]
    return pieces
