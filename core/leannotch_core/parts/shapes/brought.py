"""Outlines that were brought from a drawing."""

from __future__ import annotations

import cmath
from collections import defaultdict
from collections.abc import Sequence
from typing import Annotated, Literal, Self

from pydantic import Field, field_validator, model_validator

from ...document.limits import MOST_OF_A_PART, MOST_VERTICES
from ...document.model import FileName, Millimetres, Model, Name
from ...document.sizes import Size, positive, shown, typed_in
from ...document.sums import Unit
from ...geometry.biarc import arcs_along
from ...geometry.biarc import ellipse as ellipse_curve
from ...geometry.loop import Bounds, Loop, Outline, joined_bounds
from ...geometry.segment import Arc, Line, Motion, Point, Segment, Source, arc_from_bulge, cross, dot
from .outline import Crossing, check_simple, joined_ends
from .shape import BaseHole, BaseOutline, Extent, LineShape, Pen


class Vertex(Model):
    """A corner of a brought outline in mm, and the bulge of the segment that begins there, as DXF has it: 0 is a line.

    The bulge is the tangent of a quarter of the arc's angle, positive where it runs counter-clockwise.
    """

    x: Millimetres
    y: Millimetres
    bulge: float = Field(default=0, ge=-1000, le=1000)


Ring = Annotated[list[Vertex], Field(min_length=2, max_length=MOST_VERTICES)]

#: A brought outline is told to be stretched where its sides differ from the drawing's by more than this share.
STRETCHED = 0.002


class BroughtLine(Model):
    """A line of a drawing that is on an outline and not cut through; the last bulge of an open one says nothing."""

    operation: Literal["fill", "score", "engrave", "reference"] = "score"
    closed: bool = False
    places: Ring


class CameFrom(Model):
    """Where an outline was taken: from which file, and what it was called there, how many times."""

    file: FileName
    name: Name
    count: int = Field(default=1, ge=1, le=MOST_OF_A_PART)


class Following(Model):
    """A slot or tab of a ring that follows the sheet: a slot is as wide, a tab as long as ``size`` says.

    ``first`` and ``second`` are the slot's flanks, or both the end of the tab, by the vertex that they begin at;
    ``drawn`` (mm) is what the drawing has. ``stays`` is what of a slot does not move.
    """

    kind: Literal["slot", "tab"]
    ring: int = Field(ge=0, le=MOST_VERTICES)
    first: int = Field(ge=0, le=MOST_VERTICES)
    second: int = Field(ge=0, le=MOST_VERTICES)
    drawn: Millimetres
    size: Size
    stays: Literal["middle", "first", "second"] = "middle"


class Brought(BaseOutline, BaseHole):
    """An outline from a drawing, stretched to fill ``width`` x ``height``: its outer ring, then its openings.

    ``on_it`` are the lines on it, in the frame of the rings; ``came_from`` lets it be known again in a newer drawing.
    """

    kind: Literal["brought"] = "brought"
    rings: list[Ring] = Field(min_length=1, max_length=MOST_VERTICES // 2)
    on_it: list[BroughtLine] = Field(default=[], max_length=MOST_VERTICES // 2)
    follows: list[Following] = Field(default=[], max_length=400)
    came_from: CameFrom | None = None

    @model_validator(mode="after")
    def _follows_what_is_there(self) -> Self:
        for place in self.follows:
            known = len(self.rings[place.ring]) if place.ring < len(self.rings) else 0
            if max(place.first, place.second) >= known:
                raise ValueError("a place that follows the sheet is not on its outline")
        return self

    @classmethod
    def begun(cls, unit: Unit) -> Self:
        leaf = [Vertex(x=0, y=0, bulge=0.5), Vertex(x=20, y=20, bulge=0.5)]
        return cls(width=typed_in(unit, 20), height=typed_in(unit, 20), rings=[leaf])

    @field_validator("rings")
    @classmethod
    def _few_enough(cls, rings: list[Ring]) -> list[Ring]:
        lines = sum(map(len, rings))
        if lines > MOST_VERTICES:
            raise ValueError(f"it has {lines} lines and arcs; an outline has at most {MOST_VERTICES}")
        return rings

    @property
    def title(self) -> str:
        return "motif"

    @property
    def lines(self) -> int:
        return sum(map(len, self.rings)) + sum(len(line.places) for line in self.on_it)

    @property
    def drawn(self) -> complex:
        """Width and height (mm) of the outline as it was drawn, as one complex number."""
        left, bottom, right, top = self._box()
        return complex(right - left, top - bottom)

    @property
    def corner(self) -> Point:
        """The lower left corner of the drawing's box, in the frame of the rings."""
        left, bottom, _, _ = self._box()
        return complex(left, bottom)

    def as_drawn(self, name: str) -> Outline:
        """The outline as large as it was drawn, from its lower left corner; a segment for every vertex of the rings."""
        width, height = self.drawn.real, self.drawn.imag
        outer, *openings = brought(name, width, height, self._rings())
        outline = Outline(outer, tuple(loop.reversed() for loop in openings))
        return outline.moved(Motion(shift=complex(width, height) / 2))

    def _box(self) -> Bounds:
        source = Source(shape="brought", side="wall")
        ends = [*self.rings[0][1:], self.rings[0][0]]
        return joined_bounds(
            arc_from_bulge(complex(a.x, a.y), complex(b.x, b.y), a.bulge, source).bounds()
            for a, b in zip(self.rings[0], ends, strict=True)
        )

    def mirrored(self) -> Self:
        on_it = [
            line.model_copy(update={"places": _mirrored(line.places) if line.closed else _turned(line.places)})
            for line in self.on_it
        ]
        follows = [_mirrored_place(place, len(self.rings[place.ring])) for place in self.follows]
        rings = [_mirrored(ring) for ring in self.rings]
        return self.model_copy(update={"rings": rings, "on_it": on_it, "follows": follows})

    def drawn_on(self, extent: Extent) -> tuple[LineShape, ...]:
        return self._lines_on(extent.width, extent.height, complex(extent.width, extent.height) / 2)

    def drawn_in(self, outlines: tuple[Outline, ...]) -> tuple[LineShape, ...]:
        left, bottom, right, top = outlines[0].bounds
        return self._lines_on(right - left, top - bottom, 0)

    def _lines_on(self, width: float, height: float, middle_at: Point) -> tuple[LineShape, ...]:
        if not self.on_it:
            return ()
        left, bottom, right, top = self._box()
        middle = complex(left + right, bottom + top) / 2
        x, y = _ratios(width, height, self.drawn)
        to_part = Motion(shift=middle_at)
        found = []
        for line in self.on_it:
            places = [(complex(v.x, v.y), v.bulge) for v in line.places]
            segments = [
                s.moved(to_part) for segment in _run(places, line.closed) for s in _stretch(segment, middle, x, y)
            ]
            if segments:
                found.append(LineShape(line.operation, tuple(segments), line.closed))
        return tuple(found)

    def outlines(self, pen: Pen) -> tuple[Outline, ...] | None:
        width, height = pen.read("width", self.width, positive), pen.read("height", self.height, positive)
        if width is None or height is None:
            return None
        try:
            outer, *openings = brought(pen.name, width, height, self._rings())
        except Crossing as error:
            pen.error("crosses-itself", str(error), "knots")
            return None
        return (Outline(outer, tuple(loop.reversed() for loop in openings)),)

    def islands(self, outlines: tuple[Outline, ...]) -> int:
        return len(self.rings) - 1

    def _following(self, pen: Pen, scale: float) -> list[list[tuple[Point, float]]] | None:
        """The rings with every place that follows the sheet as wide or long as its size says, nothing else moved."""
        rings = self._rings()
        moved: dict[tuple[int, int], Point] = defaultdict(complex)
        for number, place in enumerate(self.follows):
            size = pen.read(f"follows/{number}/size", place.size, positive, f"{place.kind} {number + 1}")
            if size is None:
                return None
            ring = rings[place.ring]
            for vertices, by in _moves(place, ring, size / scale - place.drawn):
                for vertex in vertices:
                    moved[place.ring, vertex] += by
        return [
            [(point + moved.get((r, v), 0), bulge) for v, (point, bulge) in enumerate(ring)]
            for r, ring in enumerate(rings)
        ]

    def _rings(self) -> list[list[tuple[Point, float]]]:
        return [[(complex(v.x, v.y), v.bulge) for v in ring] for ring in self.rings]

    def outline(self, pen: Pen, extent: Extent) -> list[Loop] | None:
        width, height = extent.width, extent.height
        rings = self._following(pen, width / self.drawn.real) if self.follows else self._rings()
        try:
            loops = brought(pen.name, width, height, rings, self._box()) if rings else None
        except Crossing as error:
            pen.error("crosses-itself", str(error), "knots")
            return None
        if loops is None:
            return None
        drawn = self.drawn
        as_wide = height * drawn.real / drawn.imag
        if abs(width / as_wide - 1) > STRETCHED:
            pen.reader.note(
                "stretched",
                f"{pen.called} was brought {shown(drawn.real)} wide and {shown(drawn.imag)} high; at "
                f"{shown(width)} by {shown(height)} it is stretched {'wider' if width > as_wide else 'narrower'}",
                pen.at("width"),
                *([] if pen.kept else [pen.set(f"Make it {shown(as_wide)} wide", "width", f"{as_wide:.4f}")]),
            )
        return [loop.moved(Motion(shift=complex(width, height) / 2)) for loop in loops]


def _moves(place: Following, ring: Sequence[tuple[Point, float]], more: float) -> list[tuple[set[int], Point]]:
    """Which vertices of a ring move, and how, so that a place becomes ``more`` mm wider or longer."""

    def outward(at: int) -> Point:
        """Away from the material of a slot's flank, or from that of a tab's end, lies to the right of a side."""
        along = ring[(at + 1) % len(ring)][0] - ring[at][0]
        return -1j * along / abs(along) if abs(along) > 1e-9 else 0j

    if place.kind == "tab":
        return _carried(place, ring, place.first, outward(place.first) * more)
    shares = {"middle": (0.5, 0.5), "first": (0.0, 1.0), "second": (1.0, 0.0)}[place.stays]
    return [
        moved
        for at, share in zip((place.first, place.second), shares, strict=True)
        if share
        for moved in _carried(place, ring, at, -outward(at) * more * share)
    ]


#: What is no longer than so many times the thickness beside a flank, and no ground, is a relief or a chamfer of it.
_RELIEF = 1.6

#: A relief has at most so many lines and arcs.
_PIECES = 6


def _carried(
    place: Following, ring: Sequence[tuple[Point, float]], at: int, by: complex
) -> list[tuple[set[int], Point]]:
    """Both ends of a side that moves, with the reliefs, fillets and chamfers that go with them, and how each moves.

    What is next to an end stays where it is: the end slides along that.
    """
    count = len(ring)
    begin, finish = at, (at + 1) % count
    along = ring[finish][0] - ring[begin][0]
    if abs(along) < 1e-9:
        return [({begin, finish}, by)]
    along /= abs(along)
    moved = []
    for end, step in ((finish, 1), (begin, -1)):
        here, group = end, {end}
        for _ in range(_PIECES):
            there = (here + step) % count
            way = ring[there][0] - ring[here][0]
            bent = abs(ring[here if step > 0 else there][1]) > 1e-9
            if there in group or there in (begin, finish) or _leads_on(place, along, way, bent):
                break
            group.add(there)
            here = there
        onto = ring[(here + step) % count][0] - ring[here][0]
        bent = abs(ring[here if step > 0 else (here + step) % count][1]) > 1e-9
        lean = cross(onto, along)
        slides = -cross(onto, by) / lean if not bent and abs(lean) > 0.1 * abs(onto) else 0.0
        moved.append((group, by + slides * along))
    return moved


def _leads_on(place: Following, along: complex, way: complex, bent: bool) -> bool:
    """Whether what begins at the end of a side is none of its own: a slot's ground or the edge, or a tab's flank."""
    if abs(way) > _RELIEF * place.drawn:
        return True
    if bent or abs(dot(along, way)) > 0.02 * abs(way):
        return not bent and abs(cross(along, way)) <= 0.02 * abs(way)
    # To the right of a flank lies the slot: a ground leads across it, and an edge away from it.
    across = -cross(along, way)
    return place.kind == "tab" or across > 0.3 * place.drawn or across < -0.6 * place.drawn


#: A relief has at most so many lines and arcs.
_PIECES = 6


def _mirrored_place(place: Following, count: int) -> Following:
    """A side that ran from one vertex to the next runs back in the mirror, and begins at what was its end."""
    first, second = (count - 2 - at if at < count - 1 else count - 1 for at in (place.first, place.second))
    return place.model_copy(update={"first": first, "second": second})


def _mirrored(ring: Ring) -> Ring:
    """Run through backwards, which turns a bulge round twice: by its direction and by the mirror."""
    bulges = [vertex.bulge for vertex in ring]
    return [Vertex(x=-ring[i].x, y=ring[i].y, bulge=bulges[i - 1]) for i in range(len(ring) - 1, -1, -1)]


def _turned(places: Ring) -> Ring:
    """An open line in a mirror, which turns every bulge round."""
    return [Vertex(x=-v.x, y=v.y, bulge=-v.bulge) for v in places]


#: An outline whose two ways are stretched so nearly alike that no point is off by this much (mm) keeps its arcs.
ALIKE = 0.0005


def brought(
    shape: str,
    width: float,
    height: float,
    rings: Sequence[Sequence[tuple[Point, float]]],
    box: Bounds | None = None,
) -> list[Loop]:
    """An outline that was drawn elsewhere, about the origin and stretched so that ``box`` fills ``width`` x ``height``.

    Sizes are in mm; the box is by default that of the outline.

    Rings are vertices with the bulge of the segment that begins there; the first is the outer one and comes out
    counter-clockwise. Arcs stay arcs where both ways are stretched alike. Raises `Crossing`.
    """
    source = Source(shape, "wall")
    drawn = [_ring(ring, source) for ring in rings]
    left, bottom, right, top = box or drawn[0].bounds
    if right - left < 1e-6 or top - bottom < 1e-6:
        raise Crossing("all its points lie on one line")
    middle = complex(left + right, bottom + top) / 2
    x, y = _ratios(width, height, complex(right - left, top - bottom))
    loops = [Loop(joined_ends([s for segment in loop for s in _stretch(segment, middle, x, y)])) for loop in drawn]
    for loop in loops:
        check_simple(loop)
    return [loop if loop.area > 0 else loop.reversed() for loop in loops]


def _ratios(width: float, height: float, drawn: complex) -> tuple[float, float]:
    """How much an outline is stretched across and up; alike in both ways where that leaves every point in place."""
    x, y = width / drawn.real, height / drawn.imag
    alike = abs(x - y) * max(drawn.real, drawn.imag) < ALIKE
    return ((x + y) / 2, (x + y) / 2) if alike else (x, y)


def _run(places: Sequence[tuple[Point, float]], closed: bool) -> list[Segment]:
    source = Source("drawn", "line")
    ends = [point for point, _ in (*places[1:], *places[:1])]
    pairs = [(start, end, bulge) for (start, bulge), end in zip(places, ends, strict=True) if abs(end - start) > 1e-9]
    return [arc_from_bulge(*pair, source) for pair in (pairs if closed else pairs[: len(places) - 1])]


def _ring(ring: Sequence[tuple[Point, float]], source: Source) -> Loop:
    ends = [point for point, _ in (*ring[1:], ring[0])]
    pairs = [(start, end, bulge) for (start, bulge), end in zip(ring, ends, strict=True) if abs(end - start) > 1e-9]
    if not pairs:
        raise Crossing("all its points lie on one another")
    return Loop(tuple(arc_from_bulge(start, end, bulge, source) for start, end, bulge in pairs))


def _stretch(segment: Segment, middle: Point, x: float, y: float) -> list[Segment]:
    """A segment stretched about ``middle``, which goes to the origin."""

    def placed(point: Point) -> Point:
        return complex((point - middle).real * x, (point - middle).imag * y)

    start, end = placed(segment.start), placed(segment.end)
    if isinstance(segment, Line):
        return [Line(start, end, segment.source)]
    centre = placed(segment.centre)
    if x == y:
        return [Arc(start, end, centre, segment.ccw, segment.source)]
    curve = ellipse_curve(centre, segment.radius * x, 1j * segment.radius * y)
    begin = cmath.phase(segment.start - segment.centre)
    return arcs_along(curve, begin, begin + segment.sweep, segment.source)
