"""Pictures of projects: what is nearest is seen, wherever one looks; what lies flat lies apart."""

import random
import re
import xml.etree.ElementTree as ET

import manifold3d
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from leannotch_core.assembly.inside import put_inside
from leannotch_core.assembly.poses import assemble
from leannotch_core.assembly.solids import solid
from leannotch_core.evaluate import evaluate
from leannotch_core.portrait.drawn import CHORD, MOST_PARTS, portrait
from leannotch_core.portrait.faces import ABOVE, ASIDE, MOST_FACES, eye, faces_of
from leannotch_core.portrait.seen import seen

from ...projects import part, project, text
from ...properties import tried
from ...shipped import projects

PATH = "{http://www.w3.org/2000/svg}path"


def picture(document):
    result = evaluate(document)
    return ET.fromstring(portrait(result, put_inside(result, assemble(document, result))))


def wrongly_seen(faces, number=400, seed=1):
    """Of places of a picture, the share at which what is seen is not what is nearest by reckoning, or is not one."""
    shown = seen(faces)
    whole, left_of = (np.array([face.shape for face in some], dtype=object) for some in (faces, shown))
    left, bottom, right, top = shapely.total_bounds(whole)
    chance, looked, wrong = random.Random(seed), 0, 0
    while looked < number:
        x, y = chance.uniform(left, right), chance.uniform(bottom, top)
        covering = [faces[at].depth(x, y) for at in np.flatnonzero(shapely.contains_xy(whole, x, y))]
        if covering:
            looked += 1
            there = [shown[at].depth(x, y) for at in np.flatnonzero(shapely.contains_xy(left_of, x, y))]
            wrong += not there or min(there) < max(covering) - 0.05
    return wrong / looked


@settings(max_examples=tried(13))
@given(st.sets(st.tuples(*[st.integers(0, 2)] * 3), min_size=2, max_size=12), st.randoms())
def test_of_boxes_that_stand_apart_the_nearest_is_seen(cells, chance):
    boxes = []
    for cell in sorted(cells):
        size = [chance.uniform(2, 9.5) for _ in cell]
        pose = np.eye(4)
        pose[:3, 3] = [10 * place for place in cell]
        boxes.append((manifold3d.Manifold.cube(size), pose))
    assert wrongly_seen(faces_of(boxes), 60) == 0


@pytest.mark.parametrize("name", projects())
def test_of_every_shipped_project_the_nearest_is_seen(name):
    document = projects()[name]
    result = evaluate(document)
    assembly = put_inside(result, assemble(document, result))
    faces = faces_of([(solid(result.parts[copy.part], CHORD), pose) for copy, pose in assembly.poses.items()])
    assert wrongly_seen(faces) < 0.01


def test_a_cube_shows_three_sides_as_large_as_they_are_from_there():
    """By hand: from 28 degrees aside and 26 above, each square side seen is as large as its normal looks at the eye."""
    faces = faces_of([(manifold3d.Manifold.cube([10, 10, 10]), np.eye(4))])
    aside, above = np.radians([ASIDE, ABOVE])
    wanted = [np.sin(above), np.cos(above) * np.cos(aside), np.cos(above) * np.sin(aside)]
    assert sorted(face.shape.area / 100 for face in faces) == pytest.approx(sorted(wanted), abs=1e-3)
    assert eye() @ eye().T == pytest.approx(np.eye(3)) and np.linalg.det(eye()) == pytest.approx(1)
    # The top is above the front, and the right side right of it.
    top, front, right = (
        max(faces, key=lambda face, axis=axis: eye()[:, axis] @ face.normal * sign)
        for axis, sign in ((2, 1), (1, -1), (0, 1))
    )
    assert top.shape.centroid.y > front.shape.centroid.y and right.shape.centroid.x > front.shape.centroid.x


def test_of_very_many_faces_the_largest_are_drawn():
    boxes = []
    for at in range(700):
        pose = np.eye(4)
        pose[:3, 3] = [12 * (at % 30), 12 * (at // 30), 0]
        boxes.append((manifold3d.Manifold.cube([10, 10, 1 + at % 9]), pose))
    found = faces_of(boxes)
    assert len(found) == MOST_FACES and min(face.shape.area for face in found) > 10
    # What covers less than a step of the picture is nothing in it.
    small = [boxes[0], (manifold3d.Manifold.cube([0.3, 0.3, 0.3]), boxes[-1][1])]
    assert len(faces_of(small)) == 3


def test_parts_that_nothing_joins_lie_flat_beside_one_another_with_their_marks():
    parts = [
        part(f"p{n}", 20 + 7 * n, 30 + 5 * (n % 3), cutouts=[text("A", "10", "10")]) for n in range(MOST_PARTS + 3)
    ]
    svg = picture(project(parts))
    drawn = [path for path in svg.iter(PATH) if path.get("fill") != "none"]
    assert len(drawn) == MOST_PARTS and len(list(svg.iter(PATH))) == 2 * MOST_PARTS
    boxes = [shapely.MultiPoint(re.findall(r"(-?[\d.]+) (-?[\d.]+)", path.get("d"))).envelope for path in drawn]
    assert all(not one.intersects(other) for at, one in enumerate(boxes) for other in boxes[:at])
    left, top, wide, high = map(float, svg.get("viewBox").split())
    sheet = shapely.box(left, top, left + wide, top + high)
    assert all(sheet.contains(box) for box in boxes) and 0.5 < wide / high < 2.5


def test_a_bent_part_is_seen_folded_and_an_empty_project_as_a_sheet_to_begin_on():
    assert len(list(picture(projects()["tide_gauge_rest"]).iter(PATH))) > 10
    [sheet] = picture(project([])).iter(PATH)
    assert sheet.get("stroke-dasharray")


@pytest.mark.parametrize("name", projects())
def test_a_picture_is_small_enough_for_a_page_of_them(name):
    document = projects()[name]
    result = evaluate(document)
    svg = portrait(result, put_inside(result, assemble(document, result)))
    assert 300 < len(svg) < 100_000 and svg == portrait(result, put_inside(result, assemble(document, result)))
