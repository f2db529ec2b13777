"""The list of makers, for the operator: names put on it, words renewed, names taken off."""

from __future__ import annotations

from typing import Annotated, Any

from django.db.models import Count, Q
from django.http import HttpRequest
from leannotch_core.separated import first_column
from ninja import Router, Schema, Status
from people import accounts, log
from people.accounts import Card, NotOnTheList
from pydantic import Base64Bytes, Field
from shown.desk import CardShown, MakerShown

from handin import gate
from handin.api import NotNow

router = Router(tags=["queue"])


class NewMakers(Schema):
    """Names to put on the list, one each; those that are empty are passed over."""

    names: Annotated[list[Annotated[str, Field(max_length=400)]], Field(max_length=2 * accounts.MOST)]


class NamesFile(Schema):
    """A table of names in base 64, as a program of tables writes it."""

    data: Annotated[Base64Bytes, Field(max_length=400_000)]


@router.post("/makers/read", response={200: list[str], 422: NotNow})
def read_names(request: HttpRequest, payload: NamesFile) -> Any:
    """The names in the first column of a table; nobody is put on the list yet."""
    names = [name for name in first_column(payload.data) if name]
    if not names:
        return Status(422, NotNow(message="There is no name in the first column of that file."))
    if len(names) > accounts.MOST:
        said = f"That file has {len(names)} rows; a list holds {accounts.MOST} makers."
        return Status(422, NotNow(message=said))
    return names


@router.get("/makers", response=list[MakerShown])
def list_makers(request: HttpRequest) -> list[MakerShown]:
    theirs = accounts.listed().annotate(theirs=Count("projects", filter=Q(projects__deleted=None)))
    rows = [MakerShown(number=one.pk, name=one.username, projects=one.theirs, came=one.last_login) for one in theirs]
    return sorted(rows, key=lambda row: row.name.casefold())


@router.post("/makers", response={201: list[CardShown], 422: NotNow})
def put_on_the_list(request: HttpRequest, payload: NewMakers) -> Any:
    """Puts names on the list; answers each one's card, with the word that nobody can read later."""
    try:
        cards = accounts.put_on_the_list(payload.names)
    except NotOnTheList as no:
        return Status(422, NotNow(message=str(no)))
    for card in cards:
        log.note("put on the list", to=card.name)
    return Status(201, [_card(card) for card in cards])


@router.post("/makers/{number}/word", response={200: CardShown, 404: NotNow})
def renew(request: HttpRequest, number: int) -> Any:
    """Gives a maker another word; where they are now, they have to come in anew."""
    try:
        card = accounts.renewed(number)
    except NotOnTheList as no:
        return Status(404, NotNow(message=str(no)))
    gate.shut_out(gate.role_of_maker(number))
    log.note("new word", to=card.name)
    return _card(card)


@router.delete("/makers/{number}", response={204: None, 404: NotNow})
def take_off_the_list(request: HttpRequest, number: int) -> Any:
    """Takes a maker off the list; their projects are then the workshop's."""
    try:
        name = accounts.take_off_the_list(number)
    except NotOnTheList as no:
        return Status(404, NotNow(message=str(no)))
    gate.shut_out(gate.role_of_maker(number))
    log.note("taken off", to=name)
    return Status(204, None)


def _card(card: Card) -> CardShown:
    return CardShown(number=card.number, name=card.name, word=card.word)
