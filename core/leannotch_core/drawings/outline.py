"""An outline brought from a drawing: the largest part of it, with the openings in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..document.limits import MOST_VERTICES
from ..document.sizes import shown
from ..parts.shapes.brought import Brought
from .chains import SNAP
from .drawing import BrokenFile
from .mending.mend import Mended
from .mending.outlines import gap_of
from .recognised import FoundPart
from .taken import SMALLEST, part_from
from .way_in import Bringing, WayIn, bring, read


class CannotBring(BrokenFile):
    """A drawing that holds no outline for a part; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class BroughtOutline:
    """The shape that a drawing gives, as large as it was drawn; ``notes`` say what was assumed, mended or left out."""

    shape: Brought
    notes: list[str]


def bring_outline(data: bytes) -> BroughtOutline:
    """The outline in the bytes of an SVG or DXF file. Raises `CannotBring`."""
    try:
        found = read(data, "", MOST_VERTICES)
        way = bring(found, Bringing(frame=False))
        if not way.parts:
            raise CannotBring(_nothing(way))
        part = max(way.parts, key=lambda part: part.outline.outer.area)
        _check_size(part)
        shape = part_from(part, "brought", "brought").shape
    except CannotBring:
        raise
    except BrokenFile as error:
        raise CannotBring(str(error)) from error
    if not isinstance(shape, Brought):
        raise CannotBring("The file holds no outline.")
    return BroughtOutline(shape, [*way.notes, *_mends(way.mend), *_left_out(way)])


def _nothing(way: WayIn) -> str:
    if way.crossed:
        return "The outline in the file crosses itself; draw it so that it runs round once."
    if not way.mend.open:
        return " ".join(["The file holds no lines to cut.", *way.notes])
    longest = max(way.mend.open, key=lambda chain: sum(s.length for s in chain.segments))
    return (
        f"No outline in the file is closed: the ends of the longest line are {shown(gap_of(longest))} apart, and ends "
        f"join up to {SNAP:g} mm. Close it in the drawing and bring it again."
    )


def _check_size(part: FoundPart) -> None:
    left, bottom, right, top = part.outline.bounds
    if part.outline.outer.area < SNAP or min(right - left, top - bottom) < SMALLEST:
        raise CannotBring(
            f"The largest outline in the file is {shown(right - left)} x {shown(top - bottom)} and encloses nothing "
            "that could be cut; check its unit and scale."
        )


def _mends(mend: Mended) -> list[str]:
    notes = []
    if mend.doubled:
        lines = "1 line is" if mend.doubled == 1 else f"{mend.doubled} lines are"
        notes.append(f"{lines} drawn twice in the file; each was taken once.")
    if mend.open:
        lines = "1 open line was" if len(mend.open) == 1 else f"{len(mend.open)} open lines were"
        notes.append(f"{lines} left out.")
    return notes


def _left_out(way: WayIn) -> list[str]:
    others = sum(part.count for part in way.parts) - 1
    if not others:
        return []
    outlines = "1 more outline was" if others == 1 else f"{others} more outlines were"
    return [f"{outlines} left out: only the largest is taken, with the openings in it."]


def outline_apart(data: bytes) -> dict[str, Any]:
    """As `bring_outline`, with an answer of plain JSON values: for a process of its own."""
    found = bring_outline(data)
    return {"shape": found.shape.model_dump(), "notes": found.notes}
