"""The API: thin calls that store intent and answer with what follows from it. A module of calls for each noun."""

from workshop.api import (
    brought,
    edits,
    layout,
    limits,
    machines,
    offers,
    outlines,
    pictures,
    prepared,
    projects,
    runs,
    sheets,
    shelf,
    starters,
    stocks,
)
from workshop.api.refusals import SayingApi

api = SayingApi(title="Lean Notch", version="1", docs_url=None)
_NOUNS = (
    projects,
    edits,
    stocks,
    machines,
    starters,
    outlines,
    brought,
    offers,
    layout,
    pictures,
    prepared,
    runs,
    sheets,
    shelf,
    limits,
)
for noun in _NOUNS:
    api.add_router("", noun.router)
