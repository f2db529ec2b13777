"""The stock library, and coupons to learn of a stock."""

from __future__ import annotations

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from leannotch_core.coupons.making import clearances_between, fit_coupon, strip_coupon
from leannotch_core.coupons.trying import settings_coupon, steps
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.machine import Machine
from leannotch_core.document.operations import Work
from leannotch_core.document.stock import Stock
from leannotch_core.document.sums import SizeError
from ninja import Router, Schema
from pydantic import Field
from shown.desk import KeptOrProposed
from shown.project import ProjectShown, Trouble

from workshop import library, revisions
from workshop.api.answers import state
from workshop.proposed import keep_or_propose

router = Router()

Clearance = Annotated[float, Field(ge=-2, le=5, allow_inf_nan=False)]


class NewSettingsCoupon(Schema):
    """What a settings coupon is to try: an operation, from one speed (mm/s) and power to another, in so many steps."""

    stock: Stock
    machine: Machine
    operation: Work
    slowest: float = Field(gt=0, le=5000, allow_inf_nan=False)
    fastest: float = Field(gt=0, le=5000, allow_inf_nan=False)
    speeds: int = Field(default=5, ge=1, le=8)
    weakest: float = Field(gt=0, le=100_000, allow_inf_nan=False)
    strongest: float = Field(gt=0, le=100_000, allow_inf_nan=False)
    powers: int = Field(default=5, ge=1, le=8)


class NewCoupon(Schema):
    """What a coupon is to show of a stock; ``low`` to ``high`` are the clearances (mm) that a comb tries."""

    stock: Stock
    machine: Machine | None = None
    kind: Literal["fit comb", "kerf strip"] = "fit comb"
    low: Clearance = -0.1
    high: Clearance = 0.3
    step: Clearance = 0.05


@router.get("/library", response=list[Stock])
def list_library(request: HttpRequest) -> list[Stock]:
    return library.stocks()


@router.post("/library", response={200: KeptOrProposed, 422: Trouble})
def keep_stock(request: HttpRequest, payload: Stock) -> KeptOrProposed:
    return KeptOrProposed(kept=keep_or_propose(payload))


@router.post("/coupons", response={201: ProjectShown, 422: Trouble})
def new_coupon(request: HttpRequest, payload: NewCoupon) -> HttpResponse:
    """A project of its own, laid out: a fit comb with a square for the kerf, or a strip."""
    try:
        if payload.kind == "kerf strip":
            coupon = strip_coupon(payload.stock, payload.machine)
        else:
            tried = clearances_between(payload.low, payload.high, payload.step)
            coupon = fit_coupon(payload.stock, tried, payload.machine)
    except SizeError as error:
        raise CannotApply(f"Coupon of {payload.stock.name}: {error}.") from error
    return state(revisions.create(coupon), 201)


@router.post("/coupons/settings", response={201: ProjectShown, 422: Trouble})
def new_settings_coupon(request: HttpRequest, payload: NewSettingsCoupon) -> HttpResponse:
    """A project of its own: a square for each speed and power of an operation."""
    try:
        speeds = steps("speed", payload.slowest, payload.fastest, payload.speeds)
        powers = steps("power", payload.weakest, payload.strongest, payload.powers)
        coupon = settings_coupon(payload.stock, payload.machine, payload.operation, speeds, powers)
    except SizeError as error:
        raise CannotApply(f"Coupon of {payload.stock.name}: {error}.") from error
    return state(revisions.create(coupon), 201)
