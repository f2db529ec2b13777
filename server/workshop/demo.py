"""The demo: a shoreline survey club's field kit, loaded once into an empty workshop."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.db import transaction
from leannotch_core.document.sizes import Size
from leannotch_core.edits.layout import SetLayout
from leannotch_core.edits.stock import PutStock
from leannotch_core.evaluate import evaluate
from leannotch_core.layout.nest import nest
from leannotch_core.project.project import Project, read_project

from workshop import library, variants
from workshop.models import LibraryStock, StoredProject, Version, nothing_is_there
from workshop.revisions import create, current_id, document_of, edit

FOLDER = Path(settings.ROOT) / "demo"


def load_demo() -> list[str]:
    """Loads every demo project into an empty workshop; returns their names."""
    if not nothing_is_there():
        return []
    loaded = []
    # All of it or none: a start that was cut short begins again.
    with transaction.atomic():
        for path in sorted(FOLDER.glob("*.json"), reverse=True):
            document = read_project(path.read_bytes())
            project = create(document, slug=path.stem.replace("_", "-"))
            if not document.layout.placements:
                _lay_out(project.slug, document)
            for stock in document.stocks:
                library.keep(stock)
            for machine in document.machines:
                library.keep(machine)
            loaded.append(document.name)
        # What came at once was not measured one after the other.
        LibraryStock.objects.update(since=None, earlier="[]")
        _with_a_variant(StoredProject.objects.get(slug="sorting-tray"))
        StoredProject.objects.update(demo=True)
    return loaded


def _lay_out(slug: str, document: Project) -> None:
    first = next(iter(nest(document, evaluate(document), 1)))
    edit(slug, None, SetLayout(do="set layout", layout=first.layout))


def _with_a_variant(tray: StoredProject) -> None:
    """The tray as it was first cut as a version, and the same tray of thicker card as a variant."""
    Version.objects.create(project=tray, revision_id=current_id(tray), name="as first cut")
    variant = variants.begin(tray, "Sorting tray of card")
    birch = document_of(current_id(variant)).stocks[0]
    card = birch.model_copy(
        update={
            "name": "Grey card 5 mm",
            "material": "card",
            "nominal": Size(text="5"),
            "readings": [Size(text=text) for text in ("4.9", "5.0", "5.1")],
            "history": [],
        }
    )
    changed = document_of(current_id(edit(variant.slug, None, PutStock(do="put stock", stock=card))))
    _lay_out(variant.slug, changed)
