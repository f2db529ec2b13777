"""All standard things, by their names. A new group is a file beside this one, and its line here."""

from __future__ import annotations

from .cells import cells
from .fasteners import fasteners
from .others import others
from .thing import StandardThing

LIBRARY: dict[str, StandardThing] = {thing.name: thing for thing in (*fasteners(), *cells(), *others())}
