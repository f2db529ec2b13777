"""Drawings that others made: read, and their loose ends joined while a tolerance is dragged."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import svgelements
import trimesh
from ezdxf.filemanagement import new
from ezdxf.filemanagement import read as read_text
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import READING
from leannotch_core.drawings.drawing import Drawing
from leannotch_core.drawings.dxf import read_dxf
from leannotch_core.drawings.mending.counting import count
from leannotch_core.drawings.mending.ends import loose
from leannotch_core.drawings.mending.mend import Mends, joined_up
from leannotch_core.drawings.meshes.plates import outlines_in
from leannotch_core.drawings.purposes import rows_of
from leannotch_core.drawings.sent import read_apart
from leannotch_core.drawings.svg import read_svg
from leannotch_core.drawings.way_in import Bringing, ReadDrawing, bring
from leannotch_core.geometry.segment import Line, Source
from trimesh.intersections import mesh_plane

from bench.figure import Figure, many, median_ms

_SOURCE = Source("file", "line")


def way_in() -> list[Figure]:
    return [_reading(), _reading_svg(), _reading_mesh(), _distinct(), *_joining(), _slicing()]


def _reading() -> Figure:
    """20,000 lines, circles and arcs, beside ezdxf's own reading and flattening of them."""
    document = new(units=4)
    space = document.modelspace()
    for number in range(many(20_000)):
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


def _reading_svg() -> Figure:
    """20,000 paths of an SVG, beside svgelements' own reading of them."""
    paths = "".join(f'<path d="M{5 * (i % 200)} {i // 200 * 5}h3v{2 + i % 3}h-3z"/>' for i in range(many(20_000)))
    data = f'<svg xmlns="http://www.w3.org/2000/svg" width="1000mm" viewBox="0 0 1000 1000">{paths}</svg>'.encode()

    def theirs() -> None:
        svgelements.SVG.parse(io.BytesIO(data))

    ours, judge = median_ms(lambda: read_svg(data, 200_000), 3), median_ms(theirs, 3)
    return Figure("reading an SVG of 20,000 paths, times svgelements", ours / judge, "goal 3 times", 3)


def _reading_mesh() -> Figure:
    """A plate of 300,000 triangles, read in a process of its own, as a share of what it may take."""
    mesh = trimesh.creation.annulus(30, 50, 4, sections=600)
    while len(mesh.faces) < many(250_000):
        mesh = mesh.subdivide()
    data = mesh.export(file_type="stl")
    taken = median_ms(lambda: apart(read_apart, data, "plate.stl"), 1)
    what = f"reading a mesh of {len(mesh.faces)} triangles, as a share of its bound"
    return Figure(what, taken / (1000 * READING.seconds), "below 1", 1)


def _distinct() -> Figure:
    """3,000 different rectangles become parts, beside 1,000 of them."""

    def found(number: int) -> ReadDrawing:
        drawing = Drawing()
        for i in range(number):
            x, y, width, height = 60.0 * (i % 80), 60.0 * (i // 80), 20 + 0.007 * (i % 997), 20 + 0.9 * (i % 37)
            corners = [complex(x, y), complex(x + width, y), complex(x + width, y + height), complex(x, y + height)]
            sides = [Line(a, corners[(at + 1) % 4], _SOURCE) for at, a in enumerate(corners)]
            drawing.add("plates", sides)
        return ReadDrawing(drawing, rows_of(drawing))

    few, most = (
        median_ms(lambda: bring(found(many(1000)), Bringing()), 3),
        median_ms(lambda: bring(found(many(3000)), Bringing()), 3),
    )
    return Figure("3,000 different parts brought, times 1,000 of them", most / few, "goal 3.6 times", 3.6)


def _joining() -> list[Figure]:
    """1,000 squares of four loose lines with gaps of 0.1 mm, joined within another tolerance."""
    lines = []
    for number in range(many(1000)):
        corner = complex(30 * (number % 40), 30 * (number // 40))
        for quarter in range(4):
            way = 1j**quarter
            start = corner + way * complex(-10, -10)
            lines.append(Line(start + way * 0.05, start + way * 19.95, _SOURCE))
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
