"""Housings: an edge that stands on another part's face, butted against it or let into a groove."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ...geometry.boolean import union
from ...geometry.loop import Outline
from ...geometry.segment import Motion, Point
from ...parts.pocket import Pocket
from ...parts.shapes.rectangle import rectangle
from ...remembered import remembered
from ..fit import REMEMBERED, CannotJoin, Gauge, JointCut, Mating
from ..meeting import Meeting, OnFace, edge_on_face
from ..partner import Partner
from ..relief import slot_reliefs


@dataclass(frozen=True, slots=True)
class HousingSpec:
    """A housing in numbers (mm); ``along`` is the unit direction of the lines on the face.

    ``groove`` is its depth, None where the edge is only butted; ``room`` is left at both ends and below the edge.
    """

    joint: str
    side: str
    starts: tuple[Point, ...]
    along: complex
    groove: float | None
    room: float
    fit: str
    clearance: float


@remembered(REMEMBERED)
def cut_housing(spec: HousingSpec, edged: Partner, faced: Partner) -> JointCut:
    """Grooves of ``edge + 2 room`` by ``t_edge + c``; the edge is drawn to where it stands. Raises `CannotJoin`.

    Nothing is cut from the edge. A groove may run out of the part at an end, never at its side.
    """
    if edged.id == faced.id:
        raise CannotJoin(f"{edged.name} cannot stand on itself; pick two parts")
    if spec.groove is None:
        return JointCut((), (), _meetings(spec, 0.0, (-faced.outward, faced.outward), edged, faced))
    _check(spec, spec.groove, edged, faced)
    length = edged.frame(spec.side).length
    pockets = [
        (faced.id, Pocket(outline, spec.groove))
        for start in spec.starts
        for outline in _groove(spec, start, length, edged, faced)
    ]
    # The machine sinks its grooves into the drawn face.
    meetings = _meetings(spec, spec.groove - spec.room, (1,), edged, faced)
    return JointCut((), (_mating(spec, length, edged, faced),), meetings, tuple(pockets))


def _meetings(
    spec: HousingSpec, deep: float, ways: tuple[int, ...], edged: Partner, faced: Partner
) -> tuple[Meeting, ...]:
    firm = spec.groove is not None and spec.room == 0
    places = [OnFace(start, spec.along, deep, up, firm) for start in spec.starts for up in ways]
    found = (edge_on_face(spec.joint, edged, spec.side, faced, on) for on in places)
    return tuple(replace(one, room=2 * spec.room) for one in found)


def _groove(spec: HousingSpec, start: Point, length: float, edged: Partner, faced: Partner) -> list[Outline]:
    long, wide = length + 2 * spec.room, edged.thickness + spec.clearance
    middle = start + spec.along * length / 2
    name = f"{spec.joint}/groove"
    cut = Outline(rectangle(name, long, wide, base=complex(-long, -wide) / 2).moved(Motion(spec.along, middle)))
    _check_side(cut, faced)
    return union([cut], slot_reliefs(faced.relief, middle, spec.along, long, wide, name))


def _mating(spec: HousingSpec, length: float, edged: Partner, faced: Partner) -> Mating:
    opening = edged.thickness + spec.clearance
    return Mating(
        joint=spec.joint,
        kind="edge in its groove",
        fit=spec.fit,
        opening_part=faced.id,
        insert_part=edged.id,
        opening=opening,
        insert=edged.thickness,
        tightest=opening - edged.thickest,
        opening_at=Gauge(faced.id, spec.starts[0] + spec.along * length / 2, spec.along * 1j),
        insert_at=None,
        sunk=True,
    )


def _check(spec: HousingSpec, groove: float, edged: Partner, faced: Partner) -> None:
    if not 0 < groove < faced.thickness:
        third = faced.thickness / 3
        raise CannotJoin(
            f"A groove of {groove:.2f} mm in {faced.name}, which is {faced.thickness:.2f} mm thick, leaves no floor",
            "groove",
            f"{third:.2f}",
            f"Make it {third:.2f} mm deep",
        )
    if not 0 <= spec.room < groove:
        raise CannotJoin(
            f"Room of {spec.room:.2f} mm does not fit into a groove of {groove:.2f} mm; it is 0 or more, and less",
            "room",
            "0",
            "Leave none",
        )
    if edged.thickness + spec.clearance <= faced.kerf:
        raise CannotJoin(f"A groove in {faced.name} would be narrower than the kerf of {faced.kerf:.2f} mm")


def _check_side(groove: Outline, on: Partner) -> None:
    """Refuses a groove that reaches over the part at its side; at an end it may run out. Raises `CannotJoin`."""
    left, bottom, right, top = groove.bounds
    lies_along_x = right - left >= top - bottom
    low, high, room = (bottom, top, on.height) if lies_along_x else (left, right, on.width)
    if low < -1e-9 or high > room + 1e-9:
        raise CannotJoin(
            f"The groove lies {max(-low, high - room):.2f} mm over the side of {on.name}; move its line inward"
        )
