"""Drawings that others made: kept with the project, read apart, shown by a maker's choices, and taken."""

from __future__ import annotations

from functools import lru_cache

from leannotch_core.bring import brought_parts, thickness_of
from leannotch_core.document.edit import CannotApply
from leannotch_core.document.sizes import Size, length
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.chains import Chain
from leannotch_core.drawings.drawing import BrokenFile
from leannotch_core.drawings.following import likely_thickness, places_of
from leannotch_core.drawings.formats import is_mesh
from leannotch_core.drawings.meshes.cut import Axis
from leannotch_core.drawings.purposes import Purpose, key_of
from leannotch_core.drawings.recognised import FoundPart
from leannotch_core.drawings.sent import as_read, read_apart
from leannotch_core.drawings.way_in import Bringing, Read, Unit, WayIn, bring, scale_of, scaled
from leannotch_core.edits.bring import BringParts
from leannotch_core.geometry.loop import joined_bounds
from leannotch_core.geometry.segment import Motion
from leannotch_core.handover.svg import path_data
from leannotch_core.project import Project as Document
from leannotch_core.stock import facts
from ninja import Schema
from pydantic import Field

from workshop.models import BroughtFile, Project
from workshop.revisions import current_id, document_of
from workshop.shown import BoxShown, outline_path


class KnownLength(Schema):
    """A length of the drawing as it is shown at scale 1, in mm, and what it should measure."""

    shown: float = Field(gt=0)
    should: Size


class CutThrough(Schema):
    """A cut through a mesh: square to an axis, at a height in mm; None is half way up."""

    axis: Axis = "z"
    height: float | None = Field(default=None, ge=-1e5, le=1e5)


class CutShown(Schema):
    """Where a mesh is cut, and from where to where it reaches, in mm."""

    height: float
    low: float
    high: float


class Choices(Schema):
    """How a drawing is taken apart; ``known`` is a length that scales it, ``cut`` a mesh's, which else is laid flat."""

    cut: CutThrough | None = None

    unit: Unit | None = None
    known: KnownLength | None = None
    join: float = Field(default=0.01, ge=0.001, le=5)
    arcs: bool = True
    purposes: dict[str, Purpose] = Field(default={}, max_length=300)
    frame: bool | None = None
    mirrored: bool = False
    drawn_for: float | None = Field(default=None, gt=0, le=50)


class RowShown(Schema):
    """Lines that belong together in the file: what they are for, why that was guessed, and where they lie."""

    key: str
    layer: str
    colour: str
    lines: int
    purpose: Purpose
    reason: str
    path: str


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
    thickness: float | None
    path: str
    copies: str


class SpotShown(Schema):
    x: float
    y: float


class MendShown(Schema):
    """What is wrong with the lines that are cut, and what was mended: counts, and where."""

    joined: int
    doubled: int
    points: int
    shared: int
    chords: int
    arcs: int
    open: int
    open_path: str
    gap: float | None
    unclear: list[SpotShown]
    ends: list[SpotShown]


class FrameShown(Schema):
    width: float
    height: float
    reason: str
    left_out: bool
    path: str


class FollowingShown(Schema):
    """Slots and tabs that could follow the sheet: the thickness (mm) they seem drawn for, how many, and where."""

    likely: float | None
    slots: int
    tabs: int
    path: str


class WayInShown(Schema):
    """A drawing as the choices have it; sizes and places in mm. ``unscaled`` is its width without the known length."""

    id: int
    name: str
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
    mend: MendShown
    frame: FrameShown | None
    following: FollowingShown
    texts: list[str]
    left_out: dict[str, int]
    hairlines: int
    beside: int
    notes: list[str]


class LineShown(Schema):
    """The line of a drawing that lies nearest to a point: its length in mm as shown, and at scale 1."""

    length: float
    unscaled: float
    path: str


class Taking(Schema):
    """What is taken: all parts, or those of these places in the list, on a stock."""

    version: int
    choices: Choices = Choices()
    parts: list[int] | None = None
    stock: str


def keep(project: Project, name: str, data: bytes) -> BroughtFile:
    """Keeps a file with a project, once it is known that it can be read. Raises `BrokenFile`."""
    sent = apart(read_apart, data, name)
    kept = BroughtFile.objects.create(project=project, name=name, data=data)
    _known(kept.id, None, None).append(as_read(sent, name))
    return kept


@lru_cache(maxsize=8)
def _known(file_id: int, axis: Axis | None, height: float | None) -> list[Read]:
    """The drawing of a file, once it was read."""
    return []


def read_of(file: BroughtFile, cut: CutThrough | None) -> Read:
    """Raises `BrokenFile`."""
    how = (cut.axis, cut.height) if cut else (None, None)
    known = _known(file.id, *how)
    if not known:
        known.append(as_read(apart(read_apart, bytes(file.data), file.name, *how), file.name))
    return known[0]


def look(file: BroughtFile, choices: Choices) -> WayInShown:
    """A drawing by a maker's choices. Raises `BrokenFile`."""
    found = read_of(file, choices.cut)
    way = bring(found, _bringing(choices))
    scale = scale_of(found, _bringing(choices))
    drawing, mend = found.drawing, way.mend
    ends = [end for chain in mend.open for end in (chain.segments[0].start, chain.segments[-1].end)]
    box = joined_bounds(s.bounds() for line in drawing.lines for s in line.segments)
    left, bottom, right, top = (value * scale for value in box)
    return WayInShown(
        id=file.id,
        name=file.name,
        is_mesh=is_mesh(file.name),
        cut=CutShown(**drawing.cut._asdict()) if drawing.cut else None,
        unit=choices.unit or drawing.unit,
        unit_stated=drawing.unit_stated or choices.unit is not None,
        scale=scale,
        width=way.width,
        height=way.height,
        unscaled=way.width / _bringing(choices).scale,
        box=BoxShown(left=left, bottom=bottom, right=right, top=top),
        rows=[
            RowShown(
                key=row.key,
                layer=row.layer,
                colour=row.colour,
                lines=row.lines,
                purpose=way.purposes[row.key],
                reason=row.reason if way.purposes[row.key] == row.purpose else "as you chose",
                path=_row_path(found, row.key, scale),
            )
            for row in way.rows
        ],
        parts=[_part(part) for part in way.parts],
        mend=MendShown(
            joined=mend.joined,
            doubled=mend.doubled,
            points=way.points,
            shared=mend.shared,
            chords=mend.chords,
            arcs=mend.arcs,
            open=len(mend.open),
            open_path="".join(_chain_path(chain) for chain in mend.open),
            gap=mend.gap,
            unclear=[SpotShown(x=at.real, y=at.imag) for at in mend.unclear],
            ends=[SpotShown(x=at.real, y=at.imag) for at in ends[:400]],
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
        following=_following(way, choices.drawn_for),
        texts=[text.words for text in drawing.texts],
        left_out=dict(drawing.left_out),
        hairlines=drawing.hairlines,
        beside=way.beside,
        notes=way.notes,
    )


def _following(way: WayIn, drawn_for: float | None) -> FollowingShown:
    outlines = [part.outline for part in way.parts]
    likely = likely_thickness(outlines, way.thickness)
    kinds: list[str] = []
    path = ""
    for outline in outlines if drawn_for else ():
        for place in places_of(outline, drawn_for or 0):
            kinds.append(place.kind)
            sides = {place.first, place.second}
            path += "".join(path_data([outline.loops[place.ring].segments[i]], closed=False) for i in sorted(sides))
    return FollowingShown(likely=likely, slots=kinds.count("slot"), tabs=kinds.count("tab"), path=path)


def _bringing(choices: Choices) -> Bringing:
    """Raises `SizeError` where what a length should measure cannot be read."""
    known = choices.known
    return Bringing(
        unit=choices.unit,
        scale=length(known.should, {}) / known.shown if known else 1.0,
        join=choices.join,
        arcs=0.01 if choices.arcs else 0.0,
        purposes=choices.purposes,
        frame=choices.frame,
        mirrored=choices.mirrored,
    )


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
        thickness=thickness_of(part),
        path=outline_path(part.outline),
        copies="".join(outline_path(part.outline.moved(motion)) for motion in part.places if motion != Motion()),
    )


def nearest_line(file: BroughtFile, choices: Choices, at: complex) -> LineShown:
    """The line of a drawing that lies nearest to a point (mm, as the choices show it)."""
    found = read_of(file, choices.cut)
    bringing = _bringing(choices)
    scale = scale_of(found, bringing)
    candidates = [
        (min(abs(segment.at(share) * scale - at) for share in _along(segment.share_of(at / scale))), segment)
        for line in found.drawing.lines
        for segment in line.segments
    ]
    _, segment = min(candidates, key=lambda pair: pair[0])
    line = found.drawing.lines[0]
    return LineShown(
        length=segment.length * scale,
        unscaled=segment.length * scale / bringing.scale,
        path=path_data([scaled(segment, scale, line)], closed=False),
    )


def _along(share: float) -> tuple[float, ...]:
    return (min(1.0, max(0.0, share)),)


def _stock_for(thickness: float | None, document: Document, chosen: str) -> str:
    """The chosen stock, unless a part is drawn for another thickness and a stock is nearer to that."""
    if thickness is None:
        return chosen
    known = {stock.id: facts(stock).thickness for stock in document.stocks}
    near = min(known, key=lambda stock: (abs(known[stock] - thickness), stock != chosen))
    return near if abs(known[near] - thickness) < 0.15 * thickness else chosen


def taking(file: BroughtFile, taken: Taking) -> BringParts:
    """The edit that takes parts of a drawing. Raises `BrokenFile` or `CannotApply`."""
    document = document_of(current_id(file.project))
    if document.stock(taken.stock) is None:
        raise CannotApply("Choose the stock that the parts are cut from.")
    parts = bring(read_of(file, taken.choices.cut), _bringing(taken.choices)).parts
    chosen = parts if taken.parts is None else [parts[i] for i in taken.parts if i < len(parts)]
    if not chosen:
        raise CannotApply("Nothing is chosen: choose the parts that are to be taken.")
    try:
        fresh = brought_parts(document, chosen, taken.stock, taken.choices.drawn_for)
        stocks = [_stock_for(thickness_of(part), document, taken.stock) for part in chosen]
        placed = [part.model_copy(update={"stock": stock}) for part, stock in zip(fresh, stocks, strict=True)]
        return BringParts(file=file.name, parts=placed)
    except BrokenFile as error:
        raise CannotApply(str(error)) from error
