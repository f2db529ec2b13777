"""The page of the application, whose addresses are read by the browser; and what is answered where nothing is."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token


def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB / "index.html"
    if not index.exists():
        return HttpResponse("The front end is not built yet: run ./notch start.", status=503)
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    if settings.HOST:
        # What calls from elsewhere have to bear.
        get_token(request)
    return response


def forged(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Where a call does not bear what our own pages were given for it."""
    return JsonResponse(
        {"message": "Changes are taken from Lean Notch's own pages only; load the page again."}, status=403
    )


def nothing_here(request: HttpRequest, exception: Exception) -> HttpResponse:
    return JsonResponse({"message": "There is nothing at this address."}, status=404)


def fault(request: HttpRequest) -> HttpResponse:
    return JsonResponse({"message": "Something went wrong here; the log has the details."}, status=500)
