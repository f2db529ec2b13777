"""The legs of a bent part: how long each is outside, from bend to bend or from a bend to an edge."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..document.bend import Measured
from ..geometry.loop import Outline
from ..geometry.segment import Arc, dot
from .folded import Folded
from .laid import LaidBend


@dataclass(frozen=True, slots=True)
class Leg:
    """What stands on one side of a bend: ``straight`` mm of flat face, to the next bend or to an edge.

    ``onward`` tells on which side of the bend it stands; ``beyond`` is the next bend across it, none at an edge.
    """

    bend: LaidBend
    onward: bool
    face: int
    straight: float
    beyond: LaidBend | None

    @property
    def at_edge(self) -> bool:
        return self.beyond is None

    @property
    def outside(self) -> float:
        """Its outside length (mm), as calipers find it."""
        return self.typed("outside")

    def typed(self, measured: Measured) -> float:
        """Its length (mm) as it would be typed; that of a flange ends at the bend, whatever hangs on it."""
        far = self.beyond.bend.setback(measured) if self.beyond else 0.0
        return self.straight + self.bend.bend.setback(measured) + far


def legs_of(folded: Folded) -> list[Leg]:
    """All legs, each bend's own two in turn."""
    return [leg for number in range(len(folded.faces.hinges)) for leg in _both(folded, number)]


def _both(folded: Folded, number: int) -> Iterator[Leg]:
    hinge = folded.faces.hinges[number]
    bend = hinge.bend
    for onward, face in ((False, hinge.near), (True, hinge.far)):
        out = bend.onward if onward else -bend.onward
        begins = dot(out, bend.middle) + bend.half
        reach = max(dot(out, point) for point in _reached(folded.faces.flat[face], out))
        beyond = next(
            (
                other.bend
                for at, other in enumerate(folded.faces.hinges)
                if at != number and face in (other.near, other.far) and _across(other.bend, out, reach)
            ),
            None,
        )
        yield Leg(bend, onward, face, reach - begins, beyond)


def _across(bend: LaidBend, out: complex, reach: float) -> bool:
    """Whether a bend lies square across a way, where what reaches so far ends."""
    return abs(abs(dot(bend.onward, out)) - 1) < 1e-9 and abs(dot(out, bend.middle) - bend.half - reach) < 1e-6


def _reached(face: Outline, out: complex) -> Iterator[complex]:
    for segment in face.outer:
        yield segment.start
        if isinstance(segment, Arc):
            far = segment.centre + out * segment.radius
            if 0 <= segment.share_of(far) <= 1:
                yield far
