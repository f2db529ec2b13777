"""From a part's base shape to its finished outline: what is added to it, and everything taken out, exactly once.

The finished outline is a pure function of numbers, so it is remembered: an edit recomputes only the parts
whose numbers it changed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from shapely import LinearRing, STRtree, prepare

from ..geometry.boolean import intersect, subtract, union
from ..geometry.chords import ring
from ..geometry.loop import Loop, Outline
from ..geometry.measure import closest, near_segments
from ..geometry.offset import Corner, grow

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


@lru_cache(maxsize=4096)
def finish(base: tuple[Outline, ...], removed: tuple[Outline, ...]) -> Finished:
    """``base`` less everything ``removed``."""
    pieces = tuple(subtract(base, removed)) if removed else base
    if not pieces:
        return Finished((), None, 0)
    web, at = _narrowest_web(pieces[0])
    return Finished(pieces, web, at)


@lru_cache(maxsize=1024)
def compose(base: Loop, added: tuple[Outline, ...], kept: tuple[Outline, ...], rim: float, corner: Corner) -> Region:
    """The region that a part begins as: ``base`` with shapes added, cut back to those kept, and grown by ``rim`` mm."""
    region = [Outline(base)]
    if added:
        region = union(region, added)
    for outline in kept:
        region = intersect(region, [outline])
    return tuple(grow(region, rim, corner) if rim else region)


def _narrowest_web(outline: Outline) -> tuple[float | None, complex]:
    """Coarse chords find how close two loops come; the segments that near are measured exactly."""
    if not outline.cutouts:
        return None, 0
    rings = [LinearRing(ring(loop, 0.01)) for loop in outline.loops]
    pairs = [(0, hole) for hole in range(1, len(rings))]
    if len(rings) > 2:
        near = STRtree(rings[1:]).query_nearest(rings[1:], exclusive=True, all_matches=False)
        pairs += [(int(a) + 1, int(b) + 1) for a, b in near.T]
    prepare(rings[0])
    first, second = min(pairs, key=lambda pair: float(rings[pair[0]].distance(rings[pair[1]])))
    within = float(rings[first].distance(rings[second])) + 0.03
    return closest(near_segments(outline.loops[first], outline.loops[second], within))
