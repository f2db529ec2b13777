"""A drawing that was brought, as a maker's choices have it."""

from __future__ import annotations

from collections import Counter
from functools import lru_cache
from typing import Literal

from leannotch_core.bring import thickness_of
from leannotch_core.document.model import Align
from leannotch_core.drawings.again import What, known_again
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.chains import Chain
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.following import Follow, Place, likely_thickness
from leannotch_core.drawings.formats import is_mesh
from leannotch_core.drawings.mistakes import mistake_in
from leannotch_core.drawings.purposes import Purpose, key_of
from leannotch_core.drawings.recognised import FoundPart
from leannotch_core.drawings.sent import bodies_apart
from leannotch_core.drawings.way_in import Read, WayIn, bring, count_joined, scale_of, scaled
from leannotch_core.geometry.loop import Outline, joined_bounds
from leannotch_core.geometry.segment import Line, Motion, Source
from leannotch_core.handover.svg import path_data
from ninja import Schema

from workshop.brought.choices import Choices, Spot, bringing
from workshop.brought.kept import choices_for, known_as, read_of
from workshop.brought.taken import thick_key
from workshop.models import BroughtFile
from workshop.revisions import current_id, document_of, result_of
from workshop.shown import BoxShown, outline_path


class CutShown(Schema):
    """Where a mesh is cut, and from where to where it reaches in that direction, in mm."""

    heights: list[float]
    low: float
    high: float


class RowShown(Schema):
    """Lines that belong together in the file: what they are for, why that was guessed, and where they lie."""

    key: str
    layer: str
    colour: str
    lines: int
    purpose: Purpose
    reason: str
    depth: float | None
    path: str


class TextShown(Spot):
    """Words as they are set: aligned at half the height (mm) of their capitals, turned by degrees."""

    words: str
    height: float
    turn: float
    align: Align


class FoundShown(Schema):
    """A distinct part, in mm: ``path`` is its outline on the drawing, ``copies`` those of the others like it."""

    name: str
    count: int
    width: float
    height: float
    area: float
    openings: int
    lines: int
    pockets: int
    texts: list[TextShown]
    thickness: float | None
    path: str
    copies: str


class GapShown(Spot):
    """A gap, how wide it is (mm), and whether it is joined."""

    width: float
    taken: bool


class ChordsShown(Spot):
    """An outline whose chords are arcs again, or were meant as they are."""

    chords: int
    arcs: int
    taken: bool


class MistakeShown(Schema):
    """A line of a length that was hardly meant, how long it should be (mm, at scale 1 the first), and what happened."""

    shown: float
    should: float
    what: str


class KnownShown(Schema):
    """A part of the project, of this newer drawing, or of both: what became of it."""

    what: What
    name: str
    part: str | None
    found: int | None
    how: str


class ThicknessShown(Schema):
    """Parts of one thickness (mm) by their layer or plate: how it is called, how many, and the stock nearest to it."""

    key: str
    thick: float
    parts: int
    stock: str | None
    in_hand: float | None


class AgainShown(Schema):
    """A drawing beside what was taken of its earlier one."""

    earlier: str
    rows: list[KnownShown]


class MendShown(Schema):
    """What is wrong with the lines that are cut, and what was mended: counts, and where."""

    joined: int
    doubled: int
    points: int
    shared: int
    chords: int
    arcs: int
    gaps: list[GapShown]
    curves: list[ChordsShown]
    twice_path: str
    open: int
    open_path: str
    gap: float | None
    unclear: list[Spot]
    ends: list[Spot]


class FrameShown(Schema):
    width: float
    height: float
    reason: str
    left_out: bool
    path: str


class PlaceShown(Spot):
    """A slot or a tab that could follow the sheet, and whether it does."""

    kind: Literal["slot", "tab"]
    taken: bool
    path: str


class FollowingShown(Schema):
    """Slots and tabs that could follow the sheet, and the thickness (mm) they seem drawn for."""

    likely: float | None
    places: list[PlaceShown]


class BodyShown(Schema):
    """A body of a mesh in mm: a plate ``thick``, or ``why`` it is none; ``filled`` counts triangles that closed it.

    ``corners`` are x, y and z in turn, three corners to a triangle; of one that is not shown ``whole``, its box.
    """

    name: str
    size: list[float]
    closed: bool
    filled: int
    thick: float | None
    why: str
    whole: bool
    corners: list[float]
    triangles: list[int]


class WayInShown(Schema):
    """A drawing as the choices have it; sizes and places in mm. ``unscaled`` is its width without the known length.

    ``made_for`` is the file whose choices it begins with.
    """

    id: int
    name: str
    choices: Choices
    made_for: str
    again: AgainShown | None
    mistake: MistakeShown | None
    is_mesh: bool
    cut: CutShown | None
    unit: str
    unit_stated: bool
    scale: float
    width: float
    height: float
    unscaled: float
    box: BoxShown
    rows: list[RowShown]
    parts: list[FoundShown]
    thicknesses: list[ThicknessShown]
    mend: MendShown
    frame: FrameShown | None
    following: FollowingShown
    texts: list[str]
    left_out: dict[str, int]
    hairlines: int
    beside: int
    notes: list[str]


#: So many places of a kind are shown.
_MOST = 400


class JoinedShown(Schema):
    """Outlines that close within a tolerance, gaps that it joins, and ends that stay loose."""

    closed: int
    joined: int
    loose: int


class LineShown(Schema):
    """The line of a drawing that lies nearest to a point: its length in mm as shown, and at scale 1."""

    length: float
    unscaled: float
    path: str


@lru_cache(maxsize=4)
def _bodies(file_id: int) -> list[BodyShown]:
    """The bodies of a file, once they were read."""
    return []


def bodies(file: BroughtFile) -> list[BodyShown]:
    """The bodies of a mesh as they lie in space. Raises `BrokenFile`."""
    if not is_mesh(file.name):
        raise BrokenFile(f"{file.name} is a drawing and lies flat.")
    known = _bodies(file.id)
    if not known:
        told = apart(bodies_apart, bytes(file.data), file.name.rpartition(".")[2].lower())
        known += [BodyShown.model_validate(body) for body in told]
    return known


def look_first(file: BroughtFile) -> WayInShown:
    """A drawing by what was chosen for it, or for others like it, before. Raises `BrokenFile`."""
    begun = choices_for(file)
    return look(file, begun.choices).model_copy(update={"made_for": begun.made_for})


def look(file: BroughtFile, choices: Choices) -> WayInShown:
    """A drawing by a maker's choices. Raises `BrokenFile`, and `SizeError` where what was typed cannot be read."""
    found, chosen = read_of(file, choices.cut), bringing(choices)
    way = bring(found, chosen)
    scale = scale_of(found, chosen)
    drawing, mend = found.drawing, way.mend
    ends = [end for chain in mend.open for end in (chain.segments[0].start, chain.segments[-1].end)]
    box = joined_bounds(s.bounds() for line in drawing.lines for s in line.segments)
    left, bottom, right, top = (value * scale for value in box)
    return WayInShown(
        id=file.id,
        name=file.name,
        choices=choices,
        made_for="",
        again=_again(file, way) if file.earlier else None,
        mistake=_mistake(found, scale, chosen.scale),
        is_mesh=is_mesh(file.name),
        cut=CutShown(**drawing.cut._asdict()) if drawing.cut else None,
        unit=choices.unit or drawing.unit,
        unit_stated=drawing.unit_stated or choices.unit is not None,
        scale=scale,
        width=way.width,
        height=way.height,
        unscaled=way.width / chosen.scale,
        box=BoxShown(left=left, bottom=bottom, right=right, top=top),
        rows=[
            RowShown(
                key=row.key,
                layer=row.layer,
                colour=row.colour,
                lines=row.lines,
                purpose=way.purposes[row.key],
                reason=row.reason if way.purposes[row.key] == row.purpose else "as you chose",
                depth=chosen.depths.get(row.key, row.depth),
                path=_row_path(found, row.key, scale),
            )
            for row in way.rows
        ],
        parts=[_part(part) for part in way.parts],
        thicknesses=_thicknesses(file, way),
        mend=MendShown(
            joined=mend.joined,
            doubled=mend.doubled,
            points=way.points,
            shared=mend.shared,
            chords=mend.chords,
            arcs=mend.arcs,
            gaps=[GapShown(x=g.at.real, y=g.at.imag, width=g.width, taken=g.taken) for g in mend.gaps[:_MOST]],
            curves=[
                ChordsShown(x=c.at.real, y=c.at.imag, chords=c.chords, arcs=c.arcs, taken=c.taken)
                for c in mend.curves[:_MOST]
            ],
            twice_path="".join(path_data([segment], closed=False) for segment in mend.twice),
            open=len(mend.open),
            open_path="".join(_chain_path(chain) for chain in mend.open),
            gap=mend.gap,
            unclear=[Spot(x=at.real, y=at.imag) for at in mend.unclear],
            ends=[Spot(x=at.real, y=at.imag) for at in ends[:_MOST]],
        ),
        frame=FrameShown(
            width=way.frame.size.real,
            height=way.frame.size.imag,
            reason=way.frame.reason,
            left_out=choices.frame is not False,
            path=path_data(way.frame.outline.outer),
        )
        if way.frame
        else None,
        following=_following(way, choices.follow),
        texts=[text.words for text in drawing.texts],
        left_out=dict(drawing.left_out),
        hairlines=drawing.hairlines,
        beside=way.beside,
        notes=way.notes,
    )


def _again(file: BroughtFile, way: WayIn) -> AgainShown:
    document, name = document_of(current_id(file.project)), known_as(file)
    rows = [
        KnownShown(
            what=row.what,
            name=row.part.name if row.part else way.parts[row.found or 0].name,
            part=row.part.id if row.part else None,
            found=row.found,
            how=row.how,
        )
        for row in known_again(document.parts, way.parts, name)
    ]
    return AgainShown(earlier=name, rows=rows)


#: A sheet is one of a thickness where it differs by no more than this share of it.
_ALIKE = 0.15


def _thicknesses(file: BroughtFile, way: WayIn) -> list[ThicknessShown]:
    counts: Counter[float] = Counter()
    for part in way.parts:
        if (thickness := thickness_of(part)) is not None:
            counts[thickness] += part.count
    known = {stock: facts.thickness for stock, facts in result_of(current_id(file.project)).stocks.items()}
    shown = []
    for thick, parts in sorted(counts.items()):
        near = min(known, key=lambda stock: abs(known[stock] - thick), default=None)
        if near is not None and abs(known[near] - thick) > _ALIKE * thick:
            near = None
        in_hand = known[near] if near is not None else None
        shown.append(ThicknessShown(key=thick_key(thick), thick=thick, parts=parts, stock=near, in_hand=in_hand))
    return shown


def _mistake(found: Read, scale: float, by: float) -> MistakeShown | None:
    """``by`` is what a known length multiplies all by already."""
    mistake = mistake_in((s for line in found.drawing.lines for s in line.segments), scale)
    return MistakeShown(shown=mistake.shown / by, should=mistake.should, what=mistake.what) if mistake else None


def _following(way: WayIn, follow: Follow | None) -> FollowingShown:
    outlines = [part.outline for part in way.parts]
    shown = [_place(outline, place, taken) for outline in outlines if follow for place, taken in follow.places(outline)]
    return FollowingShown(likely=likely_thickness(outlines, way.thickness), places=shown[:_MOST])


def _place(outline: Outline, place: Place, taken: bool) -> PlaceShown:
    at, segments = place.at(outline), outline.loops[place.ring].segments
    sides = [path_data([segments[i]], closed=False) for i in sorted({place.first, place.second})]
    return PlaceShown(kind=place.kind, x=at.real, y=at.imag, taken=taken, path="".join(sides))


def _row_path(found: Read, key: str, scale: float) -> str:
    lines = [line for line in found.drawing.lines if key_of(line, found.by_layer) == key]
    return "".join(path_data([scaled(s, scale, line) for s in line.segments], closed=False) for line in lines)


def _chain_path(chain: Chain) -> str:
    return path_data(chain.segments, closed=chain.closed)


def _part(part: FoundPart) -> FoundShown:
    left, bottom, right, top = part.outline.bounds
    pockets = sum(line.operation == "pocket" for line in part.lines)
    return FoundShown(
        name=part.name,
        count=part.count,
        width=right - left,
        height=top - bottom,
        area=part.outline.area,
        openings=len(part.outline.cutouts),
        lines=len(part.lines) - pockets,
        pockets=pockets,
        texts=[
            TextShown(words=t.words, x=t.at.real, y=t.at.imag, height=t.height, turn=t.turn, align=t.align)
            for t in part.texts
        ],
        thickness=thickness_of(part),
        path=outline_path(part.outline),
        copies="".join(outline_path(part.outline.moved(motion)) for motion in part.places if motion != Motion()),
    )


def joined_by(file: BroughtFile, choices: Choices) -> JoinedShown:
    """What closes by the tolerance of the choices, at once."""
    return JoinedShown(**count_joined(read_of(file, choices.cut), bringing(choices))._asdict())


def nearest_line(file: BroughtFile, choices: Choices, at: complex) -> LineShown:
    """The line of a drawing that lies nearest to a point (mm, as the choices show it)."""
    found, chosen = read_of(file, choices.cut), bringing(choices)
    scale = scale_of(found, chosen)
    segments = [segment for line in found.drawing.lines for segment in line.segments]
    nearest = min(segments, key=lambda s: abs(s.at(min(1.0, max(0.0, s.share_of(at / scale)))) * scale - at))
    line = scaled(nearest, scale, found.drawing.lines[0])
    return LineShown(length=line.length, unscaled=line.length / chosen.scale, path=path_data([line], closed=False))


def between(file: BroughtFile, choices: Choices, first: complex, second: complex) -> LineShown:
    """The straight way between the ends of lines that lie nearest to two points (mm, as the choices show it)."""
    found, chosen = read_of(file, choices.cut), bringing(choices)
    scale = scale_of(found, chosen)
    ends = [end * scale for line in found.drawing.lines for s in line.segments for end in (s.start, s.end)]
    a, b = (min(ends, key=lambda end: abs(end - at)) for at in (first, second))
    way = Line(a, b, Source("known length", "line"))
    return LineShown(length=way.length, unscaled=way.length / chosen.scale, path=path_data([way], closed=False))
