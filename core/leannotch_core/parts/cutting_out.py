"""From a part's base shape to its finished outline: everything that is taken out of it, exactly once.

The finished outline is a pure function of numbers, so it is remembered: an edit recomputes only the parts
whose numbers it changed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from shapely import LinearRing, STRtree, prepare
from shapely.ops import nearest_points

from ..geometry.arrangement import nested
from ..geometry.boolean import subtract
from ..geometry.chords import ring
from ..geometry.loop import Loop, Outline


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
def finish(base: Loop, removed: tuple[Outline, ...]) -> Finished:
    """``base`` less everything ``removed``."""
    pieces = tuple(subtract([Outline(base)], removed)) if removed else tuple(nested([base]))
    if not pieces:
        return Finished((), None, 0)
    web, at = _narrowest_web(pieces[0])
    return Finished(pieces, web, at)


def _narrowest_web(outline: Outline) -> tuple[float | None, complex]:
    """Coarse chords find the two loops that come closest, fine ones measure them."""
    if not outline.cutouts:
        return None, 0
    rings = [LinearRing(ring(loop, 0.01)) for loop in outline.loops]
    pairs = [(0, hole) for hole in range(1, len(rings))]
    if len(rings) > 2:
        near = STRtree(rings[1:]).query_nearest(rings[1:], exclusive=True, all_matches=False)
        pairs += [(int(a) + 1, int(b) + 1) for a, b in near.T]
    prepare(rings[0])
    closest = min(pairs, key=lambda pair: float(rings[pair[0]].distance(rings[pair[1]])))
    first, second = (LinearRing(ring(outline.loops[index], 1e-5)) for index in closest)
    a, b = nearest_points(first, second)
    return float(a.distance(b)), complex((a.x + b.x) / 2, (a.y + b.y) / 2)
