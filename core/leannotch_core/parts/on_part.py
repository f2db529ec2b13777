"""Shapes on a part in their places: each from the part or from another shape, in all places of its repeat."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ..document.sizes import shown
from ..facts.findings import mend
from ..facts.reading import Names, Reader
from ..facts.stock import StockFacts
from ..geometry.loop import Bounds, Loop, Outline, joined_bounds
from ..geometry.segment import Motion, Point, Segment, move
from ..geometry.stroke import Knot
from ..step import Step
from .cut_out import LINED, CutOut, names_of
from .cutting_out import Region
from .nine import Nine, inward, outward, point_of
from .part import Part
from .places import of_cut_out
from .repeats.along_edge import AlongEdge
from .repeats.repeat import Begun
from .shapes.part_outline import PartOutline
from .shapes.shape import LineShape, Pen, ReadSize, plain
from .standards.library import LIBRARY

#: Makes what reads the sizes of a shape on a part, with a reader: what is under it, what it is called, and the shape.
Reading = Callable[[Reader, str, str, CutOut], ReadSize]

#: Where distances are measured from (mm), and which way positive ones run.
Measured = tuple[Point, complex]

_PLACED = Step["CutOutShape | None"]()

_OVER = {
    "none": [(False, False)],
    "left and right": [(False, False), (True, False)],
    "up and down": [(False, False), (False, True)],
    "both": [(False, False), (True, False), (False, True), (True, True)],
}


_STANDARDS = {name: thing.outlines for name, thing in LIBRARY.items()}


@dataclass(frozen=True, slots=True)
class CutOutShape:
    """A shape on a part in place; all in mm, in the part's frame.

    ``at`` is where its point stands, ``measured_from`` where its distances begin, ``box`` is round all its places, and
    ``spots`` are the middles of those, the ones left out included. ``loops`` are its outlines in every place,
    ``open_lines`` what of it encloses nothing, ``drawn`` lines with operations of their own. ``islands`` come free in
    it as they were meant to. ``frame`` takes it from where it is drawn about, in the ``own_box``, to its first place;
    there it runs through its ``knots``.
    """

    id: str
    does: str
    at: Point
    measured_from: Point
    box: Bounds
    spots: tuple[Point, ...]
    loops: tuple[Outline, ...]
    islands: int
    open_lines: tuple[tuple[Segment, ...], ...] = ()
    drawn: tuple[LineShape, ...] = ()
    hidden: bool = False
    knots: tuple[Knot, ...] = ()
    own_box: Bounds = (0.0, 0.0, 0.0, 0.0)
    frame: Motion = field(default_factory=Motion)

    def own_point(self, nine: Nine) -> Point:
        """Where one of the nine points of its own box stands in its first place."""
        return self.frame(0j if nine == "middle" else point_of(self.own_box, nine))

    @property
    def lines(self) -> tuple[LineShape, ...]:
        """What of it is marked on the part, or drawn as a reference."""
        if self.hidden:
            return ()
        if self.does not in LINED:
            return self.drawn
        edges = (LineShape(self.does, loop.segments, True) for outline in self.loops for loop in outline.loops)
        # An open line holds nothing that could be filled.
        along = "engrave" if self.does == "fill" else self.does
        return (*edges, *(LineShape(along, line, False) for line in self.open_lines), *self.drawn)


def shapes_on(
    part: Part,
    edge: Loop,
    extent: complex,
    stock: StockFacts,
    reading: Reading,
    reader: Reader,
    names: Names,
    others: Mapping[str, Region],
    legs: Mapping[str, Bounds],
) -> list[tuple[CutOut, CutOutShape]]:
    """The shapes on a part that could be placed, in the order in which they were typed.

    ``edge`` is the part's drawn outline, ``extent`` its width and height; ``others`` are the outlines of parts that it
    has as shapes, ``names`` what its sizes may use, ``legs`` the rectangles of its flanges. What cannot be placed is
    told.
    """
    placing = _Placing(part, edge, extent, stock, reading, reader, names, others, legs)
    return [(cut, shape) for cut in part.cutouts if (shape := placing.shape(cut.id))]


@dataclass(frozen=True, slots=True)
class _Drawn:
    """A shape about its own zero."""

    outlines: tuple[Outline, ...]
    open_lines: tuple[tuple[Segment, ...], ...]
    lines: tuple[LineShape, ...]

    def moved(self, by: Motion) -> _Drawn:
        return _Drawn(
            tuple(outline.moved(by) for outline in self.outlines),
            tuple(tuple(segment.moved(by) for segment in line) for line in self.open_lines),
            tuple(line.moved(by) for line in self.lines),
        )

    @property
    def box(self) -> Bounds:
        boxes = [outline.bounds for outline in self.outlines]
        boxes += [segment.bounds() for line in self.open_lines for segment in line]
        boxes += [segment.bounds() for line in self.lines for segment in line.segments]
        return joined_bounds(boxes)


class _Placing:
    def __init__(
        self,
        part: Part,
        edge: Loop,
        extent: complex,
        stock: StockFacts,
        reading: Reading,
        reader: Reader,
        names: Names,
        others: Mapping[str, Region],
        legs: Mapping[str, Bounds],
    ) -> None:
        self._part, self._edge, self._extent, self._stock = part, edge, extent, stock
        self._reading, self._reader, self._names, self._others = reading, reader, names, others
        self._legs = legs
        self._called_by = names_of(part.cutouts)
        self._by_id = {cut.id: cut for cut in part.cutouts}
        self._placed: dict[str, CutOutShape | None] = {}

    def shape(self, cut_id: str) -> CutOutShape | None:
        """The shape in place, once those that it stands from are; not by recursion, as a chain may be long."""
        way = [] if cut_id in self._placed else [cut_id]
        while way:
            cut = self._by_id[way[-1]]
            wanting = [of for of in (cut.x_of, cut.y_of) if of in self._by_id and of not in self._placed]
            if wanting and wanting[0] not in way:
                way.append(wanting[0])
                continue
            if wanting:
                self._tell_circle(cut, way[way.index(wanting[0]) :])
            self._placed[cut.id] = None if wanting else self._remembered(cut)
            way.pop()
        return self._placed[cut_id]

    def _remembered(self, cut: CutOut) -> CutOutShape | None:
        """The shape in place; it is worked out anew only where it, or what it stands from, is not as it was."""
        across, up = self._measured(cut, cut.x_of), self._measured(cut, cut.y_of)
        if across is None or up is None:
            return None
        edge = self._edge if isinstance(cut.repeat, AlongEdge) else None
        others = self._others if isinstance(cut.hole, PartOutline) else None
        own = (self._part.id, self._part.name, self._called(cut), self._names, self._extent)
        given = (*own, across, up, edge, others, self._stock.kerf, self._stock.smallest_web)
        return _PLACED.of(cut, given, self._reader, lambda reader: self._place(cut, across, up, reader))

    def _place(self, cut: CutOut, across: Measured, up: Measured, reader: Reader) -> CutOutShape | None:
        read = self._reading(reader, f"cutouts/{cut.id}/", f"{self._part.name}, {self._called(cut)}", cut)
        pen = self._pen(cut, read, reader)
        drawn = self._draw(cut, pen)
        x, y = read("x", cut.x, called="distance across"), read("y", cut.y, called="distance up")
        turn = read("turn", cut.turn, plain)
        if drawn is None or x is None or y is None or turn is None:
            return None
        start = complex(across[0].real, up[0].imag)
        at = start + complex(x * across[1].real, y * up[1].imag)
        turned = move(turn).turn
        own = 0j if cut.point == "middle" else point_of(drawn.box, cut.point)
        frame = Motion(turned, at - turned * own)
        first = drawn.moved(frame)
        away = complex(across[1].real, up[1].imag)
        begun = Begun(at, away, self._extent / 2, self._edge, read)
        motions = cut.repeat.motions(begun)
        if motions is None:
            return None
        places = [motion.then(over) for motion in motions for over in self._twins(cut)]
        kept = [first.moved(place) for number, place in enumerate(places) if number not in cut.left_out]
        middle = point_of(first.box, "middle")
        if cut.does == "cut out" and kept:
            self._check_width(cut, kept[0].outlines, reader)
        return CutOutShape(
            id=cut.id,
            does=cut.does,
            at=at,
            measured_from=start,
            box=joined_bounds(one.box for one in kept or [first]),
            spots=tuple(place(middle) for place in places),
            loops=tuple(outline for one in kept for outline in one.outlines),
            islands=self._islands(cut, drawn.outlines, pen) * len(kept),
            open_lines=tuple(line for one in kept for line in one.open_lines),
            drawn=tuple(line for one in kept for line in one.lines),
            hidden=cut.hidden,
            knots=self._knots(cut, pen, frame),
            own_box=drawn.box,
            frame=frame,
        )

    def _check_width(self, cut: CutOut, loops: tuple[Outline, ...], reader: Reader) -> None:
        boxes = [outline.bounds for outline in loops]
        narrowest = min((min(right - left, top - bottom) for left, bottom, right, top in boxes), default=math.inf)
        # Another cutter may be used for it, or it is drilled: that is told where the sheet is prepared.
        if narrowest <= self._stock.kerf and not self._stock.routed:
            reader.warn(
                "narrower-than-kerf",
                f"{self._part.name}: a cut-out {shown(narrowest)} wide is not wider than the kerf of "
                f"{shown(self._stock.kerf)} and cannot be cut",
                of_cut_out(self._part, cut.id, "size"),
            )

    def _called(self, cut: CutOut) -> str:
        return self._called_by[cut.id]

    def _pen(self, cut: CutOut, read: ReadSize, reader: Reader) -> Pen:
        part = self._part
        return Pen(
            name=f"{part.id}/{cut.id}",
            called=f"{part.name}, {self._called(cut)}",
            path=("parts", part.id, "cutouts", cut.id, "hole"),
            at=lambda field: of_cut_out(part, cut.id, field),
            read=read,
            reader=reader,
            stock=self._stock,
            others=self._others,
            standards=_STANDARDS,
        )

    def _draw(self, cut: CutOut, pen: Pen) -> _Drawn | None:
        """The shape about its own zero, turned over where it is mirrored."""
        outlines, open_lines = cut.hole.outlines(pen), cut.hole.open_lines(pen)
        if outlines is None or open_lines is None:
            return None
        if cut.hole.only_shown and cut.does != "reference":
            pen.reader.error(
                "only-shown",
                f"{pen.called} is only there to design round; it cannot be what it is said to be ({cut.does})",
                of_cut_out(self._part, cut.id, "does"),
                mend("Draw it, and never cut it", ("parts", self._part.id, "cutouts", cut.id, "does"), "reference"),
            )
            return None
        if open_lines and cut.does not in LINED:
            pen.reader.error(
                "open-line",
                f"{pen.called} encloses nothing, so it cannot be what it is said to be ({cut.does}); close it, or "
                "score or engrave it",
                of_cut_out(self._part, cut.id, "does"),
                mend("Score it", ("parts", self._part.id, "cutouts", cut.id, "does"), "score"),
            )
            return None
        drawn = _Drawn(outlines, open_lines, cut.hole.drawn_in(outlines))
        return drawn.moved(Motion(-1, 0, mirrored=True)) if cut.mirrored else drawn

    def _knots(self, cut: CutOut, pen: Pen, frame: Motion) -> tuple[Knot, ...]:
        over = Motion(-1, 0, mirrored=True) if cut.mirrored else Motion()
        place = over.then(frame)
        return tuple((place(point), corner) for point, corner in cut.hole.through(pen))

    def _islands(self, cut: CutOut, outlines: tuple[Outline, ...], pen: Pen) -> int:
        islands = cut.hole.islands(outlines) if outlines and cut.does == "cut out" else 0
        if islands:
            cut.hole.tell_islands(pen, islands)
        return islands

    def _measured(self, cut: CutOut, of: str) -> Measured | None:
        """Where a shape's distances are measured from, and which way positive ones run."""
        if not of:
            box = self._legs.get(cut.on) if cut.on else (0.0, 0.0, self._extent.real, self._extent.imag)
            if box is None:
                self._tell(cut, "is on a flange that is not there any more; place it on the part", "on")
                return None
            return point_of(box, cut.origin), inward(cut.origin)
        if of not in self._by_id:
            self._tell(cut, f"is placed from a shape that is not on the part any more (“{of}”); place it from the part")
            return None
        other = self._placed[of]
        if other is None:
            self._tell(cut, f"cannot be placed, as {self._called(self._by_id[of])} that it stands from cannot be")
            return None
        return point_of(other.box, cut.origin), outward(cut.origin)

    def _tell_circle(self, cut: CutOut, circle: list[str]) -> None:
        names = [self._called(self._by_id[one]) for one in (*circle, circle[0])]
        self._tell(cut, f"is placed in a circle: {' from '.join(names)}; place one of them from the part")

    def _tell(self, cut: CutOut, what: str, field_name: str = "") -> None:
        text = f"{self._part.name}, {self._called(cut)} {what}"
        field_name = field_name or ("x_of" if cut.x_of else "y_of")
        self._reader.error("not-placed", text, of_cut_out(self._part, cut.id, field_name))

    def _twins(self, cut: CutOut) -> list[Motion]:
        width, height = self._extent.real, self._extent.imag
        over = []
        for across, up in _OVER[cut.twin]:
            motion = Motion(-1, width, mirrored=True) if across else Motion()
            over.append(motion.then(Motion(1, 1j * height, mirrored=True)) if up else motion)
        return over
