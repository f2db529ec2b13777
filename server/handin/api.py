"""The calls of the hand-in queue: those of makers, and those of the one operator."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Annotated, Any

from aside import deletable
from django.http import HttpRequest, HttpResponse
from leannotch_core.costs.owners import write_owners
from leannotch_core.document.model import Corner
from leannotch_core.document.preparation import Holding
from leannotch_core.document.sheet import CopyOf
from leannotch_core.handin.checks import DeskCode
from ninja import Router, Schema, Status
from pydantic import Field
from shown.desk import HandInLooked, HandInShown, QueueShown, SheetLooked, TogetherShown
from workshop.api.answers import download, found
from workshop.library import machines
from workshop.rates import rates
from workshop.revisions import current_id, document_of

from handin import by_hand, desk, gate, together
from handin.listing import looked, looked_sheet, makers_of, shown, shown_together
from handin.models import HandIn, Together
from handin.steps import DeskRefuses, SomebodyElse

router = Router(tags=["queue"])


class NotNow(Schema):
    """Why something was not done with the queue: a sentence."""

    message: str


class NewHandIn(Schema):
    """Sheets (counted from 1) that are handed in: whose, of which group, by when; in place of what was handed in.

    The ``key`` names the order: one that is sent twice, by a page or from one process to another, is one.
    """

    sheets: list[int] = Field(min_length=1, max_length=40)
    owner: Annotated[str, Field(min_length=1, max_length=60)]
    group: Annotated[str, Field(max_length=60)] = ""
    due: date | None = None
    instead_of: int | None = None
    key: Annotated[str, Field(min_length=1, max_length=64)]


class AtVersion(Schema):
    version: int


class GivenBack(AtVersion):
    why: Annotated[str, Field(max_length=400)]


class Ticked(AtVersion):
    ticks: list[str] = Field(max_length=40)


class MadeByHand(Schema):
    """The checks that somebody makes by hand."""

    codes: list[DeskCode] = Field(max_length=40)


class SetUp(AtVersion):
    machine: str = ""
    datum: Corner | None = None
    holding: Holding | None = None


class CutTogether(Schema):
    """What failed of a sheet that was cut, and why."""

    failed: list[CopyOf] = Field(default=[], max_length=2000)
    why: Annotated[str, Field(max_length=400)] | None = None


class WasCut(CutTogether, AtVersion):
    """The same of one that lay alone."""


class LaidTogether(Schema):
    numbers: list[int] = Field(max_length=40)
    versions: list[int] = Field(max_length=40)


_NO = {404: NotNow, 409: NotNow, 422: NotNow}


def _answered(act: Callable[[], Any]) -> Any:
    try:
        return act()
    except (HandIn.DoesNotExist, Together.DoesNotExist):
        return Status(404, NotNow(message="That is not in the queue any more."))
    except SomebodyElse as refusal:
        return Status(409, NotNow(message=str(refusal)))
    except DeskRefuses as refusal:
        return Status(422, NotNow(message=str(refusal)))


# Makers


@router.post("/projects/{slug}/hand-in", response={201: list[HandInShown], **_NO})
def hand_in(request: HttpRequest, slug: str, payload: NewHandIn) -> Any:
    """Hands sheets of a project in, as it is now; each gets a number."""

    def act() -> Any:
        project = found(slug)
        old = _own(request, payload.instead_of, project=slug) if payload.instead_of else None
        order = desk.WantedSheets(
            slug=slug,
            project=document_of(current_id(project)),
            version=project.version,
            sheets=tuple(sheet - 1 for sheet in payload.sheets),
            owner=payload.owner,
            group=payload.group,
            due=payload.due,
            key=payload.key,
            made_by=gate.session_of(request),
        )
        return Status(201, [shown(one) for one in desk.hand_in(order, old)])

    return _answered(act)


@router.get("/projects/{slug}/hand-ins", response={200: list[HandInShown], **_NO})
def list_of_project(request: HttpRequest, slug: str) -> Any:
    """What was handed in of a project, the latest first."""
    rows = HandIn.objects.filter(project=slug, deleted=None).defer("document")
    return [shown(one) for one in rows.order_by("-pk")[:40]]


@router.post("/queue/{number}/take-back", response={200: HandInShown, **_NO})
def take_back(request: HttpRequest, number: int, payload: AtVersion) -> Any:
    return _answered(lambda: shown(desk.take_back(_own(request, number), payload.version)))


# The operator


@router.get("/queue", response=QueueShown)
def get_queue(request: HttpRequest) -> QueueShown:
    """Everything that was handed in, the oldest first."""
    rows = HandIn.objects.defer("document")
    made = Together.objects.defer("document").prefetch_related("members")
    there, kept = [shown(one) for one in rows.filter(deleted=None)], rates()
    return QueueShown(
        rows=there,
        makers=makers_of(there, kept),
        money=kept.money,
        together=[shown_together(one) for one in made],
        deleted=[shown(one) for one in deletable.kept(rows)],
    )


@router.get("/desk/makers.csv")
def get_table_of_makers(request: HttpRequest) -> HttpResponse:
    """What each maker's sheets take and cost, as comma-separated values."""
    told = get_queue(request)
    return download(write_owners(told.makers, told.money), "text/csv; charset=utf-8", "makers.csv")


@router.delete("/queue/{number}", response={200: QueueShown, **_NO})
def delete(request: HttpRequest, number: int, version: int) -> Any:
    """Deletes one with which nothing is to be done any more."""

    def act() -> QueueShown:
        desk.delete(HandIn.objects.get(pk=number, deleted=None), version)
        return get_queue(request)

    return _answered(act)


@router.post("/queue/{number}/restore", response={200: QueueShown, **_NO})
def restore(request: HttpRequest, number: int) -> Any:
    def act() -> QueueShown:
        desk.have_back(deletable.kept(HandIn.objects.filter(pk=number)).get())
        return get_queue(request)

    return _answered(act)


@router.get("/queue/{number}", response={200: HandInLooked, **_NO})
def look(request: HttpRequest, number: int) -> Any:
    return _answered(lambda: looked(HandIn.objects.get(pk=number)))


@router.post("/queue/{number}/return", response={200: HandInLooked, **_NO})
def give_back(request: HttpRequest, number: int, payload: GivenBack) -> Any:
    return _answered(lambda: looked(desk.give_back(HandIn.objects.get(pk=number), payload.version, payload.why)))


@router.post("/queue/{number}/ticks", response={200: HandInLooked, **_NO})
def tick(request: HttpRequest, number: int, payload: Ticked) -> Any:
    return _answered(lambda: looked(desk.tick(HandIn.objects.get(pk=number), payload.version, payload.ticks)))


@router.post("/queue/{number}/take-good", response={200: HandInLooked, **_NO})
def take_good(request: HttpRequest, number: int, payload: AtVersion) -> Any:
    """Takes what was worked out as good, but for what is looked at by hand."""
    return _answered(lambda: looked(by_hand.take_what_is_good(HandIn.objects.get(pk=number), payload.version)))


@router.put("/desk/by-hand", response=list[DeskCode])
def choose_by_hand(request: HttpRequest, payload: MadeByHand) -> list[DeskCode]:
    """Which checks are made by hand from now on."""
    by_hand.choose(payload.codes)
    return by_hand.made()


@router.post("/queue/{number}/set-up", response={200: HandInLooked, **_NO})
def set_up(request: HttpRequest, number: int, payload: SetUp) -> Any:
    """Takes another machine for it, another corner as its datum, or other holding tabs."""

    def act() -> Any:
        one = HandIn.objects.get(pk=number)
        machine = next((m for m in machines() if m.id == payload.machine), None)
        if payload.machine and machine is None:
            raise DeskRefuses("That machine is not in the library any more.")
        if payload.datum:
            machine = (machine or desk.looked_at(one).ready.machine).model_copy(update={"datum": payload.datum})
        return looked(desk.set_up(one, payload.version, machine, payload.holding))

    return _answered(act)


@router.post("/queue/{number}/release", response={200: HandInLooked, **_NO})
def release(request: HttpRequest, number: int, payload: AtVersion) -> Any:
    """Releases a sheet: its file goes into the simulated machine."""
    return _answered(lambda: looked(desk.release(HandIn.objects.get(pk=number), payload.version)))


@router.post("/queue/{number}/call-back", response={200: HandInLooked, **_NO})
def call_back(request: HttpRequest, number: int, payload: AtVersion) -> Any:
    """Has a sheet wait again that was released and not cut."""
    return _answered(lambda: looked(desk.call_back(HandIn.objects.get(pk=number), payload.version)))


@router.post("/queue/{number}/cut", response={200: HandInLooked, **_NO})
def was_cut(request: HttpRequest, number: int, payload: WasCut) -> Any:
    def act() -> Any:
        return looked(desk.was_cut(HandIn.objects.get(pk=number), payload.version, payload.failed, payload.why or ""))

    return _answered(act)


@router.post("/together", response={201: TogetherShown, **_NO})
def lay_together(request: HttpRequest, payload: LaidTogether) -> Any:
    """Lays several waiting sheets of one stock on one."""

    def act() -> Any:
        by_number = {one.pk: one for one in HandIn.objects.filter(pk__in=payload.numbers)}
        if len(by_number) != len(payload.numbers) or len(payload.numbers) != len(payload.versions):
            raise DeskRefuses("One of them is not in the queue any more; look at it again.")
        made = together.lay_together([by_number[number] for number in payload.numbers], payload.versions)
        return Status(201, shown_together(made))

    return _answered(act)


@router.get("/together/{number}", response={200: SheetLooked, **_NO})
def look_together(request: HttpRequest, number: int) -> Any:
    return _answered(lambda: looked_sheet(together.looked_together(Together.objects.get(pk=number)), 0))


@router.post("/together/{number}/release", response={200: TogetherShown, **_NO})
def release_together(request: HttpRequest, number: int) -> Any:
    def act() -> Any:
        made = Together.objects.get(pk=number)
        together.release_together(made)
        return shown_together(made)

    return _answered(act)


@router.post("/together/{number}/call-back", response={200: TogetherShown, **_NO})
def call_back_together(request: HttpRequest, number: int) -> Any:
    def act() -> Any:
        made = Together.objects.get(pk=number)
        together.call_back_together(made)
        return shown_together(made)

    return _answered(act)


@router.post("/together/{number}/cut", response={200: QueueShown, **_NO})
def cut_together(request: HttpRequest, number: int, payload: CutTogether) -> Any:
    def act() -> Any:
        together.cut_together(Together.objects.get(pk=number), payload.failed, payload.why or "")
        return get_queue(request)

    return _answered(act)


@router.post("/together/{number}/apart", response={200: QueueShown, **_NO})
def take_apart(request: HttpRequest, number: int) -> Any:
    def act() -> Any:
        together.take_apart(Together.objects.get(pk=number))
        return get_queue(request)

    return _answered(act)


def _own(request: HttpRequest, number: int, **more: Any) -> HandIn:
    """What one's own session handed in; the operator has all of it. Raises `DeskRefuses`."""
    one = HandIn.objects.get(pk=number, **more)
    if gate.role_of(request) != "operator" and one.made_by != gate.session_of(request):
        raise DeskRefuses(f"Number {number} was handed in by {one.owner} elsewhere; ask the operator to return it.")
    return one
