"""The first page of a PDF as a drawing: its strokes in mm, y up, by the layers that they are marked with."""

from __future__ import annotations

import io
from typing import Any

from pypdf import PdfReader
from pypdf.errors import PyPdfError
from pypdf.generic import ContentStream

from ...document.limits import LARGEST_DRAWING, MOST_READ
from ...document.units import INCH
from ...geometry.biarc import arcs_along, bezier
from ...geometry.segment import Line, Point, Segment, Source
from ..drawing import BrokenFile, Drawing, check_count

#: A point is 1/72 in (ISO 32000-1, 8.3.2.3).
MM = INCH / 72

#: Beziers become arcs within so much (mm).
TOLERANCE = 0.001

_SOURCE = Source("pdf", "line")
_STROKES = {b"S", b"s", b"B", b"B*", b"b", b"b*"}
_CLOSES = {b"s", b"b", b"b*", b"h"}
_FILLS = {b"f", b"F", b"f*"}
_ENDS = {b"n"} | _FILLS | _STROKES

#: What else is shown on a page (ISO 32000-1, table 51), and what is said of it.
_TEXT = ("text", "The PDF has live text, which no machine cuts; it was left out.")
_BESIDE = {
    **dict.fromkeys((b"Tj", b"TJ", b"'", b'"'), _TEXT),
    b"Do": ("picture or form", "The PDF has pictures or forms of its own, which are not read; they were left out."),
    b"sh": ("shading", "The PDF has shadings, which no line can be cut from; they were left out."),
    b"INLINE IMAGE": ("picture", "The PDF has pictures made of dots, which no line can be cut from."),
}

Matrix = tuple[float, float, float, float, float, float]


def read_pdf(data: bytes, most: int = MOST_READ) -> Drawing:
    """Reads the first page of a PDF with at most so many lines and arcs. Raises `BrokenFile`."""
    if len(data) > LARGEST_DRAWING:
        raise BrokenFile(f"The PDF has {len(data) / 1e6:.0f} MB; at most {LARGEST_DRAWING / 1e6:.0f} MB are read.")
    try:
        document = PdfReader(io.BytesIO(data))
        page = document.pages[0]
        content = page.get_contents()
        told = document.metadata
        drawing = Drawing(says=str(told.subject or "") if told else "", most=most)
        drawing.width, drawing.height = float(page.mediabox.width) * MM, float(page.mediabox.height) * MM
        if len(document.pages) > 1:
            drawing.note(f"The PDF has {len(document.pages)} pages; the first is read.")
        if content is not None:
            _Strokes(drawing, _names_of_layers(page)).read(ContentStream(content, document))
    except (PyPdfError, ValueError, KeyError, TypeError, IndexError, AttributeError, RecursionError) as error:
        if isinstance(error, BrokenFile):
            raise
        raise BrokenFile("The PDF cannot be read: its structure is broken. Save it again.") from error
    if not drawing.lines:
        drawing.note("The PDF has no strokes on its first page.")
    return drawing


def _names_of_layers(page: Any) -> dict[str, str]:
    """What the page's marks of optional content are called."""
    marks = (page.get("/Resources") or {}).get("/Properties") or {}
    return {mark: str(group.get_object().get("/Name", "")) for mark, group in marks.items()}


class _Strokes:
    """Follows a content stream: matrices, layers and paths (ISO 32000-1, 8.5)."""

    def __init__(self, drawing: Drawing, names: dict[str, str]) -> None:
        self._drawing, self._names = drawing, names
        self._layers: list[str] = []
        self._matrix: Matrix = (MM, 0, 0, MM, 0, 0)
        self._kept: list[Matrix] = []
        self._runs: list[list[Segment]] = []
        self._begun: Point = 0
        self._here: Point = 0
        self._count = 0

    def read(self, content: ContentStream) -> None:
        for operands, operator in content.operations:
            self._state(operator, operands)
            self._path(operator, operands)
            if operator in _CLOSES:
                self._to(self._begun)
            if operator in _ENDS:
                self._end(drawn=operator in _STROKES, filled=operator in _FILLS)
            if operator in _BESIDE:
                kind, note = _BESIDE[operator]
                self._drawing.lose(kind, "not read", note)

    def _state(self, operator: bytes, operands: Any) -> None:
        match operator:
            case b"q":
                self._kept.append(self._matrix)
            case b"Q" if self._kept:
                self._matrix = self._kept.pop()
            case b"cm":
                self._matrix = _times([float(value) for value in operands], self._matrix)
            case b"BDC" | b"BMC":
                self._layers.append(self._names.get(str(operands[-1]), "") if str(operands[0]) == "/OC" else "")
            case b"EMC" if self._layers:
                self._layers.pop()

    def _path(self, operator: bytes, operands: Any) -> None:
        match operator:
            case b"m":
                self._begin(self._at(operands))
            case b"l":
                self._to(self._at(operands))
            case b"c":
                self._curve(self._at(operands[:2]), self._at(operands[2:4]), self._at(operands[4:]))
            case b"v":
                self._curve(self._here, self._at(operands[:2]), self._at(operands[2:]))
            case b"y":
                self._curve(self._at(operands[:2]), self._at(operands[2:]), self._at(operands[2:]))
            case b"re":
                self._rectangle([float(value) for value in operands])

    def _at(self, pair: Any) -> Point:
        x, y = float(pair[0]), float(pair[1])
        a, b, c, d, e, f = self._matrix
        return complex(a * x + c * y + e, b * x + d * y + f)

    def _begin(self, point: Point) -> None:
        self._begun = self._here = point
        self._runs.append([])

    def _to(self, point: Point) -> None:
        if not self._runs or abs(point - self._here) < 1e-9:
            return
        self._add([Line(self._here, point, _SOURCE)])

    def _curve(self, b: Point, c: Point, d: Point) -> None:
        if self._runs and self._here != d:
            self._add(arcs_along(bezier(self._here, b, c, d), 0.0, 1.0, _SOURCE, TOLERANCE))

    def _add(self, segments: list[Segment]) -> None:
        self._count += len(segments)
        check_count(self._count, self._drawing.most)
        self._runs[-1] += segments
        self._here = segments[-1].end

    def _rectangle(self, sides: list[float]) -> None:
        x, y, width, height = sides
        self._begin(self._at((x, y)))
        for corner in ((x + width, y), (x + width, y + height), (x, y + height), (x, y)):
            self._to(self._at(corner))

    def _end(self, drawn: bool, filled: bool) -> None:
        layer = next((name for name in reversed(self._layers) if name), "cut")
        for run in self._runs:
            if run and drawn:
                self._drawing.add(layer, run, kind="stroke")
            elif run and filled:
                note = "Areas that are filled, with no line round them, were left out."
                self._drawing.lose("filled area", "without a line", note, run[0].start)
        self._runs = []


def _times(a: list[float], b: Matrix) -> Matrix:
    """The matrix ``a``, and ``b`` after it."""
    return (
        a[0] * b[0] + a[1] * b[2],
        a[0] * b[1] + a[1] * b[3],
        a[2] * b[0] + a[3] * b[2],
        a[2] * b[1] + a[3] * b[3],
        a[4] * b[0] + a[5] * b[2] + b[4],
        a[4] * b[1] + a[5] * b[3] + b[5],
    )
