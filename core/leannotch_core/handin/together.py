"""Sheets of several makers laid together on one: each part is taken as it is finished, and knows its owner."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from ..document.bend import Bend
from ..document.ids import free_id
from ..document.sheet import Layout
from ..document.sizes import Angle, Size, in_digits
from ..document.stock import Stock
from ..drawings.bent import bend_from
from ..drawings.chains import Chain
from ..drawings.recognised import FoundPart, PartLine
from ..drawings.taken import part_from
from ..evaluate import EvaluatedPart, evaluate
from ..geometry.segment import Line, Motion, Source
from ..layout.nest import nest
from ..machining.lettered import marks, own_name
from ..machining.path import CutPath
from ..parts.part import Part
from ..project.cutting import machine_for
from ..project.project import Project
from ..said import Said

#: Thicknesses that differ by no more than this (mm) are one stock.
SAME = 0.05


class CannotLay(Said):
    """Sheets that cannot be laid together; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Handed:
    """A sheet that was handed in: its number, its owner, and the project as it was then."""

    number: int
    owner: str
    project: Project
    sheet: int


@dataclass(frozen=True, slots=True)
class OnOne:
    """Several sheets on one; ``came_from`` has the number and the id that each of its parts was handed in under."""

    project: Project
    came_from: dict[str, tuple[int, str]]


def laid_together(handed: Sequence[Handed], seconds: float = 2.0) -> OnOne:
    """The parts of several sheets on one sheet, as large as the first of them. Raises `CannotLay`."""
    first = handed[0]
    machine = machine_for(first.project)
    stock = _stock_of(first)
    facts = evaluate(first.project).stocks[stock.id]
    parts: list[Part] = []
    came_from: dict[str, tuple[int, str]] = {}
    for one in handed:
        another = machine_for(one.project)
        if another.id != machine.id:
            raise CannotLay(
                f"Number {one.number} is for the {another.name}, number {first.number} for the {machine.name}. Only "
                "sheets for one machine are laid together; set one of them up for the other's."
            )
        own = _stock_of(one)
        thick = evaluate(one.project).stocks[own.id].thickness
        if own.material != stock.material or abs(thick - facts.thickness) > SAME:
            raise CannotLay(
                f"Number {one.number} is of {own.name}, {thick:.2f} mm; number {first.number} of {stock.name}, "
                f"{facts.thickness:.2f} mm. Only sheets of one stock are laid together."
            )
        for part_id, part in _parts(one, stock.id):
            own_id = free_id(part.id, {*came_from})
            came_from[own_id] = one.number, part_id
            parts.append(part.model_copy(update={"id": own_id}))
    laid = first.project.layout.sheets[first.sheet]
    sheet = stock.sheets[0].model_copy(
        update={"width": Size(text=in_digits(laid.width)), "height": Size(text=in_digits(laid.height)), "at_hand": 1}
    )
    project = first.project.model_copy(
        update={
            "name": "Laid together: " + ", ".join(str(one.number) for one in handed),
            "names": [],
            "stocks": [stock.model_copy(update={"sheets": [sheet]})],
            "parts": parts,
            "joints": [],
            "starters": [],
            "hand_over": first.project.hand_over.model_copy(update={"names": "leave out"}),
            "layout": Layout(margin=first.project.layout.margin, gap=first.project.layout.gap),
            "preparation": first.project.preparation.model_copy(
                update={"order": [], "starts": [], "held": [], "gathered": []}
            ),
        }
    )
    result = evaluate(project)
    if result.errors:
        wrong = result.errors[0]
        number, _ = came_from.get(wrong.place.part or wrong.place.id, (first.number, ""))
        raise CannotLay(f"Number {number} cannot be laid with others: {wrong.text}. Cut it alone.")
    *_, last = nest(project, result, seconds)
    on_first = sum(placement.sheet == 0 for placement in last.layout.placements)
    wanted = sum(part.count for part in parts)
    if on_first < wanted:
        raise CannotLay(
            f"{on_first} of {wanted} parts fit on one sheet of {laid.width:g} x {laid.height:g} mm; "
            "lay fewer of them together."
        )
    return OnOne(project.model_copy(update={"layout": last.layout}), came_from)


def owners_of(project: Project) -> dict[str, str]:
    """The owner of each part of a sheet that was laid together, by the part's id."""
    return {part.id: part.group for part in project.parts}


def _stock_of(handed: Handed) -> Stock:
    stock_id = handed.project.layout.sheets[handed.sheet].stock
    stock = handed.project.stock(stock_id)
    if stock is None:
        raise CannotLay(f"Number {handed.number} is of a stock that is not in it.")
    return stock


def _parts(handed: Handed, stock: str) -> Iterator[tuple[str, Part]]:
    """What is to be cut of a sheet, each part with the id that it has there."""
    result = evaluate(handed.project)
    counts: dict[str, int] = {}
    for placement in handed.project.layout.placements:
        if placement.sheet == handed.sheet and not placement.cut:
            counts[placement.part] = counts.get(placement.part, 0) + 1
    for part_id, count in counts.items():
        yield part_id, _frozen(handed, result.parts[part_id], count, stock)


def _frozen(handed: Handed, part: EvaluatedPart, count: int, stock: str) -> Part:
    """A part as it is finished: an outline with what is on it, which nothing changes any more."""
    pockets = [
        PartLine("pocket", Chain(p.outline.outer.segments, True), p.depth, p.outline.cutouts) for p in part.pockets
    ]
    # Whose names are scored is each maker's own word, so that they are lines like others here.
    named = own_name(part) if handed.project.hand_over.names == "score" else ()
    found = FoundPart(
        outline=part.outline,
        name=part.part.name,
        lines=[*pockets, *(_drawn(line) for line in (*marks(part), *named))],
        places=[Motion()] * count,
    )
    made = part_from(found, f"n{handed.number}_{part.part.id}"[:34], stock)
    left, bottom, _, _ = part.outline.bounds
    update = {
        "group": f"{handed.number}, {handed.owner}"[:60],
        "turns": part.part.turns,
        "both_faces": part.part.both_faces,
        "edge": part.part.edge,
        "settings": part.part.settings,
    }
    return made.model_copy(update={**update, "bends": list(_bends(part, complex(left, bottom)))})


def _drawn(line: CutPath) -> PartLine:
    # What is marked on a part is filled, engraved or scored.
    work = next(work for work in ("fill", "engrave", "score") if work == line.operation)
    return PartLine(work, Chain(line.segments, line.closed))


def _bends(part: EvaluatedPart, corner: complex) -> Iterable[Bend]:
    back = Motion(1, -corner)
    outline = part.outline.moved(back)
    for number, bend in enumerate((bend for bend in part.bends if bend.half > 0), 1):
        line = Line(back(bend.start), back(bend.end), Source(bend.id, "bend"))
        as_line = bend_from(Chain((line,), False), "bend up" if bend.up else "bend down", number, outline)
        if as_line:
            numbers = bend.bend
            update = {
                "angle": Angle(text=in_digits(numbers.angle)),
                "radius": Size(text=in_digits(numbers.radius)),
                "k": numbers.k,
            }
            yield as_line.model_copy(update=update)
