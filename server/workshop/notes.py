"""What a maker should know of a project as it stands: at once, and what has to be looked for afterwards."""

from __future__ import annotations

import logging
import secrets
from collections.abc import Callable, Iterable

from django.db import DatabaseError
from leannotch_core.assembly.bend_notes import bend_findings
from leannotch_core.assembly.notes import assembly_findings, is_turned, with_faces
from leannotch_core.edits.layout_mends import with_mends
from leannotch_core.edits.preparation import with_mends as mended
from leannotch_core.edits.shapes.shape_mends import with_mends as on_shapes
from leannotch_core.facts.findings import Finding, Place
from leannotch_core.layout.left import left_whole
from leannotch_core.layout.rest import Rest
from leannotch_core.layout.sheets import LayoutFacts, check_layout
from leannotch_core.machining.hatching import TooManyLines
from leannotch_core.machining.plan import CannotPlan
from leannotch_core.remembered import remembered

from workshop import proofs
from workshop.dry_fit import assembly_of
from workshop.hand import let_edits_first
from workshop.library import stock_news
from workshop.prepared import prepared_sheet
from workshop.revisions import document_of, result_of

log = logging.getLogger(__name__)

#: With more copies than this an assembly takes longer to put together than an answer to an edit may take.
AT_ONCE = 60

_ORDER = {"error": 0, "warning": 1, "note": 2}


@remembered(most=64)
def layout_of(revision_id: int) -> LayoutFacts:
    return check_layout(document_of(revision_id), result_of(revision_id))


def is_more_to_look_for(revision_id: int) -> bool:
    """Whether `all_notes` may know more than `notes` does."""
    bent = any(part.folded for part in result_of(revision_id).parts.values())
    laid = bool(document_of(revision_id).layout.sheets)
    return bent or laid or not _is_small(revision_id) or is_turned(assembly_of(revision_id))


def _is_small(revision_id: int) -> bool:
    return sum(part.count for part in document_of(revision_id).parts) <= AT_ONCE


def notes(revision_id: int) -> list[Finding]:
    """What is known at once, the gravest first: not what the machine does, whose ways take longer to find."""
    if not _is_small(revision_id):
        return _sorted(revision_id, [], [])
    document, result = document_of(revision_id), result_of(revision_id)
    assembly = _looked_at("The dry fit", lambda: assembly_findings(document, result, assembly_of(revision_id)))
    return _sorted(revision_id, assembly, [])


def all_notes(revision_id: int) -> list[Finding]:
    """With what takes a while to find: how a large assembly stands, which part is to be turned over, whether what is
    bent can be, and how the machine would do it."""
    return _sorted(revision_id, _looked_for(revision_id), preparing(revision_id))


@remembered(most=64)
def _looked_for(revision_id: int) -> list[Finding]:
    document, result = document_of(revision_id), result_of(revision_id)
    return [
        *_looked_at("The dry fit", lambda: with_faces(document, result, assembly_of(revision_id))),
        *_looked_at("What is bent", lambda: bend_findings(document, result)),
    ]


@remembered(most=64)
def preparing(revision_id: int) -> list[Finding]:
    """What is wrong with the sheets as they are made ready for the machine."""
    sheets = range(len(document_of(revision_id).layout.sheets))
    return [
        finding
        for index in sheets
        for finding in _looked_at(f"Sheet {index + 1} on its machine", lambda: _prepared(revision_id, index))  # noqa: B023
    ]


def _prepared(revision_id: int, index: int) -> list[Finding]:
    document = document_of(revision_id)
    try:
        return [mended(finding, document) for finding in prepared_sheet(revision_id, index).findings]
    except (CannotPlan, TooManyLines) as trouble:
        # A stock that cannot be read is told as such.
        if result_of(revision_id).errors:
            return []
        place = Place(kind="preparation", id=str(index))
        return [Finding(level="warning", code="cannot-prepare", text=str(trouble), place=place)]


def _looked_at(what: str, work: Callable[[], Iterable[Finding]]) -> list[Finding]:
    """What was found; a fault of ours in looking is told as that, for a project can always be opened and changed."""
    let_edits_first()
    try:
        return list(work())
    except DatabaseError:
        raise
    except Exception:
        reference = secrets.token_hex(3)
        log.exception("%s could not be looked at, reference %s", what, reference)
        text = f"{what} could not be looked at, by a fault of ours; the log has the details under {reference}"
        return [Finding(level="warning", code="not-looked-at", text=text, place=Place(kind="project"))]


def _sorted(revision_id: int, assembly: list[Finding], preparing: list[Finding]) -> list[Finding]:
    news = stock_news(document_of(revision_id))
    layout = _looked_at("The layout", lambda: map(with_mends, layout_of(revision_id).findings))
    drawn = _looked_at("What is drawn", lambda: map(on_shapes, result_of(revision_id).findings))
    found = [*drawn, *news, *assembly, *layout, *preparing, *proofs.findings(revision_id)]
    return sorted(found, key=lambda finding: _ORDER[finding.level])


@remembered(most=64)
def left_of_sheets(revision_id: int) -> list[Rest | None]:
    """What is left whole of each sheet."""
    let_edits_first()
    return left_whole(document_of(revision_id), result_of(revision_id))
