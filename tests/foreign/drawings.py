"""DXF drawings of every version, written by ezdxf: as long as ezdxf itself sees them."""

from __future__ import annotations

import io
import random
from collections.abc import Callable, Iterator
from functools import partial
from itertools import pairwise
from typing import Any

import ezdxf
from ezdxf import path as dxf_path
from leannotch_core.drawings.way_in import ReadDrawing, WayIn

from .verdict import Foreign, differs, total_length

VERSIONS = ("R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018")


def drawings(number: int, chosen: random.Random) -> Iterator[Foreign]:
    """So many drawings, of all versions in turn, each with a few things of any kind."""
    for at in range(number):
        version = VERSIONS[at % len(VERSIONS)]
        document = ezdxf.new(version, units=chosen.choice([1, 4, 5]), setup=True)
        space = document.modelspace()
        known = [draw for draw, since in THINGS.items() if version != "R12" or since]
        for _ in range(chosen.randint(1, 8)):
            chosen.choice(known)(space, chosen)
        stream = io.StringIO()
        document.write(stream)
        data = stream.getvalue().encode()
        unit = {1: 25.4, 4: 1.0, 5: 10.0}[document.units] if version != "R12" else None
        yield Foreign(f"DXF {version}", f"drawing_{at}.dxf", data, partial(_judge, space, unit))


def _place(chosen: random.Random) -> tuple[float, float]:
    return chosen.uniform(-80, 80), chosen.uniform(-80, 80)


def _line(space: Any, chosen: random.Random) -> None:
    space.add_line(_place(chosen), _place(chosen), dxfattribs={"layer": chosen.choice(["0", "cut", "score"])})


def _circle(space: Any, chosen: random.Random) -> None:
    over = chosen.random() < 0.3
    space.add_circle(_place(chosen), chosen.uniform(2, 30), dxfattribs={"extrusion": (0, 0, -1)} if over else {})


def _arc(space: Any, chosen: random.Random) -> None:
    space.add_arc(_place(chosen), chosen.uniform(2, 30), chosen.uniform(0, 360), chosen.uniform(0, 360))


def _polyline(space: Any, chosen: random.Random) -> None:
    corners = [(*_place(chosen), chosen.choice([0, 0, chosen.uniform(-1.5, 1.5)])) for _ in range(chosen.randint(2, 7))]
    close = chosen.random() < 0.6
    if space.doc.dxfversion == "AC1009":
        space.add_polyline2d(corners, format="xyb", close=close)
    else:
        space.add_lwpolyline(corners, format="xyb", close=close)


def _ellipse(space: Any, chosen: random.Random) -> None:
    axis = (chosen.uniform(5, 40), chosen.uniform(-20, 20))
    space.add_ellipse(_place(chosen), axis, chosen.uniform(0.2, 0.95), 0, chosen.uniform(1, 6.28))


def _spline(space: Any, chosen: random.Random) -> None:
    space.add_open_spline([_place(chosen) for _ in range(chosen.randint(4, 8))])


def _block(space: Any, chosen: random.Random) -> None:
    block = space.doc.blocks.new_anonymous_block()
    for _ in range(chosen.randint(1, 3)):
        chosen.choice([_line, _circle, _polyline])(block, chosen)
    size = chosen.uniform(0.3, 2)
    turned = {"xscale": size * chosen.choice([1, -1]), "yscale": size, "rotation": chosen.uniform(0, 360)}
    space.add_blockref(block.name, _place(chosen), dxfattribs=turned)


def _mline(space: Any, chosen: random.Random) -> None:
    space.add_mline([_place(chosen) for _ in range(3)])


#: What is drawn, and whether the oldest version has it.
THINGS: dict[Callable[[Any, random.Random], None], bool] = {
    _line: True, _circle: True, _arc: True, _polyline: True, _block: True,
    _ellipse: False, _spline: False, _mline: False,
}  # fmt: skip


def _judge(space: Any, unit: float | None, found: ReadDrawing, _: WayIn) -> Iterator[str]:
    # The oldest version says nothing of its unit: what the reader assumed is told, and taken here.
    scale = unit or found.drawing.per_unit
    seen = sum(_length(entity) for entity in space) * scale
    yield from differs(total_length(found), seen, "length of all lines")


def _length(entity: Any) -> float:
    if entity.dxftype() in ("INSERT", "MLINE"):
        return sum(_length(one) for one in entity.virtual_entities())
    points = list(dxf_path.make_path(entity).flattening(0.001, 16))
    return sum(a.distance(b) for a, b in pairwise(points))
