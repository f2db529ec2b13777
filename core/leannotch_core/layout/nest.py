"""Lays all parts of a project on as many sheets as needed: a first layout at once, then better ones."""

from __future__ import annotations

import time
from collections import defaultdict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from shapely import MultiPolygon

from ..document.sheet import LaidSheet, Layout, Placement
from ..document.sizes import SizeError, length, shown
from ..evaluate import Result
from ..findings import Finding, Place
from ..project import Project
from .fill import Item, Sheetful, Spot, fill, fits
from .sheets import laid_parts, placed, polygon_of, turns_allowed
from .strip import pack


@dataclass(frozen=True, slots=True)
class Nesting:
    """A layout on the way: ``done`` is the share (0 to 1) of the time that is used up."""

    layout: Layout
    done: float
    findings: tuple[Finding, ...] = ()


@dataclass(slots=True)
class _Stack:
    """All sheets of one stock."""

    stock: str
    sizes: Sequence[tuple[float, float]]
    sheets: list[Sheetful]
    by_hand: list[list[Placement]]
    findings: list[Finding]


def nest(
    project: Project, result: Result, seconds: float = 10, stop: Callable[[], bool] = lambda: False
) -> Iterator[Nesting]:
    """Better and better layouts, the first one at once. Parts placed by hand stay where they are.

    In 0 seconds there is only the first.
    Raises `SizeError` where margin, gap, or a stock that is needed cannot be read.
    """
    for finding in result.errors:
        # Without its stock a part would silently be left out, and its place be lost.
        if finding.place.kind == "stock":
            raise SizeError(finding.text)
    margin, gap = length(project.layout.margin, {}), length(project.layout.gap, {})
    began = time.monotonic()
    stacks = [_first(project, result, stock, margin, gap) for stock in result.stocks]
    findings = tuple(finding for stack in stacks for finding in stack.findings)
    yield Nesting(_layout(project, result, stacks), 0.0, findings)
    if seconds <= 0:
        return
    movable = [stack for stack in stacks if not any(sheet.fixed for sheet in stack.sheets) and stack.sheets]
    for index, stack in enumerate(movable):
        until = began + seconds * (index + 1) / len(movable)
        for _ in _improve(stack, until, stop):
            done = min(1.0, (time.monotonic() - began) / seconds)
            yield Nesting(_layout(project, result, stacks), done, findings)
    yield Nesting(_layout(project, result, stacks), 1.0, findings)


def _first(project: Project, result: Result, stock_id: str, margin: float, gap: float) -> _Stack:
    facts = result.stocks[stock_id]
    stock = project.stock(stock_id)
    assert stock is not None
    stack = _Stack(stock_id, facts.sheets, [], [], [])
    kept = _keep_by_hand(project, result, stock_id, margin, gap, stack)
    items = []
    for part in result.parts.values():
        if part.part.stock != stock_id:
            continue
        turns = tuple(turns_allowed(part.part, stock.grain))
        shape = polygon_of(part.outline)
        items += [
            Item(part.part.id, copy, shape, turns)
            for copy in range(1, part.part.count + 1)
            if (part.part.id, copy) not in kept
        ]
    if not items:
        return stack
    sheets = stack.sheets or [Sheetful(*facts.sheets[0], margin, gap)]
    for item in {item.part: item for item in fill(items, sheets, facts.sheets)}.values():
        stack.findings.append(_too_large(result, item, facts.sheets, margin))
    stack.sheets[:] = [sheet for sheet in sheets if sheet.spots or sheet.fixed]
    _shrink_last(stack)
    stack.by_hand += [[] for _ in range(len(stack.sheets) - len(stack.by_hand))]
    return stack


def _keep_by_hand(
    project: Project, result: Result, stock_id: str, margin: float, gap: float, stack: _Stack
) -> set[tuple[str, int]]:
    """Takes over the sheets that hold parts placed by hand; returns those parts' copies."""
    by_sheet: dict[int, list[Placement]] = defaultdict(list)
    for placement in project.layout.placements:
        part = result.parts.get(placement.part)
        known = part and part.part.stock == stock_id and placement.copy_number <= part.part.count
        if placement.by_hand and known and placement.sheet < len(project.layout.sheets):
            by_sheet[placement.sheet].append(placement)
    for index, placements in sorted(by_sheet.items()):
        laid = project.layout.sheets[index]
        fixed = [placed(result.parts[p.part].outline, p) for p in placements]
        stack.sheets.append(Sheetful(laid.width, laid.height, margin, gap, fixed))
        stack.by_hand.append(placements)
    return {(p.part, p.copy_number) for placements in by_sheet.values() for p in placements}


def _too_large(result: Result, item: Item, sizes: Sequence[tuple[float, float]], margin: float) -> Finding:
    part = result.parts[item.part]
    left, bottom, right, top = item.shape.bounds
    width, height = max(sizes, key=lambda size: size[0] * size[1])
    text = (
        f"{part.part.name} is {shown(right - left)} x {shown(top - bottom)} and fits no sheet "
        f"in the turns it may take: the largest is {shown(width)} x {shown(height)} "
        f"with a margin of {shown(margin)} all round. "
        "Add a larger sheet, or allow more turns."
    )
    place = Place(kind="part", id=item.part, part=item.part)
    return Finding(level="warning", code="fits-no-sheet", text=text, place=place)


def _improve(stack: _Stack, until: float, stop: Callable[[], bool]) -> Iterator[None]:
    """Nests sheet after sheet again, drawing parts forward from later sheets, while time lasts."""

    def over() -> bool:
        return stop() or time.monotonic() >= until

    index = 0
    while index < len(stack.sheets) and not over():
        later = stack.sheets[index + 1 :]
        share = (until - time.monotonic()) / (len(later) + 1)
        yield from _tighten(stack, index, share, over)
        index += 1
    stack.sheets[:] = [sheet for sheet in stack.sheets if sheet.spots]
    _shrink_last(stack)
    yield


def _shrink_last(stack: _Stack) -> None:
    """Puts what lies on the last sheet on the smallest size that holds it, if that is a smaller one."""
    last = stack.sheets[-1] if stack.sheets else None
    if last is None or last.fixed:
        return
    items = sorted((spot.item for spot in last.spots), key=lambda item: (-item.shape.area, item.part, item.copy_number))
    need = sum(item.shape.area for item in items)
    for width, height in sorted(stack.sizes, key=lambda size: size[0] * size[1]):
        if width * height >= last.width * last.height:
            return
        smaller = Sheetful(width, height, last.margin, last.gap)
        if need <= width * height and all(smaller.place(item) for item in items):
            stack.sheets[-1] = smaller
            return


def _tighten(stack: _Stack, index: int, seconds: float, over: Callable[[], bool]) -> Iterator[None]:
    sheet, later = stack.sheets[index], stack.sheets[index + 1 :]
    waiting = sorted(
        (
            spot.item
            for other in later
            for spot in other.spots
            if fits(spot.item, sheet.width, sheet.height, sheet.margin)
        ),
        key=lambda item: -item.shape.area,
    )
    inside = [spot.item for spot in sheet.spots]
    room = (sheet.width - 2 * sheet.margin) * (sheet.height - 2 * sheet.margin)
    until = time.monotonic() + seconds
    while not over():
        left = until - time.monotonic()
        free = room - sum(item.shape.area for item in inside)
        extra = next((item for item in waiting if item.shape.area <= free), None)
        wanted = [*inside, extra] if extra else inside
        tries = 3 if extra else 1
        solved = _solve(wanted, sheet, max(1, int(left / tries)), over)
        if solved and (extra or _reach(solved) < _reach(sheet.spots) - 0.1):
            sheet.spots[:] = solved
            if extra:
                inside = wanted
                _take_from(later, extra)
            yield
        if extra:
            waiting.remove(extra)
        if not extra or left <= 1:
            return


def _take_from(sheets: list[Sheetful], item: Item) -> None:
    for sheet in sheets:
        sheet.spots[:] = [spot for spot in sheet.spots if spot.item is not item]


def _reach(spots: Sequence[Spot]) -> float:
    """How far to the right the parts reach: what is right of that is left whole."""
    return max(float(spot.polygon().bounds[2]) for spot in spots)


def _solve(items: list[Item], sheet: Sheetful, seconds: int, over: Callable[[], bool]) -> list[Spot] | None:
    """The tightest strip found that fits the sheet, moved to its margin."""
    best = None
    for _, spots in pack(items, sheet.height - 2 * sheet.margin, sheet.gap, seconds, over):
        best = _into_margins(spots, sheet) or best
    return best


def _into_margins(spots: Sequence[Spot], sheet: Sheetful) -> list[Spot] | None:
    """The spots moved together into the lower left corner of the sheet's margins, if they fit inside."""
    left, bottom, right, top = MultiPolygon([spot.polygon() for spot in spots]).bounds
    if right - left > sheet.width - 2 * sheet.margin or top - bottom > sheet.height - 2 * sheet.margin:
        return None
    x, y = sheet.margin - left, sheet.margin - bottom
    return [Spot(spot.item, spot.x + x, spot.y + y, spot.turn) for spot in spots]


def _layout(project: Project, result: Result, stacks: Sequence[_Stack]) -> Layout:
    sheets: list[LaidSheet] = []
    placements: list[Placement] = []
    for stack in stacks:
        for sheet, by_hand in zip(stack.sheets, stack.by_hand, strict=False):
            number = len(sheets)
            sheets.append(LaidSheet(stock=stack.stock, width=sheet.width, height=sheet.height))
            placements += [placement.model_copy(update={"sheet": number}) for placement in by_hand]
            placements += [placement_of(spot, number) for spot in sheet.spots]
    update = {"sheets": sheets, "placements": placements, "laid": laid_parts(result)}
    return project.layout.model_copy(update=update)


def placement_of(spot: Spot, sheet: int) -> Placement:
    """Where an item was put, as the document has it."""
    item = spot.item
    return Placement(
        part=item.part,
        copy_number=item.copy_number,
        sheet=sheet,
        x=round(spot.x, 4),
        y=round(spot.y, 4),
        turn=spot.turn,
    )
