"""Files for the machine: written, read back and proved before anyone gets them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from leannotch_core.cutting.plan import SheetPlan, plan_sheet
from leannotch_core.document import Project as Document
from leannotch_core.evaluate import Result
from leannotch_core.formats.drawing import MOST_OF_OURS
from leannotch_core.formats.dxf import read_dxf, write_dxf
from leannotch_core.formats.svg import read_svg, write_svg
from leannotch_core.proof.sheet_proof import SheetProof, prove_sheet

from workshop.revisions import document_of, result_of

Format = Literal["svg", "dxf"]


@dataclass(frozen=True, slots=True)
class SheetFile:
    """A sheet's file with the proof of that very file."""

    plan: SheetPlan
    data: bytes
    proof: SheetProof


def sheet_file(document: Document, result: Result, index: int, kind: Format) -> SheetFile:
    """Writes the file of a sheet and proves it from its own bytes."""
    plan = plan_sheet(document, result, index)
    if kind == "svg":
        data = write_svg(plan, hairline=document.hand_over.strokes == "hairline")
        drawing = read_svg(data, MOST_OF_OURS)
    else:
        data = write_dxf(plan, document.hand_over.dxf)
        drawing = read_dxf(data, MOST_OF_OURS)
    return SheetFile(plan, data, prove_sheet(plan, drawing, result))


@lru_cache(maxsize=32)
def stored_sheet_file(revision_id: int, index: int, kind: Format) -> SheetFile:
    """As `sheet_file`, of a stored revision."""
    return sheet_file(document_of(revision_id), result_of(revision_id), index, kind)
