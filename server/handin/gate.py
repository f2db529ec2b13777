"""Who may come in from elsewhere: the operator to all of it, makers to all but the operator's desk, others to nothing.

Once makers are on a list each comes in by name and word, and finds what is theirs; until then all share one word.

Without an address for others there is nothing to guard: only this machine is answered then.
"""

from __future__ import annotations

import hashlib
import re
import secrets
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import check_password, make_password
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import CsrfViewMiddleware
from leannotch_core.drawings.turns import asked_by
from people import accounts
from people.asking import asked_for, maker_asking

from handin import theirs
from handin.models import Word

LOOPBACK = ("127.0.0.1", "::1")
#: So long a word has to be.
SHORTEST = 8

_OPEN = ("/api/enter", "/api/role")
#: Calls of the operator alone: the queue but for what its makers take back, the machine, and the words.
_DESK = re.compile(
    r"^/api/(?:queue(?!/\d+/take-back$)|together|words|device|desk|makers|projects/[^/]+/(?:owner|hands))(?:/|$)"
)
#: What the desk uses for everybody: read by all, changed by the operator.
_SHARED = re.compile(r"^/api/(?:machines|cutters|library|rates(?:/.*)?)$")
#: What makers by a name may propose for everybody: nothing is changed by that.
_PROPOSED = re.compile(r"^/api/(?:machines|cutters|library)$")


def role_of(request: HttpRequest) -> str:
    """``operator``, ``maker``, or nothing: also of those who came in with a word that was changed since."""
    if not settings.HOST or request.META.get("REMOTE_ADDR") in LOOPBACK:
        return "operator"
    role = str(request.session.get("role", ""))
    if role == "maker" and accounts.is_there_a_list():
        return role if maker_of(request) else ""
    known = Word.objects.filter(role=role).first() if role else None
    return role if known and request.session.get("let_in_by") == _stamp(known.hashed) else ""


def maker_of(request: HttpRequest) -> User | None:
    """The maker on the list who came in by a name, unless their word was changed since."""
    number = request.session.get("maker")
    known = User.objects.filter(pk=number).first() if settings.HOST and number else None
    return known if known and request.session.get("let_in_by") == _stamp(known.password) else None


#: The sessions that were let in since the server began, with their role; a server that begins anew knows none.
LET_IN: dict[str, str] = {}


def let_in(request: HttpRequest, role: str, maker: User | None = None) -> None:
    """Begins a session for those who said the word of a role, or a maker's, until they leave or the word is changed."""
    # A session that was there before is not taken over.
    request.session.flush()
    request.session["role"] = role
    request.session["let_in_by"] = _stamp(maker.password if maker else Word.objects.get(role=role).hashed)
    # What a maker handed in is theirs wherever they come in next.
    request.session["own"] = role_of_maker(maker.pk) if maker else secrets.token_urlsafe(16)
    if maker:
        request.session["maker"] = maker.pk
        accounts.came_in(maker)
    request.session.save()
    LET_IN[str(request.session.session_key)] = role_of_maker(maker.pk) if maker else role


def leave(request: HttpRequest) -> None:
    """Ends the session, here and wherever else its cookie is."""
    LET_IN.pop(str(request.session.session_key), None)
    request.session.flush()


def session_of(request: HttpRequest) -> str:
    """What names the session of those who come from elsewhere; nothing on this machine."""
    return str(request.session.get("own", "")) if settings.HOST else ""


def _stamp(hashed: str) -> str:
    return hashlib.sha256(hashed.encode()).hexdigest()[:32]


def role_for(word: str) -> str:
    """Whom a word lets in without a name."""
    for role in ("operator", "maker"):
        known = Word.objects.filter(role=role).first()
        if known and check_password(word.strip(), known.hashed):
            return role
    return ""


def set_word(role: str, word: str) -> None:
    Word.objects.update_or_create(role=role, defaults={"hashed": make_password(word.strip())})
    shut_out(role)


def role_of_maker(number: int) -> str:
    """What those are let in as who came in as a maker on the list."""
    return f"maker {number}"


def shut_out(role: str) -> None:
    """Lets those in no more who came in as a role before its word was changed."""
    for key in [key for key, known in list(LET_IN.items()) if known == role]:
        del LET_IN[key]


def words_set() -> set[str]:
    return set(Word.objects.values_list("role", flat=True))


def others_may_come_in() -> bool:
    """Whether the operator has a word, and makers have one or are on a list."""
    known = words_set()
    return "operator" in known and ("maker" in known or accounts.is_there_a_list())


class Gate:
    """Answers calls from elsewhere only to those who said a word."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with asked_for(None):
            return self._answer(request)

    def _answer(self, request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/") or request.path in _OPEN:
            return self._get_response(request)
        role = role_of(request)
        if not role:
            return JsonResponse({"message": "Say the word that lets you in first."}, status=401)
        maker = maker_of(request) if role == "maker" else None
        proposes = maker and request.method == "POST" and _PROPOSED.match(request.path)
        shared = request.method != "GET" and _SHARED.match(request.path) and not proposes
        if role != "operator" and (shared or _DESK.match(request.path)):
            return JsonResponse({"message": "That is for the operator."}, status=403)
        asked_by.set("" if role == "operator" else session_of(request))
        maker_asking.set(maker.pk if maker else None)
        if no := theirs.refused(str(request.method), request.path):
            return JsonResponse({"message": no.message}, status=no.status)
        return self._get_response(request)


class CallsToo(CsrfViewMiddleware):
    """Django's own guard against forged calls, for calls of the API as well; where only this machine is answered, the
    origin of a call is all that has to be looked at.
    """

    def process_view(self, request: HttpRequest, callback: Any, callback_args: Any, callback_kwargs: Any) -> Any:
        if not settings.HOST:
            return None

        def checked(*_: Any, **__: Any) -> HttpResponse:
            """A view that asks for no exemption."""
            return HttpResponse()

        return super().process_view(request, checked, callback_args, callback_kwargs)
