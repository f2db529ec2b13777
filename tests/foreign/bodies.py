"""Meshes of plates that trimesh makes, turned and written in every format: each comes back as it was extruded."""

from __future__ import annotations

import random
from collections.abc import Iterator
from functools import partial

import numpy as np
import shapely
import trimesh
from leannotch_core.drawings.way_in import Read, WayIn

from .verdict import Foreign

KINDS = ("stl", "obj", "ply", "3mf", "glb")


def bodies(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many files of a few plates each."""
    for at in range(number):
        kind = KINDS[at % len(KINDS)]
        shapes = [_shape(chosen) for _ in range(chosen.randint(1, 4))]
        thick = chosen.choice([1.5, 3.0, 4.0, 6.1])
        whole = trimesh.util.concatenate([_stood(shape, thick, i, chosen) for i, shape in enumerate(shapes)])
        if kind == "glb":
            # glTF 2.0, 3.4: metres.
            whole.apply_scale(0.001)
        written = whole.export(file_type=kind)
        data = written.encode() if isinstance(written, str) else written
        yield Foreign(f"mesh {kind}", f"plates_{at}.{kind}", data, partial(_judge, sorted(s.area for s in shapes)))


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


def _judge(areas: list[float], _: Read, way: WayIn) -> Iterator[str]:
    found = sorted(part.outline.area for part in way.parts for _ in part.places)
    if len(found) != len(areas):
        yield f"{len(found)} plates for {len(areas)}"
    elif any(abs(ours - theirs) > 0.01 * theirs for ours, theirs in zip(found, areas, strict=True)):
        yield f"plates of {found} mm² for {areas}"
