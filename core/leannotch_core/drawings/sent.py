"""A drawing that was read, as plain JSON values: read in a process of its own, it is sent to the one that shows it."""

from __future__ import annotations

import json
from collections import Counter
from dataclasses import replace
from typing import Any

from pydantic import TypeAdapter

from ..geometry.segment import Arc, Line, Point, Segment, Source
from .apart import within
from .drawing import Drawing, DrawnLine, Fold, LiveText, Look, Lost, MeshCut, Stand
from .meshes.cut import Cut
from .purposes import rows_of
from .way_in import Bringing, ReadDrawing, WayIn, bring, count_joined, read

_SOURCE = Source("file", "line")

#: What is sent has this number; what was kept with another one is read again.
FORM = 4


def read_apart(data: bytes, name: str, cut: Cut | None = None) -> dict[str, Any]:
    """As `way_in.read`, for a process of its own. Raises `BrokenFile`."""
    return as_sent(read(data, name, cut=cut).drawing)


def as_sent(drawing: Drawing) -> dict[str, Any]:
    """A drawing as plain JSON values, with nothing lost: for another process, or to be kept."""
    return {
        "form": FORM,
        "lines": [
            [line.layer, [_numbers(segment) for segment in line.segments], *_look(line)] for line in drawing.lines
        ],
        "texts": [[t.words, t.at.real, t.at.imag, t.up.real, t.up.imag, t.layer, t.align] for t in drawing.texts],
        "taken": dict(drawing.taken),
        "lost": [[one.kind, one.why, one.number, _xy(one.at), one.unseen, one.says] for one in drawing.lost],
        "size": [drawing.width, drawing.height],
        "unit": [drawing.unit, drawing.per_unit, drawing.unit_stated],
        "counts": [drawing.points, drawing.hairlines],
        "notes": drawing.notes,
        "cut": drawing.cut,
        "turns_over": drawing.turns_over,
        "stands": [[stand.corner.real, stand.corner.imag, stand.rows, stand.thick] for stand in drawing.stands],
        "folds": [[fold.at.real, fold.at.imag, fold.angle, fold.radius] for fold in drawing.folds],
    }


_WAY = TypeAdapter(WayIn)
_NOTHING = Drawing([])


def brought_apart(read_before: bytes, name: str, chosen: Bringing, seconds: float) -> str:
    """As `way_in.bring` of a drawing as it was sent, for a process of its own, but for the drawing itself.

    Raises `BrokenFile`.
    """
    with within(seconds):
        way = bring(as_read(json.loads(read_before), name), chosen)
        # Whole numbers stand for complex ones too, which is no fault.
        return _WAY.dump_json(replace(way, drawing=_NOTHING), warnings=False).decode()


def joined_apart(read_before: bytes, name: str, chosen: Bringing, seconds: float) -> dict[str, int]:
    """As `way_in.count_joined` of a drawing as it was sent, for a process of its own. Raises `BrokenFile`."""
    with within(seconds):
        return count_joined(as_read(json.loads(read_before), name), chosen)._asdict()


def as_brought(sent: str, drawing: Drawing) -> WayIn:
    """What a drawing gives, as it was worked out in a process of its own."""
    return replace(_WAY.validate_json(sent), drawing=drawing)


def as_read(sent: dict[str, Any], name: str) -> ReadDrawing:
    """The drawing again."""
    (unit, per_unit, stated), (points, hairlines) = sent["unit"], sent["counts"]
    drawing = Drawing(
        lines=[DrawnLine(layer, tuple(map(_segment, segments)), *look) for layer, segments, *look in sent["lines"]],
        texts=[LiveText(words, complex(x, y), complex(u, v), *more) for words, x, y, u, v, *more in sent["texts"]],
        taken=Counter(sent["taken"]),
        lost=[
            Lost(kind, why, many, complex(*at) if at else None, *more) for kind, why, many, at, *more in sent["lost"]
        ],
        points=points,
        hairlines=hairlines,
        width=sent["size"][0],
        height=sent["size"][1],
        notes=sent["notes"],
        cut=MeshCut(tuple(sent["cut"][0]), *sent["cut"][1:]) if sent["cut"] else None,
        turns_over=sent["turns_over"],
        stands=[Stand(complex(x, y), tuple(rows), thick) for x, y, rows, thick in sent["stands"]],
        folds=[Fold(complex(x, y), *more) for x, y, *more in sent["folds"]],
        unit_stated=stated,
        unit=unit,
        per_unit=per_unit,
    )
    return ReadDrawing(drawing, rows_of(drawing), name)


def _look(line: DrawnLine) -> Look:
    return Look(line.colour, line.filled, line.style, line.weight)


def _xy(at: Point | None) -> list[float] | None:
    return None if at is None else [at.real, at.imag]


def _numbers(segment: Segment) -> list[float]:
    ends = [segment.start.real, segment.start.imag, segment.end.real, segment.end.imag]
    if isinstance(segment, Line):
        return ends
    return [*ends, segment.centre.real, segment.centre.imag, float(segment.ccw)]


def _segment(numbers: list[float]) -> Segment:
    start, end = complex(*numbers[:2]), complex(*numbers[2:4])
    if len(numbers) == 4:
        return Line(start, end, _SOURCE)
    return Arc(start, end, complex(*numbers[4:6]), numbers[6] > 0, _SOURCE)


def bodies_apart(data: bytes, kind: str) -> list[dict[str, Any]]:
    """As `meshes.space.bodies_in`, for a process of its own. Raises `BrokenFile`."""
    # What reads meshes takes longer to load than a drawing takes to read.
    from .meshes.space import bodies_in

    return bodies_in(data, kind)
