"""Offcuts: what remains of a sheet once its parts are cut out of it, and is worth keeping."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely import Polygon

from ..document.sizes import length
from ..document.sums import SizeError
from ..evaluate import Result
from ..project.project import Project
from .sheets import placed, shape_of

#: What is smaller (mm²), or nowhere so wide (mm), is not kept: common practice, no source.
SMALLEST, NARROWEST = 10_000.0, 40.0

#: Outlines are told by few corners: within so much (mm) of what remains, and never beyond it.
SIMPLER = 0.5


@dataclass(frozen=True, slots=True)
class Offcut:
    """A piece that remains, from its own lower left corner (mm); its grain runs as it did on the sheet."""

    width: float
    height: float
    outline: tuple[complex, ...]

    @property
    def area(self) -> float:
        return float(Polygon([(p.real, p.imag) for p in self.outline]).area)


def offcuts(project: Project, result: Result, index: int) -> list[Offcut]:
    """What is worth keeping of sheet ``index``, the largest first: the sheet less its parts, their kerf and the margin.

    Raises `SizeError` where the margin cannot be read.
    """
    sheet = project.layout.sheets[index]
    outline, _ = shape_of(sheet)
    whole = Polygon([(p.real, p.imag) for p in outline]) if outline else shapely.box(0, 0, sheet.width, sheet.height)
    missing = [b.corners for b in sheet.barred if b.what == "missing"]
    gone = [Polygon([(corner.x, corner.y) for corner in corners]) for corners in missing]
    kerf = result.stocks[sheet.stock].kerf if sheet.stock in result.stocks else 0.0
    room = kerf + _margin(project)
    for placement in project.layout.placements:
        part = result.parts.get(placement.part)
        if placement.sheet == index and part:
            # Slugs of cut-outs are cut as well: nothing remains within a part.
            outer = Polygon(placed(part.outline, placement).exterior)
            gone.append(outer.buffer(room, join_style="mitre", mitre_limit=2))
    left = whole.difference(shapely.union_all(gone))
    # What is nowhere wide enough falls away; what hangs on by a thin neck is cut off.
    wide = left.buffer(-NARROWEST / 2, join_style="mitre").buffer(NARROWEST / 2, join_style="mitre").intersection(left)
    pieces = [piece for piece in shapely.get_parts(wide) if piece.geom_type == "Polygon"]
    kept = [_offcut(piece) for piece in pieces if piece.area >= SMALLEST]
    return sorted(kept, key=lambda offcut: -offcut.area)


def _margin(project: Project) -> float:
    try:
        return length(project.layout.margin, {})
    except SizeError as error:
        raise SizeError(f"margin: {error}") from error


def _offcut(piece: Polygon) -> Offcut:
    """A piece by its outer edge: what is missing within it is told by a slit to the edge."""
    simple = _within(piece)
    left, bottom, right, top = simple.bounds
    corners = [complex(x - left, y - bottom) for x, y in shapely.get_coordinates(simple.exterior)[:-1]]
    return Offcut(right - left, top - bottom, tuple(corners))


def _within(piece: Polygon) -> Polygon:
    """The piece without holes and with few corners, nowhere beyond what it was: it is cut open at each hole."""
    for hole in piece.interiors:
        left, _, right, _ = hole.bounds
        _, bottom, _, _ = piece.bounds
        slit = shapely.box(left, bottom - 1, right, shapely.Polygon(hole).bounds[3])
        piece = max(shapely.get_parts(piece.difference(slit)), key=lambda part: part.area)
        if not piece.interiors:
            break
    simple = shapely.simplify(shapely.buffer(piece, -SIMPLER, join_style="mitre"), SIMPLER)
    return max(shapely.get_parts(simple), key=lambda part: part.area)
