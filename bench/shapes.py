"""Parts with hundreds of shapes: an edit, and the check of their gaps beside shapely's own distance query."""

from __future__ import annotations

import json
import random
from typing import Any

import shapely
from leannotch_core.evaluate import evaluate
from leannotch_core.geometry.chords import as_polygon
from leannotch_core.geometry.loop import Outline
from leannotch_core.parts.gaps import near
from leannotch_core.project.project import Project

from bench.documents import grid
from bench.figure import Figure, many, median_ms


def many_shapes(count: int) -> Project:
    """A board with so many round, square and obround cut-outs, 20 in a row, some 3 mm apart, each a little aside."""
    document = grid(1, 0)
    kinds: list[dict[str, Any]] = [
        {"kind": "round", "diameter": "7"},
        {"kind": "rectangle", "width": "7", "height": "7", "radius": "1"},
        {"kind": "obround", "width": "7", "height": "4"},
    ]
    aside = random.Random(1)
    cutouts = [
        {
            "id": f"cut_{n}",
            "hole": kinds[n % 3],
            "x": f"{10 + 10.2 * (n % 20) + aside.uniform(-0.4, 0.4):.3f}",
            "y": f"{10 + 10.2 * (n // 20) + aside.uniform(-0.4, 0.4):.3f}",
        }
        for n in range(count)
    ]
    part = document.parts[0].model_dump(mode="json")
    board = {"kind": "rectangle", "width": "214", "height": str(20 + 10.2 * (count // 20))}
    fields = document.model_dump(mode="json") | {"joints": [], "layout": {}}
    return Project.model_validate(fields | {"parts": [part | {"shape": board, "cutouts": cutouts}]})


def shapes() -> list[Figure]:
    document = many_shapes(many(400))
    return [_edit(document), _gaps(document)]


def _edit(document: Project) -> Figure:
    from django.test import Client
    from workshop.revisions import create

    project = create(document)
    client = Client(headers={"host": "127.0.0.1"})
    version = project.version

    def edit() -> None:
        nonlocal version
        ids = [f"cut_{n}" for n in range(0, many(400), 20)]
        command = {"do": "move shapes", "part": document.parts[0].id, "ids": ids, "x": "0.01", "y": "0"}
        body = json.dumps({"version": version, "command": command})
        answer = client.post(f"/api/projects/{project.slug}/edit", body, content_type="application/json")
        assert answer.status_code == 200
        version += 1

    return Figure("an edit of a part with 400 cut-outs, answered, ms", median_ms(edit), "at most 100 ms", 100)


def _gaps(document: Project) -> Figure:
    outline = evaluate(document).parts[document.parts[0].id].outline

    def asked() -> None:
        # What shapely is given has to be made first, as ours is.
        rings = [as_polygon(Outline(loop), 0.01).exterior for loop in outline.loops]
        tree = shapely.STRtree(rings)
        pairs = tree.query(rings, predicate="dwithin", distance=3.0)
        shapely.distance(tree.geometries[pairs[0]], tree.geometries[pairs[1]])

    ours, theirs = median_ms(lambda: near(outline.loops, outline.loops, 3.0)), median_ms(asked)
    return Figure("gaps of 400 cut-outs over shapely's, made and asked, times", ours / theirs, "at most 3", 3)
