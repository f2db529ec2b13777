"""What a browser is told at Hand over: the lines of a sheet, and what a service holds of it."""

from __future__ import annotations

from datetime import datetime

from leannotch_core.handover.against import Compared
from ninja import Schema


class PlanLine(Schema):
    """A line of the plan in the order of cutting; path data with y turned down from the sheet's top."""

    operation: str
    path: str


class PlanLayer(Schema):
    """A layer of the file, as it is named there, and the length (mm) of all its lines."""

    name: str
    operation: str
    length: float


class PlanShown(Schema):
    """What goes into a sheet's file. Lengths in mm; ``travel`` is the way of the head between the lines."""

    width: float
    height: float
    lines: list[PlanLine]
    travel: str
    layers: list[PlanLayer]
    travel_length: float


class ServiceStock(Schema):
    """A stock of the project, and the one of the service that its parts would be cut from."""

    stock: str
    offered: str
    thickness: float


class HeldShown(Schema):
    rows: list[Compared]


class SentShown(Schema):
    """A file that was sent: where its order stands, and its price in the service's money once it is ordered."""

    name: str
    number: int
    version: int
    created: datetime
    order: int | None
    state: str
    why: str
    price: float | None
    money: str
