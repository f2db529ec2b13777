"""What the shapes that may be put on a part look like in their usual size."""

from __future__ import annotations

from itertools import chain
from typing import TypedDict

from ..document.stock import Stock
from ..edits.command import apply
from ..edits.shapes.begun import BeginCutOut, PutAt, stretches
from ..evaluate import evaluate
from ..geometry.segment import Motion, Segment
from ..handover.svg import path_data
from ..parts.on_part import CutOutShape
from ..parts.shapes.kinds import HOLES
from ..project.project import Project

#: A part that every usual shape has room on (mm), and its middle.
_ROOM, _MIDDLE = "2000", 1000.0


class UsualShape(TypedDict):
    """SVG path data (mm, y down) about the middle of the box round it, that box, and whether it can be stretched."""

    path: str
    width: float
    height: float
    stretches: bool


def usual_shapes() -> dict[str, UsualShape]:
    """Of every kind that shows nothing but itself, by the name of the kind."""
    kinds = {name: kind for name, kind in HOLES.items() if not kind.of("mm", "").as_large_as}
    return {name: _drawn(name) for name, kind in kinds.items() if not kind.of("mm", "").only_shown}


def _drawn(kind: str) -> UsualShape:
    put = BeginCutOut(do="begin cut-out", part="plate", id="shape", kind=kind, at=PutAt(x=_MIDDLE, y=_MIDDLE))
    result = evaluate(apply(_blank(), put))
    shape = result.parts["plate"].cutouts[0]
    left, bottom, right, top = shape.box
    about = Motion(shift=-complex(left + right, bottom + top) / 2)
    return {
        "path": "".join(
            path_data([segment.moved(about) for segment in line], closed=closed) for line, closed in _lines(shape)
        ),
        "width": round(right - left, 3),
        "height": round(top - bottom, 3),
        "stretches": stretches(HOLES[kind]),
    }


def _lines(shape: CutOutShape) -> list[tuple[tuple[Segment, ...], bool]]:
    loops = chain.from_iterable(outline.loops for outline in shape.loops)
    return [(tuple(loop), True) for loop in loops] + [(line, False) for line in shape.open_lines]


def _blank() -> Project:
    stock, shape = Stock.begun("sheet", "Sheet"), {"kind": "rectangle", "width": _ROOM, "height": _ROOM}
    part = {"id": "plate", "name": "Plate", "stock": stock.id, "shape": shape}
    return Project.model_validate({"name": "Usual", "stocks": [stock], "parts": [part]})
