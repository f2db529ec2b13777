"""A mesh as a drawing: its plates and unfolded sheets side by side, or what a cut at a height shows of each body."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from trimesh.intersections import mesh_plane

from ...geometry.loop import Loop, Outline, joined_bounds
from ...geometry.segment import Line, Motion, Point, Source
from .. import progress
from ..drawing import Drawing, Fold, MeshCut, Stand
from .bent import UnfoldedSheet
from .bodies import Bodies, Body, bodies_of
from .cut import Cut
from .plates import NotAPlate, Plate, Vector, outlines_in, plate_of

#: Room (mm) between plates that are laid side by side, and where a row of them ends.
_ROOM, _ROW = 10.0, 700.0

#: What touches the plane of a cut by less than this (mm) only touches it.
_TOUCH = 1e-4


def lay_flat(data: bytes, kind: str, most: int) -> Drawing:
    """Every plate in its true outline, equal ones too, and every bent sheet unfolded with its bend lines, side by side.

    Other bodies are told. Raises `BrokenFile`.
    """
    found = bodies_of(data, kind)
    drawing = _begun(found, most)
    drawing.turns_over = True
    at, row = 0j, 0.0
    plates = 0
    middle = np.mean([body.mesh.bounds for body in found.bodies], axis=(0, 1))
    for number, body in enumerate(found.bodies):
        progress.done(number / len(found.bodies))
        try:
            plate = body.flat or plate_of(body.mesh, middle)
        except NotAPlate as why:
            drawing.lose("body", "no plate", f"{body.name} is no plate: {why}.")
            continue
        plates += 1
        drawing.taken["bent sheet" if body.flat else "plate"] += 1
        left, bottom, right, top = plate.outline.bounds
        if at.real + right - left > _ROW and at.real > 0:
            at, row = complex(0, at.imag - row - _ROOM), 0.0
        _draw(drawing, body, plate, Motion(shift=at - complex(left, top)))
        at, row = at + right - left + _ROOM, max(row, top - bottom)
    bodies = "1 body" if len(found.bodies) == 1 else f"{len(found.bodies)} bodies"
    drawing.notes.insert(0, f"{bodies}, of which {plates} {'is a plate' if plates == 1 else 'are plates'}.")
    return drawing


def cut_at(data: bytes, kind: str, cut: Cut, most: int) -> Drawing:
    """What each cut shows of each body, cuts side by side; bodies that one misses are told, with how far.

    Raises `BrokenFile`.
    """
    found = bodies_of(data, kind)
    drawing = _begun(found, most)
    normal = np.array(cut.square_to) / np.linalg.norm(cut.square_to)
    reach = [_reach(body, normal) for body in found.bodies]
    low, high = min(low for low, _ in reach), max(high for _, high in reach)
    heights = cut.heights or ((low + high) / 2,)
    drawing.cut = MeshCut(heights, low, high)
    at = 0.0
    for height in heights:
        slices = _slices(drawing, found, normal, height, reach, len(heights) > 1)
        if slices and len(heights) > 1:
            left, bottom, right, _ = joined_bounds(outline.bounds for _, outline in slices)
            place = Motion(shift=complex(at - left, -bottom))
            slices = [(layer, outline.moved(place)) for layer, outline in slices]
            at += right - left + _ROOM
        for layer, outline in slices:
            _add(drawing, layer, outline.loops)
    return drawing


def _reach(body: Body, normal: Vector) -> tuple[float, float]:
    heights = body.mesh.vertices @ normal
    return float(heights.min()), float(heights.max())


def _slices(
    drawing: Drawing, found: Bodies, normal: Vector, height: float, reach: Sequence[tuple[float, float]], several: bool
) -> list[tuple[str, Outline]]:
    """The outlines of one cut, each with its layer; what it misses is noted."""
    frame = _directions(normal)
    slices = []
    for body, ends in zip(found.bodies, reach, strict=True):
        missed = _missed(*ends, height)
        called = f"{body.name} at {height:.4g}" if several else body.name
        if missed:
            drawing.lose("body", "not met by the cut", f"{called} is not cut: {missed}.")
            continue
        lines = mesh_plane(body.mesh, normal, normal * height)
        slices += [(called, outline) for outline in outlines_in(lines, frame)]
    return slices


def _directions(normal: Vector) -> tuple[Vector, Vector]:
    """Two directions in a plane: those of the next axes where it is square to one."""
    nearest = int(np.argmax(np.abs(normal)))
    x = np.eye(3)[(nearest + 1) % 3]
    x = x - normal * (x @ normal)
    x /= np.linalg.norm(x)
    return x, np.cross(normal, x)


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
        drawing.unit = found.unit
    if found.doubled:
        drawing.note(f"{found.doubled} triangles are in the mesh twice; each was taken once.")
    if found.flat:
        says = f"{found.flat} triangles without an area were left out."
        drawing.lose("body without area", "without area", says)
    for name, plates in found.merged:
        drawing.note(f"{name} is merged of {plates} plates; it was taken apart, each corner to the larger of two.")
    for body in found.bodies:
        if body.filled:
            lacked = "a triangle" if body.filled == 1 else f"{body.filled} triangles"
            drawing.note(f"{body.name} lacked {lacked}; the hole was closed.")
        for across, deep, high in body.voids:
            room = f"{across:g} x {deep:g} x {high:g} mm"
            says = f"{body.name} has a closed room of {room} in it, which nothing can cut; it was read without."
            drawing.lose("closed room", "nothing leads to it", says)
        if not body.is_closed:
            drawing.note(f"{body.name} is not closed: some of its triangles are missing.")
    return drawing


def _draw(drawing: Drawing, body: Body, plate: Plate | UnfoldedSheet, place: Motion) -> None:
    layer = f"{body.name}, {plate.thickness:.4g} mm"
    left, bottom, _, _ = plate.outline.bounds
    rows = plate.rows.copy()
    rows[:, 3] -= rows[:, :2] @ (place.shift.real, place.shift.imag)
    corner = place(complex(left, bottom))
    drawing.stands.append(Stand(corner, tuple(rows.ravel().tolist()), plate.thickness))
    _add(drawing, layer, plate.outline.moved(place).loops)
    if isinstance(plate, UnfoldedSheet):
        _draw_bends(drawing, body, plate, place)
    else:
        _draw_sunk(drawing, body, plate, place, corner)


def _draw_bends(drawing: Drawing, body: Body, sheet: UnfoldedSheet, place: Motion) -> None:
    for bend in sheet.bends:
        start, end = place(bend.start), place(bend.end)
        drawing.add("bend up" if bend.up else "bend down", [Line(start, end, Source("file", "line"))], kind="bend")
        drawing.folds.append(Fold((start + end) / 2, bend.bend.angle, bend.bend.radius))
    bends = "1 bend" if len(sheet.bends) == 1 else f"{len(sheet.bends)} bends"
    factors = " and ".join(sorted({f"{bend.bend.k:.3f}" for bend in sheet.bends}))
    drawing.note(f"{body.name} is a bent sheet with {bends}; it was laid flat with K {factors}, as DIN 6935 has it.")


def _draw_sunk(drawing: Drawing, body: Body, plate: Plate, place: Motion, corner: Point) -> None:
    for pocket, depth in plate.pockets:
        _add(drawing, f"pocket {depth:.4g} mm", pocket.moved(place).loops)
    if plate.below:
        says = f"{body.name} has {plate.below} pockets in its other face too, which were left out."
        drawing.lose("pocket", "in the other face", says, corner)
    many = f"{len(plate.slopes)} of them, {plate.steep:.0f} degrees steep"
    says = f"{body.name} has chamfers or countersinks ({many}), which were left out: it is read without."
    for at in plate.slopes:
        drawing.lose("chamfer or countersink", "slopes are not cut", says, place(at))


def _add(drawing: Drawing, layer: str, loops: Sequence[Loop]) -> None:
    for loop in loops:
        drawing.add(layer, loop.segments, kind="outline")
