"""Pairs whose walls lean: how wide the gap is on each face of the opening, by the kerf above and below.

A cut is wider by w on a face than its file makes up for; there an opening is wider by w, and an insert narrower by as
much. A sheet that crosses another one meets all of its wall, and is held where it is widest; what lies in one plane
with its opening meets it face by face.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Literal

from ..document.sheet import Placement
from ..document.sizes import shown
from ..facts.findings import Place
from ..facts.kerf import STRAIGHT, Walls
from ..facts.reading import Reader
from ..facts.stock import StockFacts
from .fit import Mating

#: Whether a part's copies lie with the drawn face up on their sheets, or on it.
Lying = frozenset[bool]

Face = Literal["above", "below"]

FACES: tuple[Face, Face] = ("above", "below")

_OTHER: Mapping[Face, Face] = {"above": "below", "below": "above"}


def lying(placements: Sequence[Placement]) -> dict[str, Lying]:
    """How the copies of each part lie."""
    found: dict[str, set[bool]] = {}
    for one in placements:
        found.setdefault(one.part, set()).add(one.mirrored)
    return {part: frozenset(ways) for part, ways in found.items()}


def met_by(mating: Mating, lie: Mapping[str, Lying]) -> Mapping[Face, Sequence[Face]]:
    """Which faces of the insert, as it lies on its bed, may meet each face of the opening."""
    if not mating.flat:
        return {face: FACES for face in FACES}
    own, other = (lie.get(part) or _FACE_UP for part in (mating.opening_part, mating.insert_part))
    same, turned = bool(own & other), len(own | other) > 1
    return {face: [*([face] if same else []), *([_OTHER[face]] if turned else [])] for face in FACES}


def with_walls(ledger: Sequence[Mating], stocks: Mapping[str, StockFacts], lie: Mapping[str, Lying]) -> list[Mating]:
    """The pairs with their gaps on both faces; ``stocks`` are by part. The tightest is that of the tighter face."""
    return [_with_walls(mating, stocks, lie) for mating in ledger]


def check_walls(
    straight: Sequence[Mating], leaning: Sequence[Mating], names: Mapping[str, str], reader: Reader
) -> None:
    """Warns of inserts that go into their openings by what is made up for, and not on one of the faces."""
    pairs = zip(straight, leaning, strict=True)
    tight = [mating for before, mating in pairs if mating.gap >= 0 and before.tightest >= 0 > mating.tightest]
    if not tight:
        return
    mating = min(tight, key=lambda one: one.tightest)
    more = f", and {len(tight) - 1} more pairs are too tight" if len(tight) > 1 else ""
    face = "upper" if mating.above < mating.below else "lower"
    insert = mating.hardware or names[mating.insert_part]
    text = (
        f"{mating.kind}: the walls of cuts lean, and on its {face} face the {shown(mating.opening)} opening in "
        f"{names[mating.opening_part]} is {shown(-mating.tightest)} too tight for {insert}{more}. Make parts for the "
        "face where cuts are narrower, or choose a looser fit"
    )
    at = mating.opening_at.point
    place = Place(kind="joint", id=mating.joint, part=mating.opening_part, x=at.real, y=at.imag, field="fit")
    reader.warn("walls-too-tight", text, place)


def _with_walls(mating: Mating, stocks: Mapping[str, StockFacts], lie: Mapping[str, Lying]) -> Mating:
    own = STRAIGHT if mating.sunk else _of(mating.opening_part, stocks)
    insert = _of(mating.insert_part, stocks) if mating.insert_at else STRAIGHT
    if own == insert == STRAIGHT:
        return mating
    meets = met_by(mating, lie)
    wider = {face: _on(own, face) + min(_on(insert, other) for other in meets[face]) for face in FACES}
    tightest = mating.tightest + min(0.0, *wider.values())
    return replace(mating, above=wider["above"], below=wider["below"], tightest=tightest)


def _of(part: str, stocks: Mapping[str, StockFacts]) -> Walls:
    stock = stocks.get(part)
    return stock.walls if stock else STRAIGHT


def _on(walls: Walls, face: Face) -> float:
    return walls.above if face == "above" else walls.below


_FACE_UP: Lying = frozenset({False})
