"""The files that were brought, as they were; what was read of them, and what was chosen for them."""

from __future__ import annotations

import gzip
import hashlib
import json
from typing import Any, NamedTuple

from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import READING
from leannotch_core.drawings.meshes.cut import Cut
from leannotch_core.drawings.sent import FORM, as_brought, as_read, as_sent, brought_apart, joined_apart, read_apart
from leannotch_core.drawings.way_in import Bringing, ReadDrawing, WayIn, count_joined
from leannotch_core.remembered import Remembered, remembered
from shown.choices import Choices, CutThrough

from workshop.models import BroughtFile

#: What a drawing may take, read and brought.
BOUNDS = READING


@remembered(most=8)
def _known(file_id: int, cut: Cut | None) -> list[ReadDrawing]:
    """The drawing of a file, once it was read."""
    return []


def read_of(file: BroughtFile, cut: CutThrough | None) -> ReadDrawing:
    """What is in a file. Raises `BrokenFile`."""
    how = cut.cut() if cut else None
    known = _known(file.id, how)
    if not known:
        kept = _kept_reading(file) if how is None else None
        known.append(as_read(kept or apart(read_apart, bytes(file.data), file.name, how), file.name))
    return known[0]


#: What drawings gave by the choices that were made last.
_WAYS = Remembered[WayIn]()


def brought_by(file: BroughtFile, cut: CutThrough | None, chosen: Bringing) -> WayIn:
    """What a drawing gives by a maker's choices, in a process of its own. Raises `BrokenFile`."""
    found = read_of(file, cut)
    return _WAYS.of(found, (file.name, chosen), lambda: _brought(found, file.name, chosen))


def _brought(found: ReadDrawing, name: str, chosen: Bringing) -> WayIn:
    sent = json.dumps(as_sent(found.drawing)).encode()
    return as_brought(apart(brought_apart, sent, name, chosen, BOUNDS.seconds, bounds=BOUNDS), found.drawing)


#: A drawing of at most so many lines and arcs is counted here while a tolerance is dragged: where they cross each other
#: all over, that took 0.14 s and 21 MB; four times as many took 1.9 s and 184 MB.
_AT_ONCE = 500


def joined_by(file: BroughtFile, cut: CutThrough | None, chosen: Bringing) -> dict[str, int]:
    """How many outlines close by a maker's choices; of a large drawing in a process of its own. Raises `BrokenFile`."""
    found = read_of(file, cut)
    if sum(len(line.segments) for line in found.drawing.lines) <= _AT_ONCE:
        return count_joined(found, chosen)._asdict()
    sent = json.dumps(as_sent(found.drawing)).encode()
    answer: dict[str, int] = apart(joined_apart, sent, file.name, chosen, BOUNDS.seconds, bounds=BOUNDS)
    return answer


def _kept_reading(file: BroughtFile) -> dict[str, Any] | None:
    """What was read of the file before, if it is in the form that is known now."""
    sent = json.loads(gzip.decompress(bytes(file.reading))) if file.reading else {}
    return sent if sent.get("form") == FORM else None


def making_of(found: ReadDrawing) -> str:
    """Files of one making have the same kind and the same rows."""
    rows = "\n".join(sorted(row.key for row in found.rows))
    return hashlib.sha256(f"{found.name.rpartition('.')[2].lower()}\n{rows}".encode()).hexdigest()


class ChosenBefore(NamedTuple):
    """Choices to begin with, and the file that they were made for."""

    choices: Choices
    made_for: str


def choices_for(file: BroughtFile) -> ChosenBefore:
    """What was chosen when a file was taken, or its earlier one; else what lines were for in files of its making."""
    if file.choices:
        return ChosenBefore(Choices.model_validate_json(file.choices), "")
    if file.earlier and file.earlier.choices:
        return ChosenBefore(Choices.model_validate_json(file.earlier.choices), file.earlier.name)
    there = BroughtFile.objects.filter(deleted=None, project__deleted=None)
    alike = there.filter(making=file.making).exclude(choices="").first()
    if alike is None or not file.making:
        return ChosenBefore(Choices(), "")
    before = Choices.model_validate_json(alike.choices)
    told = before.purposes or before.depths
    return ChosenBefore(Choices(purposes=before.purposes, depths=before.depths), alike.name if told else "")


def remember(file: BroughtFile, choices: Choices) -> None:
    BroughtFile.objects.filter(id=file.id).update(choices=choices.model_dump_json())


def known_as(file: BroughtFile) -> str:
    """What parts call the file that they came from: the first one of all that took its place."""
    seen = {file.id}
    while file.earlier is not None and file.earlier.id not in seen:
        file = file.earlier
        seen.add(file.id)
    return file.name
