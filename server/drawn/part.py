"""A part as the browser draws it: its paths, what stands on it, its bends, and where it is too narrow.

Points are in mm with y up, as in the document; path data has y turned down, as SVG wants it.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping
from functools import partial
from typing import Literal, NamedTuple

from leannotch_core.bends.legs import legs_of
from leannotch_core.evaluate import EvaluatedPart
from leannotch_core.geometry.loop import Bounds, Outline
from leannotch_core.geometry.measure import centroid
from leannotch_core.geometry.segment import Line, Source
from leannotch_core.handover.svg import path_data
from leannotch_core.machining.lettered import marks
from leannotch_core.parts.cut_out import CutOut, names_of
from leannotch_core.parts.drawing import knots_of
from leannotch_core.parts.on_part import CutOutShape
from leannotch_core.parts.shapes.curve import KnotAt
from leannotch_core.parts.shapes.picture import Picture
from leannotch_core.parts.shapes.rectangle import SIDES
from leannotch_core.parts.sides import side_frame
from leannotch_core.remembered import Remembered
from shown.join import DrivenShown
from shown.shape import BendShown, BoxShown, CutOutShown, NarrowShown, PartShown, RepeatedShown, SideShown

#: So many narrow places are marked on a part at the most.
MOST_MARKED = 200


_PATHS = Remembered[str]()


def outline_path(outline: Outline) -> str:
    return "".join(_PATHS.of(loop, (), partial(path_data, loop)) for loop in outline.loops)


class Drives(NamedTuple):
    """The numbers of its starter that a part's width and height are, and the length and angle of its bends by ids."""

    width: DrivenShown | None = None
    height: DrivenShown | None = None
    bends: Mapping[str, tuple[DrivenShown | None, DrivenShown | None]] = {}


def part_shown(part: EvaluatedPart, driven: Drives) -> PartShown:
    balance = centroid(part.outline)
    typed = {cut.id: cut for cut in part.part.cutouts}
    called = names_of(part.part.cutouts)
    return PartShown(
        id=part.part.id,
        stock=part.part.stock,
        width=part.width,
        height=part.height,
        thickness=part.stock.thickness,
        area=part.outline.area,
        bounds=_box(part.outline.bounds),
        path="".join(outline_path(piece) for piece in part.finished.pieces),
        base=path_data(part.base),
        marks="".join(path_data(line.segments, closed=line.closed) for line in marks(part)),
        references="".join(
            path_data(line.segments, closed=line.closed) for line in part.lines if line.operation == "reference"
        ),
        pockets="".join(outline_path(pocket.outline) for pocket in part.pockets),
        edge_length=part.edge_length,
        balance_x=balance.real,
        balance_y=balance.imag,
        narrowest_web=part.finished.web,
        narrow=[NarrowShown(x=n.at.real, y=n.at.imag, gap=n.distance) for n in part.narrow[:MOST_MARKED]],
        border="".join(outline_path(outline) for outline in part.border),
        knots=knots_of(part.part, part.width, part.height),
        sides=[_side(part, side) for side in SIDES],
        cutouts=[_cut_out(shape, typed[shape.id], called[shape.id]) for shape in part.cutouts],
        bends=_bends(part, driven),
        width_of=driven.width,
        height_of=driven.height,
    )


def _bends(part: EvaluatedPart, driven: Drives) -> list[BendShown]:
    legs = {(leg.bend.id, leg.onward): leg.outside for leg in legs_of(part.folded)} if part.folded else {}
    return [
        BendShown(
            id=bend.id,
            called=bend.name,
            flange=bend.flange,
            up=bend.up,
            x1=bend.start.real,
            y1=bend.start.imag,
            x2=bend.end.real,
            y2=bend.end.imag,
            tangents="".join(path_data([Line(*line, Source(bend.id, "bend"))], closed=False) for line in bend.tangents),
            angle=bend.bend.angle,
            radius=bend.bend.radius,
            k=bend.bend.k,
            allowance=bend.bend.length,
            deduction=bend.bend.deduction,
            setback=bend.bend.setback(),
            near=legs.get((bend.id, False)),
            far=legs.get((bend.id, True)),
            length_of=length_of,
            angle_of=angle_of,
        )
        for bend in part.bends
        for length_of, angle_of in [driven.bends.get(bend.id, (None, None))]
    ]


_SHAPE = Remembered[CutOutShown]()


def _cut_out(shape: CutOutShape, typed: CutOut, called: str) -> CutOutShown:
    return _SHAPE.of(shape, (typed.left_out, called), partial(_shape, shape, typed, called))


def _shape(shape: CutOutShape, typed: CutOut, called: str) -> CutOutShown:
    left, bottom, right, top = shape.own_box
    lines = [*(line.segments for line in shape.drawn), *shape.open_lines]
    return CutOutShown(
        id=shape.id,
        called=called,
        does=shape.does,
        path="".join(map(outline_path, shape.loops)) + "".join(path_data(line, closed=False) for line in lines),
        x=shape.at.real,
        y=shape.at.imag,
        from_x=shape.measured_from.real,
        from_y=shape.measured_from.imag,
        width=right - left,
        height=top - bottom,
        box=_box(shape.box),
        spots=_spots(shape, typed) if len(shape.spots) > 1 else [],
        points=[KnotAt(x=p.real, y=p.imag, corner=corner) for p, corner in shape.knots],
        picture=_to_place(shape) if isinstance(typed.hole, Picture) else "",
        hidden=shape.hidden,
    )


def _spots(shape: CutOutShape, typed: CutOut) -> list[RepeatedShown]:
    out = set(typed.left_out)
    return [RepeatedShown(x=spot.real, y=spot.imag, out=at in out) for at, spot in enumerate(shape.spots)]


def _to_place(shape: CutOutShape) -> str:
    at, turn = shape.frame(0), math.degrees(cmath.phase(shape.frame.turn))
    return f"translate({at.real:.4f} {-at.imag:.4f}) rotate({-turn:.4f})"


def _box(bounds: Bounds) -> BoxShown:
    left, bottom, right, top = bounds
    return BoxShown(left=left, bottom=bottom, right=right, top=top)


def _side(part: EvaluatedPart, side: Literal["bottom", "right", "top", "left"]) -> SideShown:
    frame = side_frame(part.width, part.height, side, part.beyond)
    start, end = frame.start, frame.point(frame.length, 0)
    return SideShown(side=side, x1=start.real, y1=start.imag, x2=end.real, y2=end.imag)
