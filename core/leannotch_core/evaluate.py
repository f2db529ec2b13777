"""From intent to finished parts: ``evaluate(project)`` is a pure function that reports instead of failing.

A size that cannot be read or a joint that cannot be cut becomes a finding; everything that does not depend
on it is still worked out.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass, field

from .bends.folded import Folded, fold
from .bends.laid import LaidBend
from .document.limits import MOST_LINES
from .document.model import Side
from .document.sizes import names_in
from .document.starter import NamedSize
from .document.stock import Stock
from .facts.cutters import NoCutter
from .facts.findings import Finding, Place
from .facts.reading import Reader
from .facts.stock import StockFacts, facts, of_part
from .facts.stock_checks import check_stock
from .facts.unknown import UnknownFact
from .geometry.loop import Bounds, Loop, Outline
from .joints.cutting import Joined, cut_joints
from .joints.ends import EdgeOf
from .joints.families import Joint
from .joints.fit import Mating
from .joints.given import Parties
from .joints.meeting import Meeting
from .joints.partner import Partner
from .joints.walls import check_walls, lying, with_walls
from .joints.wood import check_wood, grained
from .parts.bend_checks import check_bends
from .parts.cutting_out import Finished, Region, finish
from .parts.drawing import DrawnPart, draw_part
from .parts.finished_checks import check_gaps, check_marks, check_webs
from .parts.gaps import NarrowPlace
from .parts.on_part import CutOutShape
from .parts.part import Part
from .parts.places import of
from .parts.pocket import Pocket
from .parts.shapes.shape import LineShape
from .parts.sides import Beyond
from .project.cutting import check_width, cutter_in_use
from .project.project import Project
from .step import Step


@dataclass(frozen=True, slots=True)
class EvaluatedPart:
    """A part as drawn (``base``), and as it must measure in the hand (``finished``).

    ``beyond`` is what joints drawn at the inside face add outside the drawn sides, in mm. ``border`` is the line that
    what is on it is held in, ``narrow`` where its cuts come nearer to one another than its stock allows.
    ``cut`` is taken out of its ``region`` as it is drawn.

    One with ``bends`` is drawn and cut flat, and is ``folded`` afterwards; ``legs`` are the rectangles of its flanges.
    """

    part: Part
    stock: StockFacts
    width: float
    height: float
    base: Loop
    cutouts: tuple[CutOutShape, ...]
    lines: tuple[LineShape, ...]
    finished: Finished
    pockets: tuple[Pocket, ...]
    beyond: Beyond
    border: Region = ()
    narrow: tuple[NarrowPlace, ...] = ()
    region: Region = ()
    cut: tuple[Outline, ...] = ()
    bends: tuple[LaidBend, ...] = ()
    legs: Mapping[str, Bounds] = field(default_factory=dict)
    folded: Folded | None = None

    @property
    def as_drawn(self) -> Region:
        """Its material before any joint, and before corners were taken off."""
        return finish(self.region, self.cut).pieces

    @property
    def edge_length(self) -> float:
        """Length (mm) of all its edges, the openings' included."""
        return sum(loop.length for loop in self.outline.loops)

    @property
    def outline(self) -> Outline:
        """The finished part; its largest piece if it does not hold together."""
        return self.finished.pieces[0]


@dataclass(slots=True)
class Result:
    """Everything that follows from intent. ``values`` has every size in mm by its path in the document, ``names`` what
    sizes may use by name.
    """

    stocks: dict[str, StockFacts] = field(default_factory=dict)
    parts: dict[str, EvaluatedPart] = field(default_factory=dict)
    ledger: list[Mating] = field(default_factory=list)
    meetings: list[Meeting] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)
    values: dict[str, float] = field(default_factory=dict)
    names: dict[str, float] = field(default_factory=dict)

    @property
    def pairs(self) -> list[Mating]:
        """The rows of the ledger whose parts are both there."""
        return [row for row in self.ledger if row.opening_part in self.parts and row.insert_part in self.parts]

    @property
    def errors(self) -> list[Finding]:
        return [finding for finding in self.findings if finding.level == "error"]


def evaluate(project: Project) -> Result:
    """Works out stocks, parts, joints and the fit ledger of ``project``."""
    return _Evaluation(project).run()


def meetings_of(project: Project, joints: Set[str]) -> list[Meeting]:
    """Where the parts of some joints meet, as `evaluate` works it out for all."""
    return _Evaluation(project).meetings(joints)


class _Evaluation:
    def __init__(self, project: Project) -> None:
        self._project = project
        self._reader = Reader()
        self._result = Result(findings=self._reader.findings, values=self._reader.values, names=self._reader.names)
        self._drawn: dict[str, DrawnPart] = {}
        self._tried: set[str] = set()
        self._no_cutter = False
        self._stocks: dict[str, StockFacts | None] = {}

    def run(self) -> Result:
        self._draw_parts({part.id for part in self._project.parts})
        joined = self._joined(self._project.joints)
        if self._too_much(joined):
            return self._result
        self._result.ledger = self._with_walls(joined.ledger)
        self._check_wood(joined)
        self._result.meetings = joined.meetings
        for drawn in self._drawn.values():
            self._finish(drawn, joined)
        return self._result

    def meetings(self, joints: Set[str]) -> list[Meeting]:
        wanted = [joint for joint in self._project.joints if joint.id in joints]
        self._draw_parts({part for joint in wanted for part in joint.parts})
        return self._joined(wanted).meetings

    # Stocks, names and parts

    def _draw_parts(self, wanted: Set[str]) -> None:
        self._check_cutter()
        for stock in self._project.stocks:
            self._stock(stock)
        self._names_in_turn()
        self._stocks = {part.id: self._stock_of(part) for part in self._project.parts}
        beyond = self._beyond()
        for part in self._project.parts:
            if part.id in wanted:
                self._draw_after_others(part, beyond)

    def _draw_after_others(self, part: Part, beyond: Mapping[str, Beyond]) -> None:
        """Draws a part once those are drawn whose outlines it has as shapes; a chain of them may be long."""
        way = [] if part.id in self._tried else [part]
        while way:
            needs = sorted(way[-1].needs - self._tried)
            wanting = [other for need in needs if (other := self._project.part(need))]
            if wanting and wanting[0] not in way:
                way.append(wanting[0])
                continue
            if wanting:
                circle = [one.name for one in (*way[way.index(wanting[0]) :], wanting[0])]
                text = f"{way[-1].name} has the outline of a part that has its own: {' of '.join(circle)}"
                self._reader.error("part-circle", f"{text}; let one of them go", of(way[-1], "cutouts"))
            else:
                self._draw(way[-1], beyond[way[-1].id])
            self._tried.add(way.pop().id)

    def _names_in_turn(self) -> None:
        """Reads named sizes, each after those that it rests on, however they are listed."""
        by_name, tried = {named.name: named for named in self._project.names}, set[str]()
        for named in self._project.names:
            way = [] if named.name in tried else [named]
            while way:
                here = way[-1]
                wanting = [by_name[w] for w in names_in(here.size) if w in by_name and w not in tried]
                if wanting and wanting[0] not in way:
                    way.append(wanting[0])
                    continue
                if wanting:
                    circle = [one.name for one in (*way[way.index(wanting[0]) :], wanting[0])]
                    text = f"{here.name} rests on itself: {' on '.join(circle)}; give one of them a number"
                    self._reader.error("names-in-circle", text, Place(kind="project", field=here.name))
                elif (value := self._named(here)) is not None:
                    self._reader.names[here.name] = value
                tried.add(way.pop().name)

    def _named(self, named: NamedSize) -> float | None:
        def at() -> Place:
            return Place(kind="project", field=named.name)

        return self._reader.size(f"names/{named.name}", named.size, self._reader.names, at)

    def _cutter_in(self, stock: Stock) -> float | None:
        """What a cutter, if one cuts, takes in the kerf's place, whatever that was measured to be with a beam."""
        cutter = cutter_in_use(self._project, stock.id)
        check_width(self._project, stock, self._reader)
        return cutter.diameter if cutter else None

    def _check_cutter(self) -> None:
        try:
            cutter_in_use(self._project)
        except NoCutter as error:
            self._reader.error("no-cutter", str(error).rstrip("."), Place(kind="project", field="cutter"))
            self._no_cutter = True

    def _stock(self, stock: Stock) -> None:
        try:
            cutter = None if self._no_cutter else self._cutter_in(stock)
            found = facts(stock, self._project.machine, cutter)
        except UnknownFact as error:
            place = Place(kind="stock", id=stock.id, field=error.field)
            self._reader.error("stock-unreadable", f"{stock.name}, {error}", place)
            return
        self._result.stocks[stock.id] = found
        self._reader.names[f"{stock.id}.thickness"] = found.thickness
        self._reader.names[f"{stock.id}.kerf"] = found.kerf
        self._reader.names[f"{stock.id}.clearance"] = found.clearance[self._project.fit]
        check_stock(stock, found, self._project.machine_of(self._project.machine), self._reader)

    def _stock_of(self, part: Part) -> StockFacts | None:
        """The stock of a part, as thick as the part."""
        found, stock = self._result.stocks.get(part.stock), self._project.stock(part.stock)
        own = part.thickness
        if found is None or stock is None or own is None or own.stock != stock.id:
            return found
        try:
            return of_part(stock, found, own.size)
        except UnknownFact as error:
            self._reader.error("size-unreadable", f"{part.name}, {error}", of(part, "thickness"))
            return found

    def _draw(self, part: Part, beyond: Beyond) -> None:
        stock = self._stocks.get(part.id)
        if stock is None:
            if self._project.stock(part.stock) is None:
                self._reader.error(
                    "stock-missing", f"{part.name}: its stock “{part.stock}” is not in the project", of(part, "stock")
                )
            return
        others = {need: self._drawn[need].outlined for need in sorted(part.needs) if need in self._drawn}
        drawn = _DRAWN.of(
            part, (stock, beyond, others), self._reader, lambda reader: draw_part(part, stock, beyond, reader, others)
        )
        if drawn:
            self._drawn[part.id] = drawn

    def _beyond(self) -> dict[str, Beyond]:
        """What joints drawn at the inside face add to each part: the thickness of the other, and what stands out."""
        sides: dict[str, dict[Side, float]] = defaultdict(dict)
        stocks = self._stocks
        for joint in self._project.joints:
            proud = joint.drawn_inside(self._reader.names)
            if proud is None:
                continue
            for end, other in ((joint.a, joint.b), (joint.b, joint.a)):
                stock = stocks.get(other.part)
                if stock and isinstance(end, EdgeOf):
                    known = sides[end.part].get(end.side, 0.0)
                    sides[end.part][end.side] = max(known, stock.thickness + proud)
        return defaultdict(
            lambda: (0.0, 0.0, 0.0, 0.0),
            {
                part: (found.get("left", 0.0), found.get("bottom", 0.0), found.get("right", 0.0), found.get("top", 0.0))
                for part, found in sides.items()
            },
        )

    # Joints

    def _joined(self, joints: Sequence[Joint]) -> Joined:
        partners = {
            part_id: Partner(
                id=part_id,
                name=drawn.part.name,
                width=drawn.width,
                height=drawn.height,
                thickness=drawn.stock.thickness,
                thickest=drawn.stock.thickest,
                kerf=drawn.stock.kerf,
                beyond=drawn.beyond,
                silhouette=drawn.silhouette,
                outward=1 if drawn.part.face == "outside" else -1,
                starter=drawn.part.starter,
            )
            for part_id, drawn in self._drawn.items()
        }
        stocks = {part_id: drawn.stock for part_id, drawn in self._drawn.items()}
        names = {part.id: part.name for part in self._project.parts}
        return cut_joints(joints, Parties(partners, stocks, names, self._project.fit), self._reader)

    def _with_walls(self, ledger: list[Mating]) -> list[Mating]:
        """The pairs as the walls of cuts lean."""
        if not any(stock.walls.leaning for stock in self._result.stocks.values()):
            return ledger
        stocks = {part_id: drawn.stock for part_id, drawn in self._drawn.items()}
        leaning = with_walls(ledger, stocks, lying(self._project.layout.placements))
        check_walls(ledger, leaning, {part.id: part.name for part in self._project.parts}, self._reader)
        return leaning

    def _check_wood(self, joined: Joined) -> None:
        """Tells where joints of solid wood bind or open in the air that they are used in."""
        if any(stock.wood for stock in self._result.stocks.values()):
            parts = grained(self._drawn, self._project.stocks, self._project.layout.placements)
            check_wood(joined.ledger, joined.meetings, parts, self._reader)

    def _too_much(self, joined: Joined) -> bool:
        """Whether the joints come to more than can be worked out while somebody waits; then that is an error."""
        lines = sum(len(loop.segments) for cut in joined.notches.values() for outline in cut for loop in outline.loops)
        if lines > MOST_LINES:
            text = (
                f"The joints come to {lines} lines and arcs; at most {MOST_LINES} are worked out. "
                "Make their fingers or tabs wider, or divide the project"
            )
            self._reader.error("too-many-lines", text, Place(kind="project", field="joints"))
        return lines > MOST_LINES

    # Finished parts

    def _finish(self, drawn: DrawnPart, joined: Joined) -> None:
        notches, pockets = tuple(joined.notches[drawn.part.id]), tuple(joined.pockets[drawn.part.id])
        part = _FINISHED.of(
            drawn, (notches, pockets), self._reader, lambda reader: _finished(drawn, notches, pockets, reader)
        )
        if part:
            self._result.parts[part.part.id] = part


_DRAWN = Step[DrawnPart | None]()
_FINISHED = Step[EvaluatedPart | None]()


def _finished(
    drawn: DrawnPart, notches: tuple[Outline, ...], pockets: tuple[Pocket, ...], reader: Reader
) -> EvaluatedPart | None:
    """A part less what its cut-outs and joints take; None, with an error, where nothing is left."""
    part = drawn.part
    whole, cut = (drawn.region, drawn.cut) if drawn.solid is None else (drawn.solid, ())
    finished = finish(whole, (*cut, *notches))
    if not finished.pieces:
        text = f"{part.name}: nothing is left of it; its cut-outs take all material"
        reader.error("nothing-left", text, of(part, "cutouts"))
        return None
    if len(finished.pieces) > 1 + drawn.islands:
        left, bottom, right, top = finished.pieces[1].bounds
        reader.warn(
            "falls-apart",
            f"{part.name} falls into {len(finished.pieces)} pieces; the smallest has "
            f"{finished.pieces[-1].area:.1f} mm²",
            of(part, "cutouts", complex((left + right) / 2, (bottom + top) / 2)),
        )
    finished, narrow = check_webs(drawn, finished, reader)
    check_gaps(drawn, finished, reader)
    check_marks(drawn, finished, reader)
    return EvaluatedPart(
        part,
        drawn.stock,
        drawn.width,
        drawn.height,
        drawn.base,
        drawn.cutouts,
        drawn.lines,
        finished,
        (*drawn.pockets, *pockets),
        drawn.beyond,
        drawn.border,
        narrow,
        drawn.region,
        drawn.cut,
        drawn.bends,
        drawn.legs,
        _folded(drawn, finished, reader),
    )


def _folded(drawn: DrawnPart, finished: Finished, reader: Reader) -> Folded | None:
    """The finished part bent, and what is told of that; None of a part that stays flat."""
    if not any(bend.half > 0 for bend in drawn.bends):
        return None
    outline = finished.pieces[0]
    folded = fold([outline], drawn.bends, complex(drawn.width, drawn.height), drawn.stock.thickness)
    check_bends(drawn.part, drawn.stock, outline, folded, reader)
    return folded
