"""Parts of a document, read and drawn: from typed sizes to base shapes, cut-outs, pockets and texts, with findings."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace

from ..bends.laid import LaidBend
from ..document.operations import MARKS
from ..document.sizes import Size, length, positive, shown
from ..facts.findings import Place, mend
from ..facts.reading import Reader
from ..facts.stock import StockFacts
from ..geometry.corner import CornerTooLarge
from ..geometry.loop import Bounds, Loop, Outline, joined_bounds
from ..geometry.offset import grow
from ..geometry.segment import Point
from .bent import BendReader
from .corners import NoSuchCorner, TakenCorner, take_corners
from .cut_out import CutOut, names_of
from .cutting_out import Region, compose, finish
from .gaps import near
from .on_part import CutOutShape, shapes_on
from .part import Part
from .places import of, of_cut_out
from .pocket import Pocket
from .shapes.curve import Curve, KnotAt, knot_places
from .shapes.rectangle import Rectangle
from .shapes.shape import Extent, LineShape, Pen, ReadSize, SizeReader
from .sides import Beyond

#: What sizes on a part may use by name that is the part's own.
_OWN = ("width", "height", "thickness", "kerf", "clearance")


@dataclass(frozen=True, slots=True)
class DrawnPart:
    """A part as the maker drew it, before any joint; sizes in mm.

    ``region`` is what its cut-outs are taken from; ``solid`` its material without them, where corners of that are
    taken off. ``border`` is the line that what is on it is held in.
    """

    part: Part
    stock: StockFacts
    width: float
    height: float
    base: Loop
    openings: tuple[Outline, ...]
    region: Region
    cutouts: tuple[CutOutShape, ...]
    pockets: tuple[Pocket, ...]
    lines: tuple[LineShape, ...]
    beyond: Beyond
    solid: Region | None = None
    border: Region = ()
    bends: tuple[LaidBend, ...] = ()
    legs: Mapping[str, Bounds] = field(default_factory=dict)

    @property
    def cut(self) -> tuple[Outline, ...]:
        """All that is cut out of it as it is drawn."""
        return (*self.openings, *(o for shape in self.cutouts if shape.does == "cut out" for o in shape.loops))

    @property
    def outlined(self) -> Region:
        """Its material as it is drawn, before any joint."""
        return self.uncornered if self.solid is None else self.solid

    @property
    def uncornered(self) -> Region:
        """Its material with all corners as its shapes have them."""
        return finish(self.region, self.cut).pieces

    @property
    def islands(self) -> int:
        return sum(shape.islands for shape in self.cutouts)

    @property
    def silhouette(self) -> Region:
        """The region that joints must look at, where the part is not simply its rectangle."""
        plain = isinstance(self.part.shape, Rectangle) and self.region == (Outline(self.base),)
        return () if plain else self.region


def draw_part(
    part: Part, stock: StockFacts, beyond: Beyond, reader: Reader, others: Mapping[str, Region]
) -> DrawnPart | None:
    """The part as drawn; None, with findings, where it cannot be.

    ``others`` are the outlines of the parts that it has as shapes, by their ids.
    """
    return _Drawing(part, stock, beyond, reader, others).run()


class _Drawing:
    def __init__(
        self, part: Part, stock: StockFacts, beyond: Beyond, reader: Reader, others: Mapping[str, Region]
    ) -> None:
        self._part, self._stock, self._beyond, self._reader = part, stock, beyond, reader
        self._others = others
        clearance = reader.names.get(f"{part.stock}.clearance", 0.0)
        own = {"thickness": stock.thickness, "kerf": stock.kerf, "clearance": clearance}
        self._names: dict[str, float] = {**reader.names, **own}

    def run(self) -> DrawnPart | None:
        part = self._part
        read = self._reading("", part.name)
        width, height = read("width", part.shape.width, positive), read("height", part.shape.height, positive)
        if width is None or height is None:
            return None
        self._names |= {"width": width, "height": height}
        loops = part.shape.outline(self._pen_of_part(read), Extent(width, height, self._beyond))
        rim = read("rim", part.rim.by)
        if loops is None or rim is None:
            return None
        base, *openings = loops
        own = {name: self._names[name] for name in _OWN}
        bending = BendReader(part, self._stock, self._reading, self._reader)
        made = bending.flanges([Outline(base)], width, height)
        shapes = shapes_on(
            part,
            base,
            complex(width, height),
            self._stock,
            self._reading_of,
            self._reader,
            own,
            self._others,
            made.legs,
        )
        added, kept = (tuple(o for c, s in shapes if c.does == does for o in s.loops) for does in ("add", "keep"))
        region = compose(made.region, added, kept, rim, part.rim.corners)
        if not region:
            self._reader.error("nothing-left", f"{part.name}: nothing is left of its outline", of(part, "rim"))
            return None
        boxes = {cut.id: shape.box for cut, shape in shapes}
        lines = bending.lines(region, complex(width, height), made, boxes)
        extent = joined_bounds(outline.bounds for outline in region)
        for cut, shape in shapes:
            if (cut.does == "cut out" or cut.does in MARKS) and _beyond(shape.box, extent) > 1e-6:
                self._check_reach(cut, shape.loops, extent)
        drawn = DrawnPart(
            part=part,
            stock=self._stock,
            width=width,
            height=height,
            base=base,
            openings=tuple(Outline(loop) for loop in openings),
            region=region,
            cutouts=tuple(shape for _, shape in shapes),
            pockets=tuple(pocket for cut, shape in shapes for pocket in self._pockets(cut, shape)),
            lines=(
                *part.shape.drawn_on(Extent(width, height, self._beyond)),
                *(line for _, shape in shapes for line in shape.lines),
            ),
            beyond=self._beyond,
            bends=(*made.bends, *lines),
            legs=made.legs,
        )
        border = self._border(drawn, read)
        solid = self._without_corners(drawn, read) if part.corners else None
        return replace(drawn, border=border, solid=solid)

    def _border(self, drawn: DrawnPart, read: ReadSize) -> Region:
        """The border that what is on the part is held in; what crosses it is told."""
        part = self._part
        margin = read("border", part.border.margin, positive, "margin") if part.border else None
        if margin is None:
            return ()
        border = tuple(grow(drawn.region, -margin))
        if not border:
            text = f"{part.name}: a margin of {shown(margin)} leaves nothing inside; make it smaller"
            self._reader.warn("border-too-wide", text, of(part, "border"))
        names = names_of(part.cutouts)
        for shape, (distance, at) in self._over_border(drawn, margin):
            self._reader.warn(
                "crosses-border",
                f"{part.name}: {names[shape.id]} is {shown(distance)} from the edge, over the border "
                f"of {shown(margin)}; move it, or have it scaled to fit inside",
                of_cut_out(part, shape.id, "x").model_copy(update={"x": at.real, "y": at.imag}),
            )
        return border

    def _over_border(self, drawn: DrawnPart, margin: float) -> Iterator[tuple[CutOutShape, tuple[float, Point]]]:
        """Shapes that come nearer to the edge than the margin: how near (mm), and where."""
        held = [shape for shape in drawn.cutouts if shape.does not in ("add", "keep", "reference")]
        loops = [(shape, loop) for shape in held for outline in shape.loops for loop in outline.loops]
        edges = [loop for outline in drawn.region for loop in outline.loops]
        nearest: dict[str, tuple[float, Point]] = {}
        for index, _, distance, at in near([loop for _, loop in loops], edges, margin) if loops else ():
            known = nearest.setdefault(loops[index][0].id, (distance, at))
            if distance < known[0]:
                nearest[loops[index][0].id] = (distance, at)
        return ((shape, nearest[shape.id]) for shape in held if shape.id in nearest)

    def _without_corners(self, drawn: DrawnPart, read: ReadSize) -> Region:
        """The part's material with the corners taken off that are said to be."""
        part, taken = self._part, []
        for number, corner in enumerate(part.corners):
            size = read(f"corners/{number}/size", corner.size, positive, f"corner {number + 1}")
            up = read(f"corners/{number}/up", corner.up, positive, f"corner {number + 1}") if corner.up else size
            if size is not None and up is not None:
                taken.append(TakenCorner(corner, corner.kind, (size, up)))

        def tell(one: TakenCorner, error: CornerTooLarge | NoSuchCorner) -> None:
            number = part.corners.index(one.corner)
            what = f"{part.name}, {one.kind} corner {number + 1}"
            if isinstance(error, NoSuchCorner):
                text = f"{what} {error}: its sides do not meet there; choose it anew, or let it go"
                self._reader.warn("corner-gone", text, of(part, f"corners/{number}/size"))
                return
            fits = f"{error.largest:g}"
            path = ("parts", part.id, "corners", str(number), "size")
            mends = [mend(f"Use {fits} mm", path, fits)] if error.largest > 0 else []
            self._reader.error("corner-too-large", f"{what}: {error}", of(part, f"corners/{number}/size"), *mends)

        return take_corners(drawn.uncornered, part.id, taken, tell)

    def _reading_of(self, reader: Reader, under: str, title: str, cut: CutOut) -> ReadSize:
        return self._reading(under, title, cut, reader)

    def _reading(self, under: str, title: str, cut: CutOut | None = None, with_: Reader | None = None) -> ReadSize:
        """Reads sizes of the part, of a cut-out, or of something ``under`` it, called by ``title`` where they fail."""
        told = with_ or self._reader
        part, path = self._part, f"parts/{self._part.id}/{under}"

        def at(name: str) -> Place:
            return of_cut_out(part, cut.id, name) if cut else of(part, f"{under}{name}")

        def read(name: str, size: Size, reader: SizeReader = length, called: str = "") -> float | None:
            # Title and place are made only where they are needed: a project has thousands of sizes.
            called = f"{title}{' ' if cut else ', '}{called or name.replace('/', ' ')}"
            return told.size(f"{path}{name}", size, self._names, lambda: at(name), reader, called)

        return read

    def _pen_of_part(self, read: ReadSize) -> Pen:
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

    def _check_reach(self, cut: CutOut, loops: tuple[Outline, ...], extent: Bounds) -> None:
        if not loops:
            return
        part, what = self._part, "cut-out" if cut.does == "cut out" else "marked shape"
        worst = max((outline.bounds for outline in loops), key=lambda box: _beyond(box, extent))
        out = _beyond(worst, extent)
        if out > 1e-6:
            left, bottom, right, top = worst
            self._reader.warn(
                "reaches-out",
                f"{part.name}: a {what} reaches {shown(out)} out of the part",
                of_cut_out(part, cut.id, "x").model_copy(update={"x": (left + right) / 2, "y": (bottom + top) / 2}),
            )

    def _pockets(self, cut: CutOut, shape: CutOutShape) -> list[Pocket]:
        if cut.does != "pocket":
            return []
        part = self._part
        name, title = f"parts/{part.id}/cutouts/{cut.id}/depth", f"{part.name}, depth of a pocket"
        place = of_cut_out(part, cut.id, "depth")
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
