"""The project's side of a cutting service: held against its catalogue, made for it, sent to it, and what was sent."""

from __future__ import annotations

from typing import Any

from bureau import desk
from django.http import Http404, HttpRequest
from django.utils.text import slugify
from leannotch_core.bureau.catalogue import OfferedThickness, catalogue
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.stock import Stock
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.edits.stock import PutStock
from leannotch_core.handover.against import against, made_for
from ninja import Router, Status
from shown.hand_over import HeldShown, SentShown, ServiceStock
from shown.project import ProjectShown, Trouble

from workshop import variants
from workshop.api.answers import found, state
from workshop.handover import packed, sheet_file
from workshop.models import Sending, StoredProject
from workshop.revisions import current_id, document_of, result_of

router = Router()


def _offer(chosen: ServiceStock) -> OfferedThickness:
    offer = catalogue().offer(chosen.offered, chosen.thickness)
    if offer is None:
        raise CannotApply("The service does not have that sheet; choose one of those that there are.")
    return offer


def _stock(project: StoredProject, stock_id: str) -> Stock:
    stock = document_of(current_id(project)).stock(stock_id)
    if stock is None or stock_id not in result_of(current_id(project)).stocks:
        raise CannotApply("That stock is not in the project, or it cannot be read as it is.")
    return stock


@router.post("/projects/{slug}/service/against", response={200: HeldShown, 404: Trouble, 422: Trouble})
def hold_against(request: HttpRequest, slug: str, payload: ServiceStock) -> HeldShown:
    """Holds the parts of a stock against a sheet of the service."""
    project = found(slug)
    return HeldShown(rows=against(result_of(current_id(project)), _stock(project, payload.stock), _offer(payload)))


@router.post("/projects/{slug}/service/variant", response={201: ProjectShown, 404: Trouble, 422: Trouble})
def make_for_it(request: HttpRequest, slug: str, payload: ServiceStock) -> Any:
    """A variant of the project with a stock as the service has it."""
    project, offer = found(slug), _offer(payload)
    stock = _stock(project, payload.stock)
    offered = catalogue().stock(payload.offered)
    name = f"{offered.name if offered else payload.offered}, {offer.thickness:g} mm"
    document = document_of(current_id(project))
    changed = made_for(stock, f"{name}, of {catalogue().name}", offer, document.machine)
    put = PutStock(do="put stock", stock=changed)
    return state(variants.begin(project, f"{document.name[:40]}, {name}"[:80], put), 201)


@router.post("/projects/{slug}/service/send", response={201: SentShown, 404: Trouble, 422: Trouble})
def send(request: HttpRequest, slug: str, sheet: int = 0) -> Any:
    """Sends a sheet (counted from 1), or all of them in a ZIP, as finished sizes: the service makes up for its kerf."""
    project = found(slug)
    revision = current_id(project)
    document = document_of(revision)
    count = len(document.layout.sheets)
    if not count:
        raise CannotApply("Nothing is laid out yet; lay the parts out first.")
    if not 0 <= sheet <= count:
        raise Http404(f"There is no sheet {sheet}.")
    wanted = document.hand_over.model_copy(
        update={"kerf": "at the machine", "names": "leave out", "check_square": False}
    )
    plain = document.model_copy(update={"hand_over": wanted})
    chosen = [sheet - 1] if sheet else range(count)
    files = [(f"sheet-{at + 1}.dxf", sheet_file(plain, result_of(revision), at, "dxf")) for at in chosen]
    # What our own machine would stop at is nothing to the service.
    faults = [fault.text for _, file in files for fault in file.proof.faults if fault.code != "alarm"]
    if faults:
        raise CannotApply(f"The proof of the file failed, so it was not sent: {faults[0]}.")
    stem = f"{slugify(document.name) or slug}"[:80]
    if len(files) == 1:
        name, data = f"{stem}-{files[0][0]}", files[0][1].written.data
    else:
        name, data = f"{stem}.zip", packed((called, file.written.data) for called, file in files)
    try:
        enquiry = desk.take(name, data)
    except BrokenFile as error:
        raise CannotApply(f"The service cannot read it: {error}") from error
    sent = Sending.objects.create(
        project=project, revision_id=revision, version=project.version, name=name, number=enquiry.pk
    )
    return Status(201, _shown(sent, desk.told_of([enquiry.pk])))


@router.get("/projects/{slug}/service/sent", response={200: list[SentShown], 404: Trouble})
def list_sent(request: HttpRequest, slug: str) -> list[SentShown]:
    sendings = list(found(slug).sendings.all()[:50])
    told = desk.told_of([sent.number for sent in sendings])
    return [_shown(sent, told) for sent in sendings]


def _shown(sent: Sending, told: dict[int, desk.OrderTold]) -> SentShown:
    now = told.get(sent.number) or desk.OrderTold(sent.number, None, "not known there any more", "", None)
    return SentShown(
        name=sent.name,
        number=sent.number,
        version=sent.version,
        created=sent.created,
        order=now.order,
        state=now.state,
        why=now.why,
        price=now.price,
        money=now.money,
    )
