"""The basic shapes and paths of an SVG as lines, arcs and curves, carried through its transforms."""

from __future__ import annotations

import cmath
import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from fontTools.misc.transform import Transform
from fontTools.svgLib.path import parse_path

from ...document.sizes import LARGEST
from ...geometry.biarc import arcs_along, bezier, ellipse
from ...geometry.segment import Arc, Line, Point, Segment, Source
from ...geometry.shallow import along_ellipse
from ..drawing import SHORTEST, BrokenFile, check_points
from .lengths import pixels

SOURCE = Source("file", "line")

SHAPES = ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon")

_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")


#: Arcs with radii so many times their chord rise by less of it than any number tells: they are lines.
_STRAIGHT = 1e9


@dataclass(slots=True)
class Subpath:
    """Segments that follow one another, in mm with y up."""

    segments: list[Segment] = field(default_factory=list)
    closed: bool = False


def runs_of(given: Mapping[str, str], tag: str, to_mm: Transform, whole: complex) -> list[Subpath]:
    """The runs of a shape by what is given for it; ``to_mm`` takes its units to mm, ``whole`` is what percents are of.

    Raises `BrokenFile` where its numbers make no shape.
    """
    pen = _Pen(to_mm)
    try:
        _draw(given, tag, pen, whole)
    except BrokenFile:
        raise
    except (ValueError, ArithmeticError, IndexError, TypeError, AssertionError) as error:
        name = f" “{given['id']}”" if given.get("id") else ""
        raise BrokenFile(f"The SVG has a {tag}{name} whose numbers make no shape; draw it again.") from error
    return [run for run in pen.runs if run.segments]


def _draw(given: Mapping[str, str], tag: str, pen: _Pen, whole: complex) -> None:
    if tag == "path":
        parse_path(_path_data(given.get("d", "")), pen)
    elif tag in ("polyline", "polygon"):
        numbers = [float(n) for n in _NUMBER.findall(given.get("points", ""))]
        points = list(zip(numbers[::2], numbers[1::2], strict=False))
        pen.polyline(points, closed=tag == "polygon")
    elif tag == "line":
        across, up = whole.real, whole.imag
        x1, y1, x2, y2 = (_size(given, n, w) for n, w in (("x1", across), ("y1", up), ("x2", across), ("y2", up)))
        pen.polyline([(x1, y1), (x2, y2)], closed=False)
    elif tag == "rect":
        _rectangle(given, pen, whole)
    else:
        _round(given, pen, whole)


def _path_data(text: str) -> str:
    """Path data, also as a style sheet has it: ``path("…")`` (SVG 2, 9.3.2)."""
    found = _STYLED_PATH.fullmatch(text.strip())
    return found[2] if found else text


_STYLED_PATH = re.compile(r"path\(\s*([\"'])(.*)\1\s*\)", re.DOTALL)


def _size(given: Mapping[str, str], name: str, whole: float) -> float:
    return pixels(given.get(name), whole) or 0.0


def _rectangle(given: Mapping[str, str], pen: _Pen, whole: complex) -> None:
    x, y = _size(given, "x", whole.real), _size(given, "y", whole.imag)
    width, height = _size(given, "width", whole.real), _size(given, "height", whole.imag)
    if width <= 0 or height <= 0:
        return
    # A radius that is not given is as the other one, and neither reaches past the middle (SVG 2, 10.2).
    rx, ry = pixels(given.get("rx"), whole.real), pixels(given.get("ry"), whole.imag)
    rx, ry = (rx if rx is not None else ry) or 0.0, (ry if ry is not None else rx) or 0.0
    rx, ry = min(abs(rx), width / 2), min(abs(ry), height / 2)
    right, bottom = x + width, y + height
    if rx <= 0 or ry <= 0:
        pen.polyline([(x, y), (right, y), (right, bottom), (x, bottom)], closed=True)
        return
    pen.moveTo((x + rx, y))
    for line, end in (
        ((right - rx, y), (right, y + ry)),
        ((right, bottom - ry), (right - rx, bottom)),
        ((x + rx, bottom), (x, bottom - ry)),
        ((x, y + ry), (x + rx, y)),
    ):
        pen.lineTo(line)
        pen.arcTo(rx, ry, 0, False, True, end)
    pen.closePath()


def _round(given: Mapping[str, str], pen: _Pen, whole: complex) -> None:
    x, y = _size(given, "cx", whole.real), _size(given, "cy", whole.imag)
    if "r" in given:
        rx = ry = _size(given, "r", abs(whole) / math.sqrt(2))
    else:
        rx, ry = _size(given, "rx", whole.real), _size(given, "ry", whole.imag)
        rx, ry = rx if "rx" in given else ry, ry if "ry" in given else rx
    if rx <= 0 or ry <= 0:
        return
    pen.moveTo((x + rx, y))
    pen.arcTo(rx, ry, 0, False, True, (x - rx, y))
    pen.arcTo(rx, ry, 0, False, True, (x + rx, y))
    pen.closePath()


class _Pen:
    """Takes path commands in the shape's units, as fontTools has them; keeps what they draw in mm."""

    def __init__(self, to_mm: Transform) -> None:
        self._to_mm = to_mm
        self.runs: list[Subpath] = []
        self._here = self._first = 0j

    def _mm(self, point: Point) -> Point:
        x, y = self._to_mm.transformPoint((point.real, point.imag))
        return complex(x, y)

    def _vector(self, vector: complex) -> complex:
        x, y = self._to_mm.transformVector((vector.real, vector.imag))
        return complex(x, y)

    def _add(self, segments: Iterable[Segment], end: Point) -> None:
        kept = [segment for segment in segments if segment.length >= SHORTEST]
        self.runs[-1].segments.extend(kept)
        self._here = end

    def polyline(self, points: list[tuple[float, float]], *, closed: bool) -> None:
        if not points:
            return
        self.moveTo(points[0])
        for point in points[1:]:
            self.lineTo(point)
        if closed:
            self.closePath()

    def moveTo(self, point: tuple[float, float]) -> None:  # noqa: N802 - fontTools names it
        self._here = self._first = complex(*point)
        self.runs.append(Subpath())

    def lineTo(self, point: tuple[float, float]) -> None:  # noqa: N802
        end = complex(*point)
        a, b = self._mm(self._here), self._mm(end)
        check_points((a, b))
        self._add([Line(a, b, SOURCE)], end)

    def curveTo(self, first: tuple[float, float], second: tuple[float, float], end: tuple[float, float]) -> None:  # noqa: N802
        points = [self._mm(point) for point in (self._here, complex(*first), complex(*second), complex(*end))]
        check_points(points)
        a, b, c, d = points
        if max(abs(b - a), abs(c - a), abs(d - a)) >= SHORTEST:
            self._add(arcs_along(bezier(a, b, c, d), 0, 1, SOURCE), complex(*end))

    def qCurveTo(self, control: tuple[float, float], end: tuple[float, float]) -> None:  # noqa: N802
        a, b, c = self._here, complex(*control), complex(*end)
        first, second = a + (b - a) * 2 / 3, c + (b - c) * 2 / 3
        self.curveTo((first.real, first.imag), (second.real, second.imag), end)

    def arcTo(  # noqa: N802
        self, rx: float, ry: float, turn: float, large: float, sweep: float, end: tuple[float, float]
    ) -> None:
        finish = complex(*end)
        if abs(finish - self._here) < 1e-12:
            return
        huge = not large and min(abs(rx), abs(ry)) > _STRAIGHT * abs(finish - self._here)
        if not rx or not ry or huge:
            self.lineTo(end)
            return
        arc = _centred(self._here, finish, complex(abs(rx), abs(ry)), math.radians(turn), (bool(large), bool(sweep)))
        self._add(self._arc(*arc, self._mm(self._here), self._mm(finish)), finish)

    def _arc(
        self, centre: Point, axes: tuple[complex, complex], begin: float, sweep: float, start: Point, end: Point
    ) -> Iterable[Segment]:
        centre, (axis, other) = self._mm(centre), (self._vector(axes[0]), self._vector(axes[1]))
        check_points((start, end))
        if min(abs(axis), abs(other)) < SHORTEST:
            return [Line(start, end, SOURCE)]
        if LARGEST <= max(abs(centre), abs(axis), abs(other)) < math.inf:
            return along_ellipse(centre, axis, other, begin, sweep, (start, end), SOURCE)
        check_points((centre, centre + axis, centre + other))
        square = abs((axis.conjugate() * other).real) < 1e-9 * abs(axis) ** 2
        if not square or abs(abs(axis) - abs(other)) > 1e-6 * abs(axis):
            return arcs_along(ellipse(centre, axis, other), begin, begin + sweep, SOURCE)
        ccw = (sweep > 0) == ((axis.conjugate() * other).imag > 0)
        if abs(sweep) <= math.pi:
            return [Arc(start, end, centre, ccw, SOURCE)]
        spoke = begin + sweep / 2
        middle = centre + axis * math.cos(spoke) + other * math.sin(spoke)
        return [Arc(start, middle, centre, ccw, SOURCE), Arc(middle, end, centre, ccw, SOURCE)]

    def closePath(self) -> None:  # noqa: N802
        if abs(self._here - self._first) > 1e-12:
            self.lineTo((self._first.real, self._first.imag))
        self.runs[-1].closed = True
        # What is drawn next without a move begins here.
        self.runs.append(Subpath())

    def endPath(self) -> None:  # noqa: N802
        """Nothing is to be done where a run stays open."""


def _centred(
    start: Point, end: Point, radii: complex, turn: float, flags: tuple[bool, bool]
) -> tuple[Point, tuple[complex, complex], float, float]:
    """Centre, half axes, first angle and sweep (radians) of an arc given by its ends (SVG 2, B.2.4 and B.2.5)."""
    large, positive = flags
    along = cmath.rect(1, turn)
    half = (start - end) / 2 / along
    rx, ry = radii.real, radii.imag
    reach = (half.real / rx) ** 2 + (half.imag / ry) ** 2
    if reach > 1:
        rx, ry = rx * math.sqrt(reach), ry * math.sqrt(reach)
    under = (rx * ry) ** 2 - (rx * half.imag) ** 2 - (ry * half.real) ** 2
    root = math.sqrt(max(0.0, under) / ((rx * half.imag) ** 2 + (ry * half.real) ** 2))
    if large == positive:
        root = -root
    moved = complex(root * rx * half.imag / ry, -root * ry * half.real / rx)
    first = complex((half - moved).real / rx, (half - moved).imag / ry)
    last = complex((-half - moved).real / rx, (-half - moved).imag / ry)
    sweep = cmath.phase(last / first)
    if positive and sweep < 0:
        sweep += math.tau
    elif not positive and sweep > 0:
        sweep -= math.tau
    centre = moved * along + (start + end) / 2
    return centre, (rx * along, ry * 1j * along), cmath.phase(first), sweep
