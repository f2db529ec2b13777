"""Sheets as the shell writes them: laid out where they are not, refused where their proof fails."""

from __future__ import annotations

import sys
import time
from pathlib import Path

import click
from leannotch_core.document.formats import FORMATS
from leannotch_core.evaluate import Result
from leannotch_core.layout.nest import nest
from leannotch_core.project.project import Project
from leannotch_core.said import Said
from workshop.handover import SheetFile, of_sheet


class CannotWrite(Said):
    """A file that is not written."""


def kind_of(out: Path, *more: str) -> str:
    """What a file is written as, by its ending. Raises `CannotWrite`."""
    kind = out.suffix.lower().lstrip(".")
    if kind not in (*more, *FORMATS):
        raise CannotWrite(f"{out} ends in neither {' nor '.join(f'.{ending}' for ending in (*more, *FORMATS))}")
    return kind


def laid_out(project: Project, result: Result, seconds: float) -> Project:
    """The project with the best layout that is found within so many seconds, with a bar on a screen meanwhile."""
    best = project.layout
    hidden = not sys.stderr.isatty()
    with click.progressbar(length=100, label="Laying out", file=sys.stderr, hidden=hidden) as bar:
        began = time.monotonic()
        for found in nest(project, result, seconds=seconds):
            best = found.layout
            share = (time.monotonic() - began) / seconds
            bar.update(max(0, min(100, int(100 * share)) - bar.pos))
    return project.model_copy(update={"layout": best})


def written(project: Project, file: SheetFile, out: Path, accept_faults: bool = False) -> None:
    """Writes all files of a sheet beside the one that is named. Raises `CannotWrite` where the proof found faults."""
    faults = [fault.text for fault in file.proof.faults]
    if faults and not accept_faults:
        raise CannotWrite("the proof of this file failed, it was not written: " + "; ".join(faults))
    for name, data in of_sheet(project, file, out.name).items():
        (out.parent / name).write_bytes(data)
