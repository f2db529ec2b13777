"""The API, and the one page that everything else is."""

from django.urls import URLResolver, re_path
from django.urls.resolvers import RoutePattern
from workshop.page import page

#: The API is named, not imported: the page is there at once, and what it calls as soon as that is loaded.
API = "leannotch.api"
# The namespace is as the API calls itself: its version is 1.
_calls = URLResolver(RoutePattern("api/"), API, app_name="ninja", namespace="api-1")

urlpatterns = [re_path(r"^(?!api/|assets/).*$", page), _calls]
handler404 = "workshop.page.nothing_here"
handler500 = "workshop.page.fault"
