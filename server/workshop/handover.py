"""Files for the machine: written, read back and proved before anyone gets them."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from django.utils.text import slugify
from leannotch_core.evaluate import Result
from leannotch_core.handover.proved import WrittenSheet, written
from leannotch_core.machining.prepared import prepare
from leannotch_core.machining.ready import Prepared
from leannotch_core.project.project import Project
from leannotch_core.proof.found import SheetProof
from leannotch_core.remembered import remembered

from workshop.revisions import document_of, result_of


@dataclass(frozen=True, slots=True)
class SheetFile:
    """A sheet's files, one, or with a router one for each of its cutters, and the proof of these very files."""

    ready: Prepared
    written: WrittenSheet

    @property
    def proof(self) -> SheetProof:
        return self.written.proof


def sheet_file(document: Project, result: Result, index: int, kind: str) -> SheetFile:
    """Writes the file of a sheet and proves it from its own bytes."""
    ready = prepare(document, result, index)
    return SheetFile(ready, written(document, result, ready, kind, document.hand_over))


@remembered(most=32)
def stored_sheet_file(revision_id: int, index: int, kind: str, only: frozenset[str] = frozenset()) -> SheetFile:
    """As `sheet_file`, of a stored revision; with some parts alone, where some are named."""
    document = document_of(revision_id)
    if only:
        document = document.model_copy(update={"layout": document.layout.only(only)})
    return sheet_file(document, result_of(revision_id), index, kind)


def of_sheet(document: Project, file: SheetFile, name: str) -> dict[str, bytes]:
    """The files of a sheet by their names: for each cutter with its name behind that of the sheet."""
    stem, _, ending = name.rpartition(".")
    called = {cutter.id: slugify(cutter.name) for cutter in document.cutters}
    return {f"{stem}{f'-{called[of]}' if of else ''}.{ending}": data for of, data in file.written.files.items()}


def packed(files: Iterable[tuple[str, bytes]]) -> bytes:
    """A ZIP of files. Without the time of writing the same files give the same bytes."""
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as bundle:
        for name, content in files:
            bundle.writestr(zipfile.ZipInfo(name), content)
    return data.getvalue()


def all_sheets(revision_id: int, kind: str, names: Callable[[int], str]) -> tuple[bytes, list[str]]:
    """The files of all sheets in one ZIP, and the faults of their proofs, each with its sheet."""
    document = document_of(revision_id)
    faults: list[str] = []
    files: list[tuple[str, bytes]] = []
    for index in range(len(document.layout.sheets)):
        file = stored_sheet_file(revision_id, index, kind)
        faults += [f"sheet {index + 1}: {fault.text}" for fault in file.proof.faults]
        files += of_sheet(document, file, names(index)).items()
    return packed(files), faults
