"""Cutters of a router: what is in the rack, as measured."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .model import PRINTABLE, Id, Model, Name
from .sizes import Angle, Size
from .stock import Material

#: An end mill by which way its flutes carry the chips (both ways: compression), or what its tip is.
Tip = Literal["upcut", "downcut", "compression", "ball", "V"]


class ChipLoad(Model):
    """From where to where (mm a tooth) a cutter works well in a material."""

    material: Material
    least: float = Field(gt=0, le=2)
    most: float = Field(gt=0, le=2)

    @model_validator(mode="after")
    def _range(self) -> ChipLoad:
        if self.least >= self.most:
            raise ValueError(f"its chip load runs from {self.least:g} to {self.most:g} mm; the end must be larger")
        return self


class Cutter(Model):
    """A cutter. ``readings`` are of its diameter, which was sold as ``diameter``; that of a V is where it is widest.

    ``angle`` is the whole angle of a V. One that does not ``plunge`` has no edges at its middle and never goes
    straight down. Materials without a chip load of their own have a starting value.
    """

    id: Id
    name: Name
    tip: Tip = "upcut"
    diameter: Size = Size(text="6")
    readings: list[Size] = Field(default=[], max_length=20)
    angle: Angle = Angle(text="60")
    flutes: int = Field(default=2, ge=1, le=12)
    cutting_length: Size = Size(text="22")
    plunges: bool = True
    top_rpm: float = Field(default=24_000, gt=0, le=100_000)
    chip_loads: list[ChipLoad] = Field(default=[], max_length=8)
    note: Annotated[str, Field(max_length=200), PRINTABLE] = ""

    @model_validator(mode="after")
    def _told_apart(self) -> Cutter:
        materials = [load.material for load in self.chip_loads]
        if len(set(materials)) < len(materials):
            raise ValueError("it has two chip loads for one material; keep one of them")
        return self
