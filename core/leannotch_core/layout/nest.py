"""Lays all parts of a project on as few and cheap sheets as can be found: a first layout at once, then better ones."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from ..document.sheet import LaidSheet, Layout, Placement
from ..document.sums import SizeError
from ..evaluate import Result
from ..facts.findings import Finding
from ..project.project import Project
from .bed import SheetToFill
from .effort import Effort
from .rest import largest_rest
from .resumed import resumed
from .search import fewer, tidied, tighter
from .sheets import laid_parts
from .spacing import spacing
from .stack import Stack, begun, filled, laid_sheet, not_laid, placements_of


@dataclass(frozen=True, slots=True)
class Nesting:
    """A layout on the way: ``done`` is the share (0 to 1) of the time that is used up."""

    layout: Layout
    done: float
    findings: tuple[Finding, ...] = ()


def nest(
    project: Project,
    result: Result,
    seconds: float = 10,
    stop: Callable[[], bool] = lambda: False,
    *,
    seed: int = 1,
    rounds: int | None = None,
) -> Iterator[Nesting]:
    """Better and better layouts, the first one at once. What was placed by hand, or is cut, stays where it is.

    Where the project has a good layout already and it is better than a first one, it is gone on from.

    In 0 seconds there is only the first. With ``rounds`` of looking instead of seconds the same project and ``seed``
    give the same layout. Raises `SizeError` where margin, gap, or a stock that is needed cannot be read.
    """
    for finding in result.errors:
        # Without its stock a part would silently be left out, and its place be lost.
        if finding.place.kind == "stock":
            raise SizeError(finding.text)
    margin, gap = spacing(project, result)
    began = time.monotonic()
    stacks = [begun(project, result, stock, margin, gap) for stock in result.stocks]
    for stack in stacks:
        before = resumed(project, stack)
        filled(stack)
        if before and (stack.left_over or _spent(before, gap) < _spent(stack.grounds, gap)):
            stack.grounds, stack.left_over = before, []
        stack.findings += not_laid(result, stack, margin)
    findings = tuple(finding for stack in stacks for finding in stack.findings)
    yield Nesting(_layout(project, result, stacks), 0.0, findings)
    if seconds <= 0:
        return
    effort = Effort.of(seconds - (time.monotonic() - began), rounds, stop)
    for index, stack in enumerate(stacks):
        for _ in _better(stack, effort.part(_share(stacks[index:])), seed, gap):
            done = min(1.0, (time.monotonic() - began) / seconds)
            yield Nesting(_layout(project, result, stacks), done, findings)
    for stack in stacks:
        stack.grounds = min(tidied(stack.grounds), stack.grounds, key=lambda grounds: _spent(grounds, gap))
    yield Nesting(_layout(project, result, stacks), 1.0, findings)


def _spent(grounds: Sequence[SheetToFill], gap: float) -> tuple[float, float, float]:
    """What a layout is compared by: the least of it is best.

    The worth of its sheets; how little is left whole of the last of them (mm²), as that is told; and how long the
    cuts are that part what is left from the waste (mm).
    """
    worth = sum(ground.worth for ground in grounds if ground.kind >= 0)
    if not grounds:
        return worth, 0.0, 0.0
    last = grounds[-1]
    # Shapes are grown by half the gap already.
    taken = [*last.bars, *(spot.polygon() for spot in last.spots)]
    rest = largest_rest(last.width, last.height, taken, gap / 2)
    if rest is None:
        return round(worth, 6), 0.0, 0.0
    across = sum(0 < side < last.width for side in (rest.left, rest.left + rest.width))
    up = sum(0 < side < last.height for side in (rest.bottom, rest.bottom + rest.height))
    return round(worth, 6), -round(rest.width * rest.height, 1), round(across * rest.height + up * rest.width, 1)


def _share(stacks: Sequence[Stack]) -> float:
    """How much of what time is left the first of some stocks gets: by how many parts it has."""
    counts = [len(stack.items) for stack in stacks]
    return counts[0] / max(1, sum(counts))


def _better(stack: Stack, effort: Effort, seed: int, gap: float) -> Iterator[None]:
    """Where sheets can still be saved, that comes first; but something is left for what stays whole."""
    for grounds in fewer(stack.grounds, stack.kinds, effort.part(0.75), seed):
        stack.grounds = grounds
        yield
    least = _spent(stack.grounds, gap)
    for grounds in tighter(stack.grounds, effort, seed):
        # What lies tighter mostly leaves more; where it does not, it is a step on the way only.
        spent = _spent(grounds, gap)
        if spent < least:
            stack.grounds, least = grounds, spent
            yield


def _layout(project: Project, result: Result, stacks: Sequence[Stack]) -> Layout:
    sheets: list[LaidSheet] = []
    placements: list[Placement] = []
    for stack in stacks:
        held = iter(sorted(stack.held))
        for ground in stack.grounds:
            number = len(sheets)
            if ground.kind < 0:
                before = next(held)
                sheets.append(project.layout.sheets[before])
                placements += [p.model_copy(update={"sheet": number}) for p in stack.held[before]]
            else:
                sheets.append(laid_sheet(stack.stock, ground, stack.kinds))
            placements += [p for spot in ground.spots for p in placements_of(spot, number)]
    update = {"sheets": sheets, "placements": placements, "laid": laid_parts(result)}
    return project.layout.model_copy(update=update)
