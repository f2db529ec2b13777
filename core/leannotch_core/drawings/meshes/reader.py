"""A mesh as a drawing: its plates side by side, or what a cut at a height shows of each body."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from trimesh.intersections import mesh_plane

from ...geometry.loop import Loop
from ...geometry.segment import Motion
from ..drawing import CutAt, Drawing, Stand
from .bodies import Bodies, Body, bodies_of
from .cut import Cut
from .plates import NotAPlate, Plate, outlines_in, plate_of

#: Room (mm) between plates that are laid side by side, and where a row of them ends.
_ROOM, _ROW = 10.0, 700.0

#: What touches the plane of a cut by less than this (mm) only touches it.
_TOUCH = 1e-4


def lay_flat(data: bytes, kind: str, most: int) -> Drawing:
    """Every plate in its true outline, equal ones too, side by side; other bodies are told. Raises `BrokenFile`."""
    found = bodies_of(data, kind)
    drawing = _begun(found, most)
    drawing.turns_over = True
    at, row = 0j, 0.0
    plates = 0
    middle = np.mean([body.mesh.bounds for body in found.bodies], axis=(0, 1))
    for body in found.bodies:
        try:
            plate = plate_of(body.mesh, middle)
        except NotAPlate as why:
            drawing.note(f"{body.name} is no plate: {why}.")
            continue
        plates += 1
        left, bottom, right, top = plate.outline.bounds
        if at.real + right - left > _ROW and at.real > 0:
            at, row = complex(0, at.imag - row - _ROOM), 0.0
        _draw(drawing, body, plate, Motion(shift=at - complex(left, top)))
        at, row = at + right - left + _ROOM, max(row, top - bottom)
    drawing.notes.insert(0, f"{len(found.bodies)} bodies, of which {plates} are plates.")
    return drawing


def cut_at(data: bytes, kind: str, cut: Cut, most: int) -> Drawing:
    """What a cut shows of each body; bodies that it misses are told, with how far. Raises `BrokenFile`."""
    found = bodies_of(data, kind)
    drawing = _begun(found, most)
    at = "xyz".index(cut.axis)
    normal = np.eye(3)[at]
    frame = np.eye(3)[(at + 1) % 3], np.eye(3)[(at + 2) % 3]
    reach = [(float(body.mesh.bounds[0, at]), float(body.mesh.bounds[1, at])) for body in found.bodies]
    low, high = min(low for low, _ in reach), max(high for _, high in reach)
    height = (low + high) / 2 if cut.height is None else cut.height
    drawing.cut = CutAt(height, low, high)
    for body, ends in zip(found.bodies, reach, strict=True):
        missed = _missed(*ends, height)
        if missed:
            drawing.note(f"{body.name} is not cut: {missed}.")
            continue
        for outline in outlines_in(mesh_plane(body.mesh, normal, normal * height), frame):
            _add(drawing, body.name, outline.loops)
    return drawing


def _missed(low: float, high: float, height: float) -> str:
    if height < low - _TOUCH:
        return f"it begins {low - height:.4g} mm above"
    if height > high + _TOUCH:
        return f"it ends {height - high:.4g} mm below"
    if height < low + _TOUCH or height > high - _TOUCH:
        return "the cut only touches it"
    return ""


def _begun(found: Bodies, most: int) -> Drawing:
    drawing = Drawing(most=most, unit="mm", per_unit=found.scale)
    if not found.unit:
        drawing.assume("The mesh states no unit; it was read as millimetres.")
    else:
        drawing.unit = {"meters": "m", "inches": "in", "centimeters": "cm"}.get(found.unit, "mm")
    for body in found.bodies:
        if not body.is_closed:
            drawing.note(f"{body.name} is not closed: some of its triangles are missing.")
    return drawing


def _draw(drawing: Drawing, body: Body, plate: Plate, place: Motion) -> None:
    layer = f"{body.name}, {plate.thickness:.4g} mm"
    left, bottom, _, _ = plate.outline.bounds
    rows = plate.rows.copy()
    rows[:, 3] -= rows[:, :2] @ (place.shift.real, place.shift.imag)
    corner = place(complex(left, bottom))
    drawing.stands.append(Stand(corner, tuple(rows.ravel().tolist()), plate.thickness))
    _add(drawing, layer, plate.outline.moved(place).loops)
    for pocket, depth in plate.pockets:
        _add(drawing, f"pocket {depth:.4g} mm", pocket.moved(place).loops)
    if plate.below:
        drawing.note(f"{body.name} has {plate.below} pockets in its other face too, which were left out.")


def _add(drawing: Drawing, layer: str, loops: Sequence[Loop]) -> None:
    for loop in loops:
        drawing.add(layer, loop.segments)
