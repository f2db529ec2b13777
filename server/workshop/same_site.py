"""Turns away changes that another web page asks for: there is no log-in, so the browser's word is the guard."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse


class SameSite:
    """Lets a request that changes something through only from this site's own pages or from no page at all."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        asks_for_change = request.method not in ("GET", "HEAD", "OPTIONS")
        if asks_for_change and request.headers.get("Sec-Fetch-Site", "none") not in ("same-origin", "none"):
            return JsonResponse({"message": "Changes are taken from Lean Notch's own pages only."}, status=403)
        return self._get_response(request)
