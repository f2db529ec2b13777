"""The calls of those who come in from elsewhere, and of the operator who sets the words that let them in."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field
from shown.desk import RoleShown, WordsShown

from handin import gate, guesses
from handin.api import NotNow

router = Router(tags=["queue"])


class GivenWord(Schema):
    word: Annotated[str, Field(max_length=200)]


class NewWord(Schema):
    role: Literal["operator", "maker"]
    word: Annotated[str, Field(max_length=200)]


@router.get("/role", response=RoleShown)
def get_role(request: HttpRequest) -> RoleShown:
    return RoleShown(role=gate.role_of(request), elsewhere=settings.HOST)


@router.post("/enter", response={200: RoleShown, 403: NotNow, 429: NotNow})
def enter(request: HttpRequest, payload: GivenWord) -> Any:
    address = str(request.META.get("REMOTE_ADDR", ""))
    # Before any hash is made: that is what takes the time.
    minutes = guesses.minutes_to_wait(address)
    if minutes:
        said = f"Too many words were tried; try again in {minutes} min, or ask the operator."
        return Status(429, NotNow(message=said))
    role = gate.role_for(payload.word)
    if not role:
        return Status(403, NotNow(message="That word lets nobody in."))
    guesses.forget(address)
    gate.let_in(request, role)
    return RoleShown(role=role, elsewhere=settings.HOST)


@router.post("/leave", response=RoleShown)
def leave(request: HttpRequest) -> RoleShown:
    gate.leave(request)
    return RoleShown(role=gate.role_of(request), elsewhere=settings.HOST)


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
    return get_words(request)
