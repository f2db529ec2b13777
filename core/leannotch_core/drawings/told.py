"""What is told of a drawing by a maker's choices: all that was mended, left out or not read, with its places."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..document.sizes import shown
from .held import Told, left_out_of, noted_in, told
from .mending.dividing import MOST_CROSSINGS
from .way_in import WayIn


def told_of(way: WayIn) -> list[Told]:
    """All that there is to tell of a drawing as the choices have it: what is wrong first."""
    lost = left_out_of(way.drawing, way.scale, way.lettered)
    return [*_wrong(way), *_mended(way), *lost, *_references(way), *noted_in(way.drawing)]


def _wrong(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if mend.open:
        ends = [end for chain in mend.open for end in (chain.segments[0].start, chain.segments[-1].end)]
        gap = "" if mend.gap is None else f"; the narrowest gap is {shown(mend.gap)}"
        yield told(
            "open",
            "wrong",
            f"{_are(mend.open, 'line stays open and is', 'lines stay open and are')} not cut{gap}.",
            ends,
        )
    if way.crossed:
        them = "it so that it runs" if len(way.crossed) == 1 else "them so that they run"
        says = f"{_are(way.crossed, 'outline crosses itself and is', 'outlines cross themselves and are')} no part: "
        yield told(
            "crossed",
            "wrong",
            f"{says}draw {them} round once, or take what hangs together as one.",
            [at for _, at in way.crossed],
        )
    if way.overlaps:
        says = f"Outlines overlap at {_are(way.overlaps, 'place', 'places')}: each is taken as it is drawn."
        yield told("overlap", "wrong", says, way.overlaps)
    if way.empty:
        says = f"{_are(way.empty, 'outline encloses', 'outlines enclose')} nothing that could be cut, and was left out."
        yield told("empty", "wrong", says, way.empty)
    if mend.unclear:
        were = "was" if len(mend.unclear) == 1 else "were"
        says = f"{_are(mend.unclear, 'end', 'ends')} could join to two others, and {were} left: "
        yield told("unclear", "wrong", f"{says}mend that in the drawing, or join within less.", mend.unclear)
    if way.beside:
        says = f"{_are(way.beside, 'marked line or text lies', 'marked lines or texts lie')} on no part."
        yield told("beside", "wrong", says, way.beside)


def _mended(way: WayIn) -> Iterator[Told]:
    yield from _joined(way)
    yield from _crossed(way)
    yield from _as_it_was_meant(way)


def _joined(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    gaps = [gap.at for gap in mend.gaps if gap.taken]
    if gaps:
        yield told("joined", "mended", f"{_are(gaps, 'gap was', 'gaps were')} joined.", gaps)
    if mend.doubled:
        lines = "1 line is" if mend.doubled == 1 else f"{mend.doubled} lines are"
        twice = [segment.at(0.5) for segment in mend.twice]
        yield told("doubled", "mended", f"{lines} drawn twice, wholly or in part; each stretch is taken once.", twice)
    if mend.shared:
        sides = "1 line is a side" if mend.shared == 1 else f"{mend.shared} lines are sides"
        yield told("shared", "mended", f"{sides} of two neighbours; both get it.")


def _crossed(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if mend.too_many:
        says = f"Lines cross at more than {MOST_CROSSINGS} places; they were left as they are."
        yield told("too many crossings", "wrong", says)
    if mend.crossings:
        says = f"Lines cross at {_are(mend.crossings, 'place', 'places')} without an end there; they were divided."
        yield told("divided", "mended", says, mend.crossings)
    if mend.inside:
        says = f"{_are(mend.inside, 'line lies', 'lines lie')} inside what was taken as one whole, and was left out."
        yield told("inside", "mended", says, mend.inside)
    if mend.over:
        says = f"{_are(mend.over, 'line runs', 'lines run')} on a little past a crossing; that was left out."
        yield told("over", "mended", says, mend.over)
    if way.untied:
        says = f"{_are(way.untied, 'little loop was', 'little loops were')} taken out of outlines."
        yield told("untied", "mended", says, way.untied)


def _as_it_was_meant(way: WayIn) -> Iterator[Told]:
    mend = way.mend
    if way.points:
        lines = "1 point or line" if way.points == 1 else f"{way.points} points or lines"
        yield told("points", "mended", f"{lines} without length left out.", mend.specks)
    if way.drawing.hairlines:
        lines = "1 hairline" if way.drawing.hairlines == 1 else f"{way.drawing.hairlines} hairlines"
        yield told("hairlines", "mended", f"{lines} taken as lines.")
    if mend.arcs:
        arcs = [curve.at for curve in mend.curves if curve.taken]
        says = f"{mend.chords} chords are {_count(mend.arcs, 'arc', 'arcs')} again, within 0.01 mm."
        yield told("arcs", "mended", says, arcs)
    if way.unequal > 0:
        says = (
            f"Parts whose corners differ by up to {shown(way.unequal)} were taken as equal, as ends join within more."
        )
        yield told("alike", "mended", says)


def _references(way: WayIn) -> Iterator[Told]:
    """What lines are for that are not cut."""
    for row in way.rows:
        if way.purposes[row.key] == row.purpose == "reference":
            lines = "1 line is" if row.lines == 1 else f"{row.lines} lines are"
            yield told("reference", "note", f"{lines} taken as a reference, and not cut: {row.reason}.")


def _are(things: Sequence[object], one: str, many: str) -> str:
    return _count(len(things), one, many)


def _count(number: int, one: str, many: str) -> str:
    return f"1 {one}" if number == 1 else f"{number} {many}"
