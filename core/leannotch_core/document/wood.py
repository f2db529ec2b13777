"""Solid wood: what it is, how it was sawn, and how dry and damp it gets where its parts are used."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .model import Model

Species = Literal[
    "ash, white",
    "basswood",
    "beech",
    "birch, yellow",
    "cherry, black",
    "Douglas-fir",
    "fir, white",
    "maple, red",
    "maple, sugar",
    "oak, commercial red",
    "oak, commercial white",
    "pine, eastern white",
    "spruce, Sitka",
    "walnut, black",
    "yellow-poplar",
]

#: A flat-sawn board has its growth rings along its width, a quarter-sawn one through its thickness.
Sawn = Literal["flat", "quarter"]


class Wood(Model):
    """A wood of a ``species``, ``sawn`` in one way, and the relative humidities of the air (%) at which its parts are
    cut and, at the driest and the dampest, used; all at a ``temperature`` (degrees Celsius).
    """

    species: Species
    sawn: Sawn = "flat"
    cut_at: float = Field(default=50, ge=1, le=95)
    driest: float = Field(default=35, ge=1, le=95)
    dampest: float = Field(default=65, ge=1, le=95)
    temperature: float = Field(default=20, ge=-10, le=50)
