"""What is known of a cutter: its diameter from caliper readings, and how much it takes with a tooth."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..document.cutter import Cutter, Tip
from ..document.sizes import Size, length, number, positive
from ..document.stock import Material
from ..document.sums import SizeError
from ..said import Said

#: Chip load (mm a tooth) from where to where, as a share of the cutter's diameter: common practice, no source.
USUAL: Mapping[Material, tuple[float, float]] = {
    "plywood": (0.015, 0.03),
    "solid wood": (0.015, 0.03),
    "MDF": (0.02, 0.04),
    "acrylic": (0.012, 0.024),
    "card": (0.015, 0.03),
    "aluminium": (0.004, 0.01),
    "fabric": (0.015, 0.03),
    "PVC": (0.015, 0.03),
    "polycarbonate": (0.012, 0.024),
    "ABS": (0.015, 0.03),
    "foam": (0.02, 0.05),
    "other": (0.01, 0.02),
}
#: Revolutions a minute to start with: common practice, no source.
TURNS: Mapping[Material, float] = {
    "aluminium": 12_000,
    **dict.fromkeys(("acrylic", "card", "fabric", "PVC", "ABS"), 14_000.0),
}
USUAL_TURNS = 16_000.0
#: How deep one pass goes to start with, in diameters: common practice, no source.
DEEP: Mapping[Material, float] = {"aluminium": 0.15, "acrylic": 0.5, "polycarbonate": 0.5, "ABS": 0.5, "other": 0.5}
#: Below this chip load (mm a tooth) a cutter rubs more than it cuts: common practice, no source.
RUBS = 0.01


class NoCutter(Said):
    """A cutter that is not there or cannot be read; the message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class CutterFacts:
    """A cutter in numbers (mm, degrees). ``angle`` is the whole angle of a V.

    ``diameter`` is what it cuts, ``shank`` what calipers read of it: the same, but where its cuts were measured.
    """

    id: str
    name: str
    tip: Tip
    diameter: float
    angle: float
    flutes: int
    cutting_length: float
    plunges: bool
    top_rpm: float
    shank: float

    @property
    def radius(self) -> float:
        return self.diameter / 2

    def width_at(self, depth: float) -> float:
        """How wide (mm) it cuts at the surface when its tip is so deep."""
        if depth <= 0:
            return 0.0
        if self.tip == "V":
            return min(self.diameter, 2 * depth * math.tan(math.radians(self.angle / 2)))
        if self.tip == "ball" and depth < self.radius:
            return 2 * math.sqrt(self.radius**2 - (self.radius - depth) ** 2)
        return self.diameter


def cutter_facts(cutter: Cutter) -> CutterFacts:
    """The cutter in numbers. Raises `NoCutter`."""

    def read(what: str, size: Size) -> float:
        try:
            return positive(size, {})
        except SizeError as error:
            raise NoCutter(f"{cutter.name}, {what}: {error}.") from error

    readings = [read("a reading", reading) for reading in cutter.readings] or [read("diameter", cutter.diameter)]
    try:
        angle = number(cutter.angle)
    except SizeError as error:
        raise NoCutter(f"{cutter.name}, angle: {error}.") from error
    if cutter.tip == "V" and not 5 <= angle <= 170:
        raise NoCutter(f"{cutter.name} has an angle of {angle:g} degrees; that of a V lies between 5 and 170.")
    across = sum(readings) / len(readings)
    return CutterFacts(
        cutter.id,
        cutter.name,
        cutter.tip,
        across,
        angle,
        cutter.flutes,
        read("cutting length", cutter.cutting_length),
        cutter.plunges,
        cutter.top_rpm,
        across,
    )


def chip_load(cutter: Cutter, facts: CutterFacts, material: Material, depth: float = 0.0) -> tuple[float, float]:
    """From where to where (mm a tooth) it works well in a material: its own values, or those to start with.

    A V or a ball that is ``depth`` mm deep is as wide as it cuts there, not as its shank; 0 is all of it.
    """
    own = next((load for load in cutter.chip_loads if load.material == material), None)
    if own:
        return own.least, own.most
    least, most = USUAL[material]
    width = facts.width_at(depth) if depth > 0 else facts.diameter
    return least * width, most * width


def feed(turns: float, flutes: int, chip: float) -> float:
    """The feed (mm/s) at which each tooth takes ``chip`` mm: v_f = rpm * flutes * chip load.

    >>> feed(turns=18_000, flutes=2, chip=0.1)
    60.0
    """
    return turns * flutes * chip / 60


def chip_of(speed: float, turns: float, flutes: int) -> float:
    """What each tooth takes (mm) at a feed in mm/s."""
    return speed * 60 / (turns * flutes) if turns > 0 else math.inf


def cutting_speed(diameter: float, turns: float) -> float:
    """How fast (m/min) the edge goes round: v_c = pi * d * rpm / 1000.

    >>> round(cutting_speed(diameter=6, turns=16_000), 1)
    301.6
    """
    return math.pi * diameter * turns / 1000


def length_of(what: str, size: Size) -> float:
    """A length of how a router cuts, in mm, from 0 on. Raises `NoCutter`."""
    try:
        found = length(size, {})
    except SizeError as error:
        raise NoCutter(f"{what}: {error}.") from error
    if found < 0:
        raise NoCutter(f"{what}: “{size.text}” comes to {found:g} mm; it must be 0 or more.")
    return found
