"""What a bend takes of the flat sheet: allowance, setbacks and deduction; and K from a strip that was bent.

Lengths in mm, angles in degrees turned from flat, ``radius`` of the inside, ``k`` the share of the thickness at which
the neutral line lies from there.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..document.bend import KAt, Measured
from ..said import Said

#: No bend is turned further than this: a sheet folded onto itself is a hem, which is another tool's work.
MOST_TURNED = 170.0


class NoSuchBend(Said):
    """Numbers of a bend that cannot be; the message is the end of a sentence to show."""


@dataclass(frozen=True, slots=True)
class Allowance:
    """A bend in numbers.

    >>> bend = Allowance(angle=90, radius=2, k=0.4, thickness=2)
    >>> round(bend.length, 3), round(bend.setback(), 3), round(bend.deduction, 3)
    (4.398, 4.0, 3.602)
    """

    angle: float
    radius: float
    k: float
    thickness: float

    @property
    def length(self) -> float:
        """``BA = pi/180 * A * (R + K*t)``: the length of the neutral line in the bend."""
        return math.radians(self.angle) * (self.radius + self.k * self.thickness)

    def setback(self, measured: Measured = "outside") -> float:
        """From where a leg's length ends to where the bend begins.

        Up to 90 that is the corner of its faces, ``(R + t) * tan(A/2)`` outside and ``R * tan(A/2)`` inside; beyond it
        calipers meet the round of the bend itself, ``R + t`` and ``R``. On the flat it is half the allowance.
        """
        if measured == "flat":
            return self.length / 2
        reach = self.radius + (self.thickness if measured == "outside" else 0.0)
        return reach * math.tan(math.radians(min(self.angle, 90.0)) / 2)

    @property
    def deduction(self) -> float:
        """``BD = 2*OSSB - BA``: how much shorter the flat sheet is than both legs measured outside."""
        return 2 * self.setback() - self.length


def k_from_deduction(deduction: float, angle: float, radius: float, thickness: float) -> float:
    """The K that gives a bend deduction. Raises `NoSuchBend` where none between 0 and 1 does."""
    if not 0 < angle <= MOST_TURNED:
        raise NoSuchBend(f"an angle of {angle:g}° tells nothing of K; bend the strip by 90°")
    neutral = (2 * Allowance(angle, radius, 0.5, thickness).setback() - deduction) / math.radians(angle)
    k = (neutral - radius) / thickness
    if not 0 < k < 1:
        raise NoSuchBend(
            f"a deduction of {deduction:.2f} mm puts the neutral line at {k:.2f} of the thickness, outside the sheet; "
            "measure it again"
        )
    return k


def k_from_strip(flat: float, legs: tuple[float, float], angle: float, radius: float, thickness: float) -> float:
    """The K of a strip that was ``flat`` long and has two outside ``legs`` now. Raises `NoSuchBend`.

    >>> round(k_from_strip(100, legs=(53, 51), angle=90, radius=2, thickness=2), 3)
    0.273
    """
    return k_from_deduction(sum(legs) - flat, angle, radius, thickness)


def k_from_table(rows: Sequence[KAt], ratio: float) -> float:
    """K for a radius of ``ratio`` thicknesses: in proportion between the rows, the outermost beyond them."""
    ordered = sorted(rows, key=lambda row: row.ratio)
    below = [row for row in ordered if row.ratio <= ratio]
    above = [row for row in ordered if row.ratio > ratio]
    if not below or not above:
        return (below[-1] if below else above[0]).k
    low, high = below[-1], above[0]
    return low.k + (high.k - low.k) * (ratio - low.ratio) / (high.ratio - low.ratio)
