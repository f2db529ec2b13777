"""The plan of a sheet: which lines the beam or cutter follows, by operation and in order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from shapely import Polygon, box, maximum_inscribed_circle
from shapely.affinity import rotate, translate

from ..document.operations import ORDER
from ..document.sheet import Placement
from ..evaluate import EvaluatedPart, Result
from ..geometry.arrangement import contains
from ..geometry.loop import Loop, Outline, joined_bounds
from ..geometry.offset import grow
from ..geometry.segment import Line, Motion, Point, Segment, Source, move
from ..layout.sheets import motion, polygon_of
from ..parts.drawing import MarkShape
from ..parts.lettering.single_line import strokes, text_width
from ..project import Project
from .way import shortest_way


@dataclass(frozen=True, slots=True)
class CutPath:
    """One line of the plan, closed or open, in the frame of the sheet (mm). ``depth`` is that of a pocket."""

    operation: str
    segments: tuple[Segment, ...]
    closed: bool
    depth: float | None = None

    @property
    def layer(self) -> str:
        """The layer or group it belongs on: its operation; for a pocket with the depth in mm."""
        return self.operation if self.depth is None else f"{self.operation}-{self.depth:.2f}"

    @property
    def start(self) -> Point:
        return self.segments[0].start


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """Everything that goes into one sheet's file. ``compensated``: the file holds the kerf, not the machine."""

    name: str
    width: float
    height: float
    kerf: float
    compensated: bool
    paths: tuple[CutPath, ...]
    placements: tuple[Placement, ...]
    lost: tuple[str, ...]


class CannotPlan(ValueError):  # noqa: N818 - it is a statement, and read as one
    """A sheet that cannot be planned; the message is a sentence to show."""


@lru_cache(maxsize=2048)
def compensated(outline: Outline, kerf: float) -> Outline:
    """The cut line of a finished outline: outsides move out by half a kerf, cut-outs in.

    A cut-out narrower than the kerf closes up and is missing from the answer.
    """
    return grow([outline], kerf / 2)[0]


def plan_sheet(project: Project, result: Result, index: int) -> SheetPlan:
    """The plan of sheet ``index`` as the project's hand-over asks for it. Raises `CannotPlan`."""
    sheet = project.layout.sheets[index]
    kerf = _kerf(project, result, index)
    in_file = project.hand_over.kerf == "in the file"
    placements = tuple(
        p
        for p in project.layout.placements
        if p.sheet == index and not p.cut and (part := result.parts.get(p.part)) and p.copy_number <= part.part.count
    )
    cuts: list[Loop] = []
    pockets: list[CutPath] = []
    scores: list[CutPath] = []
    lost: list[str] = []
    for placement in placements:
        part = result.parts[placement.part]
        place = motion(placement)
        outline = compensated(part.outline, kerf) if in_file else part.outline
        sunk = _pockets(part, kerf if in_file else 0.0)
        if len(outline.cutouts) < len(part.outline.cutouts) or len(sunk) < len(part.pockets):
            lost.append(part.part.name)
        cuts += [loop.moved(place) for loop in outline.loops]
        lettered = marks(part) + (_name(part, placement) if project.hand_over.names == "score" else ())
        scores += [_moved(path, place) for path in lettered]
        pockets += [_moved(path, place) for path in sunk]
    engraved, scored = ([s for s in scores if s.operation == which] for which in ("engrave", "score"))
    paths = [*_short_way(engraved), *_short_way(scored), *_short_way(pockets), *_in_order(cuts)]
    if project.hand_over.check_square:
        paths.append(_check_square(sheet.height))
    return SheetPlan(
        name=f"{project.name}, sheet {index + 1}",
        width=sheet.width,
        height=sheet.height,
        kerf=kerf,
        compensated=in_file,
        paths=tuple(paths),
        placements=placements,
        lost=tuple(lost),
    )


def _kerf(project: Project, result: Result, index: int) -> float:
    stock_id = project.layout.sheets[index].stock
    if stock_id in result.stocks:
        return result.stocks[stock_id].kerf
    stock = project.stock(stock_id)
    if stock is None:
        raise CannotPlan(f"Sheet {index + 1} is of a stock “{stock_id}” that is not in the project; lay out again.")
    why = next((f.text for f in result.errors if f.place.kind == "stock" and f.place.id == stock_id), stock.name)
    raise CannotPlan(f"Sheet {index + 1} cannot be cut. {why}. Mend the stock first.")


def layers(plan: SheetPlan) -> dict[str, list[CutPath]]:
    """The plan's lines by layer, in the order of operations."""
    found: dict[str, list[CutPath]] = {}
    for path in sorted(plan.paths, key=lambda path: (ORDER.index(path.operation), path.depth or 0.0)):
        found.setdefault(path.layer, []).append(path)
    return found


def _moved(path: CutPath, place: Motion) -> CutPath:
    return replace(path, segments=tuple(segment.moved(place) for segment in path.segments))


def _pockets(part: EvaluatedPart, kerf: float) -> list[CutPath]:
    """Outlines of the part's pockets, moved in by half the cutter: what is inside them is cleared at the machine."""
    shrunk = [(pocket, grow([pocket.outline], -kerf / 2)) for pocket in part.pockets]
    return [CutPath("pocket", found[0].outer.segments, True, pocket.depth) for pocket, found in shrunk if found]


def _in_order(loops: Sequence[Loop]) -> list[CutPath]:
    """Inside before outside: the deepest loops first, so that nothing is cut in a part that is already loose."""
    outers = [loop for loop in loops if loop.area > 0]
    left, bottom, right, top = np.array([outer.bounds for outer in outers]).reshape(-1, 4).T
    by_depth: dict[int, list[CutPath]] = {}
    for loop in loops:
        point = loop.segments[0].at(0.5)
        cut_out = loop.area < 0
        near = (left < point.real) & (point.real < right) & (bottom < point.imag) & (point.imag < top)
        around = [outers[index] for index in np.flatnonzero(near)]
        depth = sum(outer is not loop and contains(outer, point) for outer in around)
        rank = 2 * depth - 1 if cut_out else 2 * depth
        by_depth.setdefault(rank, []).append(CutPath("cut", loop.segments, True))
    ordered: list[CutPath] = []
    for rank in sorted(by_depth, reverse=True):
        ordered += _short_way(by_depth[rank], ordered[-1].start if ordered else 0)
    return ordered


def _short_way(paths: Sequence[CutPath], here: Point = 0) -> list[CutPath]:
    """The paths in an order, and begun at places, that make the way between them short."""
    way = shortest_way([path.segments for path in paths], [path.closed for path in paths], here)
    return [
        replace(paths[at], segments=(*paths[at].segments[first:], *paths[at].segments[:first])) for at, first in way
    ]


def _check_square(height: float) -> CutPath:
    """100 mm to measure on any print or machine; above the sheet, where it is in nobody's way."""
    corners = [complex(x, y) + 1j * (height + 10) for x, y in ((0, 0), (100, 0), (100, 100), (0, 100))]
    source = Source("check square", "side")
    sides = tuple(Line(a, b, source) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True))
    return CutPath("reference", sides, True)


def marks(part: EvaluatedPart) -> tuple[CutPath, ...]:
    """The part's own texts and lines to score or engrave, in its frame; references are for people."""
    worked = (line for line in part.lines if line.operation != "reference")
    drawn = (CutPath(line.operation, line.segments, line.closed) for line in worked)
    return (*(path for mark in part.marks for path in _mark(mark)), *drawn)


def _mark(mark: MarkShape) -> tuple[CutPath, ...]:
    operation = mark.operation
    if mark.outlines is None:
        return tuple(replace(p, operation=operation) for p in _lettered(mark.text, mark.height, mark.middle, mark.turn))
    place = move(mark.turn, mark.middle)
    loops = [loop for outline in mark.outlines for loop in outline.moved(place).loops]
    return tuple(CutPath(operation, loop.segments, True) for loop in loops)


def _lettered(text: str, height: float, middle: Point, turn: float) -> tuple[CutPath, ...]:
    place, source = move(turn, middle), Source("text", text)
    return tuple(
        CutPath("score", tuple(Line(place(a), place(b), source) for a, b in pairwise(line) if a != b), False)
        for line in strokes(text, height)
    )


def _name(part: EvaluatedPart, placement: Placement) -> tuple[CutPath, ...]:
    paths = _scored_name(part.part.name, part.outline)
    if not placement.mirrored or not paths:
        return paths
    # On a part that lies on its face the name reads as on any other: it is turned over in its place beforehand.
    left, _, right, _ = joined_bounds(segment.bounds() for path in paths for segment in path.segments)
    over = Motion(-1, complex(left + right, 0), mirrored=True)
    return tuple(_moved(path, over) for path in paths)


@lru_cache(maxsize=2048)
def _scored_name(name: str, outline: Outline) -> tuple[CutPath, ...]:
    """The part's name as score lines where it fits best; nothing where it fits nowhere."""
    room = polygon_of(outline).buffer(-1.5)
    if room.is_empty:
        return ()
    for height in (6.0, 5.0, 4.0, 3.0, 2.5):
        spot = _free_spot(room, text_width(name, height), height)
        if spot:
            at, turn = spot
            return _lettered(name, height, at, turn)
    return ()


def _free_spot(room: Polygon, width: float, height: float) -> tuple[Point, float] | None:
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
