"""Parts of a document, read and drawn: from typed sizes to base shapes, cut-outs, pockets and texts, with findings."""

from __future__ import annotations

from dataclasses import dataclass

from ..document.sizes import Size, length, number, positive, shown
from ..findings import Place, mend
from ..geometry.loop import Bounds, Loop, Outline, joined_bounds
from ..geometry.segment import Motion, move
from ..reading import Names, Reader
from ..stock import StockFacts
from .cut_out import CutOut, Repeat
from .cutting_out import Region, compose
from .lettering.outlines import Setting
from .marks import Mark
from .part import Part
from .pocket import Pocket
from .shapes.curve import Curve, KnotAt, knot_places
from .shapes.rectangle import Rectangle
from .shapes.shape import Extent, LineShape, Pen, Read, SizeReader
from .shapes.text import letters
from .sides import Beyond

#: What shapes on a part do along their edge, with nothing taken away.
LINED = ("fill", "score", "engrave", "reference")


def _plain(size: Size, _: Names) -> float:
    """Reads a number in degrees, whatever names there are."""
    return number(size)


@dataclass(frozen=True, slots=True)
class CutOutShape:
    """A shape on a part in place: its middle in the part's frame (mm), and the outlines of each repeat.

    ``islands`` come free in it as they were meant to; ``drawn`` are lines that the shape has beside its outlines.
    """

    id: str
    does: str
    middle: complex
    loops: tuple[Outline, ...]
    islands: int
    drawn: tuple[LineShape, ...] = ()

    @property
    def lines(self) -> tuple[LineShape, ...]:
        """What of it is marked on the part, or drawn as a reference."""
        if self.does not in LINED:
            return self.drawn
        edges = tuple(LineShape(self.does, loop.segments, True) for outline in self.loops for loop in outline.loops)
        return (*edges, *self.drawn)


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
    lines: tuple[LineShape, ...]
    beyond: Beyond

    @property
    def islands(self) -> int:
        return sum(shape.islands for shape in self.cutouts)

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
        clearance = reader.names.get(f"{part.stock}.clearance", 0.0)
        own = {"thickness": stock.thickness, "kerf": stock.kerf, "clearance": clearance}
        self._names: dict[str, float] = {**reader.names, **own}
        self._extent = 0j

    def run(self) -> DrawnPart | None:
        part = self._part
        read = self._reading("", part.name)
        width, height = read("width", part.shape.width, positive), read("height", part.shape.height, positive)
        if width is None or height is None:
            return None
        self._names |= {"width": width, "height": height}
        self._extent = complex(width, height)
        loops = part.shape.outline(self._pen_of_part(read), Extent(width, height, self._beyond))
        rim = read("rim", part.rim.by)
        if loops is None or rim is None:
            return None
        base, *openings = loops
        shapes = [(cut, shape) for cut in part.cutouts if (shape := self._cut_out(cut))]
        added, kept = (tuple(o for c, s in shapes if c.does == does for o in s.loops) for does in ("add", "keep"))
        region = compose(base, added, kept, rim, part.rim.corners)
        if not region:
            self._reader.error("nothing-left", f"{part.name}: nothing is left of its outline", of(part, "rim"))
            return None
        extent = joined_bounds(outline.bounds for outline in region)
        for cut, shape in shapes:
            if cut.does == "cut out":
                self._check_width(cut, shape.loops)
            if cut.does in ("cut out", "fill", "score", "engrave"):
                self._check_reach(cut, shape.loops, extent)
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
            lines=(
                *part.shape.drawn_on(Extent(width, height, self._beyond)),
                *(line for _, shape in shapes for line in shape.lines),
            ),
            beyond=self._beyond,
        )

    def _reading(self, under: str, title: str, cut: CutOut | None = None) -> Read:
        """Reads sizes of the part, of a cut-out, or of something ``under`` it, called by ``title`` where they fail."""
        part, path = self._part, f"parts/{self._part.id}/{under}"

        def at(name: str) -> Place:
            return of_cut_out(part, cut, name) if cut else of(part, f"{under}{name}")

        def read(name: str, size: Size, reader: SizeReader = length, called: str = "") -> float | None:
            # Title and place are made only where they are needed: a project has thousands of sizes.
            called = f"{title}{' ' if cut else ', '}{called or name.replace('/', ' ')}"
            return self._reader.size(f"{path}{name}", size, self._names, lambda: at(name), reader, called)

        return read

    def _pen_of_part(self, read: Read) -> Pen:
        part = self._part
        return Pen(
            name=part.id,
            called=part.name,
            path=("parts", part.id, "shape"),
            at=lambda field: of(part, field),
            read=read,
            reader=self._reader,
            stock=self._stock,
            kept=bool(part.starter),
        )

    # Texts

    def _mark(self, index: int, mark: Mark) -> MarkShape | None:
        part, title = self._part, f"{self._part.name}, text “{mark.text}”"
        read = self._reading(f"marks/{index}/", title)
        x, y, height = read("x", mark.x), read("y", mark.y), read("height", mark.height, positive)
        turn = read("turn", mark.turn, _plain)
        if x is None or y is None or height is None or turn is None:
            return None
        outlines = None
        if mark.font != "single line":
            tracking, bend = read("tracking", mark.tracking), read("bend", mark.bend)
            if tracking is None or bend is None:
                return None
            pen = Pen(
                name=f"{part.id}/text {index + 1}",
                called=title,
                path=("parts", part.id, "marks", str(index)),
                at=lambda field: of(part, f"marks/{index}/{field}"),
                read=read,
                reader=self._reader,
                stock=self._stock,
            )
            outlines = letters(pen, mark.text, Setting(mark.font, height, tracking, mark.align, bend))
            if outlines is None:
                return None
        return MarkShape(mark.text, complex(x, y), height, turn, mark.operation, outlines)

    # Cut-outs

    def _cut_out(self, cut: CutOut) -> CutOutShape | None:
        part, hole = self._part, cut.hole
        read = self._reading(f"cutouts/{cut.id}/", f"{part.name}, cut-out", cut)
        pen = Pen(
            name=f"{part.id}/{cut.id}",
            called=f"{part.name}, {hole.title}",
            path=("parts", part.id, "cutouts", cut.id, "hole"),
            at=lambda field: of_cut_out(part, cut, field),
            read=read,
            reader=self._reader,
            stock=self._stock,
        )
        outlines = hole.outlines(pen)
        islands = hole.islands(outlines) if outlines and cut.does == "cut out" else 0
        if islands:
            hole.tell_islands(pen, islands)
        x, y = read("x", cut.x, called="distance across"), read("y", cut.y, called="distance up")
        turn = read("turn", cut.turn, _plain)
        steps = _steps(cut.repeat, read)
        if outlines is None or x is None or y is None or turn is None or steps is None:
            return None
        drawn = hole.drawn_in(outlines)
        if cut.mirrored:
            over = Motion(-1, 0, mirrored=True)
            outlines = tuple(outline.moved(over) for outline in outlines)
            drawn = tuple(line.moved(over) for line in drawn)
        inward = _inward(cut.origin)
        middle = _corner_point(cut.origin, self._extent) + complex(x * inward.real, y * inward.imag)
        turned = move(turn).turn
        places = [Motion(turned, middle + complex(s.real * inward.real, s.imag * inward.imag)) for s in steps]
        loops = tuple(outline.moved(place) for place in places for outline in outlines)
        lines = tuple(line.moved(place) for place in places for line in drawn)
        return CutOutShape(cut.id, cut.does, middle, loops, islands * len(places), lines)

    def _check_width(self, cut: CutOut, loops: tuple[Outline, ...]) -> None:
        part = self._part
        boxes = [outline.bounds for outline in loops]
        narrowest = min(min(right - left, top - bottom) for left, bottom, right, top in boxes)
        if narrowest <= self._stock.kerf:
            self._reader.warn(
                "narrower-than-kerf",
                f"{part.name}: a cut-out {shown(narrowest)} wide is not wider than the kerf of "
                f"{shown(self._stock.kerf)} and cannot be cut",
                of_cut_out(part, cut, "size"),
            )

    def _check_reach(self, cut: CutOut, loops: tuple[Outline, ...], extent: Bounds) -> None:
        part, called = self._part, "cut-out" if cut.does == "cut out" else "marked shape"
        worst = max((outline.bounds for outline in loops), key=lambda box: _beyond(box, extent))
        out = _beyond(worst, extent)
        if out > 1e-6:
            left, bottom, right, top = worst
            self._reader.warn(
                "reaches-out",
                f"{part.name}: a {called} reaches {shown(out)} out of the part",
                of_cut_out(part, cut, "x").model_copy(update={"x": (left + right) / 2, "y": (bottom + top) / 2}),
            )

    def _pockets(self, cut: CutOut, shape: CutOutShape) -> list[Pocket]:
        if cut.does != "pocket":
            return []
        part = self._part
        name, title = f"parts/{part.id}/cutouts/{cut.id}/depth", f"{part.name}, depth of a pocket"
        place = of_cut_out(part, cut, "depth")
        depth = self._reader.size(name, cut.depth, self._names, lambda: place, positive, title)
        if depth is None:
            return []
        if depth >= self._stock.thickness:
            half = f"{self._stock.thickness / 2:.2f}"
            self._reader.warn(
                "pocket-goes-through",
                f"{part.name}: a pocket of {shown(depth)} goes through the {shown(self._stock.thickness)} "
                "of its stock; cut it out instead, or make it less deep",
                place,
                mend(f"Make it {half} mm deep", ("parts", part.id, "cutouts", cut.id, "depth"), half),
            )
        return [Pocket(outline, depth) for outline in shape.loops]


def of(part: Part, field_name: str, at: complex | None = None) -> Place:
    """Where a finding on a part, or at a point of it, belongs."""
    x, y = (None, None) if at is None else (at.real, at.imag)
    return Place(kind="part", id=part.id, part=part.id, field=field_name, x=x, y=y)


def of_cut_out(part: Part, cut: CutOut, field_name: str) -> Place:
    """Where a finding on a cut-out belongs."""
    return Place(kind="cut-out", id=cut.id, part=part.id, field=field_name)


def knots_of(part: Part, width: float, height: float) -> list[KnotAt]:
    """The knots of a part that is drawn as a curve, where they lie on it; none for other shapes."""
    if not isinstance(part.shape, Curve):
        return []
    middle = complex(width, height) / 2
    places = [middle + place for place in knot_places(width, height, part.shape.places)]
    return [KnotAt(x=p.real, y=p.imag, corner=knot.corner) for p, knot in zip(places, part.shape.knots, strict=True)]


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
