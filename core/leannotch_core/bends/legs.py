"""The legs of a bent part: how long each is, from bend to bend or to an edge, and which of them is typed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from ..document.bend import Bend, Measured
from ..geometry.segment import dot
from .folded import Folded
from .laid import LaidBend
from .near import reached


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


def typed_leg(legs: Iterable[Leg], typed: Bend) -> Leg | None:
    """The leg whose length is what was typed of a bend; none of a line that is turned, or measured from what is no
    end of a leg.
    """
    own = [leg for leg in legs if leg.bend.id == typed.id]
    if typed.kind == "flange":
        return next((leg for leg in own if leg.onward), None)
    return next((leg for leg in own if not leg.onward and _square(leg) and _from(leg) == typed.of), None)


def _from(leg: Leg) -> str:
    return leg.beyond.id if leg.beyond else ""


def _square(leg: Leg) -> bool:
    """Whether a leg runs along a side of the part."""
    out = leg.bend.onward
    return min(abs(out.real), abs(out.imag)) < 1e-9


def _both(folded: Folded, number: int) -> Iterator[Leg]:
    hinge = folded.faces.hinges[number]
    bend = hinge.bend
    for onward, face in ((False, hinge.near), (True, hinge.far)):
        out = bend.onward if onward else -bend.onward
        begins = dot(out, bend.middle) + bend.half
        reach = max(dot(out, point) for point in reached(folded.faces.flat[face].outer, out))
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
