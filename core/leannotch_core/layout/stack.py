"""All of one stock: its items, the sheets at hand, and what lies there already."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import shapely
from shapely import MultiPolygon, Polygon

from ..document.keep_out import Barring, SheetPoint
from ..document.sheet import Barred, LaidSheet, Placement
from ..document.sizes import shown
from ..document.sums import SizeError
from ..evaluate import EvaluatedPart, Result
from ..facts.bed import NoBed, bed_of, lying
from ..facts.findings import Finding, Place
from ..facts.stock import SheetFacts, corners_of
from ..geometry.segment import move
from ..project.project import Project
from .bed import Item, SheetToFill, Spot
from .fill import fill, fits, riding
from .grown import around, grown, grown_polygon
from .kinds import SheetKind
from .sheets import may_be_turned_over, motion, shape_of, turns_allowed
from .turns import Frame


@dataclass
class Stack:
    """The sheets of one stock. ``held`` are copies that stay where they lie, by the sheet of the layout so far."""

    stock: str
    kinds: list[SheetKind]
    held: dict[int, list[Placement]]
    items: list[Item]
    grounds: list[SheetToFill] = field(default_factory=list)
    #: Items that found no place.
    left_over: list[Item] = field(default_factory=list)
    findings: list[Finding] = field(default_factory=list)


def begun(project: Project, result: Result, stock_id: str, margin: float, gap: float) -> Stack:
    """A stock with all that is to be laid of it, nothing of it laid yet but what is held."""
    sheets = [_on_bed(project, sheet) for sheet in result.stocks[stock_id].sheets]
    held: dict[int, list[Placement]] = defaultdict(list)
    for placement in project.layout.placements:
        part = result.parts.get(placement.part)
        known = part and part.part.stock == stock_id and placement.copy_number <= part.part.count
        if placement.held and known and placement.sheet < len(project.layout.sheets):
            held[placement.sheet].append(placement)
    grounds, used = [], Counter[tuple[float, float, int]]()
    for index in sorted(held):
        sheet = project.layout.sheets[index]
        lying = [lying_shape(result.parts[p.part], p, gap) for p in held[index]]
        frame, bars = room_of(sheet.width, sheet.height, *shape_of(sheet), margin, gap)
        grounds.append(SheetToFill(sheet.width, sheet.height, 0.0, frame, (*bars, *lying)))
        used[sheet.width, sheet.height, len(sheet.outline)] += 1
    kinds = []
    for number, facts in enumerate(sheets):
        kind = kind_of(number, facts, margin, gap)
        if kind.at_hand is not None:
            key = facts.width, facts.height, len(facts.outline)
            taken = min(used[key], kind.at_hand)
            used[key] -= taken
            kind = kind.fewer(taken)
        kinds.append(kind)
    there = {(p.part, p.copy_number) for some in held.values() for p in some} | project.layout.finished
    return Stack(stock_id, kinds, dict(held), _items(project, result, stock_id, gap, there), grounds)


def _on_bed(project: Project, sheet: SheetFacts) -> SheetFacts:
    """A sheet with what the machine in use keeps out of, where it lies on that; a wrong bed is told elsewhere."""
    machine = project.machine_of(project.machine)
    if machine is None or not machine.keep_outs:
        return sheet
    try:
        bed = bed_of(machine)
        lies, _ = lying(project.preparation.on_bed, machine, bed, sheet.width, sheet.height)
        areas = [tuple(lies.back(corner) for corner in corners_of(keep_out)) for keep_out in machine.keep_outs]
    except (NoBed, SizeError):
        return sheet
    whole = shapely.box(0, 0, sheet.width, sheet.height)
    held: Barring = "clip"
    clips = [(held, area) for area in areas if _polygon(area).intersects(whole)]
    return replace(sheet, barred=(*sheet.barred, *clips))


def _items(project: Project, result: Result, stock_id: str, gap: float, there: set[tuple[str, int]]) -> list[Item]:
    return [
        item_of(project, part, copy, gap)
        for part in result.parts.values()
        if part.part.stock == stock_id
        for copy in range(1, part.part.count + 1)
        if (part.part.id, copy) not in there
    ]


def item_of(project: Project, part: EvaluatedPart, copy_number: int, gap: float) -> Item:
    """A copy of a part as it is laid: grown by half the gap (mm), with the turns and faces that it may have."""
    stock = project.stock(part.part.stock)
    turns = tuple(turns_allowed(part.part, stock.grain if stock else "none"))
    shape = grown(part.outline, gap / 2)
    return Item(part.part.id, copy_number, shape, turns, part.part.group.strip(), may_be_turned_over(part))


def lying_shape(part: EvaluatedPart, placement: Placement, gap: float) -> Polygon:
    """What a copy that lies bars, grown by half the gap."""
    return grown_polygon(around(part.outline.moved(motion(placement))), gap / 2)


def room_of(
    width: float,
    height: float,
    outline: Sequence[complex],
    barred: Sequence[Sequence[complex]],
    margin: float,
    gap: float,
) -> tuple[Frame, tuple[Polygon, ...]]:
    """The frame for shapes grown by half the gap, and what bars parts of it. The margin holds to every edge."""
    inset = margin - gap / 2
    frame = (inset, inset, width - inset, height - inset)
    # Where the gap asks for more than the margin, straight edges of the frame alone may be passed by the difference.
    aside = max(0.0, inset)
    bars = [grown_polygon(_polygon(corners), aside) for corners in barred]
    if outline:
        beyond = shapely.box(-width, -height, 2 * width, 2 * height).difference(_polygon(outline))
        bars += [grown_polygon(piece, aside) for piece in shapely.get_parts(beyond) if piece.area > 1e-6]
    return frame, tuple(bars)


def _polygon(corners: Sequence[complex]) -> Polygon:
    shape = shapely.make_valid(Polygon([(corner.real, corner.imag) for corner in corners]))
    pieces = [piece for piece in shapely.get_parts(shape) if piece.geom_type == "Polygon"]
    return max(pieces, key=lambda piece: float(piece.area)) if pieces else Polygon()


def kind_of(number: int, facts: SheetFacts, margin: float, gap: float) -> SheetKind:
    """A kind of sheet with the room that its margin and what bars parts of it leave (mm)."""
    barred = [corners for _, corners in facts.barred]
    frame, bars = room_of(facts.width, facts.height, facts.outline, barred, margin, gap)
    whole = shapely.box(*frame) if frame[2] > frame[0] and frame[3] > frame[1] else Polygon()
    room = whole.difference(MultiPolygon(list(bars)).buffer(0)) if bars else whole
    return SheetKind(
        number, facts.width, facts.height, facts.worth, facts.at_hand, frame, bars, float(room.area), facts
    )


def filled(stack: Stack) -> None:
    """A first layout: sheet after sheet is filled, as the next one the cheapest that may hold all that is left."""
    waiting = riding(stack.items)
    for ground in stack.grounds:
        waiting = fill(ground, waiting)
    used = Counter[int]()
    while waiting:
        kind = _next_kind(stack.kinds, used, waiting)
        if kind is None:
            break
        ground = kind.ground()
        left = fill(ground, waiting)
        if not ground.spots:
            left = fill(ground, waiting, apart=True)
        if not ground.spots:
            break
        used[kind.number] += 1
        stack.grounds.append(ground)
        waiting = left
    stack.left_over = waiting
    if used:
        stack.grounds[-1] = _on_less(stack.grounds[-1], stack.kinds, used)


def _on_less(last: SheetToFill, kinds: Sequence[SheetKind], used: Counter[int]) -> SheetToFill:
    """What lies on the last sheet, on the cheapest that holds it."""
    items = [spot.item for spot in last.spots]
    for kind in sorted(kinds, key=lambda kind: (kind.worth, kind.room)):
        if kind.worth >= last.worth:
            break
        free = kind.at_hand is None or used[kind.number] < kind.at_hand
        ground = kind.ground()
        if free and kind.room >= sum(item.shape.area for item in items) and not fill(ground, items):
            return ground
    return last


def _next_kind(kinds: Sequence[SheetKind], used: Counter[int], waiting: Sequence[Item]) -> SheetKind | None:
    """The cheapest that may hold all that waits; else what gives most room for its worth. All of it must fit one."""
    free = [kind for kind in kinds if kind.at_hand is None or used[kind.number] < kind.at_hand]
    good = [kind for kind in free if any(fits(item, kind.ground()) for item in waiting)]
    if not good:
        return None
    need = sum(item.shape.area for item in waiting) / _USUAL
    enough = [k for k in good if k.room >= need and all(fits(item, k.ground()) for item in waiting)]
    if enough:
        return min(enough, key=lambda kind: (kind.worth, kind.room))
    return max(good, key=lambda kind: (kind.room / max(kind.worth, 1e-9), kind.room))


#: The share of a sheet that a first layout usually fills.
_USUAL = 0.75


def laid_sheet(stock: str, ground: SheetToFill, kinds: Sequence[SheetKind]) -> LaidSheet:
    """A filled sheet as the document has it."""
    facts = kinds[ground.kind].facts
    return LaidSheet(
        stock=stock,
        width=ground.width,
        height=ground.height,
        outline=[_corner(point) for point in facts.outline],
        barred=[Barred(what=what, corners=[_corner(point) for point in corners]) for what, corners in facts.barred],
    )


def _corner(point: complex) -> SheetPoint:
    return SheetPoint(x=point.real, y=point.imag)


def placements_of(spot: Spot, sheet: int) -> list[Placement]:
    """Where an item and all that rides in it were put, as the document has it."""
    item = spot.item
    found = [
        Placement(
            part=item.part,
            copy_number=item.copy_number,
            sheet=sheet,
            x=spot.x,
            y=spot.y,
            turn=spot.turn,
            mirrored=spot.mirrored,
        )
    ]
    place = move(spot.turn, complex(spot.x, spot.y))
    for rider in item.riders:
        at = place(complex(rider.x, rider.y))
        turn = round((spot.turn + rider.turn) % 360, 9) % 360
        found += placements_of(Spot(rider.item, at.real, at.imag, turn, rider.mirrored), sheet)
    return found


def not_laid(result: Result, stack: Stack, margin: float) -> list[Finding]:
    """Why what is left over lies nowhere, once for each part."""
    left = {item.part: item for item in _with_riders(stack.left_over)}
    return [_left_over(result, item, stack.kinds, margin) for item in left.values()]


def _with_riders(items: Sequence[Item]) -> list[Item]:
    return [one for item in items for one in (item, *_with_riders([rider.item for rider in item.riders]))]


def _left_over(result: Result, item: Item, kinds: Sequence[SheetKind], margin: float) -> Finding:
    part = result.parts[item.part]
    place = Place(kind="part", id=item.part, part=item.part)
    if any(fits(item, kind.ground()) for kind in kinds):
        text = (
            f"There is no sheet left at hand for {part.part.name}: all sizes that would hold it are used up. "
            "Say that more of them are at hand, or add a size."
        )
        return Finding(level="warning", code="no-sheet-left", text=text, place=place)
    largest = max(kinds, key=lambda kind: kind.width * kind.height)
    left, bottom, right, top = part.outline.bounds
    text = (
        f"{part.part.name} is {shown(right - left)} x {shown(top - bottom)} and fits no sheet "
        f"in the turns it may take: the largest is {shown(largest.width)} x {shown(largest.height)} "
        f"with a margin of {shown(margin)} all round. "
        "Add a larger sheet, or allow more turns."
    )
    return Finding(level="warning", code="fits-no-sheet", text=text, place=place)
