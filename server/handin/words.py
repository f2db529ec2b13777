"""The calls of those who come in from elsewhere, and of the operator who sets the words that let them in."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema, Status
from people import accounts, log
from pydantic import Field
from shown.desk import RoleShown, WordsShown

from handin import gate, guesses
from handin.api import NotNow

router = Router(tags=["queue"])


class GivenWord(Schema):
    """A word, and on a list of makers whose it is."""

    word: Annotated[str, Field(max_length=200)]
    name: Annotated[str, Field(max_length=200)] | None = None


class NewWord(Schema):
    role: Literal["operator", "maker"]
    word: Annotated[str, Field(max_length=200)]


@router.get("/role", response=RoleShown)
def get_role(request: HttpRequest) -> RoleShown:
    return _role(request)


def _role(request: HttpRequest) -> RoleShown:
    maker = gate.maker_of(request)
    return RoleShown(
        role=gate.role_of(request),
        elsewhere=settings.HOST,
        by_name=accounts.is_there_a_list(),
        name=maker.username if maker else "",
    )


@router.post("/enter", response={200: RoleShown, 403: NotNow, 429: NotNow})
def enter(request: HttpRequest, payload: GivenWord) -> Any:
    address = str(request.META.get("REMOTE_ADDR", ""))
    # Before any hash is made: that is what takes the time.
    minutes = guesses.minutes_to_wait(address)
    if minutes:
        said = f"Too many words were tried; try again in {minutes} min, or ask the operator."
        return Status(429, NotNow(message=said))
    by_name = bool(payload.name and payload.name.strip())
    maker = accounts.who_says(str(payload.name), payload.word) if by_name else None
    role = "maker" if maker else "" if by_name else gate.role_for(payload.word)
    if role == "maker" and maker is None and accounts.is_there_a_list():
        return Status(403, NotNow(message="Makers come in by their names here: type the name that is on your card."))
    if not role:
        # What is no name on the list may be somebody's word, typed into the other field.
        meant = accounts.on_the_list(str(payload.name or ""))
        log.note("wrong word", to=meant.username if meant else "", more=address, who="")
        lets = "That name and that word do not belong together." if by_name else "That word lets nobody in."
        return Status(403, NotNow(message=lets))
    guesses.forget(address)
    gate.let_in(request, role, maker)
    log.note("came in", more=address, who=maker.username if maker else "", to="" if maker else role)
    return _role(request)


@router.post("/leave", response=RoleShown)
def leave(request: HttpRequest) -> RoleShown:
    maker = gate.maker_of(request)
    log.note("left", to="" if maker else gate.role_of(request), who=maker.username if maker else "")
    gate.leave(request)
    return _role(request)


@router.get("/words", response=WordsShown)
def get_words(request: HttpRequest) -> WordsShown:
    known = gate.words_set()
    return WordsShown(operator="operator" in known, maker="maker" in known)


@router.post("/words", response={200: WordsShown, 422: NotNow})
def set_word(request: HttpRequest, payload: NewWord) -> Any:
    """Sets the word of the operator or of makers; it is kept hashed, and nobody can read it."""
    if len(payload.word.strip()) < gate.SHORTEST:
        return Status(422, NotNow(message=f"A word has at least {gate.SHORTEST} characters, besides spaces around it."))
    if gate.role_for(payload.word) not in ("", payload.role):
        return Status(422, NotNow(message="That is the other word; each lets in somebody else."))
    gate.set_word(payload.role, payload.word)
    log.note("word set", to=payload.role)
    return get_words(request)
