"""Shapes on a part that are made of nothing but their own sizes. A new one is a file beside this one, and its line."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .annulus import Annulus
from .arc_slot import ArcSlot
from .brought import Brought
from .curve import Curve
from .ellipse import Ellipse
from .obround import Obround
from .points import Points
from .polygon import RegularPolygon
from .rectangle import RectangularHole
from .round_hole import RoundHole
from .sector import Sector
from .text import TextHole

Simple = Annotated[
    RoundHole
    | RectangularHole
    | Obround
    | RegularPolygon
    | Ellipse
    | Annulus
    | Sector
    | ArcSlot
    | Points
    | Curve
    | TextHole
    | Brought,
    Field(discriminator="kind"),
]
