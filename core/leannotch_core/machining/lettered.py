"""What is marked on a part: its texts and lines, and its name where there is room for it."""

from __future__ import annotations

from shapely import MultiPoint, MultiPolygon, Polygon, box, maximum_inscribed_circle
from shapely.affinity import rotate, translate
from shapely.ops import unary_union

from ..document.sheet import Placement
from ..evaluate import EvaluatedPart
from ..geometry.loop import Outline, joined_bounds
from ..geometry.segment import Motion, Point, move
from ..layout.sheets import polygon_of
from ..parts.lettering.single_line import missing, text_width
from ..parts.shapes.text import single_lines
from ..remembered import remembered
from .path import CutPath

#: A strip of sheet between two lines.
Strip = tuple[tuple[Point, Point], tuple[Point, Point]]


def marks(part: EvaluatedPart) -> tuple[CutPath, ...]:
    """The part's own texts and lines to fill, engrave or score, in its frame; references are for people."""
    worked = (line for line in part.lines if line.operation != "reference")
    return tuple(CutPath(line.operation, line.segments, line.closed) for line in worked)


def _lettered(text: str, height: float, middle: Point, turn: float) -> tuple[CutPath, ...]:
    place = move(turn, middle)
    return tuple(
        CutPath("score", tuple(segment.moved(place) for segment in line), False) for line in single_lines(text, height)
    )


def name_of(part: EvaluatedPart, placement: Placement) -> tuple[CutPath, ...]:
    """The name of a part in score lines, in its frame; nothing where there is no room for it."""
    paths = own_name(part)
    if not placement.mirrored or not paths:
        return paths
    # On a part that lies on its face the name reads as on any other: it is turned over in its place beforehand.
    left, _, right, _ = joined_bounds(segment.bounds() for path in paths for segment in path.segments)
    over = Motion(-1, complex(left + right, 0), mirrored=True)
    return tuple(path.moved(over) for path in paths)


def own_name(part: EvaluatedPart) -> tuple[CutPath, ...]:
    """The name of a part as it is seen; nothing on what bears marks that it would spoil."""
    if marks(part):
        return ()
    bent = tuple(bend.tangents for bend in part.bends)
    return scored_name(part.part.name, part.outline, tuple(pocket.outline for pocket in part.pockets), bent)


@remembered(most=2048)
def scored_name(
    name: str, outline: Outline, sunk: tuple[Outline, ...] = (), bent: tuple[Strip, ...] = ()
) -> tuple[CutPath, ...]:
    """A name as score lines where it fits best beside what is ``sunk`` and the strips that are ``bent``.

    Nothing where it fits nowhere, or a letter has no strokes.
    """
    if missing(name):
        return ()
    strips = [MultiPoint([(p.real, p.imag) for line in strip for p in line]).convex_hull for strip in bent]
    kept = unary_union([*(polygon_of(pocket) for pocket in sunk), *strips])
    room = polygon_of(outline).difference(kept).buffer(-1.5)
    if room.is_empty:
        return ()
    for height in (6.0, 5.0, 4.0, 3.0, 2.5):
        spot = _free_spot(room, text_width(name, height), height)
        if spot:
            at, turn = spot
            return _lettered(name, height, at, turn)
    return ()


def _free_spot(room: Polygon | MultiPolygon, width: float, height: float) -> tuple[Point, float] | None:
    """A middle and a turn where a ``width`` x ``height`` text lies wholly in ``room``."""
    circle = maximum_inscribed_circle(room, tolerance=0.5)
    middle = circle.coords[0]
    centroid = room.centroid
    _, bottom, _, top = room.bounds
    lower = (centroid.x, bottom + (top - bottom) / 4)
    text = box(-width / 2, -height / 2, width / 2, height / 2)
    for x, y in ((centroid.x, centroid.y), middle, lower):
        for turn in (0.0, 90.0):
            if room.contains(translate(rotate(text, turn, origin=(0, 0)), x, y)):
                return complex(x, y), turn
    return None
