"""From a part's base shape to its finished outline: what is added to it, and everything taken out, exactly once.

The finished outline is a pure function of numbers, so it is remembered: an edit recomputes only the parts
whose numbers it changed.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..geometry.boolean import intersect, union
from ..geometry.loop import Outline
from ..geometry.offset import Corner, grow
from ..remembered import remembered
from .alone import less
from .gaps import narrowest

#: Pieces of material, the largest first.
Region = tuple[Outline, ...]


@dataclass(frozen=True, slots=True)
class Finished:
    """A part as it must measure in the hand.

    ``pieces`` has one outline if the part holds together. ``web`` is the narrowest material (mm) between two
    cut-outs or a cut-out and the edge, with the point where it is; None without cut-outs.
    """

    pieces: tuple[Outline, ...]
    web: float | None
    web_at: complex


@remembered(most=4096)
def finish(base: tuple[Outline, ...], removed: tuple[Outline, ...]) -> Finished:
    """``base`` less everything ``removed``."""
    pieces = tuple(less(base, removed)) if removed else base
    if not pieces:
        return Finished((), None, 0)
    web, at = narrowest(pieces[0])
    return Finished(pieces, web, at)


@remembered(most=1024)
def compose(base: Region, added: tuple[Outline, ...], kept: tuple[Outline, ...], rim: float, corner: Corner) -> Region:
    """The region that a part begins as: ``base`` with shapes added, cut back to those kept, and grown by ``rim`` mm."""
    region = list(base)
    if added:
        region = union(region, added)
    for outline in kept:
        region = intersect(region, [outline])
    return tuple(grow(region, rim, corner) if rim else region)
