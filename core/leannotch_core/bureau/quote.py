"""What a cutting service can make of what it saw, what it cannot, and what it costs, line by line."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from ..assembly.bend_notes import bend_findings
from ..document.bend import Bend
from ..document.model import Id, Model
from ..document.sizes import Angle, in_digits
from ..document.stock import Stock
from ..evaluate import EvaluatedPart, Result, evaluate
from ..facts.codes import FindingCode
from ..geometry.loop import Loop
from ..project.project import Project
from .catalogue import Catalogue, Finish, OfferedThickness, StockOffered
from .seen import SeenFile, SeenPart

#: What the service does not take as it is; what makes a part that cannot be built has its finding's code.
RuleCode = Literal[
    "doubled",
    "live-text",
    "long-bend",
    "no-stock",
    "not-bent",
    "open-lines",
    "other-thickness",
    "size-not-confirmed",
    "small-hole",
    "too-large",
]

#: Parts are cut so far apart (mm), and the sheet that they take is counted with it.
GAP = 6.0
#: Beyond the days of an offer, one more for each so many sets: invented, as the catalogue is.
SETS_A_DAY = 50
#: Slots that are wider or narrower than the sheet by more than this (mm) were made for another; a fit takes less.
_OFF = 0.15


class SetBend(Model):
    """A bend of a part as the customer set it: degrees from flat, and to which side."""

    id: Id
    angle: float = Field(ge=0, le=170)
    up: bool


class Wanted(Model):
    """What a customer chose. ``parts`` has the bends that were set, by the place of the part among all that were seen.

    ``size_is_right`` is whether the sizes that were read were looked at and confirmed.
    """

    stock: Literal[""] | Id = ""
    thickness: float = 0
    finishes: list[Id] = Field(default=[], max_length=10)
    sets: int = Field(default=1, ge=1, le=1000)
    bends: dict[int, list[SetBend]] = Field(default={}, max_length=200)
    size_is_right: bool = False


class Rule(Model):
    """Something that is not as the service needs it: ``stops`` an order, or is only told. Its place is on a part."""

    code: RuleCode | FindingCode
    text: str
    stops: bool
    part: int | None = None
    x: float | None = None
    y: float | None = None


class PriceLine(Model):
    """``amount`` of something (with its unit) at a price ``each``; ``total`` in money."""

    what: str
    amount: float
    unit: str
    each: float
    total: float


class AtBreak(Model):
    """What one set costs from so many ``sets`` on, setting up apart."""

    sets: int
    each: float


class Quote(Model):
    lines: list[PriceLine]
    total: float
    days: int
    breaks: list[AtBreak]


@dataclass(frozen=True, slots=True)
class QuotedParts:
    """Parts as the service would make them: evaluated on its own sheet, with the bends that were set."""

    project: Project
    result: Result
    parts: tuple[SeenPart, ...]

    def evaluated(self, number: int) -> EvaluatedPart | None:
        return self.result.parts.get(f"part_{number}")


def look(
    files: Sequence[SeenFile], wanted: Wanted, stock: StockOffered | None, offer: OfferedThickness | None
) -> QuotedParts:
    """All parts of an order on the sheet that was chosen, or on one of 2 mm before any was."""
    parts = tuple(part for file in files for part in file.parts)
    sheet = _sheet(stock, offer)
    made = [
        seen.part.model_copy(
            update={"id": f"part_{number}", "stock": sheet.id, "bends": _bends(seen, wanted.bends.get(number, []))}
        )
        for number, seen in enumerate(parts)
    ]
    project = Project(name="Order", stocks=[sheet], parts=made)
    return QuotedParts(project, evaluate(project), parts)


def _bends(seen: SeenPart, chosen: Sequence[SetBend]) -> list[Bend]:
    by_id = {bend.id: bend for bend in chosen}
    found: list[Bend] = []
    for bend in seen.part.bends:
        as_set = by_id.get(bend.id)
        update = {"angle": Angle(text=in_digits(as_set.angle)), "way": "up" if as_set.up else "down"} if as_set else {}
        found.append(bend.model_copy(update=update))
    return found


def _sheet(stock: StockOffered | None, offer: OfferedThickness | None) -> Stock:
    begun = Stock.begun("sheet", stock.name if stock else "Sheet").model_dump()
    if offer is None:
        return Stock.model_validate({**begun, "material": "other", "nominal": "2", "readings": ["2"]})
    bends = offer.bends
    return Stock.model_validate(
        {
            **begun,
            "material": stock.material if stock else "other",
            "nominal": f"{offer.thickness:g}",
            "readings": [f"{offer.thickness:g}"],
            "kerf": {"how": "typed", "width": f"{offer.kerf:g}"},
            "sheets": [{"width": f"{offer.width:g}", "height": f"{offer.height:g}"}],
            "smallest_web": f"{offer.smallest_web:g}",
            "bending": {
                "radius": f"{bends.radius:g}",
                "die": f"{bends.die:g}",
                "least_flange": f"{bends.least_flange:g}",
                "neutral": {"how": "table", "rows": [row.model_dump() for row in bends.k]},
            }
            if bends
            else {},
        }
    )


# Rules


def rules(files: Sequence[SeenFile], wanted: Wanted, offer: OfferedThickness | None, looked: QuotedParts) -> list[Rule]:
    """What stands in the way of an order, the gravest first."""
    found = [*_of_files(files, offer)]
    if offer:
        for number in range(len(looked.parts)):
            part = looked.evaluated(number)
            found += _of_part(number, part, offer) if part else []
    if not wanted.size_is_right:
        text = "Look at the sizes in mm and inch, and confirm that they are right."
        found.append(Rule(code="size-not-confirmed", text=text, stops=True))
    if offer is None:
        text = "Choose a material and one of the thicknesses that there are."
        found.append(Rule(code="no-stock", text=text, stops=True))
    found += _of_findings(looked)
    return sorted(found, key=lambda rule: not rule.stops)


def _of_files(files: Sequence[SeenFile], offer: OfferedThickness | None) -> Iterator[Rule]:
    for file in files:
        if file.open:
            text = f"{file.name}: {file.open} lines close nothing and will not be cut; close them, or take them out."
            yield Rule(code="open-lines", text=text, stops=False)
        if file.doubled:
            text = f"{file.name}: {file.doubled} stretches are drawn twice; each is cut once."
            yield Rule(code="doubled", text=text, stops=False)
        if file.texts:
            text = f"{file.name}: its text is no line and is left out; have it as outlines if it is to be cut."
            yield Rule(code="live-text", text=text, stops=False)
        off = abs(file.slots_for - offer.thickness) if offer and file.slots_for else 0.0
        if offer and file.slots_for and off > _OFF:
            text = (
                f"{file.name}: its slots were made for a sheet of {file.slots_for:g} mm; this one measures "
                f"{offer.thickness:g} mm."
            )
            yield Rule(code="other-thickness", text=text, stops=False)


def _of_part(number: int, part: EvaluatedPart, offer: OfferedThickness) -> Iterator[Rule]:
    left, bottom, right, top = part.outline.bounds
    long, short = sorted((right - left, top - bottom), reverse=True)
    if long > max(offer.width, offer.height) - 2 * GAP or short > min(offer.width, offer.height) - 2 * GAP:
        text = f"It is {right - left:.1f} x {top - bottom:.1f} mm; the sheet is {offer.width:g} x {offer.height:g} mm."
        yield Rule(code="too-large", text=text, stops=True, part=number)
    for loop in part.outline.cutouts:
        small = _across(loop)
        if small < offer.smallest_hole - 1e-6:
            at = loop.segments[0].at(0.5)
            text = f"A hole is {small:.2f} mm across; the smallest in this sheet is {offer.smallest_hole:g} mm."
            yield Rule(code="small-hole", text=text, stops=True, part=number, x=at.real, y=at.imag)
    if part.folded and offer.bends is None:
        text = "This sheet is not bent here; choose one that is, or leave the bend lines out."
        yield Rule(code="not-bent", text=text, stops=True, part=number)
    for bend in part.bends if offer.bends else ():
        if abs(bend.end - bend.start) > offer.bends.longest:  # type: ignore[union-attr]
            text = (
                f"{bend.name} is {abs(bend.end - bend.start):.0f} mm long; the press takes {offer.bends.longest:g} mm."  # type: ignore[union-attr]
            )
            yield Rule(code="long-bend", text=text, stops=True, part=number, x=bend.middle.real, y=bend.middle.imag)


def _across(loop: Loop) -> float:
    circle = loop.circle()
    if circle:
        return 2 * circle[1]
    left, bottom, right, top = loop.bounds
    return min(right - left, top - bottom)


#: What the core tells of parts that says nothing to a customer.
_UNTOLD = ("no-reading", "not-known-on-machine", "bend-along-grain")


def _of_findings(looked: QuotedParts) -> Iterator[Rule]:
    for finding in (*looked.result.findings, *bend_findings(looked.project, looked.result)):
        if finding.code in _UNTOLD or not finding.place.part:
            continue
        number = int(finding.place.part.removeprefix("part_"))
        yield Rule(
            code=finding.code,
            text=f"{finding.text}.",
            stops=finding.level == "error" or finding.code in ("narrow-web", "leg-under-least", "bent-into-itself"),
            part=number,
            x=finding.place.x,
            y=finding.place.y,
        )


# Prices


def quote(wanted: Wanted, offer: OfferedThickness, looked: QuotedParts, catalogue: Catalogue) -> Quote:
    """The price of an order by its lines, what it would be at each break, and in how many days it is done."""
    finishes = [finish for finish in catalogue.finishes if finish.id in wanted.finishes]
    lines = [*_lines(wanted, offer, looked, finishes)]
    off = _off(catalogue, wanted.sets)
    sum_of_it = sum(line.total for line in lines)
    if off:
        lines.append(
            PriceLine(what=f"From {wanted.sets} sets on", amount=-off * 100, unit="%", each=0, total=-sum_of_it * off)
        )
    setting_up = catalogue.setting_up
    lines.append(PriceLine(what="Setting up", amount=1, unit="order", each=setting_up, total=setting_up))
    one = sum_of_it / wanted.sets
    breaks = [AtBreak(sets=b.sets, each=round(one * (1 - b.off), 2)) for b in catalogue.breaks]
    bent = any(part.folded for part in looked.result.parts.values())
    days = offer.days + (1 if bent else 0) + sum(finish.days for finish in finishes) + wanted.sets // SETS_A_DAY
    return Quote(
        lines=[_rounded(line) for line in lines],
        total=round(sum(line.total for line in lines), 2),
        days=days,
        breaks=breaks,
    )


def _rounded(line: PriceLine) -> PriceLine:
    return line.model_copy(update={"amount": round(line.amount, 3), "total": round(line.total, 2)})


def _off(catalogue: Catalogue, sets: int) -> float:
    return max((b.off for b in catalogue.breaks if sets >= b.sets), default=0.0)


def _lines(
    wanted: Wanted, offer: OfferedThickness, looked: QuotedParts, finishes: Sequence[Finish]
) -> Iterator[PriceLine]:
    counted = [(part, seen.count * wanted.sets) for n, seen in enumerate(looked.parts) if (part := looked.evaluated(n))]
    sheet = sum(_taken(part) * count for part, count in counted) / 1e6
    metres = sum(part.edge_length * count for part, count in counted) / 1e3
    pierces = sum(len(part.outline.loops) * count for part, count in counted)
    bends = sum(sum(bend.half > 0 for bend in part.bends) * count for part, count in counted)
    pieces = sum(count for _, count in counted)
    holes = sum(sum(loop.circle() is not None for loop in part.outline.cutouts) * count for part, count in counted)
    area = sum(part.outline.area * count for part, count in counted) / 1e6
    yield _line("Sheet", sheet, "m²", offer.square_metre)
    yield _line("Cut", metres, "m", offer.metre)
    yield _line("Pierces", pierces, "", offer.pierce)
    if bends:
        yield _line("Bends", bends, "", offer.bend)
    amounts: Mapping[str, tuple[float, str]] = {
        "each": (pieces, "parts"),
        "square_metre": (area, "m²"),
        "hole": (holes, "holes"),
    }
    for finish in finishes:
        for field, (amount, unit) in amounts.items():
            if price := getattr(finish, field):
                yield _line(finish.name, amount, unit, price)


def _taken(part: EvaluatedPart) -> float:
    left, bottom, right, top = part.outline.bounds
    return (right - left + GAP) * (top - bottom + GAP)


def _line(what: str, amount: float, unit: str, each: float) -> PriceLine:
    return PriceLine(what=what, amount=amount, unit=unit, each=each, total=amount * each)
