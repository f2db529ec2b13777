"""All calls of this server: those of the workshop, and of the simulated machine and cutting service beside it."""

from bureau.api import router as bureau
from device.api import router as device
from django.http import HttpRequest, JsonResponse
from handin.api import router as handin
from handin.day import router as day
from handin.lately import router as lately
from handin.makers import router as makers
from handin.words import router as words
from leannotch_core.bureau.catalogue import catalogue
from ninja import NinjaAPI
from workshop.api import api

api.add_router("/device", device)
api.add_router("/service", bureau)
api.add_router("", handin)
api.add_router("", words)
api.add_router("", makers)
api.add_router("", lately)
api.add_router("", day)


@api.get("/service/openapi.json", include_in_schema=False)
def schema_of_service(request: HttpRequest) -> JsonResponse:
    """The schema of the cutting service's calls alone, as an outside one would have it."""
    alone = NinjaAPI(title=f"{catalogue().name}, a simulated cutting service", version="1", urls_namespace="service")
    alone.add_router("/service", bureau)
    return JsonResponse(alone.get_openapi_schema(path_prefix="api/"))


#: What is called, as Django finds it under "api/".
urlpatterns = api.urls[0]

__all__ = ["api", "urlpatterns"]
