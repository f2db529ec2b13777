"""The bodies of a mesh as they are shown in space: what each of them is, and its surface."""

from __future__ import annotations

from typing import Any

import numpy as np

from .bodies import Body, bodies_of
from .plates import NotAPlate, plate_of

#: So many triangles are shown of a mesh; of bodies beyond that, their boxes.
MOST_SHOWN = 60_000


def bodies_in(data: bytes, kind: str) -> list[dict[str, Any]]:
    """Each body by plain JSON values: sizes in mm, a plate's thickness and bends, or why it is none.

    ``corners`` are x, y and z in turn, ``triangles`` three corners each. Raises `BrokenFile`.
    """
    found = bodies_of(data, kind).bodies
    middle = np.mean([body.mesh.bounds for body in found], axis=(0, 1))
    left, shown = MOST_SHOWN, []
    for body in found:
        whole = len(body.mesh.faces) <= left
        left -= len(body.mesh.faces) if whole else 0
        mesh = body.mesh if whole else body.mesh.bounding_box
        shown.append({**_facts(body, middle), **_surface(mesh), "whole": whole})
    return shown


def _facts(body: Body, middle: Any) -> dict[str, Any]:
    thick, why = None, ""
    try:
        thick = (body.flat or plate_of(body.mesh, middle)).thickness
    except NotAPlate as refusal:
        why = str(refusal)
    size = (body.mesh.bounds[1] - body.mesh.bounds[0]).round(4).tolist()
    return {
        "name": body.name,
        "size": size,
        "closed": body.is_closed,
        "filled": body.filled,
        "thick": thick,
        "bends": len(body.flat.bends) if body.flat else 0,
        "why": why,
    }


def _surface(mesh: Any) -> dict[str, Any]:
    return {"corners": mesh.vertices.round(3).ravel().tolist(), "triangles": mesh.faces.ravel().tolist()}
