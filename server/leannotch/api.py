"""All calls of this server: those of the workshop, and of the simulated machine and cutting service beside it."""

from bureau.api import router as bureau
from device.api import router as device
from django.http import HttpRequest, JsonResponse
from handin.api import router as handin
from handin.words import router as words
from leannotch_core.bureau.catalogue import catalogue
from workshop.api import api

api.add_router("/device", device)
api.add_router("/service", bureau)
api.add_router("", handin)
api.add_router("", words)


@api.get("/service/openapi.json", include_in_schema=False)
def schema_of_service(request: HttpRequest) -> JsonResponse:
    """The schema of the cutting service's calls alone, as an outside one would have it."""
    whole = dict(api.get_openapi_schema())
    paths = {path: calls for path, calls in whole["paths"].items() if path.startswith("/api/service/")}
    info = {"title": f"{catalogue().name}, a simulated cutting service", "version": "1"}
    return JsonResponse(whole | {"paths": paths, "info": info})


__all__ = ["api"]
