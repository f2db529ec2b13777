"""Parts of a document, read and drawn: from typed sizes to base shapes, cut-outs, pockets and texts, with findings."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from .document import (
    Brought,
    Curve,
    CutOut,
    Ellipse,
    KnotAt,
    Mark,
    Obround,
    Part,
    Rectangle,
    RectangularHole,
    Repeat,
    Shape,
    TextHole,
)
from .findings import Mend, Place
from .geometry.loop import Bounds, Loop, Outline, joined_bounds
from .geometry.segment import Motion, Source, arc_from_bulge, move
from .joints.fit import Pocket
from .lettering.outlines import NoGlyph, Setting, islands, text_outlines
from .parts.cutting_out import Region, compose
from .parts.shapes import (
    CornerSize,
    Crossing,
    TooLarge,
    brought,
    closed_curve,
    ellipse,
    knot_places,
    obround,
    rectangle,
    rectangular_hole,
    round_hole,
)
from .parts.sides import Beyond
from .reading import Names, Reader
from .sizes import Size, length, number, positive, shown
from .stock import StockFacts

#: Reads one size of something: its name in the document, the size, how to read it, and what to call it.
Read = Callable[..., float | None]

#: A brought outline is told to be stretched where its sides differ from the drawing's by more than this share.
STRETCHED = 0.002

#: Turns text and numbers in degrees or shares into a float, whatever names there are.
_PLAIN: Callable[[Size, Names], float] = lambda size, _: number(size)  # noqa: E731


@dataclass(frozen=True, slots=True)
class CutOutShape:
    """A shape on a part in place: its middle in the part's frame (mm), and the outlines of each repeat."""

    id: str
    does: str
    middle: complex
    loops: tuple[Outline, ...]


@dataclass(frozen=True, slots=True)
class MarkShape:
    """Text to be scored or engraved: its middle in the part's frame, cap height (mm) and turn (degrees).

    ``outlines`` are those of an outline font, None for single strokes.
    """

    text: str
    middle: complex
    height: float
    turn: float
    operation: str
    outlines: tuple[Outline, ...] | None


@dataclass(frozen=True, slots=True)
class DrawnPart:
    """A part as the maker drew it, before any joint; sizes in mm."""

    part: Part
    stock: StockFacts
    width: float
    height: float
    base: Loop
    openings: tuple[Outline, ...]
    region: Region
    cutouts: tuple[CutOutShape, ...]
    pockets: tuple[Pocket, ...]
    marks: tuple[MarkShape, ...]
    beyond: Beyond
    islands: int

    @property
    def silhouette(self) -> Region:
        """The region that joints must look at, where the part is not simply its rectangle."""
        plain = isinstance(self.part.shape, Rectangle) and self.region == (Outline(self.base),)
        return () if plain else self.region


def draw_part(part: Part, stock: StockFacts, beyond: Beyond, reader: Reader) -> DrawnPart | None:
    """The part as drawn; None, with findings, where it cannot be."""
    return _Drawing(part, stock, beyond, reader).run()


class _Drawing:
    def __init__(self, part: Part, stock: StockFacts, beyond: Beyond, reader: Reader) -> None:
        self._part, self._stock, self._beyond, self._reader = part, stock, beyond, reader
        self._names: dict[str, float] = {**reader.names, "thickness": stock.thickness, "kerf": stock.kerf}
        self._extent = 0j

    def run(self) -> DrawnPart | None:
        part = self._part
        width = self._own("width", part.shape.width, positive)
        height = self._own("height", part.shape.height, positive)
        if width is None or height is None:
            return None
        self._names |= {"width": width, "height": height}
        self._extent = complex(width, height)
        loops = self._base(part.shape, width, height)
        rim = self._own("rim", part.rim.by)
        if loops is None or rim is None:
            return None
        base, *openings = loops
        shapes = [(cut, shape) for cut in part.cutouts if (shape := self._cut_out(cut))]
        by: dict[str, list[Outline]] = {"add": [], "keep": [], "pocket": [], "cut out": []}
        for _, shape in shapes:
            by[shape.does] += shape.loops
        region = compose(base, tuple(by["add"]), tuple(by["keep"]), rim, part.rim.corners)
        if not region:
            self._reader.error(f"{part.name}: nothing is left of its outline", of(part, "rim"))
            return None
        for cut, shape in shapes:
            if cut.does == "cut out":
                self._check_cut_out(cut, shape.loops, joined_bounds(outline.bounds for outline in region))
        marks = tuple(text for i, mark in enumerate(part.marks) if (text := self._mark(i, mark)))
        return DrawnPart(
            part=part,
            stock=self._stock,
            width=width,
            height=height,
            base=base,
            openings=tuple(Outline(loop) for loop in openings),
            region=region,
            cutouts=tuple(shape for _, shape in shapes),
            pockets=tuple(pocket for cut, shape in shapes for pocket in self._pockets(cut, shape)),
            marks=marks,
            beyond=self._beyond,
            islands=sum(islands(s.loops) for c, s in shapes if c.hole.kind == "text" and c.does == "cut out"),
        )

    def _own(self, name: str, size: Size, reader: Callable[[Size, Names], float] = length) -> float | None:
        path, called = f"parts/{self._part.id}/{name}", f"{self._part.name}, {name.replace('/', ' ')}"
        return self._reader.size(path, size, self._names, lambda: of(self._part, name), reader, called)

    # Base shapes

    def _base(self, shape: Shape, width: float, height: float) -> list[Loop] | None:
        """The part's outer loop, and after it the openings that a brought outline has of its own."""
        onto = Motion(shift=complex(width, height) / 2)
        if isinstance(shape, Rectangle):
            loop = self._rectangle(shape, width, height)
            return [loop] if loop else None
        if isinstance(shape, Ellipse):
            return [ellipse(self._part.id, width, height).moved(onto)]
        try:
            if isinstance(shape, Brought):
                return [loop.moved(onto) for loop in self._brought(shape, width, height)]
            return [closed_curve(self._part.id, width, height, _knots(shape)).moved(onto)]
        except Crossing as error:
            self._reader.error(f"{self._part.name}: {error}", of(self._part, "knots"))
            return None

    def _brought(self, shape: Brought, width: float, height: float) -> list[Loop]:
        rings = [[(complex(v.x, v.y), v.bulge) for v in ring] for ring in shape.rings]
        loops = brought(self._part.id, width, height, rings)
        drawn = brought_size(shape)
        as_wide = height * drawn.real / drawn.imag
        if abs(width / as_wide - 1) > STRETCHED:
            mend = Mend(label=f"Make it {shown(as_wide)} wide", field="width", value=f"{as_wide:.4f}")
            self._reader.note(
                f"{self._part.name} was brought {shown(drawn.real)} wide and {shown(drawn.imag)} high; at "
                f"{shown(width)} by {shown(height)} it is stretched {'wider' if width > as_wide else 'narrower'}",
                of(self._part, "width"),
                None if self._part.starter else mend,
            )
        return loops

    def _rectangle(self, shape: Rectangle, width: float, height: float) -> Loop | None:
        corners: dict[str, CornerSize] = {}
        for cut in shape.corners:
            size = self._own(f"corners/{cut.corner}", cut.size, positive)
            tall = cut.up if cut.kind == "chamfer" else None
            up = self._own(f"corners/{cut.corner}/up", tall, positive) if tall else None
            if size is None or (tall and up is None):
                return None
            corners[cut.corner] = CornerSize(cut.kind, size, up)
        left, bottom, right, top = self._beyond
        try:
            return rectangle(
                self._part.id, width + left + right, height + bottom + top, corners, base=complex(-left, -bottom)
            )
        except TooLarge as error:
            mend = None
            if corners[error.corner].up is None:
                label = f"Use {error.largest:g} mm"
                mend = Mend(label=label, field=f"corners/{error.corner}", value=f"{error.largest:g}")
            place = of(self._part, f"corners/{error.corner}")
            self._reader.error(f"{self._part.name}: {error}", place, mend)
            return None

    # Texts

    def _mark(self, index: int, mark: Mark) -> MarkShape | None:
        place = of(self._part, f"marks/{index}/text")

        def read(
            name: str, size: Size, reader: Callable[[Size, Names], float] = length, called: str = ""
        ) -> float | None:
            own, title = f"marks/{index}/{name}", f"{self._part.name}, text “{mark.text}”"
            path = f"parts/{self._part.id}/{own}"
            return self._reader.size(path, size, self._names, lambda: of(self._part, own), reader, title)

        x, y, height = read("x", mark.x), read("y", mark.y), read("height", mark.height, positive)
        turn = read("turn", mark.turn, _PLAIN)
        if x is None or y is None or height is None or turn is None:
            return None
        outlines = None
        if mark.font != "single line":
            tracking, bend = read("tracking", mark.tracking), read("bend", mark.bend)
            if tracking is None or bend is None:
                return None
            setting = Setting(mark.font, height, tracking, mark.align, bend)
            outlines = self._letters(f"{self._part.id}/text {index + 1}", mark.text, setting, place)
            if outlines is None:
                return None
        return MarkShape(mark.text, complex(x, y), height, turn, mark.operation, outlines)

    def _letters(self, shape: str, text: str, setting: Setting, place: Place) -> tuple[Outline, ...] | None:
        try:
            outlines = text_outlines(shape, text, setting)
        except NoGlyph as error:
            self._reader.error(f"{self._part.name}, text “{text}”: {error}; write it otherwise", place)
            return None
        if not outlines:
            self._reader.error(f"{self._part.name}, text “{text}”: there is nothing to cut in it", place)
            return None
        return outlines

    # Cut-outs

    def _cut_out(self, cut: CutOut) -> CutOutShape | None:
        part = self._part
        path = f"parts/{part.id}/cutouts/{cut.id}"

        def read(
            name: str, size: Size, reader: Callable[[Size, Names], float] = length, called: str = ""
        ) -> float | None:
            title = f"{part.name}, cut-out {called or name}"
            return self._reader.size(f"{path}/{name}", size, self._names, lambda: _at(part, cut, name), reader, title)

        outlines = self._hole(cut, read)
        x, y = read("x", cut.x, called="distance across"), read("y", cut.y, called="distance up")
        turn = read("turn", cut.turn, _PLAIN)
        steps = _steps(cut.repeat, read)
        if outlines is None or x is None or y is None or turn is None or steps is None:
            return None
        if cut.mirrored:
            outlines = tuple(outline.moved(Motion(-1, 0, mirrored=True)) for outline in outlines)
        inward = _inward(cut.origin)
        middle = _corner_point(cut.origin, self._extent) + complex(x * inward.real, y * inward.imag)
        turned = move(turn).turn
        places = [Motion(turned, middle + complex(s.real * inward.real, s.imag * inward.imag)) for s in steps]
        loops = tuple(outline.moved(place) for place in places for outline in outlines)
        return CutOutShape(cut.id, cut.does, middle, loops)

    def _hole(self, cut: CutOut, read: Read) -> tuple[Outline, ...] | None:
        hole, shape = cut.hole, f"{self._part.id}/{cut.id}"
        if hole.kind == "text":
            return self._text(cut, hole, read)
        if hole.kind == "round":
            diameter = read("diameter", hole.diameter, positive)
            return (Outline(round_hole(shape, diameter)),) if diameter else None
        width, height = read("width", hole.width, positive), read("height", hole.height, positive)
        radius = read("radius", hole.radius) if hole.kind == "rectangle" else 0.0
        if width is None or height is None or radius is None:
            return None
        try:
            return (Outline(_hole_loop(hole, shape, width, height, radius)),)
        except TooLarge as error:
            mend = Mend(label=f"Use {error.largest:g} mm", field="radius", value=f"{error.largest:g}")
            self._reader.error(
                f"{self._part.name}, cut-out: a radius of {radius:g} mm is too large; "
                f"the largest that fits is {error.largest:g} mm",
                _at(self._part, cut, "radius"),
                mend,
            )
        except Crossing as error:
            self._reader.error(f"{self._part.name}, cut-out: {error}", _at(self._part, cut, "knots"))
        return None

    def _text(self, cut: CutOut, hole: TextHole, read: Read) -> tuple[Outline, ...] | None:
        height = read("height", hole.height, positive, "cap height")
        tracking, bend = read("tracking", hole.tracking), read("bend", hole.bend)
        bridges = read("bridges", hole.bridges)
        if height is None or tracking is None or bend is None or bridges is None:
            return None
        setting = Setting(hole.font, height, tracking, hole.align, bend, max(0.0, bridges))
        shape = f"{self._part.id}/{cut.id}"
        outlines = self._letters(shape, hole.text, setting, _at(self._part, cut, "text"))
        lost = islands(outlines) if outlines and cut.does == "cut out" else 0
        if lost:
            width = max(self._stock.smallest_web, 2 * self._stock.kerf)
            fall = "islands of its letters fall" if lost > 1 else "island of its letters falls"
            self._reader.warn(
                f"{self._part.name}, text “{hole.text}”: {lost} {fall} out; hold them by bridges, "
                "or take the stencil font",
                _at(self._part, cut, "bridges"),
                Mend(label=f"Bridges of {width:.2f} mm", field="bridges", value=f"{width:.2f}"),
            )
        return outlines

    def _check_cut_out(self, cut: CutOut, loops: tuple[Outline, ...], extent: Bounds) -> None:
        part = self._part
        boxes = [outline.bounds for outline in loops]
        narrowest = min(min(right - left, top - bottom) for left, bottom, right, top in boxes)
        place = _at(part, cut, "size")
        if narrowest <= self._stock.kerf:
            self._reader.warn(
                f"{part.name}: a cut-out {shown(narrowest)} wide is not wider than the kerf of "
                f"{shown(self._stock.kerf)} and cannot be cut",
                place,
            )
        worst = max(boxes, key=lambda box: _beyond(box, extent))
        out = _beyond(worst, extent)
        if out > 1e-6:
            left, bottom, right, top = worst
            self._reader.warn(
                f"{part.name}: a cut-out reaches {shown(out)} out of the part",
                place.model_copy(update={"field": "x", "x": (left + right) / 2, "y": (bottom + top) / 2}),
            )

    def _pockets(self, cut: CutOut, shape: CutOutShape) -> list[Pocket]:
        if cut.does != "pocket":
            return []
        name = f"parts/{self._part.id}/cutouts/{cut.id}/depth"
        place = _at(self._part, cut, "depth")
        title = f"{self._part.name}, depth of a pocket"
        depth = self._reader.size(name, cut.depth, self._names, lambda: place, positive, title)
        if depth is None:
            return []
        if depth >= self._stock.thickness:
            half = self._stock.thickness / 2
            self._reader.warn(
                f"{self._part.name}: a pocket of {shown(depth)} goes through the {shown(self._stock.thickness)} "
                "of its stock; cut it out instead, or make it less deep",
                place,
                Mend(label=f"Make it {half:.2f} mm deep", field="depth", value=f"{half:.2f}"),
            )
        return [Pocket(outline, depth) for outline in shape.loops]


def of(part: Part, field_name: str, at: complex | None = None) -> Place:
    """Where a finding on a part, or at a point of it, belongs."""
    x, y = (None, None) if at is None else (at.real, at.imag)
    return Place(kind="part", id=part.id, part=part.id, field=field_name, x=x, y=y)


def _at(part: Part, cut: CutOut, field_name: str) -> Place:
    return Place(kind="cut-out", id=cut.id, part=part.id, field=field_name)


def _hole_loop(
    hole: RectangularHole | Obround | Ellipse | Curve, shape: str, width: float, height: float, radius: float
) -> Loop:
    if hole.kind == "rectangle":
        return rectangular_hole(shape, width, height, radius)
    if hole.kind == "curve":
        return closed_curve(shape, width, height, _knots(hole))
    return (obround if hole.kind == "obround" else ellipse)(shape, width, height)


def knots_of(part: Part, width: float, height: float) -> list[KnotAt]:
    """The knots of a part that is drawn as a curve, where they lie on it; none for other shapes."""
    if not isinstance(part.shape, Curve):
        return []
    middle = complex(width, height) / 2
    places = [middle + place for place in knot_places(width, height, _knots(part.shape))]
    return [KnotAt(x=p.real, y=p.imag, corner=knot.corner) for p, knot in zip(places, part.shape.knots, strict=True)]


def brought_size(shape: Brought) -> complex:
    """Width and height (mm) of a brought outline as it was drawn, as one complex number."""
    source = Source(shape="brought", side="wall")
    ends = [*shape.rings[0][1:], shape.rings[0][0]]
    boxes = [
        arc_from_bulge(complex(a.x, a.y), complex(b.x, b.y), a.bulge, source).bounds()
        for a, b in zip(shape.rings[0], ends, strict=True)
    ]
    left, bottom, right, top = joined_bounds(boxes)
    return complex(right - left, top - bottom)


def _knots(curve: Curve) -> list[tuple[complex, bool]]:
    return [(complex(knot.x, knot.y), knot.corner) for knot in curve.knots]


def _beyond(box: Bounds, extent: Bounds) -> float:
    """How far (mm) an outline's box reaches out of the box about a part."""
    left, bottom, right, top = box
    return max(extent[0] - left, extent[1] - bottom, right - extent[2], top - extent[3])


def _steps(repeat: Repeat, read: Read) -> list[complex] | None:
    x = read("repeat/step_x", repeat.step_x, called="step across") if repeat.columns > 1 else 0.0
    y = read("repeat/step_y", repeat.step_y, called="step up") if repeat.rows > 1 else 0.0
    if x is None or y is None:
        return None
    return [complex(column * x, row * y) for row in range(repeat.rows) for column in range(repeat.columns)]


def _corner_point(origin: str, extent: complex) -> complex:
    if origin == "middle":
        return extent / 2
    return complex(extent.real if "right" in origin else 0, extent.imag if "top" in origin else 0)


def _inward(origin: str) -> complex:
    """Which way positive distances run from an origin: into the part, or right and up from the middle."""
    return complex(-1 if "right" in origin else 1, -1 if "top" in origin else 1)
