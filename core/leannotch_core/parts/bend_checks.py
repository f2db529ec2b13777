"""What the maker should know of the bends of a finished part, with the numbers and the mend."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations

from ..bends.faces import holds
from ..bends.folded import Folded
from ..bends.laid import LaidBend
from ..bends.legs import Leg, legs_of
from ..bends.near import NEAR, apart, boxes_near, edge_near
from ..document.sizes import shown
from ..facts.codes import FindingCode
from ..facts.findings import Place, mend
from ..facts.reading import Reader
from ..facts.stock import StockFacts
from ..geometry.boolean import intersect
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Point
from .bent import at_bend
from .part import Part
from .places import of, of_cut_out

#: A point this far (mm) beyond the end of a bend tells what lies there.
_BESIDE = 0.05


def check_bends(part: Part, stock: StockFacts, outline: Outline, folded: Folded, reader: Reader) -> None:
    """Tells what is wrong with the bends of a part; ``outline`` is the finished one, flat."""
    bends = [piece.hinge.bend for piece in folded.bent]
    known = {bend.id: bend for bend in (*bends, *folded.faces.loose)}
    _Checking(part, stock, outline, folded, list(known.values()), reader).run()


class _Checking:
    def __init__(
        self, part: Part, stock: StockFacts, outline: Outline, folded: Folded, bends: Sequence[LaidBend], reader: Reader
    ) -> None:
        self._part, self._stock, self._outline = part, stock, outline
        self._folded, self._bends, self._reader = folded, bends, reader
        self._within = NEAR * stock.thickness

    def run(self) -> None:
        if breaks := self._stock.bending.breaks:
            text = f"{self._part.name} is bent, and {breaks} breaks along a bend; choose a stock that bends"
            self._reader.warn("breaks-when-bent", text, of(self._part, "stock"))
        crossing = list(self._crossing())
        for one, other in crossing:
            text = f"and {one.name} cross on the part; end one of them at a cut, or move it"
            self._tell("bends-cross", other, "length", text, error=True)
        if crossing:
            return
        for bend in self._folded.circular:
            text = "holds two faces that other bends hold elsewhere; cut the part open between them"
            self._tell("bends-in-circle", bend, "angle", text, error=True)
        for bend in self._folded.faces.loose:
            text = "has nothing to bend beyond it; move it into the part"
            self._tell("nothing-to-bend", bend, "length", text, error=True)
        legs = legs_of(self._folded)
        for leg in legs:
            self._check_leg(leg)
        reach = {(leg.bend.id, leg.onward): leg.straight for leg in legs}
        for bend in self._bends:
            self._check_relief(bend)
            self._check_edge(bend, (reach.get((bend.id, False), 0.0), reach.get((bend.id, True), 0.0)))
            for loop in self._cuts():
                self._check_cut(bend, loop)

    def _crossing(self) -> Iterator[tuple[LaidBend, LaidBend]]:
        for one, other in combinations(self._bends, 2):
            shared = intersect([one.strip()], [other.strip()]) if _near(one, other) else []
            if any(piece.area > 1e-6 and intersect([self._outline], [piece]) for piece in shared):
                yield one, other

    def _check_leg(self, leg: Leg) -> None:
        least = self._stock.bending.least_flange
        if leg.outside >= least - 1e-6 or not leg.at_edge:
            return
        typed = next((bend for bend in self._part.bends if bend.id == leg.bend.id), None)
        text = f"leaves a leg of {shown(leg.outside)} outside; the die of this stock takes {shown(least)} or more"
        if self._stock.bending.assumed:
            text += " (assumed of a die eight thicknesses wide)"
        short = least - leg.outside
        mends = []
        if typed and typed.kind == "flange" and leg.onward:
            value = f"{leg.typed(typed.measured) + short:.2f}"
            mends.append(mend(f"Make it {value} mm", ("parts", self._part.id, "bends", leg.bend.id, "length"), value))
        place = at_bend(self._part, leg.bend.id, "length")
        self._reader.warn("leg-under-least", f"{self._part.name}, {leg.bend.name} {text}", place, *mends)

    def _check_relief(self, bend: LaidBend) -> None:
        if not bend.flange:
            return
        way = (bend.end - bend.start) / abs(bend.end - bend.start)
        beside = [bend.start - way * _BESIDE, bend.end + way * _BESIDE]
        shift = bend.onward * -(bend.half - _BESIDE)
        if any(holds(self._outline, point + shift) for point in beside):
            path = ("parts", self._part.id, "bends", bend.id, "relief")
            text = f"{self._part.name}, {bend.name} has no relief where it ends in the sheet; it tears there"
            place = at_bend(self._part, bend.id, "relief")
            self._reader.warn("relief-missing", text, place, mend("Cut a square relief", path, "square"))

    def _cuts(self) -> Iterator[Loop]:
        """Openings in the part, reliefs left out, as loops."""
        return (loop for loop in self._outline.cutouts if not loop.segments[0].source.shape.endswith("/relief"))

    def _check_cut(self, bend: LaidBend, loop: Loop) -> None:
        cut = Outline(loop.reversed())
        near = apart(bend, cut, self._within)
        if near is None:
            return
        at, shape = cut.outer.segments[0].start, loop.segments[0].source.shape
        if near <= 1e-6:
            text = f"{self._part.name}, {bend.name} runs over a cut-out; move one of them, or end the bend at it"
            self._reader.warn("bend-over-cut-out", text, self._at_cut(shape, bend, at))
        else:
            self._tell_near("a cut", near, bend, self._at_cut(shape, bend, at))

    def _check_edge(self, bend: LaidBend, legs: tuple[float, float]) -> None:
        found = edge_near(bend, self._outline.outer, self._within, legs)
        if found:
            at, near = found
            self._tell_near("its edge", near, bend, of(self._part, f"bends/{bend.id}/length", at))

    def _tell_near(self, what: str, near: float, bend: LaidBend, place: Place) -> None:
        wanted = self._within
        text = (
            f"{self._part.name}: {what} is {shown(near)} from where {bend.name} begins to bend, and will deform; "
            f"{shown(wanted)} are wanted: move it {shown(wanted - near)} away"
        )
        self._reader.warn("near-bend", text, place)

    def _at_cut(self, shape: str, bend: LaidBend, at: Point) -> Place:
        """A shape's own place, so that it can be moved from there; that of the bend for a joint's opening."""
        own = shape.removeprefix(f"{self._part.id}/")
        if any(cut.id == own for cut in self._part.cutouts):
            return of_cut_out(self._part, own, "x").model_copy(update={"x": at.real, "y": at.imag})
        return of(self._part, f"bends/{bend.id}/length", at)

    def _tell(self, code: FindingCode, bend: LaidBend, field: str, text: str, error: bool = False) -> None:
        tell = self._reader.error if error else self._reader.warn
        tell(code, f"{self._part.name}, {bend.name} {text}", at_bend(self._part, bend.id, field))


def _near(one: LaidBend, other: LaidBend) -> bool:
    return boxes_near(one.strip(), other.strip(), 0.0)
