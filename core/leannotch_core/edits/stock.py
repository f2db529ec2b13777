"""Edits of stocks."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..coupons.learning import with_results
from ..document.edit import CannotApply, Changes, Edit
from ..document.model import Day, Id
from ..document.stock import Felt, Kerf, Stock
from ..project.project import Project
from .items import known, put, without


class PutStock(Edit):
    """Adds a stock, or replaces the one with its id."""

    do: Literal["put stock"]
    stock: Stock

    def label(self, project: Project) -> str:
        return f"{self.stock.name} {known(project.stocks, self.stock.id)}"

    def changes(self, project: Project) -> Changes:
        return {"stocks": put(project.stocks, self.stock)}


class BeginStock(Edit):
    """Adds a stock, to be measured."""

    do: Literal["begin stock"]
    id: Id

    def label(self, project: Project) -> str:
        return "Stock added"

    def changes(self, project: Project) -> Changes:
        return {"stocks": put(project.stocks, Stock.begun(self.id, f"Stock {len(project.stocks) + 1}"))}


class RecordCoupon(Edit):
    """Takes over what a coupon cut on the machine in use showed: a kerf measured on it, along y too where it was read
    so, and how its pairs felt.
    """

    do: Literal["record coupon"]
    stock: Id
    date: Day
    kerf: Kerf | None = None
    up: Kerf | None = None
    felt: list[Felt] = Field(default=[], max_length=40)

    def label(self, project: Project) -> str:
        return f"Coupon of {self.date}"

    def changes(self, project: Project) -> Changes:
        stock = project.stock(self.stock)
        if stock is None:
            raise CannotApply(f"“{self.stock}” is not in the project any more.")
        kerf = {"kerf": self.kerf, "up": self.up} if self.kerf else {}
        measured = with_results(stock, self.date, project.machine, self.felt, **kerf)
        return {"stocks": put(project.stocks, measured)}

    def stock_to_keep(self, after: Project) -> Stock | None:
        """What a machine does to a stock is worth knowing everywhere."""
        return after.stock(self.stock)


class RemoveStock(Edit):
    do: Literal["remove stock"]
    id: Id

    def label(self, project: Project) -> str:
        stock = project.stock(self.id)
        return f"{stock.name if stock else self.id} removed"

    def changes(self, project: Project) -> Changes:
        users = [part.name for part in project.parts if part.stock == self.id]
        if users:
            raise CannotApply(f"{', '.join(users[:3])} still use this stock; give them another one first.")
        return {"stocks": without(project.stocks, self.id)}
