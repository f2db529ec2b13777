"""The API: thin calls that store intent and answer with what follows from it. A module of calls for each noun."""

from workshop.api import (
    brought,
    edits,
    layout,
    limits,
    machines,
    offers,
    outlines,
    projects,
    runs,
    sheets,
    starters,
    stocks,
)
from workshop.api.refusals import SayingApi

api = SayingApi(title="Lean Notch", version="1", docs_url=None)
for noun in (projects, edits, stocks, machines, starters, outlines, brought, offers, layout, runs, sheets, limits):
    api.add_router("", noun.router)
