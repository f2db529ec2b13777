"""Sizes of a starter typed where they stand, in space or on a part: which number drives a size, and its change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..assembly.inner import Span
from ..assembly.poses import Assembly
from ..assembly.space import extent
from ..document.bend import Bend
from ..document.sizes import Size, length
from ..document.starter import Starter
from ..document.sums import SizeError
from ..evaluate import Result
from ..parts.part import Part
from ..project.project import Project
from .live import KINDS
from .made import CannotMake
from .tray import KIND, compartments, with_compartment

#: What bounds the compartments of a tray along each way: the first wall, the last one, the dividers between them,
#: and the outside size that they share.
_WAYS = {"columns": ("left", "right", "across", "length"), "rows": ("front", "back", "along", "width")}


@dataclass(frozen=True, slots=True)
class Driven:
    """The number of a starter that a size in space shows; of ``columns`` or ``rows`` the one at ``index``."""

    starter: str
    number: str
    index: int | None = None


def drives_span(project: Project, result: Result, assembly: Assembly, span: Span) -> Driven | None:
    """Which compartment of a tray a free width is, if it is one."""
    for starter in project.starters:
        for number, (first, last, dividers, _) in _ways(starter).items():
            own = {f"{starter.id}_{role}" for role in (first, last, dividers)}
            if {span.low.part, span.high.part} <= own:
                index = _index(starter, result, assembly, span, (first, last, dividers))
                return None if index is None else Driven(starter.id, number, index)
    return None


def drives_overall(project: Project, result: Result, axis: int, length: float) -> Driven | None:
    """Which outside size of a tray the outside of an assembly is, along an axis of space, if it is one."""
    for starter in project.starters:
        number = _outside(starter, axis)
        named = result.values.get(f"names/{starter.id}_{number}")
        if number and named is not None and abs(named - length) < 1e-6:
            return Driven(starter.id, number)
    return None


def _outside(starter: Starter, axis: int) -> str | None:
    """The number of a tray that is its outside along an axis, if it is the outside and not what given sizes make it."""
    if starter.kind != "tray" or starter.choices.get("measured", "outside") != "outside":
        return None
    if axis == 2:
        return "height"
    which, (_, _, _, outside) = list(_WAYS.items())[axis]
    try:
        return outside if "rest" in compartments(_typed(starter, which).text, which) else None
    except CannotMake:
        return None


def drives_side(project: Project, result: Result, part: Part, which: Literal["width", "height"]) -> Driven | None:
    """Which number of its starter a part's width or height is, if it is just that number."""
    starter = next((known for known in project.starters if known.id == part.starter), None)
    text = part.shape.width.text if which == "width" else part.shape.height.text
    if starter is None or not text.startswith(f"{starter.id}_"):
        return None
    number = text.removeprefix(f"{starter.id}_")
    known = next((n for n in KINDS[starter.kind][0].numbers if n.name == number and n.holds == "size"), None)
    if known is None:
        return None
    try:
        typed = length(KINDS[starter.kind][0].given(number, starter.sizes), _names(project, result))
    except SizeError:
        return None
    return Driven(starter.id, number) if abs(typed - result.values[f"parts/{part.id}/{which}"]) < 1e-6 else None


def drives_bend(project: Project, bend: Bend, which: Literal["length", "angle"]) -> Driven | None:
    """Which number of its starter a bend's length or angle is, if it is just that number."""
    starter = next((known for known in project.starters if known.id == bend.starter), None)
    if starter is None:
        return None
    for number in KINDS[starter.kind][0].numbers:
        if bend.id in number.turns if which == "angle" else bend.length.text == f"{starter.id}_{number.name}":
            return Driven(starter.id, number.name)
    return None


def _names(project: Project, result: Result) -> dict[str, float]:
    """What a starter's number may name: the stocks, and the named sizes of the project."""
    known = {name.name: result.values.get(f"names/{name.name}", 0.0) for name in project.names}
    for stock_id, facts in result.stocks.items():
        known |= {f"{stock_id}.thickness": facts.thickness, f"{stock_id}.kerf": facts.kerf}
    return known


def with_size(starter: Starter, number: str, index: int | None, size: Size) -> Starter:
    """The starter with a size that was typed in place. Raises `CannotMake`."""
    if number not in {known.name for known in KINDS[starter.kind][0].numbers}:
        raise CannotMake(f"This starter has no number “{number}”.")
    if index is not None:
        if number not in _ways(starter):
            raise CannotMake(f"“{number}” are no compartments of this starter.")
        before = _typed(starter, number)
        text = size.text.strip() if size.unit == before.unit else _millimetres(size, number)
        size = Size(text=with_compartment(before.text, number, index, text), unit=before.unit)
    return starter.model_copy(update={"sizes": {**starter.sizes, number: size}})


def _ways(starter: Starter) -> dict[str, tuple[str, str, str, str]]:
    return _WAYS if starter.kind == "tray" else {}


def _typed(starter: Starter, number: str) -> Size:
    return KIND.given(number, starter.sizes)


def _millimetres(size: Size, number: str) -> str:
    """A plain size in the other unit than the list's, as text that says its own."""
    try:
        return f"{length(size, {}):.6g} mm"
    except SizeError as error:
        raise CannotMake(f"{number.capitalize()}: {error}.") from error


def _index(starter: Starter, result: Result, assembly: Assembly, span: Span, roles: Sequence[str]) -> int | None:
    """How many of the starter's dividers stand before the free width, counted from its first wall; None without it."""
    first, last, dividers = (f"{starter.id}_{role}" for role in roles)
    at: dict[str, list[float]] = {}
    for copy, pose in assembly.poses.items():
        if copy.part in (first, last, dividers):
            low, high = extent(result.parts[copy.part], pose)
            at.setdefault(copy.part, []).append(float(low[span.axis] + high[span.axis]) / 2)
    if first not in at or last not in at:
        return None
    middle = (span.start[span.axis] + span.end[span.axis]) / 2
    before = sum(place < middle for place in at.get(dividers, ()))
    return before if at[first] < at[last] else len(at.get(dividers, ())) - before
