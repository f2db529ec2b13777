"""What a cutting service cuts: stocks by thickness, finishes, prices and days; data, in ``catalogue.json``."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from pydantic import Field

from ..document.bend import KAt
from ..document.model import Id, Model, Name
from ..document.stock import Material

#: All amounts of money are in this unit.
MONEY = "mk"


class Bends(Model):
    """How a thickness is bent: the inside radius of the tool (mm), K by radius over thickness, and the die.

    ``least_flange`` (mm) is the shortest outside leg, ``longest`` the longest bend that fits the press.
    """

    radius: float = Field(gt=0)
    k: list[KAt] = Field(min_length=1)
    die: float = Field(gt=0)
    least_flange: float = Field(gt=0)
    longest: float = Field(gt=0)


class OfferedThickness(Model):
    """A thickness (mm, as it measures) of a stock, what of it can be cut, and what that costs.

    Prices are for a square metre of sheet, a metre of cut, each pierce and each bend.
    """

    thickness: float = Field(gt=0)
    kerf: float = Field(gt=0)
    width: float = Field(gt=0)
    height: float = Field(gt=0)
    smallest_hole: float = Field(gt=0)
    smallest_web: float = Field(gt=0)
    bends: Bends | None = None
    square_metre: float
    metre: float
    pierce: float
    bend: float = 0
    days: int = Field(ge=0)


class StockOffered(Model):
    id: Id
    name: Name
    material: Material
    finishes: list[Id]
    offers: list[OfferedThickness]


class Finish(Model):
    """``each`` is for a part, ``square_metre`` for its area, ``hole`` for each round hole of it."""

    id: Id
    name: Name
    each: float = 0
    square_metre: float = 0
    hole: float = 0
    days: int = 0


class Break(Model):
    """From ``sets`` on all but setting up is cheaper by ``off`` (a share)."""

    sets: int
    off: float = Field(ge=0, lt=1)


class Catalogue(Model):
    name: Name
    says: str
    setting_up: float
    stocks: list[StockOffered]
    finishes: list[Finish]
    breaks: list[Break]

    def stock(self, stock_id: str) -> StockOffered | None:
        return next((stock for stock in self.stocks if stock.id == stock_id), None)

    def offer(self, stock_id: str, thickness: float) -> OfferedThickness | None:
        """What is offered of a stock in a thickness (mm); None where there is no such thing."""
        stock = self.stock(stock_id)
        offers = stock.offers if stock else []
        return next((offer for offer in offers if abs(offer.thickness - thickness) < 1e-6), None)


@lru_cache(maxsize=1)
def catalogue() -> Catalogue:
    """The catalogue that ships: all of it is invented."""
    return Catalogue.model_validate_json(Path(__file__).with_name("catalogue.json").read_bytes())
