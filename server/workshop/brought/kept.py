"""The files that were brought, as they were; what was read of them, and what was chosen for them."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from typing import NamedTuple

from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.meshes.cut import Cut
from leannotch_core.drawings.sent import as_read, read_apart
from leannotch_core.drawings.way_in import Read

from workshop.brought.choices import Choices, CutThrough
from workshop.models import BroughtFile, Project


def keep(project: Project, name: str, data: bytes, earlier: BroughtFile | None = None) -> BroughtFile:
    """Keeps a file with a project, once it is known that it can be read; or a newer one of an ``earlier`` file.

    Raises `BrokenFile`.
    """
    found = as_read(apart(read_apart, data, name), name)
    kept = BroughtFile.objects.create(project=project, name=name, data=data, earlier=earlier, making=_making(found))
    _known(kept.id, None).append(found)
    return kept


@lru_cache(maxsize=8)
def _known(file_id: int, cut: Cut | None) -> list[Read]:
    """The drawing of a file, once it was read."""
    return []


def read_of(file: BroughtFile, cut: CutThrough | None) -> Read:
    """What is in a file. Raises `BrokenFile`."""
    how = cut.cut() if cut else None
    known = _known(file.id, how)
    if not known:
        known.append(as_read(apart(read_apart, bytes(file.data), file.name, how), file.name))
    return known[0]


def _making(found: Read) -> str:
    """Files of one making have the same kind and the same rows."""
    rows = "\n".join(sorted(row.key for row in found.rows))
    return hashlib.sha256(f"{found.name.rpartition('.')[2].lower()}\n{rows}".encode()).hexdigest()


class Remembered(NamedTuple):
    """Choices to begin with, and the file that they were made for."""

    choices: Choices
    made_for: str


def choices_for(file: BroughtFile) -> Remembered:
    """What was chosen when a file was taken, or its earlier one; else what lines were for in files of its making."""
    if file.choices:
        return Remembered(Choices.model_validate_json(file.choices), "")
    if file.earlier and file.earlier.choices:
        return Remembered(Choices.model_validate_json(file.earlier.choices), file.earlier.name)
    alike = BroughtFile.objects.filter(making=file.making, project__deleted=None).exclude(choices="").first()
    if alike is None or not file.making:
        return Remembered(Choices(), "")
    before = Choices.model_validate_json(alike.choices)
    told = {"purposes", "depths"} & {name for name in ("purposes", "depths") if getattr(before, name)}
    return Remembered(Choices(**{name: getattr(before, name) for name in told}), alike.name if told else "")


def remember(file: BroughtFile, choices: Choices) -> None:
    BroughtFile.objects.filter(id=file.id).update(choices=choices.model_dump_json())


def known_as(file: BroughtFile) -> str:
    """What parts call the file that they came from: the first one of all that took its place."""
    seen = {file.id}
    while file.earlier is not None and file.earlier.id not in seen:
        file = file.earlier
        seen.add(file.id)
    return file.name
