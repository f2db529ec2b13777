"""Files for the machine: written, read back and proved before anyone gets them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from leannotch_core.document.limits import MOST_OF_OURS
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.evaluate import Result
from leannotch_core.handover.formats import FORMATS
from leannotch_core.machining.plan import SheetPlan, plan_sheet
from leannotch_core.project import Project as Document
from leannotch_core.proof.sheet_proof import SheetProof, prove_sheet

from workshop.revisions import document_of, result_of


@dataclass(frozen=True, slots=True)
class SheetFile:
    """A sheet's file with the proof of that very file."""

    plan: SheetPlan
    data: bytes
    proof: SheetProof


def sheet_file(document: Document, result: Result, index: int, kind: str) -> SheetFile:
    """Writes the file of a sheet and proves it from its own bytes."""
    plan = plan_sheet(document, result, index)
    data = FORMATS[kind].write(plan, document.hand_over)
    drawing = read_drawing(data, f"sheet.{kind}", MOST_OF_OURS)
    return SheetFile(plan, data, prove_sheet(plan, drawing, result))


@lru_cache(maxsize=32)
def stored_sheet_file(revision_id: int, index: int, kind: str) -> SheetFile:
    """As `sheet_file`, of a stored revision."""
    return sheet_file(document_of(revision_id), result_of(revision_id), index, kind)
