"""What a file holds, and what became of it: taken, or left out with its reason and places; one list for everybody."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from ..geometry.segment import Point
from .drawing import LIVE_TEXT, WITHOUT_LENGTH, Drawing

#: What something that is said of a drawing is known by.
ToldCode = Literal[
    "alike",
    "arcs",
    "beside",
    "crossed",
    "divided",
    "doubled",
    "empty",
    "hairlines",
    "inside",
    "joined",
    "left out",
    "note",
    "open",
    "over",
    "overlap",
    "points",
    "reference",
    "shared",
    "too many crossings",
    "unclear",
    "unseen",
    "untied",
]

#: ``wrong`` is for the maker to look at, ``mended`` was done for him, ``note`` is of the file.
Weight = Literal["wrong", "mended", "note"]

#: So many places of a kind are told, and so many of them are said in words.
MOST_PLACES, MOST_SAID = 400, 5


@dataclass(frozen=True, slots=True)
class Told:
    """A sentence on what became of something in a drawing, its ``code``, and where that lies (mm, as it is shown)."""

    code: ToldCode
    weight: Weight
    says: str
    places: tuple[Point, ...] = ()

    def as_json(self) -> dict[str, Any]:
        """As plain JSON values, to a thousandth of a mm."""
        places = [[round(at.real, 3), round(at.imag, 3)] for at in self.places]
        return {"code": self.code, "weight": self.weight, "says": self.says, "places": places}


def told(code: ToldCode, weight: Weight, says: str, places: Iterable[Point] = ()) -> Told:
    """What is said of a drawing, with as many of its places as are shown."""
    return Told(code, weight, says, tuple(places)[:MOST_PLACES])


def left_out_of(drawing: Drawing, scale: float = 1.0, lettered: bool = False) -> Iterator[Told]:
    """What is in a file and is not taken, each reason once; live text may be ``lettered``."""
    unseen = drawing.unseen()
    by_reason: dict[tuple[bool, str], list[Point]] = {}
    for lost in drawing.lost:
        if lost.why != WITHOUT_LENGTH and not (lost.why == LIVE_TEXT and lettered):
            places = by_reason.setdefault((lost.unseen, unseen if lost.unseen else lost.says), [])
            places += [] if lost.at is None else [lost.at * scale]
    for (hidden, says), places in by_reason.items():
        yield told("unseen" if hidden else "left out", "note" if hidden else "wrong", says, places)


def noted_in(drawing: Drawing) -> Iterator[Told]:
    """What else the reader had to say."""
    said = {drawing.unseen(), *(lost.says for lost in drawing.lost)}
    yield from (told("note", "note", note) for note in drawing.notes if note not in said)


class Held(NamedTuple):
    """How many things of a ``kind`` a file holds, and what became of them: how many were taken, or why not."""

    kind: str
    number: int
    became: dict[str, int]


def held_in(drawing: Drawing, lettered: bool = False) -> list[Held]:
    """All that a file holds, by kind: the most of a kind first. Live text may be ``lettered``."""
    became: dict[str, Counter[str]] = defaultdict(Counter)
    for kind, number in drawing.taken.items():
        became[kind]["taken"] += number
    for lost in drawing.lost:
        set_now = lettered and lost.why == LIVE_TEXT
        became[lost.kind]["set as lettering" if set_now else lost.why] += lost.number
    found = [Held(kind, counts.total(), dict(counts)) for kind, counts in became.items()]
    return sorted(found, key=lambda one: (-one.number, one.kind))


def in_words(answer: Mapping[str, Any]) -> list[str]:
    """What a file holds and what is ``told`` of it, as plain JSON values, in a sentence each."""
    lines = []
    for held in answer["held"]:
        became = ", ".join(f"{number} {what}" for what, number in held["became"].items())
        lines.append(f"{held['number']} {held['kind']}: {became}")
    return lines + [one["says"] + _where(one["places"]) for one in answer["told"]]


def _where(places: Sequence[Sequence[float]]) -> str:
    at = "; ".join(f"{x:.2f}, {y:.2f}" for x, y in places[:MOST_SAID])
    more = f" and {len(places) - MOST_SAID} more" if len(places) > MOST_SAID else ""
    return f" At {at}{more}." if places else ""
