"""Settings: how a machine works a stock, by operation."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .model import PRINTABLE, Id, Model
from .operations import Work


class CutAt(Model):
    """What a beam was set to when it cut: speed in mm/s, power in percent, and how often it went round."""

    speed: float = Field(gt=0, le=5_000)
    power: float = Field(ge=0, le=100_000)
    passes: int = Field(default=1, ge=1, le=100)

    @property
    def dose(self) -> float:
        """How much of the beam a millimetre of the cut gets, in percent of it for so many seconds."""
        return self.power * self.passes / self.speed

    def __str__(self) -> str:
        times = f", {self.passes} times" if self.passes > 1 else ""
        return f"{self.speed:g} mm/s, {self.power:g} %{times}"


class Setting(Model):
    """Speed in mm/s, power in percent of a beam's or in revolutions of a spindle a minute, and how often.

    ``gap`` (mm) is that between the lines of a filled engraving. With a router it is one for a ``cutter``, which goes
    ``stepdown`` mm deeper in each pass, straight down at a speed of ``plunge`` and down a slope at one of ``ramp``
    (mm/s); where they are 0 they are starting values. ``tried`` is the day on which it was tried; without
    one it is a starting value.
    """

    operation: Work
    speed: float = Field(gt=0, le=5_000)
    power: float = Field(ge=0, le=100_000)
    passes: int = Field(default=1, ge=1, le=100)
    cutter: Literal[""] | Id = ""
    stepdown: float = Field(default=0, ge=0, le=200)
    plunge: float = Field(default=0, ge=0, le=5_000)
    ramp: float = Field(default=0, ge=0, le=5_000)
    gap: float = Field(default=0.1, ge=0.02, le=10)
    note: Annotated[str, Field(max_length=200), PRINTABLE] = ""
    tried: Annotated[str, Field(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""

    @property
    def at(self) -> CutAt:
        return CutAt(speed=self.speed, power=self.power, passes=self.passes)
