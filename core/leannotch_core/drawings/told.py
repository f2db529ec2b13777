"""What is told of a drawing: all that was mended, left out or not read, with its places; one list for everybody."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

from ..document.sizes import shown
from ..geometry.segment import Point
from .drawing import LIVE_TEXT, WITHOUT_LENGTH, Drawing
from .mending.dividing import MOST_CROSSINGS
from .way_in import WayIn

#: ``wrong`` is for the maker to look at, ``mended`` was done for him, ``note`` is of the file.
Weight = Literal["wrong", "mended", "note"]

#: So many places of a kind are told.
MOST_PLACES = 400


@dataclass(frozen=True, slots=True)
class Told:
    """A sentence on what became of something in a drawing, its ``code``, and where that lies (mm, as it is shown)."""

    code: str
    weight: Weight
    says: str
    places: tuple[Point, ...] = ()


def told_of(way: WayIn) -> list[Told]:
    """All that there is to tell of a drawing as the choices have it: what is wrong first."""
    found = [*_wrong(way), *_mended(way), *_lost(way), *_notes(way)]
    return [Told(one.code, one.weight, one.says, one.places[:MOST_PLACES]) for one in found]


def _wrong(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if mend.open:
        ends = [end for chain in mend.open for end in (chain.segments[0].start, chain.segments[-1].end)]
        gap = "" if mend.gap is None else f"; the narrowest gap is {shown(mend.gap)}"
        yield _told(
            "open",
            "wrong",
            f"{_are(mend.open, 'line stays open and is', 'lines stay open and are')} not cut{gap}.",
            ends,
        )
    if way.crossed:
        them = "it so that it runs" if len(way.crossed) == 1 else "them so that they run"
        says = f"{_are(way.crossed, 'outline crosses itself and is', 'outlines cross themselves and are')} no part: "
        yield _told(
            "crossed",
            "wrong",
            f"{says}draw {them} round once, or take what hangs together as one.",
            [at for _, at in way.crossed],
        )
    if way.overlaps:
        says = f"Outlines overlap at {_are(way.overlaps, 'place', 'places')}: each is taken as it is drawn."
        yield _told("overlap", "wrong", says, way.overlaps)
    if way.empty:
        says = f"{_are(way.empty, 'outline encloses', 'outlines enclose')} nothing that could be cut, and was left out."
        yield _told("empty", "wrong", says, way.empty)
    if mend.unclear:
        were = "was" if len(mend.unclear) == 1 else "were"
        says = f"{_are(mend.unclear, 'end', 'ends')} could join to two others, and {were} left: "
        yield _told("unclear", "wrong", f"{says}mend that in the drawing, or join within less.", mend.unclear)
    if way.beside:
        says = f"{_are(way.beside, 'marked line or text lies', 'marked lines or texts lie')} on no part."
        yield _told("beside", "wrong", says, way.beside)


def _mended(way: WayIn) -> Iterator[Told]:
    yield from _joined(way)
    yield from _crossed(way)
    yield from _as_it_was_meant(way)


def _joined(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    gaps = [gap.at for gap in mend.gaps if gap.taken]
    if gaps:
        yield _told("joined", "mended", f"{_are(gaps, 'gap was', 'gaps were')} joined.", gaps)
    if mend.doubled:
        lines = "1 line is" if mend.doubled == 1 else f"{mend.doubled} lines are"
        twice = [segment.at(0.5) for segment in mend.twice]
        yield _told("doubled", "mended", f"{lines} drawn twice, wholly or in part; each stretch is taken once.", twice)
    if mend.shared:
        sides = "1 line is a side" if mend.shared == 1 else f"{mend.shared} lines are sides"
        yield _told("shared", "mended", f"{sides} of two neighbours; both get it.")


def _crossed(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if mend.too_many:
        says = f"Lines cross at more than {MOST_CROSSINGS} places; they were left as they are."
        yield _told("too many crossings", "wrong", says)
    if mend.crossings:
        says = f"Lines cross at {_are(mend.crossings, 'place', 'places')} without an end there; they were divided."
        yield _told("divided", "mended", says, mend.crossings)
    if mend.inside:
        says = f"{_are(mend.inside, 'line lies', 'lines lie')} inside what was taken as one whole, and was left out."
        yield _told("inside", "mended", says, mend.inside)
    if mend.over:
        says = f"{_are(mend.over, 'line runs', 'lines run')} on a little past a crossing; that was left out."
        yield _told("over", "mended", says, mend.over)
    if way.untied:
        says = f"{_are(way.untied, 'little loop was', 'little loops were')} taken out of outlines."
        yield _told("untied", "mended", says, way.untied)


def _as_it_was_meant(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if way.points:
        lines = "1 point or line" if way.points == 1 else f"{way.points} points or lines"
        yield _told("points", "mended", f"{lines} without length left out.", mend.specks)
    if way.drawing.hairlines:
        lines = "1 hairline" if way.drawing.hairlines == 1 else f"{way.drawing.hairlines} hairlines"
        yield _told("hairlines", "mended", f"{lines} taken as lines.")
    if mend.arcs:
        arcs = [curve.at for curve in mend.curves if curve.taken]
        says = f"{mend.chords} chords are {_count(mend.arcs, 'arc', 'arcs')} again, within 0.01 mm."
        yield _told("arcs", "mended", says, arcs)
    if way.unequal > 0:
        says = (
            f"Parts whose corners differ by up to {shown(way.unequal)} were taken as equal, as ends join within more."
        )
        yield _told("alike", "mended", says)


def _lost(way: WayIn) -> Iterator[Told]:
    """What is in the file and is not taken: each reason once."""
    unseen = way.drawing.unseen()
    by_reason: dict[tuple[bool, str], list[Point]] = {}
    for lost in way.drawing.lost:
        if lost.why != WITHOUT_LENGTH and not (lost.why == LIVE_TEXT and way.lettered):
            places = by_reason.setdefault((lost.unseen, unseen if lost.unseen else lost.says), [])
            places += [] if lost.at is None else [lost.at * way.scale]
    for (hidden, says), places in by_reason.items():
        yield _told("unseen" if hidden else "left out", "note" if hidden else "wrong", says, places)


def _notes(way: WayIn) -> Iterator[Told]:
    """What lines are for that are not cut, and what else the reader had to say."""
    for row in way.rows:
        if way.purposes[row.key] == row.purpose == "reference":
            lines = "1 line is" if row.lines == 1 else f"{row.lines} lines are"
            yield _told("reference", "note", f"{lines} taken as a reference, and not cut: {row.reason}.")
    said = {way.drawing.unseen(), *(lost.says for lost in way.drawing.lost)}
    yield from (_told("note", "note", note) for note in way.notes if note not in said)


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


def _told(code: str, weight: Weight, says: str, places: Iterable[Point] = ()) -> Told:
    return Told(code, weight, says, tuple(places))


def _are(things: Sequence[object], one: str, many: str) -> str:
    return _count(len(things), one, many)


def _count(number: int, one: str, many: str) -> str:
    return f"1 {one}" if number == 1 else f"{number} {many}"
