"""How solid wood shrinks and swells across its grain with the humidity of the air.

Coefficients, equilibrium and the formula of the change are those of the Wood Handbook (Forest Products Laboratory,
FPL-GTR-190, 2010: chapter 4, equation 4-5; chapter 13, table 13-5), all from memory.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..document.wood import Species, Wood
from ..geometry.segment import Point, dot

#: Change in size for each percent of moisture, radially and along the growth rings.
COEFFICIENTS: Mapping[Species, tuple[float, float]] = {
    "ash, white": (0.00169, 0.00274),
    "basswood": (0.00230, 0.00330),
    "beech": (0.00190, 0.00431),
    "birch, yellow": (0.00256, 0.00338),
    "cherry, black": (0.00126, 0.00248),
    "Douglas-fir": (0.00165, 0.00267),
    "fir, white": (0.00112, 0.00245),
    "maple, red": (0.00137, 0.00289),
    "maple, sugar": (0.00165, 0.00353),
    "oak, commercial red": (0.00158, 0.00369),
    "oak, commercial white": (0.00180, 0.00365),
    "pine, eastern white": (0.00071, 0.00212),
    "spruce, Sitka": (0.00148, 0.00263),
    "walnut, black": (0.00190, 0.00274),
    "yellow-poplar": (0.00158, 0.00289),
}

#: Between these percents of moisture the coefficients hold.
HOLDS = (6.0, 14.0)


@dataclass(frozen=True, slots=True)
class Swelling:
    """By which share wood is larger than it was cut, ``across`` its grain in the plane of the board and ``through`` it,
    in air of a relative ``humidity`` (%), where it takes on so many percent of ``moisture``.
    """

    humidity: float
    moisture: float
    across: float
    through: float

    def along(self, way: Point, across: Point) -> float:
        """By which share it is longer along a direction of its plane; ``across`` its grain is another (both of length
        1). Along the grain wood keeps its length.
        """
        return self.across * dot(way, across) ** 2


@dataclass(frozen=True, slots=True)
class WoodFacts:
    """A wood in the air that it was cut in (percent of moisture), and how it swells in the driest and the dampest."""

    moisture: float
    driest: Swelling
    dampest: Swelling

    @property
    def beyond(self) -> bool:
        """Whether it gets drier or damper than its coefficients hold for."""
        moist = (self.moisture, self.driest.moisture, self.dampest.moisture)
        return min(moist) < HOLDS[0] or max(moist) > HOLDS[1]


def equilibrium(humidity: float, temperature: float) -> float:
    """Percent of moisture that wood takes on in air of a relative humidity (%) and a temperature (degrees Celsius).

    >>> round(equilibrium(50, 21.1), 1)
    9.2
    """
    t, h = temperature, humidity / 100
    weight = 349 + 1.29 * t + 0.0135 * t**2
    k = 0.805 + 0.000736 * t - 0.00000273 * t**2
    k1 = 6.27 - 0.00938 * t - 0.000303 * t**2
    k2 = 1.91 + 0.0407 * t - 0.000293 * t**2
    bound = (k1 * k * h + 2 * k1 * k2 * (k * h) ** 2) / (1 + k1 * k * h + k1 * k2 * (k * h) ** 2)
    return 1800 / weight * (k * h / (1 - k * h) + bound)


def swelling(wood: Wood, humidity: float) -> Swelling:
    """How it swells from the air that it was cut in to another: ``C (M - M_cut)`` of its size."""
    radial, tangential = COEFFICIENTS[wood.species]
    across, through = (tangential, radial) if wood.sawn == "flat" else (radial, tangential)
    moisture = equilibrium(humidity, wood.temperature)
    by = moisture - equilibrium(wood.cut_at, wood.temperature)
    return Swelling(humidity, moisture, across * by, through * by)


def wood_facts(wood: Wood) -> WoodFacts:
    """A wood in numbers; of the two airs that it is used in the drier one is the driest."""
    dry, damp = sorted((wood.driest, wood.dampest))
    return WoodFacts(equilibrium(wood.cut_at, wood.temperature), swelling(wood, dry), swelling(wood, damp))
