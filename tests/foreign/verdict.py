"""What became of a foreign file: right, told, refused with its reason, silently wrong, or a crash."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.told import told_of
from leannotch_core.drawings.way_in import Bringing, ReadDrawing, WayIn, bring, read

Verdict = Literal["right", "told", "refused", "silently wrong", "crashed"]


class Foreign(NamedTuple):
    """A file: of which kind, its name, its bytes, and a judge of what was read of it: what is wrong, in words."""

    kind: str
    name: str
    data: bytes
    judge: Callable[[ReadDrawing, WayIn], Iterator[str]]


class Judged(NamedTuple):
    verdict: Verdict
    why: str


#: Lengths differ by no more than this share, or this (mm): arcs stand for curves.
SHARE, LEAST = 0.002, 0.02


def judged(file: Foreign) -> Judged:
    """Reads a file, takes it apart as a maker would first see it, and judges that."""
    try:
        found = read(file.data, file.name)
        way = bring(found, Bringing())
        wrong = [*file.judge(found, way), *_vanished(found, way)]
    except BrokenFile as refusal:
        # A refusal says what is wrong with which thing, in a sentence.
        return Judged("refused" if len(str(refusal)) > 20 else "silently wrong", str(refusal))
    except Exception as error:
        return Judged("crashed", repr(error))
    if not wrong:
        return Judged("right", "")
    if found.drawing.lost or found.drawing.notes or any(told.weight == "wrong" for told in told_of(way)):
        return Judged("told", wrong[0])
    return Judged("silently wrong", wrong[0])


def _vanished(found: ReadDrawing, way: WayIn) -> Iterator[str]:
    """All that was read is in a part, open, crossed, empty, drawn twice, or too short: nothing is gone."""
    mend = way.mend
    came = sum(segment.length for line in found.drawing.lines for segment in line.segments)
    twice = sum(segment.length for segment in mend.twice)
    parts = sum(loop.length * part.count for part in way.parts for loop in part.outline.loops)
    marks = sum(s.length for part in way.parts for line in part.lines for s in line.chain.segments) if way.parts else 0
    aside = sum(segment.length for chain in mend.open for segment in chain.segments)
    aside += sum(loop.length for loop, _ in way.crossed) + (way.frame.outline.outer.length if way.frame else 0)
    little = 0.1 * (len(mend.over) + len(mend.specks) + len(way.untied)) + sum(gap.width for gap in mend.gaps)
    gone = came - twice - parts - marks - aside - little
    if gone > max(LEAST, SHARE * came) and not way.empty and not mend.shared and not way.beside:
        yield f"{gone:.3f} mm of {came:.3f} mm of lines are nowhere"


def total_length(found: ReadDrawing) -> float:
    """How long (mm) all is that was read."""
    return sum(segment.length for line in found.drawing.lines for segment in line.segments)


def differs(ours: float, theirs: float, what: str) -> Iterator[str]:
    """What two numbers show, if they are not one."""
    if abs(ours - theirs) > max(LEAST, SHARE * abs(theirs)):
        yield f"{what}: {ours:.4f} for {theirs:.4f}"
