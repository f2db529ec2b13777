"""The API, and the one page that everything else is."""

from django.urls import path, re_path
from workshop.page import page

from leannotch.api import api

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|assets/).*$", page)]
handler404 = "workshop.page.nothing_here"
handler500 = "workshop.page.fault"
