"""Guards every answer, pages and files alike: there is no log-in, so host, origin and frame are what can be checked."""

from collections.abc import Callable
from urllib.parse import urlsplit

from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, JsonResponse

_POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'"


class Guard:
    """Answers this machine's own names only, takes changes from its own pages only, and lets nobody frame them."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = _refusal(request) or self._get_response(request)
        # A page that is framed by our own says so, and may do less than any other.
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        response.headers.setdefault("X-Frame-Options", "DENY")
        return response


def _refusal(request: HttpRequest) -> HttpResponse | None:
    try:
        host = request.get_host()
    except DisallowedHost:
        # So that no foreign name can be pointed at this address.
        return _told("Lean Notch answers on this machine's own address only.", 400)
    if request.method in ("GET", "HEAD", "OPTIONS"):
        return None
    origin = request.headers.get("Origin")
    foreign = origin is not None and urlsplit(origin).netloc != host
    if foreign or request.headers.get("Sec-Fetch-Site", "none") not in ("same-origin", "none"):
        return _told("Changes are taken from Lean Notch's own pages only.", 403)
    return None


def _told(message: str, status: int) -> JsonResponse:
    return JsonResponse({"message": message}, status=status)
