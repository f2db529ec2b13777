"""Every kind of repeat. A new one is a file beside this one, and its line here."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .along_edge import AlongEdge
from .grid import Grid
from .round_a_point import RoundAPoint

Repeat = Annotated[Grid | RoundAPoint | AlongEdge, Field(discriminator="kind")]
