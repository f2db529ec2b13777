"""The sizes of sheet that are at hand, and which of them to take."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from shapely import Polygon

from ..facts.stock import SheetFacts
from .bed import Item, SheetToFill
from .turns import Frame

#: So many choices of sheets are weighed at most.
_CHOICES = 400


@dataclass(frozen=True)
class SheetKind:
    """A size of sheet: mm, what one is worth, how many there are (None: as many as it takes), and its room in mm²."""

    number: int
    width: float
    height: float
    worth: float
    at_hand: int | None
    frame: Frame
    bars: tuple[Polygon, ...]
    room: float
    facts: SheetFacts

    def fewer(self, taken: int) -> SheetKind:
        """The same, with so many of those at hand taken already."""
        return self if self.at_hand is None else replace(self, at_hand=self.at_hand - taken)

    def ground(self) -> SheetToFill:
        return SheetToFill(self.width, self.height, self.worth, self.frame, self.bars, self.number)


def cheaper(
    kinds: Sequence[SheetKind], items: Sequence[Item], held: Sequence[SheetToFill], worth: float
) -> list[tuple[int, ...]]:
    """Choices of how many to take of each kind that are worth less, and have the room in mm² for all items."""
    need = sum(item.shape.area for item in items) - sum(ground.room for ground in held)

    # What room is to be had for a unit of worth from each kind on, so that nothing is counted in vain.
    rates = [kind.room / kind.worth if kind.worth > 0 else float("inf") for kind in kinds]
    most = [max(rates[at:]) for at in range(len(kinds))]

    def counted(at: int, left: float, room: float) -> Iterator[tuple[int, ...]]:
        if at == len(kinds):
            if room >= need - 1e-6:
                yield ()
            return
        if room + left * most[at] < need:
            return
        kind, count = kinds[at], 0
        while count <= (500 if kind.at_hand is None else kind.at_hand) and count * kind.worth < left - 1e-9:
            for rest in counted(at + 1, left - count * kind.worth, room + count * kind.room):
                yield (count, *rest)
            if kind.worth <= 0 and room + count * kind.room >= need:
                break
            count += 1

    found = []
    for choice in counted(0, worth, 0.0):
        found.append(choice)
        if len(found) >= _CHOICES:
            break
    return found
