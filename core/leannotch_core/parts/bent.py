"""The bends of a part as they are typed, laid on its flat sheet: flanges first, then lines across it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

from ..bends.allowance import MOST_TURNED, Allowance
from ..bends.flanges import Flanged, FlangeSize, flanged
from ..bends.laid import LaidBend
from ..bends.lines import LineSize, after, edge_of, lay, side_of
from ..document.bend import Bend, BendLine, Flange
from ..document.sizes import length, positive, shown
from ..facts.codes import FindingCode
from ..facts.findings import Mend, Place, mend
from ..facts.reading import Reader
from ..facts.stock import StockFacts
from ..geometry.boolean import intersect
from ..geometry.loop import Bounds, Outline
from .part import Part
from .places import of
from .shapes.shape import ReadSize, plain

B = TypeVar("B", BendLine, Flange)

#: Makes what reads the sizes of something under the part, by what it is under and what it is called.
Reading = Callable[[str, str], ReadSize]


def bend_names(part: Part) -> dict[str, str]:
    """What the bends of a part are called: by their own names, or by what they are and their number."""
    return {
        bend.id: bend.name or f"{'flange' if isinstance(bend, Flange) else 'bend'} {number}"
        for number, bend in enumerate(part.bends, 1)
    }


def at_bend(part: Part, bend: str, field: str) -> Place:
    """Where a finding on a field of a bend belongs."""
    return of(part, f"bends/{bend}/{field}")


@dataclass(frozen=True, slots=True)
class BendReader:
    """Reads and lays the bends of one part; what cannot be is told."""

    part: Part
    stock: StockFacts
    reading: Reading
    reader: Reader

    def flanges(self, region: Sequence[Outline], width: float, height: float) -> Flanged:
        """The flat region with the part's flanges."""
        typed = [bend for bend in self.part.bends if isinstance(bend, Flange)]
        sizes: dict[str, FlangeSize] = {}
        for flange in self._in_turn(typed):
            if (not flange.of or flange.of in sizes) and (size := self._flange(flange)):
                sizes[flange.id] = size
        made = flanged(region, width, height, list(sizes.values())) if sizes else Flanged(tuple(region), (), {}, {})
        self._tell_overlaps(made, sizes)
        return made

    def lines(
        self, region: Sequence[Outline], extent: complex, made: Flanged, boxes: Mapping[str, Bounds]
    ) -> list[LaidBend]:
        """The bend lines on the flat ``region``; ``boxes`` are those of the shapes on the part, by their ids."""
        laid = {bend.id: bend for bend in made.bends}
        found: list[LaidBend] = []
        for line in self._in_turn([bend for bend in self.part.bends if isinstance(bend, BendLine)]):
            size = self._line(line)
            if size is None:
                continue
            begins = self._begins(line, size, extent, laid, boxes)
            if begins is None:
                continue
            bend = lay(size, begins, region)
            if bend is None:
                self._error("bend-misses", line, "length", "misses the part; make its distance smaller")
                continue
            laid[line.id] = bend
            found.append(bend)
        return found

    # Numbers

    def _read(self, bend: Bend) -> ReadSize:
        return self.reading(f"bends/{bend.id}/", f"{self.part.name}, {self._name(bend)}")

    def _name(self, bend: Bend) -> str:
        return bend_names(self.part)[bend.id]

    def _allowance(self, bend: Bend, read: ReadSize) -> Allowance | None:
        angle = read("angle", bend.angle, plain)
        stock = self.stock.bending
        radius = stock.radius if bend.radius is None else read("radius", bend.radius, positive)
        if angle is None or radius is None:
            return None
        if not 0 <= angle <= MOST_TURNED:
            text = f"is turned by {angle:g}°; a bend turns by 0 to {MOST_TURNED:g}° from flat"
            self._error("bend-too-far", bend, "angle", text, f"{min(max(angle, 0.0), MOST_TURNED):g}")
            return None
        if radius < stock.least_radius - 1e-9:
            text = f"has an inside radius of {shown(radius)}; this stock cracks under {shown(stock.least_radius)}"
            self._warn("radius-under-least", bend, "radius", text, f"{stock.least_radius:g}")
        k = bend.k if bend.k is not None else stock.k_at(radius, self.stock.thickness)
        return Allowance(angle, radius, k, self.stock.thickness)

    def _flange(self, flange: Flange) -> FlangeSize | None:
        read = self._read(flange)
        bend = self._allowance(flange, read)
        leg = read("length", flange.length, positive)
        start, end = read("start", flange.start), read("end", flange.end)
        relief = read("relief_width", flange.relief_width, positive, "width of its relief")
        gap = read("gap", flange.gap)
        if bend is None or leg is None or start is None or end is None or relief is None or gap is None:
            return None
        size = FlangeSize(
            id=flange.id,
            name=self._name(flange),
            of=flange.of,
            side=flange.side,
            bend=bend,
            up=flange.way == "up",
            leg=leg,
            measured=flange.measured,
            start=start,
            end=end,
            relief=flange.relief,
            relief_width=relief,
            mitre=flange.mitre,
            gap=gap,
        )
        if size.straight <= 0:
            taken = bend.setback(flange.measured)
            text = f"is {shown(leg)} long, and its bend alone takes {shown(taken)}; make it longer"
            self._error("flange-too-short", flange, "length", text, f"{taken + self.stock.bending.least_flange:.2f}")
            return None
        return size

    def _line(self, line: BendLine) -> LineSize | None:
        read = self._read(line)
        bend = self._allowance(line, read)
        leg, turn = read("length", line.length, length), read("turn", line.turn, plain)
        if bend is None or leg is None or turn is None:
            return None
        return LineSize(line.id, self._name(line), bend, line.way == "up", leg, line.measured, line.runs, turn)

    def _begins(
        self, line: BendLine, size: LineSize, extent: complex, laid: Mapping[str, LaidBend], boxes: Mapping[str, Bounds]
    ) -> float | None:
        """How far along its way the leg of a line begins."""
        if not line.of:
            return edge_of(extent.real, extent.imag, line.runs)
        if line.of in laid:
            return after(laid[line.of], size)
        if line.of in boxes:
            return side_of(boxes[line.of], line.runs)
        self._error("bend-not-placed", line, "of", "is measured from what is not on the part; measure it from an edge")
        return None

    def _in_turn(self, bends: Sequence[B]) -> Iterator[B]:
        """Each after the one that it hangs on or is measured from; those in a circle are told and left out."""
        left = list(bends)
        while left:
            waiting = {bend.id for bend in left}
            ready = [bend for bend in left if bend.of not in waiting]
            if not ready:
                self._tell_circle({bend.id: bend for bend in left})
                return
            yield from ready
            left = [bend for bend in left if bend.of in waiting]

    def _tell_circle(self, left: Mapping[str, BendLine | Flange]) -> None:
        way = [next(iter(left.values()))]
        while left[way[-1].of] not in way:
            way.append(left[way[-1].of])
        circle = [*way[way.index(left[way[-1].of]) :], left[way[-1].of]]
        names = " on ".join(self._name(bend) for bend in circle)
        self._error("bend-circle", way[-1], "of", f"rests on itself: {names}; measure one of them from an edge")

    # What is told

    def _tell_overlaps(self, made: Flanged, sizes: Mapping[str, FlangeSize]) -> None:
        ids = list(made.shapes)
        for at, one in enumerate(ids):
            for other in ids[at + 1 :]:
                if sizes[other].of == one or not _boxes_meet(made.shapes[one], made.shapes[other]):
                    continue
                shared = sum(piece.area for piece in intersect([made.shapes[one]], [made.shapes[other]]))
                if shared > 1e-3:
                    flange = next(bend for bend in self.part.bends if bend.id == other)
                    text = (
                        f"and {sizes[one].name} lie over one another on the flat sheet, by {shared:.1f} mm²; "
                        "make one of them shorter, or leave more free at its end"
                    )
                    self._error("flat-overlaps", flange, "length", text)

    def _error(self, code: FindingCode, bend: Bend, field: str, text: str, value: str = "") -> None:
        place = at_bend(self.part, bend.id, field)
        self.reader.error(code, f"{self.part.name}, {self._name(bend)} {text}", place, *self._mends(bend, field, value))

    def _warn(self, code: FindingCode, bend: Bend, field: str, text: str, value: str = "") -> None:
        place = at_bend(self.part, bend.id, field)
        self.reader.warn(code, f"{self.part.name}, {self._name(bend)} {text}", place, *self._mends(bend, field, value))

    def _mends(self, bend: Bend, field: str, value: str) -> list[Mend]:
        path = ("parts", self.part.id, "bends", bend.id, field)
        return [mend(f"Make it {value}{'°' if field == 'angle' else ' mm'}", path, value)] if value else []


def _boxes_meet(one: Outline, other: Outline) -> bool:
    a, b = one.bounds, other.bounds
    return a[0] < b[2] - 1e-6 and b[0] < a[2] - 1e-6 and a[1] < b[3] - 1e-6 and b[1] < a[3] - 1e-6
