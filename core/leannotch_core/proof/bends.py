"""The legs of bent parts, proved: the piece that comes free is parted along the bend lines that the file has, and each
leg is measured as calipers would find it once it is bent.

The sums of a bend are done here anew: they share nothing with what laid the flat sheet out.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from shapely import LineString, Polygon
from shapely import Point as ShapelyPoint
from shapely.affinity import scale
from shapely.ops import split

#: A line further than this (mm) from where a bend was meant is no line of it.
NEAR = 0.02

#: What hangs on a bend is looked for so far (mm) beside its middle.
BESIDE = 0.1

Point = complex


@dataclass(frozen=True, slots=True)
class Bend:
    """A bend as it was meant, in the frame of its part: its middle line (mm), and its numbers."""

    id: str
    name: str
    start: Point
    end: Point
    angle: float
    radius: float
    k: float
    thickness: float
    up: bool

    @property
    def flat(self) -> float:
        """What the bend takes of the flat sheet, mm: the arc of the neutral line."""
        return math.pi * self.angle / 180 * (self.radius + self.k * self.thickness)

    @property
    def outside(self) -> float:
        """From where the bend begins to where its outside is measured, mm."""
        return (self.radius + self.thickness) * math.tan(math.pi * min(self.angle, 90.0) / 360)

    @property
    def gain(self) -> float:
        """How much longer a leg is outside than on the flat sheet to the middle of the bend, mm."""
        return self.outside - self.flat / 2


@dataclass(frozen=True, slots=True)
class ProvedLeg:
    """A leg of a bend: its outside length (mm) as meant, and as the file gives it; None where it cannot be measured.

    ``onward`` is whether it lies to the left of the bend's line, seen from its start.
    """

    bend: str
    called: str
    onward: bool
    wanted: float
    proved: float | None


def drawn_as_meant(bends: Sequence[Bend], lines: Sequence[tuple[str, LineString]]) -> Iterator[tuple[Bend, str]]:
    """Bends whose line is not in the file, or is on the layer of the other direction, with what is wrong."""
    for bend in bends:
        meant = LineString([(bend.start.real, bend.start.imag), (bend.end.real, bend.end.imag)])
        layer = next((name for name, line in lines if line.hausdorff_distance(meant) < NEAR), None)
        if layer is None:
            yield bend, "its line is not in the file"
        elif (layer == "bend-up") != bend.up:
            yield bend, f"its line is on the layer {layer}, and it is bent the other way"


def legs(
    shape: Polygon, bends: Sequence[Bend], lines: Sequence[LineString]
) -> Iterator[tuple[str, bool, float | None]]:
    """Each leg of each bend, by the bend's id and the side, and its outside length (mm) in the proved ``shape``."""
    faces = [shape]
    for line in lines:
        # Lines are drawn to the edge of the part; the kerf may have left a hair beyond their ends.
        longer = scale(line, 1.0 + 0.5 / line.length, 1.0 + 0.5 / line.length)
        faces = [part for face in faces for part in split(face, longer).geoms]
    for bend in bends:
        along = (bend.end - bend.start) / abs(bend.end - bend.start)
        for onward in (True, False):
            out = along * (1j if onward else -1j)
            yield bend.id, onward, _leg(bend, out, faces, bends)


def _leg(bend: Bend, out: complex, faces: Sequence[Polygon], bends: Sequence[Bend]) -> float | None:
    at = (bend.start + bend.end) / 2
    reaches = [reach for face in faces if (reach := _reach(face, bend, out)) is not None]
    if not reaches:
        return None
    far = max(reaches)
    across = [
        other
        for other in bends
        if other.id != bend.id and _parallel(other, bend) and abs(_away(other, at, out) - far) < 0.5
    ]
    return far + bend.gain + (across[0].gain if across else 0.0)


def _reach(face: Polygon, bend: Bend, out: complex) -> float | None:
    """How far (mm) a face reaches from the middle of a bend; None where it does not hang on it on that side."""
    at = (bend.start + bend.end) / 2
    beside = [bend.start + (bend.end - bend.start) * share + out * BESIDE for share in (0.2, 0.35, 0.5, 0.65, 0.8)]
    if not any(face.contains(ShapelyPoint(point.real, point.imag)) for point in beside):
        return None
    return max(dot(complex(x, y) - at, out) for x, y in face.exterior.coords)


def _parallel(one: Bend, other: Bend) -> bool:
    a, b = one.end - one.start, other.end - other.start
    return abs(dot(a * 1j, b)) < 1e-6 * abs(a) * abs(b)


def _away(bend: Bend, at: complex, out: complex) -> float:
    return dot((bend.start + bend.end) / 2 - at, out)


def dot(a: complex, b: complex) -> float:
    """The dot product of two vectors."""
    return (a * b.conjugate()).real
