"""The usual mistakes of size, named where the lengths of a drawing show them.

The rule: makers draw in round numbers, half millimetres or sixteenths of an inch. Where hardly any straight line is
round as it was read, and nearly all would be by one of the factors that units are mixed up by, that is what happened.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ..document.units import INCH
from ..geometry.segment import Line, Segment

#: By what drawings arrive wrong, and what happened then. 96 px and 72 pt are an inch (CSS Values and Units 3, 5.2).
FACTORS: tuple[tuple[float, str], ...] = (
    (96 / INCH, "its numbers were taken for px at 96 to the inch: 100 px are 26.458 mm"),
    (72 / INCH, "its numbers were taken for points at 72 to the inch: 100 pt are 35.278 mm"),
    (INCH, "it was drawn in inches and taken for mm"),
    (1 / INCH, "it was drawn in mm and taken for inches"),
    (96 / 72, "it was drawn at 72 to the inch and read at 96"),
    (72 / 96, "it was drawn at 96 to the inch and read at 72"),
)

#: Of the lengths of a drawing that is right, more than the first share is round; of one that is wrong, less than the
#: second.
_RIGHT, _WRONG = 0.8, 0.4

#: Lengths (mm) that say something, and how near to a round number (mm) they come.
_LEAST, _NEAR = 2.0, 0.006


@dataclass(frozen=True, slots=True)
class Mistake:
    """A line ``shown`` at a length that was hardly meant, how long it ``should`` be (mm), and what happened."""

    shown: float
    should: float
    what: str


def mistake_in(segments: Iterable[Segment], scale: float) -> Mistake | None:
    """The mistake of size that the straight lines of a drawing show at a scale; None where they show none."""
    lengths = sorted({round(s.length * scale, 4) for s in segments if isinstance(s, Line)}, reverse=True)
    telling = [length for length in lengths if length >= _LEAST][:400]
    if len(telling) < 2 or _round_share(telling) > _WRONG:
        return None
    for factor, what in FACTORS:
        if _round_share([length * factor for length in telling]) > _RIGHT:
            return Mistake(telling[0], telling[0] * factor, what)
    return None


def _round_share(lengths: list[float]) -> float:
    return max(sum(_near(length, step) for length in lengths) for step in (0.5, INCH / 16)) / len(lengths)


def _near(length: float, step: float) -> bool:
    return abs(length - round(length / step) * step) < _NEAR
