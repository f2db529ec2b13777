"""Meshes of plates and bent sheets, turned and written in every format: each comes back as it was made."""

from __future__ import annotations

import random
from collections.abc import Iterator
from functools import partial

import numpy as np
import pytest
import shapely
import trimesh
from leannotch_core.drawings.way_in import ReadDrawing, WayIn

from tests.judges.bent_sheets import bent_sheet, flat_length

from .verdict import Foreign

KINDS = ("stl", "obj", "ply", "3mf", "glb", "bent")


def bodies(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many files of a few plates each, or of a bent sheet."""
    for at in range(number):
        kind = KINDS[at % len(KINDS)]
        if kind == "bent":
            yield _bent(at, chosen)
            continue
        shapes = [_shape(chosen) for _ in range(chosen.randint(1, 4))]
        thick = chosen.choice([1.5, 3.0, 4.0, 6.1])
        whole = trimesh.util.concatenate([_stood(shape, thick, i, chosen) for i, shape in enumerate(shapes)])
        if kind == "glb":
            # glTF 2.0, 3.4: metres.
            whole.apply_scale(0.001)
        written = whole.export(file_type=kind)
        data = written.encode() if isinstance(written, str) else written
        yield Foreign(f"mesh {kind}", f"plates_{at}.{kind}", data, partial(_judge, sorted(s.area for s in shapes)))


def _bent(at: int, chosen: random.Random) -> Foreign:
    """A sheet of up to four legs, bent up and down in turn."""
    thick = chosen.choice([1.0, 2.0, 3.0])
    # At these ratios the table of a stock has rows.
    radius, wide = thick * chosen.choice([1, 1.5, 2, 3]), chosen.uniform(30, 120)
    angles = [chosen.choice([30, 60, 90]) * (-1) ** turn for turn in range(chosen.randint(1, 3))]
    legs = [chosen.uniform(15, 60) for _ in range(len(angles) + 1)]
    turn = chosen.uniform(0, 6), [chosen.uniform(-1, 1) for _ in range(3)]
    sheet = bent_sheet(legs, angles, thick, radius, chosen.choice([3, 10, 30]), wide, turn)
    wanted = [wide * flat_length(legs, angles, thick, radius)]
    return Foreign("mesh, bent", f"bent_{at}.stl", sheet.export(file_type="stl"), partial(_judge_bent, wanted, angles))


def _judge_bent(areas: list[float], angles: list[float], found: ReadDrawing, way: WayIn) -> Iterator[str]:
    yield from _judge(areas, found, way)
    bends = sorted(line.fold[0] for part in way.parts for line in part.lines if line.fold)
    if bends != [pytest.approx(angle, abs=0.02) for angle in sorted(map(abs, angles))]:
        yield f"bends of {bends} for {angles}"


def _shape(chosen: random.Random) -> shapely.Polygon:
    plate = shapely.box(0, 0, chosen.uniform(40, 150), chosen.uniform(30, 90))
    holes = [
        shapely.Point(chosen.uniform(10, 30), chosen.uniform(10, 20)).buffer(chosen.uniform(1.5, 5))
        for _ in range(chosen.randint(0, 2))
    ]
    notch = shapely.box(-1, 20, chosen.uniform(3, 9), 26)
    cut = plate.difference(shapely.union_all([*holes, notch] if chosen.random() < 0.5 else holes))
    return cut if isinstance(cut, shapely.Polygon) else plate


def _stood(shape: shapely.Polygon, thick: float, at: int, chosen: random.Random) -> trimesh.Trimesh:
    body = trimesh.creation.extrude_polygon(shape, thick)
    axis = [chosen.uniform(-1, 1) for _ in range(3)]
    body.apply_transform(trimesh.transformations.rotation_matrix(chosen.uniform(0, 6), axis))
    body.apply_translation(np.array([300.0 * at, 0, 0]))
    return body


def _judge(areas: list[float], _: ReadDrawing, way: WayIn) -> Iterator[str]:
    found = sorted(part.outline.area for part in way.parts for _ in part.places)
    if len(found) != len(areas):
        yield f"{len(found)} plates for {len(areas)}"
    elif any(abs(ours - theirs) > 0.01 * theirs for ours, theirs in zip(found, areas, strict=True)):
        yield f"plates of {found} mm² for {areas}"
