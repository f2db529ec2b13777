"""The rates of a workshop: what a unit of each thing that a project takes is worth. None is built in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..document.model import PRINTABLE, Model
from ..said import Said

#: What has a rate. Stocks, machines and cutters have one each, by their names; of the others there is one.
Driver = Literal["stock", "machine", "cutter", "bend", "piece", "hand"]

#: What a rate is for one of.
UNITS: dict[Driver, str] = {
    "stock": "m²",
    "machine": "h",
    "cutter": "m",
    "bend": "bend",
    "piece": "piece",
    "hand": "h",
}

#: Of these each has a rate of its own.
NAMED: tuple[Driver, ...] = ("stock", "machine", "cutter")

Worth = Annotated[float, Field(ge=0, le=1_000_000)]
Minutes = Annotated[float, Field(ge=0, le=10_000)]

#: So many rates are kept.
MOST = 500


class CannotRate(Said):
    """A rate that cannot be kept."""


class Rate(Model):
    """What one unit (`UNITS`) of a driver is ``worth`` in the workshop's money; ``name`` is of which thing, if any."""

    driver: Driver
    name: Annotated[str, Field(max_length=80), PRINTABLE] = ""
    worth: Worth


class HandWork(Model):
    """Minutes of work by hand: ``once`` for a project, for each ``sheet``, and for each ``piece``."""

    once: Minutes = 0.0
    sheet: Minutes = 0.0
    piece: Minutes = 0.0


class Rates(Model):
    """All rates, and what the ``money`` is called that they are in."""

    money: Annotated[str, Field(max_length=12), PRINTABLE] = ""
    rates: list[Rate] = Field(default=[], max_length=MOST)
    hand_work: HandWork = HandWork()

    def worth(self, driver: Driver, name: str = "") -> float | None:
        """What one is worth; None where nobody has said so."""
        return next((rate.worth for rate in self.rates if (rate.driver, rate.name) == (driver, name)), None)

    def with_rate(self, driver: Driver, name: str, worth: float | None) -> Rates:
        """The rates with one set anew, or taken away by None. Raises `CannotRate` where too many are kept, or
        it does not say of which stock, machine or cutter.
        """
        if (driver in NAMED) != bool(name):
            which = f"a {driver}, and which one has to be said" if driver in NAMED else f"each {driver} alike"
            raise CannotRate(f"That rate is for {which}.")
        others = [rate for rate in self.rates if (rate.driver, rate.name) != (driver, name)]
        if worth is None:
            return self.model_copy(update={"rates": others})
        if len(others) >= MOST:
            raise CannotRate(f"{MOST} rates are kept at most; take away some that are not used any more.")
        return self.model_copy(update={"rates": [*others, Rate(driver=driver, name=name, worth=worth)]})
