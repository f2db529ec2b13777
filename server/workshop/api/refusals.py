"""Every refusal is a sentence, and every fault of ours is in the log with a reference that the maker is told."""

from __future__ import annotations

import logging
import secrets
from collections.abc import Callable
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.document.faults import fault_said
from leannotch_core.said import Said
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from workshop import storage
from workshop.models import StoredProject
from workshop.revisions import EditRefused, Unreadable

log = logging.getLogger(__name__)

#: Steps of a place that say nothing to a maker.
_OURS = ("body", "payload", "edit", "command", "query", "path")

#: A status and what is answered with it.
_Answer = tuple[int, dict[str, Any]]


class SayingApi(NinjaAPI):
    """An API that has words for all that can go wrong, and tells what was sent where a value is refused."""

    def __init__(self, **settings: Any) -> None:
        super().__init__(**settings)
        for kind, words in _WORDS.items():
            self.add_exception_handler(kind, self._answering(words))

    def validation_error_from_error_contexts(self, error_contexts: list[Any]) -> ValidationError:
        errors = [context.pydantic_validation_error.errors(include_url=False) for context in error_contexts]
        return ValidationError([dict(error) for some in errors for error in some])

    def _answering(self, words: Callable[[HttpRequest, Any], _Answer]) -> Any:
        def handler(request: HttpRequest, error: Exception) -> HttpResponse:
            status, told = words(request, error)
            return self.create_response(request, told, status=status)

        return handler


def _refusal(request: HttpRequest, error: Exception) -> _Answer:
    return 422, {"message": str(error)}


def _refused(request: HttpRequest, error: EditRefused) -> _Answer:
    return 422, {"message": str(error), "findings": [finding.model_dump() for finding in error.findings]}


def _invalid(request: HttpRequest, error: ValidationError) -> _Answer:
    fault: dict[str, Any] = error.errors[0]
    return 422, {"message": f"{fault_said(fault, _OURS)}."}


def _missing(request: HttpRequest, error: Exception) -> _Answer:
    return 404, {"message": "That is not here (any more)."}


def _too_large(request: HttpRequest, error: Exception) -> _Answer:
    return 413, {"message": "That is too large to be taken; nothing was changed."}


def _beyond(request: HttpRequest, error: OverflowError) -> _Answer:
    return 422, {"message": "A number that was sent is larger than any that there is here; nothing was changed."}


def _unreadable(request: HttpRequest, error: HttpError) -> _Answer:
    return error.status_code, {"message": "What was sent cannot be read; nothing was changed."}


def _not_stored(request: HttpRequest, error: DatabaseError) -> _Answer:
    log.error("%s %s: the database refused", request.method, request.path, exc_info=error)
    return 503, {"message": storage.why(error)}


def _fault(request: HttpRequest, error: Exception) -> _Answer:
    reference = secrets.token_hex(3)
    log.error("%s %s failed, reference %s", request.method, request.path, reference, exc_info=error)
    message = f"Something went wrong here; nothing was changed. The log has the details under {reference}."
    return 500, {"message": message}


_WORDS: dict[type[Exception], Callable[[HttpRequest, Any], _Answer]] = {
    **dict.fromkeys((Said, Unreadable), _refusal),
    EditRefused: _refused,
    ValidationError: _invalid,
    Http404: _missing,
    StoredProject.DoesNotExist: _missing,
    RequestDataTooBig: _too_large,
    HttpError: _unreadable,
    DatabaseError: _not_stored,
    OverflowError: _beyond,
    Exception: _fault,
}
