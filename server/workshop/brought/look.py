"""A drawing that was brought, as a maker's choices have it."""

from __future__ import annotations

import dataclasses
from collections import Counter

from drawn.part import outline_path
from leannotch_core.bring import drawn_thickness
from leannotch_core.document.machine import Machine
from leannotch_core.drawings.again import known_again
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.chains import Chain
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.following import Follow, RingPlace, likely_thickness
from leannotch_core.drawings.formats import is_mesh
from leannotch_core.drawings.held import Told, held_in
from leannotch_core.drawings.likely_unit import likely_unit
from leannotch_core.drawings.mistakes import mistake_in
from leannotch_core.drawings.recognised import FoundPart
from leannotch_core.drawings.sent import bodies_apart
from leannotch_core.drawings.told import told_of
from leannotch_core.drawings.too_many import too_many
from leannotch_core.drawings.way_in import ReadDrawing, WayIn, scale_of, scaled
from leannotch_core.facts.bed import Bed, NoBed, bed_of
from leannotch_core.facts.profiles.shipped import shipped
from leannotch_core.geometry.loop import Outline, joined_bounds
from leannotch_core.geometry.segment import Line, Motion, Source
from leannotch_core.handover.svg import path_data
from leannotch_core.remembered import remembered
from shown.choices import Choices, DrawingPoint, bringing
from shown.shape import BoxShown
from shown.way_in import (
    AgainShown,
    BodyShown,
    ChordsShown,
    CutShown,
    FollowingShown,
    FoundShown,
    FrameShown,
    GapShown,
    InFileShown,
    JoinedShown,
    KnownShown,
    LikelyShown,
    LineShown,
    MendShown,
    MistakeShown,
    OfFileShown,
    PlaceShown,
    RowShown,
    TextShown,
    ThicknessShown,
    WayInShown,
)

from workshop.brought import kept
from workshop.brought.kept import brought_by, choices_for, known_as, read_of
from workshop.brought.taken import thick_key
from workshop.models import BroughtFile
from workshop.revisions import current_id, document_of, result_of

#: So many places of a kind are shown.
_MOST = 400


@remembered(most=4)
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
    way = brought_by(file, choices.cut, chosen)
    scale = scale_of(found, chosen)
    drawing, mend = found.drawing, way.mend
    box = joined_bounds(s.bounds() for line in drawing.lines for s in line.segments)
    left, bottom, right, top = (value * scale for value in box)
    return WayInShown(
        id=file.id,
        name=file.name,
        choices=choices,
        made_for="",
        again=_again(file, way) if file.earlier else None,
        mistake=_mistake(found, scale, chosen.scale),
        likely=None if choices.unit or choices.known else _likely(file, way),
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
            crossed_path="".join(path_data(loop) for loop, _ in way.crossed),
            crossings=len(mend.crossings),
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
        told=[_told(told) for told in told_of(way)],
        held=[InFileShown(**held._asdict()) for held in held_in(drawing, way.lettered)],
        too_many=too_many(way.parts, sum(part.count for part in document_of(current_id(file.project)).parts)),
    )


def _told(told: Told) -> OfFileShown:
    places = [DrawingPoint(x=at.real, y=at.imag) for at in told.places]
    return OfFileShown(code=told.code, weight=told.weight, says=told.says, places=places)


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
        if (thickness := drawn_thickness(part)) is not None:
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


def _mistake(found: ReadDrawing, scale: float, by: float) -> MistakeShown | None:
    """``by`` is what a known length multiplies all by already."""
    mistake = mistake_in((s for line in found.drawing.lines for s in line.segments), scale)
    return MistakeShown(shown=mistake.shown / by, should=mistake.should, what=mistake.what) if mistake else None


def _likely(file: BroughtFile, way: WayIn) -> LikelyShown | None:
    """The unit that the numbers are likely in, by the sheets and the machines of the project, or of the library."""
    document, result = document_of(current_id(file.project)), result_of(current_id(file.project))
    sheets = {stock.name: result.stocks[stock.id].thickness for stock in document.stocks if stock.id in result.stocks}
    machines = document.machines or list(shipped().values())
    beds = [complex(bed.width, bed.height) for bed in map(_bed, machines) if bed]
    likely = likely_unit(way, sheets, beds)
    return LikelyShown(**dataclasses.asdict(likely)) if likely else None


def _bed(machine: Machine) -> Bed | None:
    try:
        return bed_of(machine)
    except NoBed:
        return None


def _following(way: WayIn, follow: Follow | None) -> FollowingShown:
    outlines = [part.outline for part in way.parts]
    shown = [_place(outline, place, taken) for outline in outlines if follow for place, taken in follow.places(outline)]
    return FollowingShown(likely=likely_thickness(outlines, way.thickness), places=shown[:_MOST])


def _place(outline: Outline, place: RingPlace, taken: bool) -> PlaceShown:
    at, segments = place.at(outline), outline.loops[place.ring].segments
    sides = [path_data([segments[i]], closed=False) for i in sorted({place.first, place.second})]
    return PlaceShown(kind=place.kind, x=at.real, y=at.imag, taken=taken, path="".join(sides))


def _row_path(found: ReadDrawing, key: str, scale: float) -> str:
    lines = [line for line in found.drawing.lines if found.key_of(line) == key]
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
        thickness=drawn_thickness(part),
        too_many=too_many([part]),
        path=outline_path(part.outline),
        copies="".join(outline_path(part.outline.moved(motion)) for motion in part.places if motion != Motion()),
    )


def joined_by(file: BroughtFile, choices: Choices) -> JoinedShown:
    """What closes by the tolerance of the choices, at once."""
    return JoinedShown(**kept.joined_by(file, choices.cut, bringing(choices)))


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
