"""Where the two parts of a joint touch when they are put together: one set of axes, seen from either part.

A part lies with its drawn face up: x and y as drawn, z from 0 at its back to its thickness at the drawn face (mm).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

from ..geometry.segment import Point
from ..parts.sides import SideFrame
from .partner import Partner

Vector = tuple[float, float, float]


class Hold(NamedTuple):
    """What of a part a joint takes up: the edge at a side, a slot ``at`` so many mm along one, or the line that begins
    at a point of a face.
    """

    what: Literal["edge", "slot", "line"]
    side: str = ""
    at: complex = 0j


@dataclass(frozen=True, slots=True)
class Contact:
    """Axes at a joint in one part's own frame; ``hold`` is what of the part the joint takes up.

    ``span`` is the stretch of an edge that is taken up, in mm along it; None for all of it. Between the ends of what is
    ``locked`` it cannot grow by itself; None where that is all of the span.
    """

    part: str
    hold: Hold
    origin: Vector
    axes: tuple[Vector, Vector, Vector]
    span: tuple[float, float] | None = None
    locked: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class Meeting:
    """Two parts are together at ``joint`` when the axes of both contacts coincide.

    ``firm`` is whether the joint holds for good; a lid rests or slides and is taken off as a whole, and has ``room``
    (mm) along the joint.
    """

    joint: str
    a: Contact
    b: Contact
    firm: bool = True
    room: float = 0.0


def in_plane(direction: complex) -> Vector:
    """A direction in a part's plane."""
    return direction.real, direction.imag, 0.0


def upward(sign: float) -> Vector:
    """Square to a part: to its drawn face, or with -1 to its back."""
    return 0.0, 0.0, float(sign)


def at_height(point: Point, z: float) -> Vector:
    """A point of a part so high (mm) above its back."""
    return point.real, point.imag, z


def hand(frame: SideFrame) -> int:
    """1 where along, inward and the drawn face make a right-handed set of axes (bottom and right), else -1."""
    return 1 if (frame.inward / frame.along).imag > 0 else -1


def outer(outward: int, thickness: float) -> float:
    """Height (mm) of the outside face of a part, ``outward`` 1 where that is the drawn one, -1 where it is the back."""
    return thickness if outward > 0 else 0.0


@dataclass(frozen=True, slots=True)
class OnFace:
    """Where an edge stands on a face: on a line from ``start``, the drawn edge ``deep`` mm below the face.

    ``up`` is 1 where it stands on the drawn face, -1 on the back; ``firm`` as of a `Meeting`.
    """

    start: Point
    along: complex
    deep: float
    up: int
    firm: bool = True


def edge_on_face(joint: str, edged: Partner, side: str, faced: Partner, on: OnFace) -> Meeting:
    """An edge that stands on a line of another part's face."""
    frame = edged.frame(side)
    start, along, up = on.start, on.along, on.up
    face = faced.thickness if up > 0 else 0.0
    on_edge = Contact(
        edged.id,
        Hold("edge", side),
        at_height(frame.start, edged.thickness / 2),
        (in_plane(frame.along), in_plane(frame.inward), upward(1)),
        (0.0, frame.length),
    )
    across = along * 1j * (-up * hand(frame))
    on_face = Contact(
        faced.id,
        Hold("line", at=complex(round(start.real, 3), round(start.imag, 3))),
        at_height(start, face - up * on.deep),
        (in_plane(along), upward(up), in_plane(across)),
    )
    return Meeting(joint, on_edge, on_face, on.firm)
