"""What a project costs, and the workshop's rates that it is worked out by."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from leannotch_core.costs.cost import Cost
from leannotch_core.costs.rates import Driver, HandWork, Rates, Worth
from leannotch_core.costs.table import write_costs
from leannotch_core.document.model import PRINTABLE
from ninja import Router, Schema
from pydantic import Field
from shown.project import Trouble

from workshop.api.answers import download, found
from workshop.costs import cost_at, taken_by
from workshop.rates import change, rates
from workshop.revisions import current_id, document_of

router = Router()


class NewRate(Schema):
    """What one of a driver's unit is worth from now on; nothing where ``worth`` is None."""

    driver: Driver
    name: Annotated[str, Field(max_length=80), PRINTABLE] = ""
    worth: Worth | None


class Money(Schema):
    money: Annotated[str, Field(max_length=12), PRINTABLE]


@router.get("/rates", response=Rates)
def get_rates(request: HttpRequest) -> Rates:
    return rates()


@router.put("/rates", response={200: Rates, 422: Trouble})
def set_rate(request: HttpRequest, payload: NewRate) -> Rates:
    return change(lambda kept: kept.with_rate(payload.driver, payload.name, payload.worth))


@router.put("/rates/hand-work", response={200: Rates, 422: Trouble})
def set_hand_work(request: HttpRequest, payload: HandWork) -> Rates:
    """How many minutes are worked by hand."""
    return change(lambda kept: kept.model_copy(update={"hand_work": payload}))


@router.put("/rates/money", response={200: Rates, 422: Trouble})
def set_money(request: HttpRequest, payload: Money) -> Rates:
    """What the money is called that rates are in."""
    return change(lambda kept: kept.model_copy(update={"money": payload.money}))


@router.get("/projects/{slug}/costs", response={200: Cost, 404: Trouble, 422: Trouble})
def get_costs(request: HttpRequest, slug: str) -> Cost:
    """What a project takes as it is laid out, by the rates that there are."""
    return cost_at(current_id(found(slug)), rates())


@router.get("/projects/{slug}/costs.csv", response={404: Trouble, 422: Trouble})
def get_cost_table(request: HttpRequest, slug: str) -> HttpResponse:
    """The same by sheet and part, as comma-separated values."""
    revision, kept = current_id(found(slug)), rates()
    data = write_costs(document_of(revision), taken_by(revision, kept), kept)
    return download(data, "text/csv; charset=utf-8", f"{slug}-costs.csv")
