"""The API: thin calls that store intent and answer with what follows from it. A module of calls for each noun."""

from workshop.api import (
    brought,
    costs,
    cutters,
    edits,
    folded,
    layout,
    limits,
    machines,
    measured,
    offers,
    outlines,
    pictures,
    prepared,
    projects,
    runs,
    service,
    shapes,
    sharing,
    sheets,
    shelf,
    starters,
    stocks,
    versions,
    whose,
)
from workshop.api.refusals import SayingApi

api = SayingApi(title="Lean Notch", version="1", docs_url=None)
_NOUNS = (
    projects,
    edits,
    stocks,
    machines,
    measured,
    cutters,
    starters,
    outlines,
    folded,
    brought,
    offers,
    layout,
    pictures,
    prepared,
    runs,
    service,
    sheets,
    costs,
    shapes,
    sharing,
    shelf,
    versions,
    whose,
    limits,
)
for noun in _NOUNS:
    api.add_router("", noun.router)
