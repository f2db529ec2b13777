"""Every kind of shape that a part may have, or that may be cut out of it, added or sunk.

A new one is a file beside this one, and its line here.
"""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from .brought import Brought
from .curve import Curve
from .ellipse import Ellipse
from .obround import Obround
from .rectangle import Rectangle, RectangularHole
from .round_hole import RoundHole
from .shape import BaseHole, BaseOutline
from .text import TextHole

Shape = Annotated[Rectangle | Ellipse | Curve | Brought, Field(discriminator="kind")]

Hole = Annotated[
    RoundHole | RectangularHole | Obround | Ellipse | Curve | TextHole | Brought, Field(discriminator="kind")
]

#: The kinds that a part may have, and those that may be on a part, by their name.
OUTLINES: dict[str, type[BaseOutline]] = {k.model_fields["kind"].default: k for k in get_args(get_args(Shape)[0])}
HOLES: dict[str, type[BaseHole]] = {k.model_fields["kind"].default: k for k in get_args(get_args(Hole)[0])}
