"""From a part's base shape to its finished outline: everything that is taken out of it, exactly once.

The finished outline is a pure function of numbers, so it is remembered: an edit recomputes only the parts
whose numbers it changed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from ..geometry.arrangement import nested
from ..geometry.boolean import subtract
from ..geometry.chords import as_polygon
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
    from shapely import STRtree, prepare
    from shapely.ops import nearest_points

    if not outline.cutouts:
        return None, 0
    polygon = as_polygon(outline, 0.01)
    holes = list(polygon.interiors)
    prepare(polygon.exterior)
    distances = [(polygon.exterior.distance(hole), hole, polygon.exterior) for hole in holes]
    if len(holes) > 1:
        tree = STRtree(holes)
        for hole in holes:
            index = tree.query_nearest(hole, exclusive=True, all_matches=False)
            if len(index):
                distances.append((hole.distance(holes[index[0]]), hole, holes[index[0]]))
    web, first, second = min(distances, key=lambda found: float(found[0]))
    a, b = nearest_points(first, second)
    return float(web), complex((a.x + b.x) / 2, (a.y + b.y) / 2)
