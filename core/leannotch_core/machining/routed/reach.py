"""Where a cutter reaches in the pockets of a part, and what it leaves."""

from __future__ import annotations

from collections.abc import Sequence

import shapely
from shapely.geometry.base import BaseGeometry

from ...geometry.boolean import union
from ...geometry.loop import Outline
from ...parts.pocket import Pocket
from ...remembered import remembered
from .pocket import left_over
from .rack import Rack

#: Pockets with those depths (mm) that they are cleared between: all that are at least so deep.
Band = tuple[tuple[Outline, ...], float, float]

#: Less than this (mm²) is left everywhere.
CRUMB = 0.05


def bands(pockets: Sequence[Pocket]) -> list[Band]:
    """Regions with the depths (mm) that each is cleared between: where pockets overlap the deeper one holds."""
    found, begun = [], 0.0
    for depth in sorted({pocket.depth for pocket in pockets}):
        region = union(*([pocket.outline] for pocket in pockets if pocket.depth >= depth))
        found.append((tuple(region), begun, depth))
        begun = depth
    return found


@remembered(most=256)
def uncut(pockets: tuple[Pocket, ...], radius: float) -> BaseGeometry:
    """What of a part's pockets no cutter of a radius (mm) reaches, in the part's frame."""
    return shapely.union_all([left_over(region, radius) for region, _, _ in bands(pockets)])


def has_rest(pockets: tuple[Pocket, ...], rack: Rack) -> bool:
    """Whether a smaller cutter clears something of a part's pockets that the first one does not reach."""
    if rack.rest is None or not pockets or rack.rest.radius >= rack.pockets.radius:
        return False
    return bool(uncut(pockets, rack.pockets.radius).area - uncut(pockets, rack.rest.radius).area > CRUMB)
