"""What projects look like: drawn once for each state that somebody looks at, and kept with the project."""

from __future__ import annotations

import zstandard
from leannotch_core.document.starter import Starter
from leannotch_core.document.stock import Material, Stock
from leannotch_core.evaluate import evaluate
from leannotch_core.portrait.drawn import MANNER, portrait
from leannotch_core.portrait.look_page import look_page
from leannotch_core.project.project import Project
from leannotch_core.remembered import remembered
from leannotch_core.starters.live import KINDS, put_starter

from workshop import hand
from workshop.dry_fit import assembled, assembly_of
from workshop.models import Portrait, StoredProject
from workshop.revisions import current_id, document_of, result_of


def portrait_of(project: StoredProject) -> bytes:
    """The project as it is now, as SVG. Raises `Unreadable`."""
    revision = current_id(project)
    kept = Portrait.objects.filter(project=project, revision=revision, manner=MANNER).first()
    if kept:
        return zstandard.ZstdDecompressor().decompress(bytes(kept.svg))
    with hand.looking():
        hand.let_edits_first()
        svg = portrait(result_of(revision), assembly_of(revision)).encode()
    now = {"revision": revision, "manner": MANNER, "svg": zstandard.ZstdCompressor(3).compress(svg)}
    Portrait.objects.update_or_create(project=project, defaults=now)
    return svg


@remembered(most=8)
def page_of(revision: int) -> bytes:
    """A state of a project as one page to look at, which needs nothing else. Raises `Unreadable`."""
    with hand.looking():
        hand.let_edits_first()
        return look_page(document_of(revision), result_of(revision), assembly_of(revision))


def _usual(material: Material | None) -> Stock:
    """A sheet as there usually is one, for a picture alone."""
    metal = material == "aluminium"
    return Stock.model_validate(
        {
            "id": "sheet",
            "name": "Sheet",
            "material": material or "plywood",
            "nominal": "1.5" if metal else "3",
            "readings": ["1.5" if metal else "3"],
            "sheets": [{"width": "600", "height": "400"}],
            "smallest_web": "1",
            "kerf": {"how": "typed", "width": "0.15"},
            "clearances": {"loose": "0.3", "sliding": "0.2", "glue": "0.1", "press": "-0.05"},
        }
    )


@remembered(most=32)
def portrait_of_starter(key: str) -> bytes:
    """A kind of starter as it begins, made of a sheet that there usually is."""
    kind, _ = KINDS[key]
    stock = _usual(kind.material)
    document = Project(name=kind.title, stocks=[stock])
    made = put_starter(
        document, Starter.model_validate({"id": "made", "kind": key, "stock": stock.id, "second_stock": stock.id})
    )
    result = evaluate(made)
    return portrait(result, assembled(made, result)).encode()
