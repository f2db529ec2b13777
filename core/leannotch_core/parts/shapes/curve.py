"""Closed curves through points."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal, Self

from pydantic import Field

from ...document.model import Millimetres, Model
from ...document.sizes import Size, positive, typed_in
from ...document.sums import Unit
from ...geometry.biarc import TOLERANCE, arcs_along, bezier, bezier_bounds, smooth_through
from ...geometry.loop import Loop, Outline
from ...geometry.segment import TOUCH, Line, Motion, Point, Segment, Source
from ...geometry.stroke import Knot as KnotOfStroke
from .outline import Crossing, check_simple, joined_ends
from .shape import BaseHole, BaseOutline, Extent, Pen


class Knot(Model):
    """A point that a curve runs through, in shares of its width and height; smooth unless it is a ``corner``."""

    x: float = Field(ge=-10, le=10)
    y: float = Field(ge=-10, le=10)
    corner: bool = False


class KnotAt(Model):
    """A knot in mm from the part's lower left corner, as it is drawn and dragged."""

    x: Millimetres
    y: Millimetres
    corner: bool = False


#: A rounded, leaning outline to begin with.
_BEGUN = [
    Knot(x=0, y=0, corner=True),
    Knot(x=1, y=0, corner=True),
    Knot(x=0.95, y=0.55),
    Knot(x=0.5, y=1),
    Knot(x=0.05, y=0.55),
]


class Curve(BaseOutline, BaseHole):
    """A closed curve through its knots, stretched to fill ``width`` x ``height``."""

    kind: Literal["curve"] = "curve"
    knots: list[Knot] = Field(min_length=3, max_length=200)

    @property
    def title(self) -> str:
        return "curve"

    @property
    def lines(self) -> int:
        return 8 * len(self.knots)

    @property
    def places(self) -> list[tuple[Point, bool]]:
        """The knots as points in shares of width and height, with whether they are corners."""
        return [(complex(knot.x, knot.y), knot.corner) for knot in self.knots]

    def knots_at(self, width: float, height: float) -> list[tuple[Point, bool]]:
        """The knots where they lie about the middle of the curve (mm), with whether they are corners."""
        places = knot_places(width, height, self.places)
        return [(place, knot.corner) for place, knot in zip(places, self.knots, strict=True)]

    @classmethod
    def filling(cls, width: Size, height: Size) -> Self:
        return cls(width=width, height=height, knots=_BEGUN)

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        return cls.filling(typed_in(unit, 30), typed_in(unit, 20))

    def mirrored(self) -> Self:
        knots = [knot.model_copy(update={"x": 1 - knot.x}) for knot in reversed(self.knots)]
        return self.model_copy(update={"knots": knots})

    def outline(self, pen: Pen, extent: Extent) -> list[Loop] | None:
        loop = self._drawn(pen, extent.width, extent.height)
        return [loop.moved(Motion(shift=complex(extent.width, extent.height) / 2))] if loop else None

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        loop = None if width is None or height is None else self._drawn(pen, width, height)
        return (Outline(loop),) if loop else None

    def through(self, pen: Pen) -> list[KnotOfStroke]:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        return [] if width is None or height is None else self.knots_at(width, height)

    def _drawn(self, pen: Pen, width: float, height: float) -> Loop | None:
        try:
            return closed_curve(pen.name, width, height, self.places)
        except Crossing as error:
            pen.error("crosses-itself", str(error), "knots")
            return None


def closed_curve(shape: str, width: float, height: float, knots: Sequence[tuple[Point, bool]]) -> Loop:
    """A closed curve through ``knots`` about the origin, stretched to fill ``width`` x ``height`` mm.

    Knots are points in shares of width and height, with whether they are corners. Raises `Crossing`.
    """
    pieces, placed = _stretched(width, height, knots)
    source = Source(shape, "wall")
    segments: list[Segment] = []
    for piece, (_, corner), (_, onward_corner) in zip(pieces, knots, [*knots[1:], knots[0]], strict=True):
        a, b, c, d = map(placed, piece)
        if abs(d - a) < TOUCH:
            # Two points on one another are one.
            continue
        straight = corner and onward_corner
        segments += [Line(a, d, source)] if straight else arcs_along(bezier(a, b, c, d), 0.0, 1.0, source)
    loop = Loop(joined_ends(segments))
    check_simple(loop)
    # Narrower than its curves are exact, all along: nothing of it can be held.
    if abs(loop.area) < TOLERANCE * loop.length / 2:
        raise Crossing("it encloses nothing; move a point")
    return loop if loop.area > 0 else loop.reversed()


def knot_places(width: float, height: float, knots: Sequence[tuple[Point, bool]]) -> list[Point]:
    """Where the knots of a `closed_curve` come to lie about the origin. Raises `Crossing`."""
    _, placed = _stretched(width, height, knots)
    return [placed(complex(knot.real * width, knot.imag * height)) for knot, _ in knots]


def _stretched(
    width: float, height: float, knots: Sequence[tuple[Point, bool]]
) -> tuple[list[tuple[Point, Point, Point, Point]], Callable[[Point], Point]]:
    """Bezier pieces through the knots at about their true size, and the stretch that makes them fill it exactly."""
    pieces = smooth_through([(complex(p.real * width, p.imag * height), corner) for p, corner in knots])
    left, bottom, right, top = bezier_bounds(pieces)
    if right - left < 1e-9 or top - bottom < 1e-9:
        raise Crossing("all its points lie on one line")
    middle = complex(left + right, bottom + top) / 2
    x, y = width / (right - left), height / (top - bottom)
    return pieces, lambda point: complex((point - middle).real * x, (point - middle).imag * y)
