"""Joints of solid wood: whether they still fit where the air is drier or damper than it was when they were cut."""

from __future__ import annotations

import cmath
import math
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product

from ..document.sheet import Placement
from ..document.sizes import shown
from ..document.stock import Stock
from ..facts.codes import FindingCode
from ..facts.findings import Place
from ..facts.moisture import Swelling, WoodFacts
from ..facts.reading import Reader
from ..geometry.segment import Point, dot
from ..parts.drawing import DrawnPart
from .fit import Gauge, Mating
from .meeting import Meeting


@dataclass(frozen=True, slots=True)
class Grained:
    """A part of a width and height (mm) with the direction ``across`` its grain in its frame, and the clearance (mm) of
    a ``loose`` fit in it; without a ``wood`` it keeps its size.
    """

    name: str
    width: float
    height: float
    across: Point = 1j
    wood: WoodFacts | None = None
    loose: float = math.inf

    def swells(self, damp: bool) -> Swelling:
        """How it swells in the dampest air, or in the driest."""
        if self.wood is None:
            return _STILL
        return self.wood.dampest if damp else self.wood.driest


_STILL = Swelling(0.0, 0.0, 0.0, 0.0)


def across_grain(kept: bool, grain: str, placement: Placement | None) -> Point:
    """The direction across the grain in the frame of a part: as its first copy lies, else as it is drawn.

    The ``grain`` is that of the sheet; where a part has its grain ``kept`` that runs along its width.
    """
    if kept or grain == "none":
        return 1j
    across = 1j if grain == "along width" else 1 + 0j
    if placement is None:
        return across
    way = across * cmath.rect(1.0, -math.radians(placement.turn))
    return way.conjugate() if placement.mirrored else way


def grained(
    drawn: Mapping[str, DrawnPart], stocks: Sequence[Stock], placements: Sequence[Placement]
) -> dict[str, Grained]:
    """Parts of stocks with their grain, each as its first copy lies."""
    first = {one.part: one for one in reversed(placements)}
    grains = {stock.id: stock.grain for stock in stocks}
    return {
        at: Grained(
            one.part.name,
            one.width,
            one.height,
            across_grain(one.part.turns == "grain", grains[one.part.stock], first.get(at)),
            one.stock.wood,
            one.stock.clearance["loose"],
        )
        for at, one in drawn.items()
    }


def check_wood(
    ledger: Sequence[Mating], meetings: Sequence[Meeting], parts: Mapping[str, Grained], reader: Reader
) -> None:
    """Tells of each joint whose parts are of solid wood how it binds, opens or pulls at its worst."""
    pairs: dict[str, list[Mating]] = defaultdict(list)
    for mating in ledger:
        both = {mating.opening_part, mating.insert_part} & parts.keys()
        if any(parts[part].wood for part in both) and not mating.hardware:
            pairs[mating.joint].append(mating)
    pulled = {one.joint: one for one in meetings if (one.firm or one.room > 0) and one.joint in pairs}
    for joint, rows in pairs.items():
        found = _pulled(pulled.get(joint), rows, parts) or _tight(rows, parts) or _open(rows, parts)
        if found:
            code, text = found
            tell = reader.note if code == "wood-opens" else reader.warn
            tell(code, text, Place(kind="joint", id=joint))


Told = tuple[FindingCode, str] | None


def _tight(rows: Sequence[Mating], parts: Mapping[str, Grained]) -> Told:
    gap, humidity, row = min(_gaps(rows, parts), key=lambda found: found[0])
    if not gap < 0 <= row.tightest:
        return None
    called = f"{parts[row.insert_part].name} in {parts[row.opening_part].name}"
    text = f"{called}: at {humidity:g} % humidity its gap is {shown(gap)}, and it binds; leave more room"
    return "wood-binds", text


def _open(rows: Sequence[Mating], parts: Mapping[str, Grained]) -> Told:
    gap, humidity, row = max(_gaps(rows, parts), key=lambda found: found[0])
    own = parts[row.opening_part]
    if not gap > own.loose >= row.gap:
        return None
    called = f"{parts[row.insert_part].name} in {own.name}"
    return "wood-opens", f"{called}: at {humidity:g} % humidity its gap is {shown(gap)}, looser than a loose fit"


def _pulled(meeting: Meeting | None, rows: Sequence[Mating], parts: Mapping[str, Grained]) -> Told:
    """Where an edge grows along a joint by more than what it is joined to, and than they are free to move."""
    if meeting is None or not {meeting.a.part, meeting.b.part} <= parts.keys():
        return None
    free = max(min(row.gap for row in rows), meeting.room, 0.0)
    apart, humidity = max(_apart(meeting, parts), key=lambda found: found[0], default=(0.0, 0.0))
    if apart <= free + _BORNE:
        return None
    a, b = parts[meeting.a.part].name, parts[meeting.b.part].name
    text = (
        f"{a} and {b}: at {humidity:g} % humidity one is {shown(apart)} longer along their joint than the other, which "
        f"leaves {shown(free)}; let both run the same way with their grain, or leave them room to slide"
    )
    return "wood-pulls", text


#: So much (mm) a joint's wood gives without being told: common practice, no source.
_BORNE = 0.1


def _gaps(rows: Sequence[Mating], parts: Mapping[str, Grained]) -> Iterator[tuple[float, float, Mating]]:
    """Each gap (mm) in the driest and the dampest air, with that humidity; the tightest where it gets less."""
    for damp, row in product((False, True), rows):
        if not {row.opening_part, row.insert_part} <= parts.keys():
            continue
        own, other = parts[row.opening_part], parts[row.insert_part]
        opened, inserted = own.swells(damp), other.swells(damp)
        by = row.opening * _along(opened, own, row.opening_at) - row.insert * _along(inserted, other, row.insert_at)
        yield (row.tightest if by < 0 else row.gap) + by, opened.humidity or inserted.humidity, row


def _along(swells: Swelling, part: Grained, gauge: Gauge | None) -> float:
    """The share along a gauge; through the board where there is none."""
    return swells.through if gauge is None else swells.along(gauge.direction, part.across)


def _apart(meeting: Meeting, parts: Mapping[str, Grained]) -> Iterator[tuple[float, float]]:
    """How much longer (mm) one part gets than the other along an edge of a joint, with the humidity."""
    for own, other in ((meeting.a, meeting.b), (meeting.b, meeting.a)):
        if own.hold.what != "edge":
            continue
        edge = 1j if own.hold.side in ("left", "right") else 1 + 0j
        along = next((at for at, axis in enumerate(own.axes) if abs(dot(complex(*axis[:2]), edge)) > _ALONG), None)
        way = complex(*other.axes[along][:2]) if along is not None else 0
        if abs(way) < _ALONG:
            # Through the other's thickness there is no length to speak of.
            continue
        mine, its = parts[own.part], parts[other.part]
        begin, end = own.locked or own.span or (0.0, mine.height if edge == 1j else mine.width)
        for damp in (False, True):
            swells, too = mine.swells(damp), its.swells(damp)
            share = swells.along(edge, mine.across) - too.along(way / abs(way), its.across)
            yield (end - begin) * abs(share), swells.humidity or too.humidity


#: Axes whose directions agree better than this are along each other.
_ALONG = 0.99
