"""Files for the machine: written, read back and proved before anyone gets them."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

from leannotch_core.document.limits import MOST_OF_OURS
from leannotch_core.drawings.drawing import Drawing
from leannotch_core.drawings.formats import read_drawing
from leannotch_core.evaluate import Result
from leannotch_core.geometry.segment import Motion
from leannotch_core.handover.formats import FORMATS
from leannotch_core.handover.told import as_ours
from leannotch_core.machining.prepared import Prepared, prepare
from leannotch_core.project import Project as Document
from leannotch_core.proof.sheet_proof import SheetProof, prove_sheet

from workshop.revisions import document_of, result_of


@dataclass(frozen=True, slots=True)
class SheetFile:
    """A sheet's file with the proof of that very file."""

    ready: Prepared
    data: bytes
    proof: SheetProof


def sheet_file(document: Document, result: Result, index: int, kind: str) -> SheetFile:
    """Writes the file of a sheet and proves it from its own bytes."""
    ready, written = prepare(document, result, index), FORMATS[kind]
    data = written.write(ready, document.hand_over)
    drawing = as_ours(read_drawing(data, f"sheet.{kind}", MOST_OF_OURS), ready.machine)
    return SheetFile(ready, data, prove_sheet(ready.plan, moved_back(drawing, written.frame(ready)), result))


def moved_back(drawing: Drawing, frame: Motion) -> Drawing:
    """A drawing of a sheet that lies anywhere, with its lines where they are on the sheet."""
    if frame != Motion():
        back = frame.back
        lines = [replace(line, segments=tuple(s.moved(back) for s in line.segments)) for line in drawing.lines]
        drawing.lines = lines
    return drawing


@lru_cache(maxsize=32)
def stored_sheet_file(revision_id: int, index: int, kind: str, only: frozenset[str] = frozenset()) -> SheetFile:
    """As `sheet_file`, of a stored revision; with some parts alone, where some are named."""
    document = document_of(revision_id)
    if only:
        document = document.model_copy(update={"layout": document.layout.only(only)})
    return sheet_file(document, result_of(revision_id), index, kind)


def all_sheets(revision_id: int, kind: str, names: Callable[[int], str]) -> tuple[bytes, list[str]]:
    """The files of all sheets in one ZIP, and the faults of their proofs, each with its sheet."""
    faults: list[str] = []
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as bundle:
        for index in range(len(document_of(revision_id).layout.sheets)):
            file = stored_sheet_file(revision_id, index, kind)
            faults += [f"sheet {index + 1}: {text}" for text, _ in file.proof.faults]
            # Without the time of writing the same sheets give the same bytes.
            bundle.writestr(zipfile.ZipInfo(names(index)), file.data)
    return packed.getvalue(), faults
