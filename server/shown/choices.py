"""How a maker takes a drawing apart, as it is sent and remembered."""

from __future__ import annotations

import math
from typing import Annotated

from leannotch_core.document.edit import CannotApply
from leannotch_core.document.sizes import Size, length, positive
from leannotch_core.drawings.following import Follow
from leannotch_core.drawings.mending.arcs import WITHIN
from leannotch_core.drawings.mending.dividing import Crossing
from leannotch_core.drawings.meshes.cut import AXES, MOST_CUTS, Axis, Cut
from leannotch_core.drawings.purposes import Purpose
from leannotch_core.drawings.way_in import Bringing, Unit
from leannotch_core.parts.shapes.text import Lettering
from ninja import Schema
from pydantic import Field


class DrawingPoint(Schema):
    """A point of the drawing as it is shown, in mm."""

    x: float = Field(ge=-1e6, le=1e6)
    y: float = Field(ge=-1e6, le=1e6)


class KnownLength(Schema):
    """A length of the drawing as it is shown at scale 1, in mm, and what it should measure."""

    shown: float = Field(gt=0)
    should: Size


Along = Annotated[float, Field(ge=-1e5, le=1e5)]


class CutThrough(Schema):
    """Cuts through a mesh: square to an axis or a picked face, at heights in mm; none is half way up."""

    axis: Axis = "z"
    face: Annotated[list[float], Field(min_length=3, max_length=3)] | None = None
    heights: list[Along] = Field(default=[], max_length=MOST_CUTS)

    def cut(self) -> Cut:
        """Raises `CannotApply` where a face looks nowhere."""
        way = tuple(self.face) if self.face else AXES[self.axis]
        if not all(map(math.isfinite, way)) or math.hypot(*way) < 1e-3:
            raise CannotApply("The picked face has no direction; pick another one.")
        return Cut((way[0], way[1], way[2]), tuple(self.heights))


class Choices(Schema):
    """How a drawing is taken apart; ``known`` is a length that scales it, ``cut`` a mesh's, which else is laid flat.

    Gaps that stay ``apart`` and outlines that stay ``polygons`` are told by a place of each; ``depths`` are those of
    rows that are pockets; ``stiff`` are places that do not follow the sheet.
    """

    cut: CutThrough | None = None
    unit: Unit | None = None
    known: KnownLength | None = None
    join: float = Field(default=0.01, ge=0.001, le=5)
    once: bool = True
    arcs: bool = True
    crossing: Crossing = "rooms"
    apart: list[DrawingPoint] = Field(default=[], max_length=400)
    polygons: list[DrawingPoint] = Field(default=[], max_length=400)
    purposes: dict[str, Purpose] = Field(default={}, max_length=300)
    depths: dict[str, Size] = Field(default={}, max_length=300)
    frame: bool | None = None
    mirrored: bool = False
    lettering: Lettering | None = None
    drawn_for: float | None = Field(default=None, gt=0, le=50)
    stiff: list[DrawingPoint] = Field(default=[], max_length=400)

    @property
    def follow(self) -> Follow | None:
        return Follow(self.drawn_for, _points(self.stiff)) if self.drawn_for else None


def bringing(choices: Choices) -> Bringing:
    """Raises `SizeError` where what was typed cannot be read."""
    known = choices.known
    return Bringing(
        unit=choices.unit,
        scale=length(known.should, {}) / known.shown if known else 1.0,
        join=choices.join,
        arcs=WITHIN if choices.arcs else 0.0,
        once=choices.once,
        crossing=choices.crossing,
        apart=_points(choices.apart),
        polygons=_points(choices.polygons),
        purposes=choices.purposes,
        depths={key: positive(depth, {}) for key, depth in choices.depths.items()},
        frame=choices.frame,
        mirrored=choices.mirrored,
        lettering=choices.lettering,
    )


def _points(spots: list[DrawingPoint]) -> tuple[complex, ...]:
    return tuple(complex(spot.x, spot.y) for spot in spots)
