"""The calls of the cutting service, as an outside one would have them."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any

from aside import deletable
from django.http import HttpRequest
from drawn.folded import folded_shown
from leannotch_core.bureau.catalogue import MONEY, Catalogue, catalogue
from leannotch_core.bureau.orders import Progress
from leannotch_core.bureau.quote import Quote, Rule, Wanted
from leannotch_core.bureau.seen import FileUnit, SeenFile
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.evaluate import EvaluatedPart
from leannotch_core.handover.svg import path_data
from ninja import Router, Schema, Status
from pydantic import Base64Bytes, Field
from shown.shape import FoldedShown

from bureau import desk
from bureau.models import Enquiry, Order

router = Router(tags=["service"])

#: So many files and orders are listed, the latest.
_MOST_LISTED = 100


class NotDone(Schema):
    """Why the service did not do it: a sentence."""

    message: str


class FileToCut(Schema):
    """A file in base 64: a DXF, an SVG, or a ZIP of them."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    data: Annotated[Base64Bytes, Field(max_length=9_000_000)]


class NewUnit(Schema):
    unit: FileUnit


class NewWanted(Schema):
    wanted: Wanted
    version: int


class AsItStands(Schema):
    version: int


class Ordering(AsItStands):
    key: Annotated[str, Field(max_length=64)] = ""


class OrderedBend(Schema):
    """A bend line on a part, in mm; ``angle`` in degrees from flat, ``taken`` what it takes of the sheet."""

    id: str
    called: str
    x1: float
    y1: float
    x2: float
    y2: float
    angle: float
    up: bool
    radius: float
    taken: float


class OrderedPart(Schema):
    """A part as it is cut: its outline as a path in mm, y turned down, in its box; and its bends."""

    number: int
    file: str
    called: str
    count: int
    width: float
    height: float
    left: float
    bottom: float
    path: str
    bends: list[OrderedBend]
    folded: bool


class EnquiryShown(Schema):
    """A file as the service sees it; one that was deleted, ``until`` when it can be had back."""

    id: int
    name: str
    unit: FileUnit
    version: int
    files: list[SeenFile]
    wanted: Wanted
    parts: list[OrderedPart]
    rules: list[Rule]
    quote: Quote | None
    orders: list[int]
    until: datetime | None


class OrderShown(Schema):
    id: int
    enquiry: int
    name: str
    what: str
    day: int
    quote: Quote
    progress: Progress


class OrdersShown(Schema):
    today: int
    money: str
    orders: list[OrderShown]


class CatalogueShown(Schema):
    money: str
    catalogue: Catalogue


_ANSWERS = {200: EnquiryShown, 404: NotDone, 409: NotDone, 422: NotDone}


def _answered(act: Callable[[], Any]) -> Any:
    try:
        return act()
    except Enquiry.DoesNotExist:
        return Status(404, NotDone(message="There is no such file here."))
    except desk.ChangedMeanwhile as refusal:
        return Status(409, NotDone(message=str(refusal)))
    except (desk.ServiceRefuses, BrokenFile) as refusal:
        return Status(422, NotDone(message=str(refusal)))


@router.get("/catalogue", response=CatalogueShown)
def get_catalogue(request: HttpRequest) -> CatalogueShown:
    return CatalogueShown(money=MONEY, catalogue=catalogue())


class WaitingFile(Schema):
    """A file that was sent and not ordered; one that was deleted can be had back ``until`` then."""

    id: int
    name: str
    created: datetime
    until: datetime | None


@router.get("/files", response=list[WaitingFile])
def list_files(request: HttpRequest) -> list[WaitingFile]:
    """Files that wait for an order, the latest first, and behind them those that were deleted."""
    files = desk.seen_by_who_asks(Enquiry.objects.filter(orders=None).defer("data", "seen"))
    shown = (*files.filter(deleted=None)[:_MOST_LISTED], *deletable.kept(files)[:_MOST_LISTED])
    return [
        WaitingFile(id=file.pk, name=file.name, created=file.created, until=deletable.until(file)) for file in shown
    ]


@router.post("/files", response={201: EnquiryShown, 422: NotDone})
def send_file(request: HttpRequest, payload: FileToCut) -> Any:
    return _answered(lambda: Status(201, _shown(desk.take(payload.name, payload.data))))


@router.get("/files/{number}", response=_ANSWERS)
def get_file(request: HttpRequest, number: int) -> Any:
    return _answered(lambda: _shown(Enquiry.objects.get(pk=number)))


@router.delete("/files/{number}", response=_ANSWERS)
def delete(request: HttpRequest, number: int) -> Any:
    """Deletes a file that was not ordered; it can be had back for a while."""
    return _answered(lambda: _after(number, desk.delete))


@router.post("/files/{number}/restore", response=_ANSWERS)
def restore(request: HttpRequest, number: int) -> Any:
    return _answered(lambda: _after(number, deletable.restore))


def _after(number: int, act: Callable[[Enquiry], None]) -> EnquiryShown:
    act(Enquiry.objects.get(pk=number))
    return _shown(Enquiry.objects.get(pk=number))


@router.post("/files/{number}/unit", response=_ANSWERS)
def take_as(request: HttpRequest, number: int, payload: NewUnit) -> Any:
    """Takes the numbers of the file for another unit."""
    return _answered(lambda: _shown(desk.take_as(Enquiry.objects.get(pk=number), payload.unit)))


@router.post("/files/{number}/wanted", response=_ANSWERS)
def choose(request: HttpRequest, number: int, payload: NewWanted) -> Any:
    return _answered(lambda: _shown(desk.choose(Enquiry.objects.get(pk=number), payload.wanted, payload.version)))


@router.get("/files/{number}/folded/{part}", response={200: FoldedShown, 404: NotDone})
def get_folded(request: HttpRequest, number: int, part: int) -> Any:
    def act() -> Any:
        found = desk.looked_at(Enquiry.objects.get(pk=number)).looked.evaluated(part)
        if found is None or found.folded is None:
            return Status(404, NotDone(message="That part has no bend."))
        return folded_shown(found, found.folded)

    return _answered(act)


@router.post("/files/{number}/order", response={201: OrderShown, 404: NotDone, 409: NotDone, 422: NotDone})
def order(request: HttpRequest, number: int, payload: Ordering) -> Any:
    """Orders an enquiry; one that is sent twice with one key is one."""
    return _answered(
        lambda: Status(201, _order(desk.order(Enquiry.objects.get(pk=number), payload.version, payload.key)))
    )


@router.get("/orders", response=OrdersShown)
def list_orders(request: HttpRequest) -> OrdersShown:
    own = desk.seen_by_who_asks(Enquiry.objects.all()).values("pk")
    made = Order.objects.filter(enquiry__in=own).select_related("enquiry").defer("enquiry__data")[:_MOST_LISTED]
    return OrdersShown(today=desk.today(), money=MONEY, orders=[_order(one) for one in made])


@router.post("/next-day", response=OrdersShown)
def next_day(request: HttpRequest) -> OrdersShown:
    """A day goes by at the service."""
    desk.next_day()
    return list_orders(request)


def _shown(enquiry: Enquiry) -> EnquiryShown:
    found = desk.looked_at(enquiry)
    return EnquiryShown(
        id=enquiry.pk,
        name=enquiry.name,
        unit=enquiry.unit,
        version=enquiry.version,
        files=found.files,
        wanted=found.wanted,
        parts=[
            _drawn(number, seen.file, seen.count, part)
            for number, seen in enumerate(found.looked.parts)
            if (part := found.looked.evaluated(number))
        ],
        rules=found.rules,
        quote=found.quote,
        orders=list(enquiry.orders.values_list("pk", flat=True)),
        until=deletable.until(enquiry),
    )


def _drawn(number: int, file: str, count: int, part: EvaluatedPart) -> OrderedPart:
    left, bottom, right, top = part.outline.bounds
    return OrderedPart(
        number=number,
        file=file,
        called=part.part.name,
        count=count,
        width=right - left,
        height=top - bottom,
        left=left,
        bottom=bottom,
        path="".join(path_data(loop) for loop in part.outline.loops),
        bends=[
            OrderedBend(
                id=bend.id,
                called=bend.name,
                x1=bend.start.real,
                y1=bend.start.imag,
                x2=bend.end.real,
                y2=bend.end.imag,
                angle=bend.bend.angle,
                up=bend.up,
                radius=bend.bend.radius,
                taken=bend.bend.length,
            )
            for bend in part.bends
        ],
        folded=part.folded is not None,
    )


def _order(made: Order) -> OrderShown:
    wanted = desk.wanted_of(made)
    stock = catalogue().stock(wanted.stock)
    return OrderShown(
        id=made.pk,
        enquiry=made.enquiry_id,
        name=made.enquiry.name,
        what=f"{wanted.sets} x {stock.name if stock else wanted.stock}, {wanted.thickness:g} mm",
        day=made.day,
        quote=Quote.model_validate_json(made.quote),
        progress=desk.progress_of(made),
    )
