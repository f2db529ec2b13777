"""The demo: a shoreline survey club's field kit, loaded once into an empty workshop."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.db import transaction
from leannotch_core.edits.layout import SetLayout
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.nest import nest
from leannotch_core.project import read_project

from workshop import library
from workshop.models import LibraryStock, Project
from workshop.revisions import create, edit

FOLDER = Path(settings.ROOT) / "demo"


def load_demo() -> list[str]:
    """Loads every demo project that was never loaded; returns their names."""
    if Project.objects.exists() or LibraryStock.objects.exists():
        return []
    loaded = []
    # All of it or none: a start that was cut short begins again.
    with transaction.atomic():
        for path in sorted(FOLDER.glob("*.json"), reverse=True):
            document = read_project(path.read_bytes())
            project = create(document, slug=path.stem.replace("_", "-"))
            first = next(iter(nest(document, evaluate(document), 1)))
            edit(project.slug, None, SetLayout(do="set layout", layout=first.layout))
            for stock in document.stocks:
                library.keep(stock)
            for machine in document.machines:
                library.keep_machine(machine)
            loaded.append(document.name)
    return loaded
