"""What is taken of a drawing: its parts as parts of a project."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Literal

from ..document.bend import BendLine
from ..document.limits import MOST_VERTICES
from ..document.sizes import Size, in_digits
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Arc, Segment
from ..parts.cut_out import CutOut
from ..parts.part import Part
from ..parts.shapes.brought import Brought, BroughtLine, CameFrom, Following, Ring, Vertex
from ..parts.shapes.text import MOST_LETTERS, TextHole
from .bent import bend_from
from .drawing import BrokenFile
from .following import Follow
from .recognised import FoundPart, PartLine, PartText
from .way_in import placed

#: What lines on an outline are drawn as: one that is meant as a bend but cannot be one is only shown.
_DRAWN: Mapping[str, Literal["fill", "score", "engrave", "reference"]] = {
    "fill": "fill",
    "score": "score",
    "engrave": "engrave",
    "pocket": "score",
    "bend up": "reference",
    "bend down": "reference",
    "reference": "reference",
}

#: The sides (mm) that an outline must have at the least.
SMALLEST = 0.05


def ring(loop: Loop, corner: complex = 0) -> Ring:
    """The corners of a loop from a corner of its part, in halves where an arc is more than half a turn."""
    return _places([half for whole in loop for half in _halves(whole)], corner)


def _places(segments: Sequence[Segment], corner: complex = 0) -> Ring:
    return [
        Vertex(
            x=round((segment.start - corner).real, 6),
            y=round((segment.start - corner).imag, 6),
            bulge=round(segment.bulge, 9) if isinstance(segment, Arc) else 0,
        )
        for segment in segments
    ]


def _halves(segment: Segment) -> tuple[Segment, ...]:
    """An arc of more than half a turn as two: the nearer to a full turn, the more its bulge grows beyond bounds."""
    # A half circle is one arc, however its angle is rounded: its vertices are counted before and after it is moved.
    if not isinstance(segment, Arc) or abs(segment.sweep) <= math.pi + 1e-6:
        return (segment,)
    middle = segment.at(0.5)
    return segment.between(segment.start, middle), segment.between(middle, segment.end)


def part_from(found: FoundPart, part_id: str, stock: str, follow: Follow | None = None, file: str = "") -> Part:
    """A part of a drawing as a part of a project, as large as it was drawn. Raises `BrokenFile`.

    Slots and tabs that ``follow`` are as wide as the stock is thick from then on; a part remembers the ``file`` that
    it came from.
    """
    moved = placed(found)
    outline, lines = moved.outline, moved.lines
    left, bottom, right, top = outline.bounds
    if min(right - left, top - bottom) < SMALLEST:
        raise BrokenFile(
            f"{found.name} is {right - left:.3g} x {top - bottom:.3g} mm, too small to be cut; check its unit."
        )
    rings = [ring(loop) for loop in outline.loops]
    bends = [(line, bend) for at, line in enumerate(lines, 1) if (bend := _bend(line, at, outline))]
    bent = {id(line) for line, _ in bends}
    scored = [_line(line) for line in lines if line.operation != "pocket" and id(line) not in bent]
    if sum(map(len, rings)) + sum(len(line.places) for line in scored) > MOST_VERTICES:
        raise BrokenFile(
            f"{found.name} has more than {MOST_VERTICES} lines and arcs; simplify it, or bring it in pieces."
        )
    width, height = (_typed(size) for size in (right - left, top - bottom))
    sunk = [line for line in lines if line.operation == "pocket"]
    return Part(
        id=part_id,
        name=found.name,
        stock=stock,
        count=found.count,
        shape=Brought(
            width=width,
            height=height,
            rings=rings,
            on_it=scored,
            follows=_follows(found.outline, follow) if follow else [],
            came_from=CameFrom(file=file, name=found.name, count=found.count) if file else None,
        ),
        cutouts=[
            *(_pocket(line, number, file) for number, line in enumerate(sunk, 1)),
            *(_text(text, number) for number, text in enumerate(moved.texts, 1)),
        ],
        bends=list(_in_one_stroke(bend for _, bend in bends)),
        stands=moved.stands,
    )


def _typed(side: float) -> Size:
    """A side (mm) as exact as it takes to leave every arc an arc and every corner where it was drawn."""
    return Size(text=in_digits(side))


def _follows(outline: Outline, follow: Follow) -> list[Following]:
    found = []
    for place in (place for place, follows in follow.places(outline) if follows):
        segments = outline.loops[place.ring].segments
        index = vertices(segments)
        size = "thickness + clearance" if place.kind == "slot" else "thickness"
        found.append(
            Following(
                kind=place.kind,
                ring=place.ring,
                first=index[place.first],
                second=index[place.second],
                drawn=round(place.drawn, 6),
                size=Size(text=size),
            )
        )
    return found


def vertices(segments: Sequence[Segment]) -> list[int]:
    """At which vertex of the ring each segment begins: arcs of more than half a turn have two."""
    counts = [len(_halves(segment)) for segment in segments]
    return [sum(counts[:i]) for i in range(len(segments))]


def _bend(line: PartLine, number: int, outline: Outline) -> BendLine | None:
    if line.operation != "bend up" and line.operation != "bend down":  # noqa: PLR1714 - so narrowed
        return None
    return bend_from(line.chain, line.operation, number, outline, line.fold)


def _in_one_stroke(bends: Iterable[BendLine]) -> Iterator[BendLine]:
    """Bends, each once: one line that is drawn in pieces is bent in one stroke."""
    known: set[tuple[object, ...]] = set()
    for bend in bends:
        where = bend.runs, bend.way, round(float(bend.length.text), 2), round(float(bend.turn.text), 1)
        if where not in known:
            known.add(where)
            yield bend


def _line(line: PartLine) -> BroughtLine:
    halves = [half for whole in line.chain.segments for half in _halves(whole)]
    places = _places(halves)
    if not line.chain.closed:
        end = halves[-1].end
        places.append(Vertex(x=round(end.real, 6), y=round(end.imag, 6)))
    drawn = _DRAWN[line.operation]
    return BroughtLine(operation=drawn, closed=line.chain.closed, places=places)


def _text(text: PartText, number: int) -> CutOut:
    if len(text.words) > MOST_LETTERS:
        raise BrokenFile(
            f"The text “{text.words[:20]}…” has {len(text.words)} letters; a text on a part has at most "
            f"{MOST_LETTERS}. Leave live text out, or part it in the drawing."
        )
    x, y, height, turn = (
        Size(text=in_digits(number)) for number in (text.at.real, text.at.imag, text.height, text.turn)
    )
    hole = TextHole(text=text.words, font=text.font, height=height, align=text.align)
    return CutOut(id=f"text_{number}", hole=hole, x=x, y=y, turn=turn, does=text.operation)


def _pocket(line: PartLine, number: int, file: str) -> CutOut:
    loop = Loop(line.chain.segments)
    left, bottom, right, top = loop.bounds
    shape = Brought(
        width=_typed(right - left),
        height=_typed(top - bottom),
        rings=[ring(one, complex(left, bottom)) for one in (loop, *line.islands)],
        came_from=CameFrom(file=file, name=f"pocket {number}") if file else None,
    )
    x, y = (Size(text=in_digits(place)) for place in ((left + right) / 2, (bottom + top) / 2))
    pocket = CutOut(id=f"pocket_{number}", hole=shape, x=x, y=y, does="pocket")
    return pocket.model_copy(update={"depth": Size(text=in_digits(line.depth))}) if line.depth else pocket
