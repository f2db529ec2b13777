"""A step of the assembly as a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..evaluate import Result
from .order import AssemblyStep, Direction
from .poses import Copy

#: A move comes from a side if so much of it does.
_SHARE = 0.3
#: More parts than this are not named one by one where something is put onto them.
_NAMED = 3


def step_words(result: Result, step: AssemblyStep) -> str:
    """What goes onto what, and from where."""
    onto = "what stands already" if len(step.standing) > _NAMED else _named(result, step.standing)
    return f"{_named(result, step.moving)} onto {onto}, from {coming_from(step.direction)}"


def coming_from(direction: Direction) -> str:
    """Where a move along a direction in space (x to the right, y to the back, z up) comes from, in words."""
    x, y, z = direction
    ways = [(x, "the left"), (-x, "the right"), (y, "the front"), (-y, "the back"), (z, "below"), (-z, "above")]
    most_first = sorted(ways, key=lambda way: -way[0])
    return " and ".join(name for share, name in most_first if share > _SHARE)


def copy_called(result: Result, copy: Copy) -> str:
    """A copy by its part's name, with its number where there are several."""
    part = result.parts[copy.part].part
    return f"{part.name} {copy.number}" if part.count > 1 else part.name


def _named(result: Result, copies: Sequence[Copy]) -> str:
    return ", ".join(copy_called(result, copy) for copy in copies)
