"""Every refusal is a sentence, and every fault of ours is in the log with a reference that the maker is told."""

from __future__ import annotations

import logging
import secrets
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse
from leannotch_core.commands import CannotApply
from leannotch_core.cutting.plan import CannotPlan
from leannotch_core.document import NotAProject
from leannotch_core.faults import fault_said
from leannotch_core.formats.drawing import BrokenFile
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from workshop import storage
from workshop.models import Project
from workshop.revisions import Refused, Unreadable

log = logging.getLogger(__name__)

#: Steps of a place that say nothing to a maker.
_OURS = ("body", "payload", "edit", "command", "query", "path")


class SayingApi(NinjaAPI):
    """An API whose refusals of a call's values tell what was sent, too."""

    def validation_error_from_error_contexts(self, error_contexts: list[Any]) -> ValidationError:
        errors = [context.pydantic_validation_error.errors(include_url=False) for context in error_contexts]
        return ValidationError([dict(error) for some in errors for error in some])


def answer_every_refusal(api: NinjaAPI) -> None:
    """Gives the API its words for all that can go wrong."""

    def answer(request: HttpRequest, status: int, message: str, **more: Any) -> HttpResponse:
        return api.create_response(request, {"message": message, **more}, status=status)

    def refuse(request: HttpRequest, error: Exception | type[Exception]) -> HttpResponse:
        return answer(request, 422, str(error))

    for kind in (NotAProject, CannotApply, CannotPlan, BrokenFile, Unreadable):
        api.add_exception_handler(kind, refuse)

    @api.exception_handler(Http404)
    @api.exception_handler(Project.DoesNotExist)
    def _not_found(request: HttpRequest, error: Exception) -> HttpResponse:
        return answer(request, 404, "That is not here (any more).")

    @api.exception_handler(Refused)
    def _refused(request: HttpRequest, error: Refused) -> HttpResponse:
        return answer(request, 422, str(error), findings=[finding.model_dump() for finding in error.findings])

    @api.exception_handler(ValidationError)
    def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fault: dict[str, Any] = error.errors[0]
        return answer(request, 422, f"{fault_said(fault, _OURS)}.")

    @api.exception_handler(HttpError)
    def _unreadable(request: HttpRequest, error: HttpError) -> HttpResponse:
        return answer(request, error.status_code, "What was sent cannot be read; nothing was changed.")

    @api.exception_handler(RequestDataTooBig)
    def _too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return answer(request, 413, "That is too large to be taken; nothing was changed.")

    @api.exception_handler(DatabaseError)
    def _not_stored(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        log.exception("%s %s: the database refused", request.method, request.path)
        return answer(request, 503, storage.why(error))

    @api.exception_handler(Exception)
    def _fault(request: HttpRequest, error: Exception) -> HttpResponse:
        reference = secrets.token_hex(3)
        log.exception("%s %s failed, reference %s", request.method, request.path, reference)
        message = f"Something went wrong here; nothing was changed. The log has the details under {reference}."
        return answer(request, 500, message)
