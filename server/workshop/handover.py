"""Files for the machine: written, read back and proved before anyone gets them."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from leannotch_core.evaluate import Result
from leannotch_core.handover.formats import FORMATS
from leannotch_core.handover.read_back import read_back
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
    ready = prepare(document, result, index)
    data = FORMATS[kind].write(ready, document.hand_over)
    return SheetFile(ready, data, prove_sheet(ready.plan, read_back(data, kind, ready), result))


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
