"""What is told of a standard thing."""

from __future__ import annotations

from dataclasses import dataclass

from ...geometry.loop import Outline


@dataclass(frozen=True, slots=True)
class StandardThing:
    """A thing as it is seen from one side, about its middle (mm).

    ``source`` names the standard that its sizes are published in, ``says`` those that are not seen in the drawing.
    ``outlines`` have as their openings the holes that may be taken over.
    """

    name: str
    group: str
    source: str
    says: str
    outlines: tuple[Outline, ...]
