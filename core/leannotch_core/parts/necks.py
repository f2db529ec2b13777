"""Where material is too thin between two stretches of one edge, and where a gap is too narrow to be cut.

Both are what a disc cannot get into: the material that is lost when it is opened by a disc as wide as the least web
(a morphological opening; Serra 1982, from memory), and the air that is lost when closed by one as wide as the cut.
A corner loses a little as well; what has two corners in it, or none and is deep, is no corner.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Polygon, STRtree
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from ..geometry.chords import as_polygon
from ..geometry.loop import Loop, Outline
from ..geometry.segment import Arc, Segment, Source, arc_from_bulge
from ..remembered import Remembered, remembered
from .gaps import NarrowPlace

#: Discs are drawn by so many chords a quarter.
_ROUND = 8
#: What a square corner loses at most, and a rounded one, as shares of the disc's radius squared: (4 - pi) / 4 is just
#: what a square one does. Less than the last of them is a crumb.
_OF_A_SQUARE, _OF_A_ROUND, _CRUMB = 0.3, 0.22, 0.05
#: An edge that turns by more than this (radians) has a corner.
_CORNER = 0.35


class _Fine(NamedTuple):
    """How finely it is looked for a disc of half a width (mm): by which chords, and what is wide enough anyway."""

    half: float
    coarse: float

    @classmethod
    def of(cls, width: float) -> _Fine:
        coarse = min(0.005, width / 100)
        return cls(width / 2 - coarse / 2, coarse)

    @property
    def close(self) -> float:
        return 5 * self.coarse


def necks(outline: Outline, least: float) -> tuple[NarrowPlace, ...]:
    """Material thinner than ``least`` mm between two stretches of one loop: slivers, thin fingers, necks."""
    if least <= 0:
        return ()
    return _sorted([_thin_within(outline.outer, least), *(_thin_about(hole, least) for hole in outline.cutouts)])


def tight_gaps(outline: Outline, width: float) -> tuple[NarrowPlace, ...]:
    """Notches and cut-outs, or parts of them, that a cut of a ``width`` (mm) does not get into."""
    if width <= 0:
        return ()
    return _sorted([_thin_about(outline.outer, width), *(_thin_within(hole, width) for hole in outline.cutouts)])


#: What is thin by a loop. Each is looked at by itself: what a disc gets into on one side of it depends on no other, and
#: what is thin between two of them is told elsewhere.
_BY_LOOP = Remembered[list[NarrowPlace]](), Remembered[list[NarrowPlace]]()


def _thin_within(loop: Loop, width: float) -> list[NarrowPlace]:
    """Where what a loop goes round is thinner than ``width``."""
    return _BY_LOOP[0].of(loop, (width,), lambda: _placed(loop, _within, width))


def _thin_about(loop: Loop, width: float) -> list[NarrowPlace]:
    """Where what a loop does not go round is thinner than ``width`` between two of its stretches."""
    return _BY_LOOP[1].of(loop, (width,), lambda: _placed(loop, _about, width))


#: The way round a loop from where it begins: by how far (mm) to each next end, and the bulge on the way there.
_Way = tuple[tuple[complex, float], ...]


def _placed(loop: Loop, look: Callable[[_Way, float], tuple[NarrowPlace, ...]], width: float) -> list[NarrowPlace]:
    """What is thin, looked for once for all loops that are alike but for where they lie."""
    begin = loop.segments[0].start
    way = tuple((_rounded(segment.end - begin), _bulge(segment)) for segment in loop)
    return [NarrowPlace(place.distance, place.at + begin) for place in look(way, width)]


def _rounded(point: complex) -> complex:
    return complex(round(point.real, 6), round(point.imag, 6))


def _bulge(segment: Segment) -> float:
    return round(segment.bulge, 9) if isinstance(segment, Arc) else 0.0


def _drawn(way: _Way, tolerance: float) -> Polygon:
    source, start, segments = Source("", ""), way[-1][0], []
    for end, bulge in way:
        segments.append(arc_from_bulge(start, end, bulge, source))
        start = end
    return as_polygon(Outline(Loop(tuple(segments))), tolerance)


@remembered(most=8192)
def _within(way: _Way, width: float) -> tuple[NarrowPlace, ...]:
    fine = _Fine.of(width)
    whole = _drawn(way, fine.coarse)
    opened = whole.buffer(-fine.half, quad_segs=_ROUND).buffer(fine.half + fine.coarse / 4, quad_segs=_ROUND)
    return tuple(_thin(whole.difference(opened), opened.boundary, whole, fine, inside=False))


@remembered(most=8192)
def _about(way: _Way, width: float) -> tuple[NarrowPlace, ...]:
    fine = _Fine.of(width)
    whole = _drawn(way, fine.coarse)
    if whole.convex_hull.area - whole.area < _CRUMB * fine.half**2:
        return ()
    closed = whole.buffer(fine.half, quad_segs=_ROUND).buffer(-fine.half - fine.coarse / 4, quad_segs=_ROUND)
    return tuple(_thin(closed.difference(whole), closed.boundary, whole, fine, inside=True))


def _sorted(found: Sequence[list[NarrowPlace]]) -> tuple[NarrowPlace, ...]:
    places = [place for one in found for place in one]
    return tuple(sorted(places, key=lambda place: (place.distance, place.at.real, place.at.imag)))


def _thin(lost: BaseGeometry, line: BaseGeometry, whole: Polygon, fine: _Fine, inside: bool) -> Iterator[NarrowPlace]:
    """Pieces that are thin; ``line`` is the edge of what is wide."""
    pieces = shapely.get_parts(lost)
    pieces = pieces[shapely.area(pieces) > _CRUMB * fine.half**2]
    if not len(pieces):
        return
    corners = STRtree(_corners(whole, inside))
    doubtful = [piece for piece, _ in _doubtful(pieces, corners, fine)]
    parted = [part for piece in doubtful for part in _parted(piece, line, fine)]
    for piece, corners_in_it in _doubtful(np.array(parted, dtype=object), corners, fine):
        mouths = _mouths(piece, whole.boundary, fine)
        deep = _deep(piece, mouths)
        through = len(mouths) != 1 and deep > fine.half / 8
        if through or (corners_in_it > 1 and deep > fine.half) or (corners_in_it == 0 and deep > fine.half / 2):
            at = piece.representative_point()
            yield NarrowPlace(_width(piece, mouths, fine), complex(at.x, at.y))


def _doubtful(pieces: npt.NDArray[np.object_], corners: STRtree, fine: _Fine) -> Iterator[tuple[Polygon, int]]:
    """Pieces that are more than what one corner loses, each with how many corners are in it."""
    area = shapely.area(pieces) / fine.half**2
    pieces, area = pieces[area > _CRUMB], area[area > _CRUMB]
    if not len(pieces):
        return
    near = corners.query(pieces, predicate="dwithin", distance=fine.close)[0]
    count = np.bincount(near, minlength=len(pieces))
    which = (count > 1) | (area > np.where(count == 1, _OF_A_SQUARE, _OF_A_ROUND))
    yield from zip(pieces[which].tolist(), count[which].tolist(), strict=True)


def _parted(piece: Polygon, line: BaseGeometry, fine: _Fine) -> list[Polygon]:
    """The parts of a piece that hang together only where a disc that gets in all but touches the edge: two corners
    about as far apart as the disc is wide.
    """
    inner = shapely.get_parts(piece.buffer(-fine.close / 2))
    if len(inner) < 2:
        return [piece]
    parts = [part.buffer(fine.close / 2).intersection(piece) for part in inner]
    left = shapely.get_parts(piece.difference(shapely.union_all(parts)))
    between = [thin for thin in left if sum(thin.distance(part) < fine.coarse / 10 for part in parts) > 1]
    if any(thin.distance(line) > fine.coarse for thin in between):
        return [piece]
    return [part for part in parts if isinstance(part, Polygon)]


def _mouths(piece: Polygon, edge: BaseGeometry, fine: _Fine) -> list[BaseGeometry]:
    """Where a piece is open to what is wide enough."""
    open_ = piece.boundary.difference(_around(edge, piece, fine.close / 2))
    return [part for part in shapely.get_parts(shapely.line_merge(open_)) if part.length > fine.close]


def _deep(piece: Polygon, mouths: list[BaseGeometry]) -> float:
    """How far (mm) it reaches from where it is open; without an end where it is open nowhere."""
    if not mouths:
        return float("inf")
    return float(shapely.distance(shapely.points(piece.exterior.coords), shapely.union_all(mouths)).max())


def _around(edge: BaseGeometry, piece: Polygon, far: float) -> BaseGeometry:
    """What lies so near to the edge, looked at about a piece alone."""
    left, bottom, right, top = piece.bounds
    return shapely.clip_by_rect(edge, left - 1, bottom - 1, right + 1, top + 1).buffer(far)


def _width(piece: Polygon, mouths: list[BaseGeometry], fine: _Fine) -> float:
    """How wide a thin piece is: as the narrower of its mouths, and no wider than a box about it or a disc in it."""
    box = shapely.get_coordinates(piece.minimum_rotated_rectangle)
    sides = [float(np.hypot(*(box[at + 1] - box[at]))) for at in (0, 1)] if len(box) > 2 else [0.0]
    # Both ends of a mouth were left out, where it comes near to the edge.
    open_ = [float(np.hypot(*np.subtract(mouth.coords[-1], mouth.coords[0]))) + fine.close for mouth in mouths]
    disc = 2 * float(shapely.maximum_inscribed_circle(piece, fine.coarse).length)
    return min([*sides, *open_, disc])


def _corners(shape: Polygon, inside: bool) -> npt.NDArray[np.object_]:
    """Where the edge turns: out of the material, or ``inside`` ones, into it."""
    points = shapely.get_coordinates(orient(shape))[:-1]
    z = points[:, 0] + 1j * points[:, 1]
    along = np.roll(z, -1) - z
    turn = np.angle(along / np.roll(along, 1))
    corners: npt.NDArray[np.object_] = shapely.points(points[turn < -_CORNER if inside else turn > _CORNER])
    return corners
