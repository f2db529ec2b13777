"""The page of the application; its addresses are read by the browser."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse


def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB / "index.html"
    if not index.exists():
        return HttpResponse("The front end is not built yet: run ./notch start.", status=503)
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    response["Content-Security-Policy"] = (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'"
    )
    return response
