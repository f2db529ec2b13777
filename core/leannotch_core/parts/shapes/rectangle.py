"""Rectangles: sharp, or with corners rounded and chamfered."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, Self

from pydantic import Field

from ...document.model import Corner, Model, Side
from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...document.turned_over import other_hand
from ...geometry.loop import Loop, Outline, polygon
from ...geometry.segment import Arc, Line, Point, Segment, Source
from ...said import Said
from .outline import joined_ends
from .shape import BaseHole, BaseOutline, Extent, Pen


class CornerCut(Model):
    """A corner of the part, rounded or chamfered by ``size``; a chamfer may take another length ``up`` the part."""

    corner: Corner
    kind: Literal["round", "chamfer"]
    size: Size
    up: Size | None = None


class Rectangle(BaseOutline):
    kind: Literal["rectangle"] = "rectangle"
    corners: list[CornerCut] = Field(default=[], max_length=4)

    @property
    def lines(self) -> int:
        return 8

    def mirrored(self) -> Self:
        corners = [cut.model_copy(update={"corner": other_hand(cut.corner)}) for cut in self.corners]
        return self.model_copy(update={"corners": corners})

    def outline(self, pen: Pen, extent: Extent) -> list[Loop] | None:
        corners = read_corners(pen, self.corners)
        if corners is None:
            return None
        left, bottom, right, top = extent.beyond
        wide, high = extent.width + left + right, extent.height + bottom + top
        try:
            return [rectangle(pen.name, wide, high, corners, base=complex(-left, -bottom))]
        except TooLarge as error:
            at = next(i for i, cut in enumerate(self.corners) if cut.corner == error.corner)
            fits = f"{error.largest:g}"
            mends = [pen.set(f"Use {fits} mm", f"corners/{at}/size", fits)] if self.corners[at].up is None else []
            pen.error("corner-too-large", str(error), f"corners/{error.corner}", *mends)
            return None


class RectangularHole(BaseHole):
    """A rectangle with all corners rounded by ``radius``, but for the ``corners`` that have a cut of their own."""

    kind: Literal["rectangle"] = "rectangle"
    width: Size
    height: Size
    radius: Size = Size(text="0")
    corners: list[CornerCut] = Field(default=[], max_length=4)

    @property
    def title(self) -> str:
        return "rectangle"

    @property
    def lines(self) -> int:
        return 8

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls(width=typed_in(unit, 30), height=typed_in(unit, 20), radius=typed_in(unit, 2))

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        radius = pen.read("radius", self.radius)
        if width is None or height is None or radius is None:
            return None
        own = read_corners(pen, self.corners)
        if own is None:
            return None
        sizes = {corner: CornerSize("round", radius) for corner in CORNERS if radius > 0} | own
        sizes = {corner: cut for corner, cut in sizes.items() if cut.size > 0}
        try:
            return (Outline(rectangle(pen.name, width, height, sizes, base=complex(-width / 2, -height / 2))),)
        except TooLarge as error:
            fits = f"{error.largest:g}"
            at = next((i for i, cut in enumerate(self.corners) if cut.corner == error.corner), None)
            field = "radius" if at is None else f"corners/{at}/size"
            what = "radius" if sizes[error.corner].kind == "round" else "chamfer"
            text = f"a {what} of {error.size:g} mm is too large; the largest that fits is {fits} mm"
            pen.error("radius-too-large", text, "radius", pen.set(f"Use {fits} mm", field, fits))
            return None


def read_corners(pen: Pen, cuts: Sequence[CornerCut]) -> dict[str, CornerSize] | None:
    """Corners with the sizes (mm) that are cut off them; None, with findings, where one cannot be read."""
    corners: dict[str, CornerSize] = {}
    for cut in cuts:
        size = pen.read(f"corners/{cut.corner}", cut.size, positive)
        tall = cut.up if cut.kind == "chamfer" else None
        up = pen.read(f"corners/{cut.corner}/up", tall, positive) if tall else None
        if size is None or (tall and up is None):
            return None
        corners[cut.corner] = CornerSize(cut.kind, size, up)
    return corners


#: Corner names in counter-clockwise order, and the side that runs from each to the next.
CORNERS = ("bottom left", "bottom right", "top right", "top left")

SIDES: tuple[Side, ...] = ("bottom", "right", "top", "left")


@dataclass(frozen=True, slots=True)
class CornerSize:
    """A corner taken off: ``size`` is the radius of a round, or the leg of a chamfer.

    A chamfer with another leg ``up`` takes ``size`` of the side that lies and ``up`` of the one that stands.
    """

    kind: Literal["round", "chamfer"]
    size: float
    up: float | None = None

    def leg(self, side: int) -> float:
        """What is taken of a side, by its place in `SIDES`."""
        return self.size if side % 2 == 0 or self.up is None else self.up


class TooLarge(Said):
    """A corner larger than the part takes."""

    def __init__(self, corner: str, size: float, largest: float) -> None:
        super().__init__(f"the {corner} corner of {size:g} mm is too large; the largest that fits is {largest:g} mm")
        self.corner, self.size, self.largest = corner, size, largest


def rectangle(
    shape: str, width: float, height: float, corners: Mapping[str, CornerSize] | None = None, base: Point = 0
) -> Loop:
    """A rectangle with its lower left corner at ``base``; sides are sources ``bottom``, ``right``, ``top``, ``left``.

    Raises `TooLarge` where two corners need more than the side between them has.
    """
    corners = corners or {}
    vertices = [base, base + width, base + width + 1j * height, base + 1j * height]
    if not corners:
        return polygon(vertices, [Source(shape, side) for side in SIDES])
    _check_corners(corners, width, height)
    segments: list[Segment] = []
    for index, (corner, vertex) in enumerate(zip(CORNERS, vertices, strict=True)):
        cut = corners.get(corner)
        if cut:
            segments.append(_corner(cut, vertex, index, Source(shape, f"{corner} corner")))
        end = vertices[(index + 1) % 4]
        following = corners.get(CORNERS[(index + 1) % 4])
        along = 1j**index
        start = vertex + along * (cut.leg(index) if cut else 0)
        stop = end - along * (following.leg(index) if following else 0)
        if abs(stop - start) > 1e-9:
            segments.append(Line(start, stop, Source(shape, SIDES[index])))
    return Loop(joined_ends(segments))


def _corner(cut: CornerSize, vertex: Point, side: int, source: Source) -> Segment:
    """The corner between ``side`` and the one before it, by their place in `SIDES`."""
    along = 1j**side
    start, end = vertex + along * 1j * cut.leg(side + 1), vertex + along * cut.leg(side)
    if cut.kind == "chamfer":
        return Line(start, end, source)
    return Arc(start, end, vertex + along * (1 + 1j) * cut.size, True, source)


def _check_corners(corners: Mapping[str, CornerSize], width: float, height: float) -> None:
    for index in range(4):
        side = width if index % 2 == 0 else height
        here, onward = CORNERS[index], CORNERS[(index + 1) % 4]
        legs = {corner: cut.leg(index) for corner in (here, onward) if (cut := corners.get(corner))}
        if sum(legs.values()) <= side + 1e-9:
            continue
        larger = max(legs, key=lambda corner: legs[corner])
        other = sum(legs.values()) - legs[larger]
        raise TooLarge(larger, legs[larger], side / 2 if other >= side / 2 else side - other)


def rectangular_hole(shape: str, width: float, height: float, radius: float) -> Loop:
    """A rectangle about the origin with all corners rounded by ``radius``. Raises `TooLarge`."""
    corners = {corner: CornerSize("round", radius) for corner in CORNERS} if radius > 0 else {}
    return rectangle(shape, width, height, corners, base=complex(-width / 2, -height / 2))
