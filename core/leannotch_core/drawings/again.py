"""A newer drawing beside the parts that were taken of an earlier one: what changed, what is new, what is gone.

A part is known again by its outline where that is equal; else by its name, where a drawing names it; else by how much
of the one lies on the other, corner on corner.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from ..document.ids import free_id
from ..document.sizes import Size, shown
from ..geometry.chords import as_polygon
from ..geometry.loop import Outline
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.brought import Brought
from ..parts.shapes.text import TextHole
from .alike import SAME, motion_between
from .following import Follow
from .recognised import FoundPart
from .taken import part_from
from .way_in import placed

#: Outlines that share less than this of what either covers are not one part that changed.
LEAST_SHARED = 0.5

What = Literal["same", "changed", "new", "gone"]


@dataclass(frozen=True, slots=True)
class PartAgain:
    """A part of the project, of the newer drawing (its place in the list), or of both; ``how`` it differs."""

    what: What
    part: Part | None
    found: int | None
    how: str = ""


def known_again(parts: Sequence[Part], found: Sequence[FoundPart], file: str) -> list[PartAgain]:
    """The parts that came from a file, beside those of its newer drawing."""
    before = [part for part in parts if _came_from(part, file)]
    drawn = {part.id: _as_drawn(part) for part in before}
    fresh = [placed(one).outline for one in found]
    pairs = dict(_pairs(before, drawn, found, fresh))
    rows = []
    for part in before:
        index = pairs.get(part.id)
        if index is None:
            rows.append(PartAgain("gone", part, None))
            continue
        how = _differs(part, drawn[part.id], found[index], fresh[index])
        rows.append(PartAgain("changed" if how else "same", part, index, how))
    news = [PartAgain("new", None, i) for i in range(len(found)) if i not in pairs.values()]
    return [*rows, *news]


def as_it_is_now(part: Part, found: FoundPart, follow: Follow | None, file: str) -> Part:
    """A part as a newer drawing has it, with its name, stock, joints, and what the maker put on it.

    A side that was typed stays typed; a number of copies that is the drawing's goes with it. Raises `BrokenFile`.
    """
    fresh = part_from(found, part.id, part.stock, follow, file)
    before = part.shape
    assert isinstance(before, Brought) and before.came_from is not None and isinstance(fresh.shape, Brought)
    count = found.count if part.count == before.came_from.count else part.count
    if motion_between(_as_drawn(part), placed(found).outline) is not None:
        # Equal but for how it lies: it stays as the maker has it, and its joints with it.
        same = before.model_copy(update={"came_from": fresh.shape.came_from})
        return part.model_copy(update={"shape": same, "count": count})
    sides = (("width", before.drawn.real), ("height", before.drawn.imag))
    kept = {side: size for side, was in sides if not _is(size := getattr(before, side), was)}
    own = [cut for cut in part.cutouts if not _of_file(cut, file)]
    texts = {cut.hole.text for cut in own if isinstance(cut.hole, TextHole)}
    taken = {cut.id for cut in own}
    fresh_ones = [
        cut.model_copy(update={"id": free_id("text", taken)}) if isinstance(cut.hole, TextHole) else _as_deep(cut, part)
        for cut in fresh.cutouts
        if not (isinstance(cut.hole, TextHole) and cut.hole.text in texts)
    ]
    return part.model_copy(
        update={
            "shape": fresh.shape.model_copy(update=kept),
            "count": count,
            "stands": fresh.stands,
            "cutouts": [*own, *fresh_ones],
        }
    )


def _is(size: Size, drawn: float) -> bool:
    """Whether a size is still as it was drawn."""
    try:
        return abs(float(size.text) - drawn) < SAME
    except ValueError:
        return False


def _came_from(part: Part, file: str) -> bool:
    return isinstance(part.shape, Brought) and part.shape.came_from is not None and part.shape.came_from.file == file


def _of_file(cut: CutOut, file: str) -> bool:
    """Whether a cut-out is a pocket that the drawing has, and none of the maker's."""
    came = cut.hole.came_from if isinstance(cut.hole, Brought) else None
    return came is not None and came.file == file and cut.id.startswith("pocket_")


def _as_deep(fresh: CutOut, part: Part) -> CutOut:
    """A pocket of the newer drawing, as deep as the maker made the one that was there."""
    there = next((cut for cut in part.cutouts if cut.hole == fresh.hole and (cut.x, cut.y) == (fresh.x, fresh.y)), None)
    return fresh.model_copy(update={"depth": there.depth}) if there else fresh


def _as_drawn(part: Part) -> Outline:
    """The outline that was taken, as large as it was drawn, from its lower left corner."""
    assert isinstance(part.shape, Brought)
    return part.shape.as_drawn(part.id)


def _pairs(
    before: Sequence[Part], drawn: dict[str, Outline], found: Sequence[FoundPart], fresh: Sequence[Outline]
) -> Iterator[tuple[str, int]]:
    free, waiting = set(range(len(found))), list(before)
    for alike in (_equal, _named, _shared):
        scores = [
            (score, -at, part, index)
            for at, part in enumerate(waiting)
            for index in sorted(free)
            if (score := alike(part, drawn[part.id], found[index], fresh[index])) > 0
        ]
        for _, _, part, index in sorted(scores, key=lambda row: (-row[0], -row[1], row[3])):
            if part in waiting and index in free:
                waiting.remove(part)
                free.discard(index)
                yield part.id, index


def _equal(part: Part, was: Outline, found: FoundPart, now: Outline) -> float:
    if motion_between(was, now) is None:
        return 0
    return 2 if _name_of(part) == found.name else 1


def _named(part: Part, was: Outline, found: FoundPart, now: Outline) -> float:
    """Names that are but numbers say nothing."""
    numbered = found.name.removeprefix("Part ").isdigit()
    return 0 if numbered else float(_name_of(part) == found.name)


def _shared(part: Part, was: Outline, found: FoundPart, now: Outline) -> float:
    a, b = as_polygon(Outline(was.outer), 0.1).buffer(0), as_polygon(Outline(now.outer), 0.1).buffer(0)
    share = float(a.intersection(b).area / a.union(b).area)
    return share if share > LEAST_SHARED else 0


def _name_of(part: Part) -> str:
    came = part.shape.came_from if isinstance(part.shape, Brought) else None
    return came.name if came else ""


def _differs(part: Part, was: Outline, found: FoundPart, now: Outline) -> str:
    """What of a part changed, in a few words; nothing where it did not."""
    said = []
    before, after = _sides(was), _sides(now)
    if motion_between(was, now) is None:
        resized = abs(before.real - after.real) > SAME or abs(before.imag - after.imag) > SAME
        said.append(f"{_size(before)} is now {_size(after)}" if resized else "its outline changed")
    if len(was.cutouts) != len(now.cutouts):
        said.append(f"{_openings(len(was.cutouts))} are now {len(now.cutouts)}")
    came = part.shape.came_from if isinstance(part.shape, Brought) else None
    if came and came.count != found.count:
        said.append(f"{came.count} of it are now {found.count}")
    return ", ".join(said)


def _sides(outline: Outline) -> complex:
    left, bottom, right, top = outline.bounds
    return complex(right - left, top - bottom)


def _size(sides: complex) -> str:
    return f"{shown(sides.real)} x {shown(sides.imag)}"


def _openings(count: int) -> str:
    return "1 opening" if count == 1 else f"{count} openings"
