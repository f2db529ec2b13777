"""Drawings that others made: read, and their loose ends joined while a tolerance is dragged."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import trimesh
from ezdxf.filemanagement import new
from ezdxf.filemanagement import read as read_text
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.mending.counting import count
from leannotch_core.drawings.mending.ends import loose
from leannotch_core.drawings.mending.mend import Mends, joined_up
from leannotch_core.drawings.meshes.plates import outlines_in
from leannotch_core.geometry.segment import Line, Source
from trimesh.intersections import mesh_plane

from bench.figure import Figure, median_ms


def way_in() -> list[Figure]:
    return [_reading(), *_joining(), _slicing()]


def _reading() -> Figure:
    """20,000 lines, circles and arcs, beside ezdxf's own reading and flattening of them."""
    document = new(units=4)
    space = document.modelspace()
    for number in range(20_000):
        x, y = 5.0 * (number % 200), 5.0 * (number // 200)
        if number % 4:
            space.add_line((x, y), (x + 3, y + 2))
        else:
            space.add_arc((x, y), 2, 0, 270)
    stream = io.StringIO()
    document.write(stream)
    text = stream.getvalue()

    def theirs() -> None:
        entities: Any = read_text(io.StringIO(text)).modelspace()
        for entity in entities:
            if entity.dxftype() == "ARC":
                list(entity.flattening(0.01))

    data = text.encode()
    ours, judge = median_ms(lambda: read_dxf(data, 60_000), 3), median_ms(theirs, 3)
    return Figure("reading a DXF of 20,000 entities, times ezdxf", ours / judge, "goal 3 times", 3)


def _joining() -> list[Figure]:
    """1,000 squares of four loose lines with gaps of 0.1 mm, joined within another tolerance."""
    source = Source("file", "line")
    lines = []
    for number in range(1000):
        corner = complex(30 * (number % 40), 30 * (number // 40))
        for quarter in range(4):
            way = 1j**quarter
            start = corner + way * complex(-10, -10)
            lines.append(Line(start + way * 0.05, start + way * 19.95, source))
    drawn = loose(lines)
    counted, drawn_too = median_ms(lambda: count(drawn, 0.3)), median_ms(lambda: joined_up(drawn, Mends(join=0.3)))
    return [
        Figure("the count of another joining tolerance over 4,000 segments, ms", counted, "goal 50 ms", 50),
        Figure("the outlines of it, ms", drawn_too, "when it is let go, 250 ms", 250),
    ]


def _slicing() -> Figure:
    """Outlines of a cut through a ring of 8,000 triangles, beside trimesh's section."""
    mesh = trimesh.creation.annulus(30, 50, 10, sections=1000)
    up, middle = np.array([0.0, 0.0, 1.0]), np.zeros(3)
    frame = np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0])

    def ours() -> None:
        outlines_in(mesh_plane(mesh, up, middle), frame)

    def theirs() -> None:
        mesh.section(up, middle).discrete  # noqa: B018 - it is worked out when it is asked for

    ratio = median_ms(ours, 3) / median_ms(theirs, 3)
    return Figure("the outlines of a cut through a mesh, times trimesh's section", ratio, "goal 2 times", 2)
