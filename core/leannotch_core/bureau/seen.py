"""What a cutting service sees in a file, by itself: parts and counts, bend lines, and what is no part."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any, Literal

from ..document.model import Model
from ..drawings.apart import apart, within
from ..drawings.bounds import READING
from ..drawings.chains import Chain
from ..drawings.drawing import BrokenFile
from ..drawings.following import places_of
from ..drawings.taken import part_from
from ..drawings.too_many import too_many
from ..drawings.way_in import Bringing, WayIn, bring, read
from ..geometry.segment import Line, Segment
from ..parts.part import Part
from .zipped import drawing_in, drawings_in, is_zip

FileUnit = Literal["as the file says", "mm", "in"]

#: Sheets that slots are drawn for (mm), and so many of the most usual lengths are tried for one.
_THINNEST, _THICKEST, _TRIED = 0.8, 25.0, 8


class SeenLayer(Model):
    name: str
    purpose: str
    lines: int


class SeenPart(Model):
    """A part that was found, ``count`` times: its sizes in mm, as a part that its bends can be set of."""

    file: str
    count: int
    width: float
    height: float
    part: Part


class SeenFile(Model):
    """A drawing as it was read. Sizes in mm; ``slots_for`` is the thickness that its slots look drawn for, if any.

    ``open_at`` are ends of lines that close nothing, as x and y in turn.
    """

    name: str
    unit: str
    unit_stated: bool
    width: float
    height: float
    closed: int
    open: int
    open_at: list[float]
    doubled: int
    texts: list[str]
    layers: list[SeenLayer]
    slots_for: float | None
    notes: list[str]
    parts: list[SeenPart]


def seen(data: bytes, name: str, unit: FileUnit = "as the file says") -> list[SeenFile]:
    """What is in a drawing, or in each drawing of a ZIP. Raises `BrokenFile`; each is read in a process of its own."""
    called = apart(drawings_in, data, name) if is_zip(data) else [name]
    found = [SeenFile.model_validate(apart(seen_apart, data, one, unit, at)) for at, one in enumerate(called)]
    if not any(file.parts for file in found):
        raise BrokenFile(f"{name}: no closed outline was found, so there is no part to cut.")
    return found


def seen_apart(data: bytes, name: str, unit: FileUnit, at: int = 0) -> dict[str, Any]:
    """What is in a drawing, or in that at a place of a ZIP, as plain JSON values: for a process of its own.

    Raises `BrokenFile`.
    """
    with within(READING.seconds):
        found = read(drawing_in(data, name, at) if is_zip(data) else data, name)
        chosen = Bringing() if unit == "as the file says" else Bringing(unit=unit)
        way = bring(found, chosen)
        if why := too_many(way.parts):
            raise BrokenFile(f"{name}: {why}")
        return _seen(
            way, name, found.drawing.unit_stated, [text.words for text in found.drawing.texts], unit
        ).model_dump(mode="json")


def _seen(way: WayIn, name: str, stated: bool, texts: Sequence[str], unit: FileUnit) -> SeenFile:
    ends = [end for chain in way.mend.open for end in _ends(chain)]
    parts = []
    for number, part in enumerate(way.parts, 1):
        left, bottom, right, top = part.outline.bounds
        made = part_from(part, f"part_{number}", "sheet")
        parts.append(SeenPart(file=name, count=part.count, width=right - left, height=top - bottom, part=made))
    return SeenFile(
        name=name,
        unit="mm" if unit == "mm" else "in" if unit == "in" else "as it states" if stated else "assumed",
        unit_stated=stated,
        width=way.width,
        height=way.height,
        closed=len(way.mend.closed),
        open=len(way.mend.open),
        open_at=[number for end in ends[:100] for number in (end.real, end.imag)],
        doubled=way.mend.doubled,
        texts=[text[:80] for text in texts[:40]],
        layers=[SeenLayer(name=row.key, purpose=way.purposes[row.key], lines=row.lines) for row in way.rows],
        slots_for=_slots_for(way),
        notes=way.notes,
        parts=parts,
    )


def _ends(chain: Chain) -> tuple[complex, complex]:
    segments: Sequence[Segment] = chain.segments
    return segments[0].start, segments[-1].end


def _slots_for(way: WayIn) -> float | None:
    """The thickness (mm) that most slots and tabs of the parts were drawn for; None where there are hardly any."""
    lengths = Counter(
        round(segment.length, 1)
        for part in way.parts
        for loop in part.outline.loops
        for segment in loop
        if isinstance(segment, Line) and _THINNEST <= segment.length <= _THICKEST
    )
    counts = {t: sum(len(places_of(part.outline, t)) for part in way.parts) for t, _ in lengths.most_common(_TRIED)}
    likely = max(counts, key=lambda t: counts[t], default=0.0)
    return likely if counts.get(likely, 0) > 1 else None
