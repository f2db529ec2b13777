"""Every kind of shape that a part may have, or that may be cut out of it, added or sunk.

A new one is a file beside this one, and its line here, or in ``simple`` where it is made of its own sizes alone.
"""

from __future__ import annotations

from typing import Annotated, Any, get_args

from pydantic import Field

from .brought import Brought
from .combined import Combined
from .curve import Curve
from .ellipse import Ellipse
from .part_outline import PartOutline
from .picture import Picture
from .rectangle import Rectangle
from .shape import BaseHole, BaseOutline
from .simple import Simple
from .standard import Standard

Shape = Annotated[Rectangle | Ellipse | Curve | Brought, Field(discriminator="kind")]

Hole = Annotated[Simple | Combined | PartOutline | Standard | Picture, Field(discriminator="kind")]


def _by_name(union: Any) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for kind in get_args(get_args(union)[0]):
        found |= _by_name(kind) if get_args(kind) else {kind.model_fields["kind"].default: kind}
    return found


#: The kinds that a part may have, and those that may be on a part, by their name.
OUTLINES: dict[str, type[BaseOutline]] = _by_name(Shape)
HOLES: dict[str, type[BaseHole]] = _by_name(Hole)
