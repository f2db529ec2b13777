"""From intent to finished parts: ``evaluate(project)`` is a pure function that reports instead of failing.

A size that cannot be read or a joint that cannot be cut becomes a finding; everything that does not depend
on it is still worked out.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from .document import CutOut, Mark, Part, Project, Repeat, Stock
from .findings import Finding, Mend, Place
from .geometry.loop import Loop, Outline
from .geometry.segment import Motion, move
from .joining import Joined, cut_joints
from .joints.fit import Mating, Partner
from .parts.cutting_out import Finished, finish
from .parts.shapes import CornerSize, TooLarge, obround, rectangle, rectangular_hole, round_hole
from .reading import Names, Reader
from .sizes import Size, SizeError, length, number, positive, shown
from .stock import StockFacts, facts


@dataclass(frozen=True, slots=True)
class CutOutShape:
    """A cut-out in place: its middle in the part's frame (mm), and one loop for each repeat."""

    id: str
    middle: complex
    loops: tuple[Outline, ...]


@dataclass(frozen=True, slots=True)
class MarkShape:
    """Text to be scored: its middle in the part's frame, cap height (mm) and turn (degrees)."""

    text: str
    middle: complex
    height: float
    turn: float


@dataclass(frozen=True, slots=True)
class EvaluatedPart:
    """A part as drawn (``base``), and as it must measure in the hand (``finished``)."""

    part: Part
    stock: StockFacts
    width: float
    height: float
    base: Loop
    cutouts: tuple[CutOutShape, ...]
    marks: tuple[MarkShape, ...]
    finished: Finished

    @property
    def outline(self) -> Outline:
        """The finished part; its largest piece if it does not hold together."""
        return self.finished.pieces[0]


@dataclass(slots=True)
class Result:
    """Everything that follows from intent. ``values`` has every size in mm by its path in the document."""

    stocks: dict[str, StockFacts] = field(default_factory=dict)
    parts: dict[str, EvaluatedPart] = field(default_factory=dict)
    ledger: list[Mating] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    values: dict[str, float] = field(default_factory=dict)

    @property
    def errors(self) -> list[Finding]:
        return [finding for finding in self.findings if finding.level == "error"]


def evaluate(project: Project) -> Result:
    """Works out stocks, parts, joints and the fit ledger of ``project``."""
    return _Evaluation(project).run()


@dataclass(slots=True)
class _DrawnPart:
    part: Part
    stock: StockFacts
    width: float
    height: float
    base: Loop
    cutouts: tuple[CutOutShape, ...]
    marks: tuple[MarkShape, ...]


class _Evaluation:
    def __init__(self, project: Project) -> None:
        self._project = project
        self._reader = Reader()
        self._result = Result(findings=self._reader.findings, values=self._reader.values)
        self._drawn: dict[str, _DrawnPart] = {}

    def run(self) -> Result:
        for stock in self._project.stocks:
            self._stock(stock)
        for named in self._project.names:
            value = self._reader.size(
                f"names/{named.name}", named.size, self._reader.names, Place(kind="project", field=named.name)
            )
            if value is not None:
                self._reader.names[named.name] = value
        for part in self._project.parts:
            self._draw(part)
        joined = self._joined()
        self._result.ledger = joined.ledger
        for drawn in self._drawn.values():
            self._finish(drawn, joined.notches[drawn.part.id])
        return self._result

    # Stocks and parts

    def _stock(self, stock: Stock) -> None:
        try:
            found = facts(stock)
        except SizeError as error:
            self._reader.error(
                f"{stock.name}, {error}", Place(kind="stock", id=stock.id, field=str(error).split(":")[0])
            )
            return
        self._result.stocks[stock.id] = found
        self._reader.names[f"{stock.id}.thickness"] = found.thickness
        self._reader.names[f"{stock.id}.kerf"] = found.kerf
        if found.kerf >= found.thickness:
            self._reader.warn(
                f"{stock.name}: a kerf of {shown(found.kerf)} is not less than the thickness of "
                f"{shown(found.thickness)}; check which was measured",
                Place(kind="stock", id=stock.id, field="kerf"),
            )
        if found.readings == 0:
            self._reader.note(
                f"{stock.name} has no caliper reading; the nominal {shown(found.thickness)} is used",
                Place(kind="stock", id=stock.id, field="readings"),
            )

    def _draw(self, part: Part) -> None:
        stock = self._result.stocks.get(part.stock)
        if stock is None:
            if self._project.stock(part.stock) is None:
                self._reader.error(f"{part.name}: its stock “{part.stock}” is not in the project", _of(part, "stock"))
            return
        names = {**self._reader.names, "thickness": stock.thickness, "kerf": stock.kerf}
        path = f"parts/{part.id}"
        width = self._reader.size(
            f"{path}/width", part.shape.width, names, _of(part, "width"), positive, f"{part.name}, width"
        )
        height = self._reader.size(
            f"{path}/height", part.shape.height, names, _of(part, "height"), positive, f"{part.name}, height"
        )
        if width is None or height is None:
            return
        names |= {"width": width, "height": height}
        base = self._base(part, width, height, names)
        if base is None:
            return
        cutouts = tuple(
            shape for cut in part.cutouts if (shape := self._cut_out(part, cut, complex(width, height), names, stock))
        )
        marks = tuple(text for i, mark in enumerate(part.marks) if (text := self._mark(part, i, mark, names)))
        self._drawn[part.id] = _DrawnPart(part, stock, width, height, base, cutouts, marks)

    def _base(self, part: Part, width: float, height: float, names: Names) -> Loop | None:
        corners: dict[str, CornerSize] = {}
        for cut in part.shape.corners:
            field_name = f"corners/{cut.corner}"
            size = self._reader.size(
                f"parts/{part.id}/{field_name}",
                cut.size,
                names,
                _of(part, field_name),
                positive,
                f"{part.name}, {cut.corner} corner",
            )
            if size is None:
                return None
            corners[cut.corner] = CornerSize(cut.kind, size)
        try:
            return rectangle(part.id, width, height, corners)
        except TooLarge as error:
            mend = Mend(label=f"Use {error.largest:g} mm", field=f"corners/{error.corner}", value=f"{error.largest:g}")
            self._reader.error(f"{part.name}: {error}", _of(part, f"corners/{error.corner}"), mend)
            return None

    def _mark(self, part: Part, index: int, mark: Mark, names: Names) -> MarkShape | None:
        def read(name: str, size: Size, reader: Callable[[Size, Names], float] = length) -> float | None:
            place = _of(part, f"marks/{index}/{name}")
            return self._reader.size(f"parts/{part.id}/marks/{index}/{name}", size, names, place, reader, title)

        title = f"{part.name}, text “{mark.text}”"
        x, y, height = read("x", mark.x), read("y", mark.y), read("height", mark.height, positive)
        turn = read("turn", mark.turn, lambda size, _: number(size))
        if x is None or y is None or height is None or turn is None:
            return None
        return MarkShape(mark.text, complex(x, y), height, turn)

    # Cut-outs

    def _cut_out(self, part: Part, cut: CutOut, extent: complex, names: Names, stock: StockFacts) -> CutOutShape | None:
        path = f"parts/{part.id}/cutouts/{cut.id}"

        def read(
            name: str, size: Size, reader: Callable[[Size, Names], float] = length, called: str = ""
        ) -> float | None:
            place = Place(kind="cut-out", id=cut.id, part=part.id, field=name)
            return self._reader.size(
                f"{path}/{name}", size, names, place, reader, f"{part.name}, cut-out {called or name}"
            )

        loop = self._hole(part, cut, read)
        x, y = read("x", cut.x, called="distance across"), read("y", cut.y, called="distance up")
        turn = read("turn", cut.turn, lambda size, _: number(size))
        steps = _steps(cut.repeat, read)
        if loop is None or x is None or y is None or turn is None or steps is None:
            return None
        inward = _inward(cut.origin)
        middle = _corner_point(cut.origin, extent) + complex(x * inward.real, y * inward.imag)
        turned = move(turn).turn
        loops = tuple(
            Outline(loop.moved(Motion(turned, middle + complex(step.real * inward.real, step.imag * inward.imag))))
            for step in steps
        )
        self._check_hole(part, cut, loop, loops, extent, stock)
        return CutOutShape(cut.id, middle, loops)

    def _hole(self, part: Part, cut: CutOut, read: Callable[..., float | None]) -> Loop | None:
        hole, shape = cut.hole, f"{part.id}/{cut.id}"
        if hole.kind == "round":
            diameter = read("diameter", hole.diameter, positive)
            return round_hole(shape, diameter) if diameter else None
        width, height = read("width", hole.width, positive), read("height", hole.height, positive)
        if width is None or height is None:
            return None
        if hole.kind == "obround":
            return obround(shape, width, height)
        radius = read("radius", hole.radius)
        if radius is None:
            return None
        try:
            return rectangular_hole(shape, width, height, radius)
        except TooLarge as error:
            place = Place(kind="cut-out", id=cut.id, part=part.id, field="radius")
            mend = Mend(label=f"Use {error.largest:g} mm", field="radius", value=f"{error.largest:g}")
            self._reader.error(
                f"{part.name}, cut-out: a radius of {radius:g} mm is too large; "
                f"the largest that fits is {error.largest:g} mm",
                place,
                mend,
            )
            return None

    def _check_hole(
        self, part: Part, cut: CutOut, loop: Loop, loops: tuple[Outline, ...], extent: complex, stock: StockFacts
    ) -> None:
        left, bottom, right, top = loop.bounds
        narrowest = min(right - left, top - bottom)
        place = Place(kind="cut-out", id=cut.id, part=part.id, field="size")
        if narrowest <= stock.kerf:
            self._reader.warn(
                f"{part.name}: a cut-out {shown(narrowest)} wide is not wider than the kerf of {shown(stock.kerf)} "
                "and cannot be cut",
                place,
            )
        for outline in loops:
            left, bottom, right, top = outline.bounds
            out = max(-left, -bottom, right - extent.real, top - extent.imag)
            if out > 1e-6:
                at = complex((left + right) / 2, (bottom + top) / 2)
                self._reader.warn(
                    f"{part.name}: a cut-out reaches {shown(out)} out of the part",
                    place.model_copy(update={"field": "x", "x": at.real, "y": at.imag}),
                )
                return

    # Joints

    def _joined(self) -> Joined:
        partners = {
            part_id: Partner(
                part_id,
                drawn.part.name,
                drawn.width,
                drawn.height,
                drawn.stock.thickness,
                drawn.stock.thickest,
                drawn.stock.kerf,
            )
            for part_id, drawn in self._drawn.items()
        }
        stocks = {part_id: drawn.stock for part_id, drawn in self._drawn.items()}
        return cut_joints(self._project, self._reader, partners, stocks)

    # Finished parts

    def _finish(self, drawn: _DrawnPart, notches: list[Outline]) -> None:
        part = drawn.part
        removed = tuple(outline for cut in drawn.cutouts for outline in cut.loops) + tuple(notches)
        finished = finish(drawn.base, removed)
        if not finished.pieces:
            self._reader.error(
                f"{part.name}: nothing is left of it; its cut-outs take all material", _of(part, "cutouts")
            )
            return
        self._result.parts[part.id] = EvaluatedPart(
            part, drawn.stock, drawn.width, drawn.height, drawn.base, drawn.cutouts, drawn.marks, finished
        )
        if len(finished.pieces) > 1:
            left, bottom, right, top = finished.pieces[1].bounds
            self._reader.warn(
                f"{part.name} falls into {len(finished.pieces)} pieces; the smallest has "
                f"{finished.pieces[-1].area:.1f} mm²",
                _of(part, "cutouts", complex((left + right) / 2, (bottom + top) / 2)),
            )
        if finished.web is not None and finished.web < drawn.stock.smallest_web - 1e-6:
            self._reader.warn(
                f"{part.name}: a web of {shown(finished.web)} is left; "
                f"this stock needs {shown(drawn.stock.smallest_web)}",
                _of(part, "cutouts", finished.web_at),
            )


def _of(part: Part, field_name: str, at: complex | None = None) -> Place:
    x, y = (None, None) if at is None else (at.real, at.imag)
    return Place(kind="part", id=part.id, part=part.id, field=field_name, x=x, y=y)


def _steps(repeat: Repeat, read: Callable[..., float | None]) -> list[complex] | None:
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
