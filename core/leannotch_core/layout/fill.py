"""A first layout at once: each part goes to the first free place from the left, round whatever lies already."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt
from shapely import Polygon, affinity, dwithin, prepare, relate_pattern, transform


@dataclass(frozen=True)
class Item:
    """One copy of a part to be placed: its finished shape in its own frame, and the turns it may take."""

    part: str
    copy_number: int
    shape: Polygon
    turns: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Spot:
    """Where an item lies: turned about its origin by ``turn`` degrees, then moved by ``x``, ``y`` mm."""

    item: Item
    x: float
    y: float
    turn: float

    def polygon(self) -> Polygon:
        turned = affinity.rotate(self.item.shape, self.turn, origin=(0, 0))
        return affinity.translate(turned, self.x, self.y)


#: Places that differ by less than this (mm) are one.
_SAME = 1e-6

#: So many places are looked at together.
_CHUNK = 64


@dataclass
class Sheetful:
    """A sheet being filled; sizes in mm. ``fixed`` is what already lies there and must not be moved."""

    width: float
    height: float
    margin: float
    gap: float
    fixed: list[Polygon] = field(default_factory=list)
    spots: list[Spot] = field(default_factory=list)
    _ground: _Ground | None = None

    def place(self, item: Item) -> bool:
        """Finds the leftmost, lowest free place for ``item`` and puts it there."""
        ground = self._known_ground()
        if item.part in ground.full:
            return False
        best: tuple[Rank, Spot] | None = None
        seen: set[tuple[float, float]] = set()
        for turn in item.turns:
            turned = affinity.rotate(item.shape, turn, origin=(0, 0))
            left, bottom, right, top = turned.bounds
            size = round(right - left, 6), round(top - bottom, 6)
            if _is_square(turned) and size in seen:
                continue
            seen.add(size)
            found = self._free(turned, ground, best[0] if best else None, ground.reached.get((item.part, turn)))
            if found is None:
                continue
            rank, x, y = found
            ground.reached[item.part, turn] = rank
            best = rank, Spot(item, x - left, y - bottom, turn)
        if best is None:
            ground.full.add(item.part)
            return False
        self.spots.append(best[1])
        ground.add(best[1].polygon(), best[1])
        return True

    def _known_ground(self) -> _Ground:
        """What lies on the sheet, made anew where somebody else has moved it."""
        if self._ground is None or self._ground.spots != self.spots or self._ground.fixed != len(self.fixed):
            self._ground = _Ground(self.fixed, self.spots)
        return self._ground

    def _free(
        self, turned: Polygon, ground: _Ground, before: Rank | None, after: Rank | None
    ) -> tuple[Rank, float, float] | None:
        """The first free place for a shape in one turn, of a rank less than ``before`` and no less than ``after``.

        Equal shapes come one after the other, and what was not free for one of them is not for the next.
        """
        left, bottom, right, top = turned.bounds
        size = np.array([right - left, top - bottom])
        places = self._corners(ground.boxes, size)
        ranks = np.column_stack([np.round(places[:, 0] + size[0], 3), places[:, 1]])
        asked = np.ones(len(ranks), dtype=bool)
        if after is not None:
            asked &= _not_less(ranks, after)
        if before is not None:
            asked &= ~_not_less(ranks, before)
        order = np.flatnonzero(asked)
        order = order[np.lexsort((ranks[order, 1], ranks[order, 0]))]
        square = _is_square(turned)
        for start in range(0, len(order), _CHUNK):
            chunk = order[start : start + _CHUNK]
            met = ground.met(places[chunk], size, self.gap)
            blocked = (met & ground.square).any(axis=1) if square else np.zeros(len(chunk), dtype=np.bool_)
            for at in np.flatnonzero(~blocked).tolist():
                x, y = places[chunk[at]].tolist()
                if not ground.is_near(turned, (x - left, y - bottom), met[at], self.gap):
                    return (float(ranks[chunk[at], 0]), float(ranks[chunk[at], 1])), x, y
        return None

    def _corners(self, boxes: Boxes, size: Boxes) -> Boxes:
        """Where a box could nestle: the corners beside and above what lies there."""
        low, far = self.margin, np.array([self.width, self.height]) - self.margin - size
        left, bottom, right, top = boxes.T
        beside, above = right + self.gap, top + self.gap
        floor = np.full(len(boxes), low)
        # Rows of equal parts end at few heights and in few columns.
        grid = np.stack(np.meshgrid(np.unique(beside.round(6)), np.unique(above.round(6))), axis=-1).reshape(-1, 2)
        pairs = [(beside, bottom), (beside, floor), (left, above), (floor, above), (beside, top - size[1])]
        found = np.concatenate([[[low, low]], grid, *(np.column_stack(pair) for pair in pairs)])
        inside = ((found >= low - 1e-9) & (found <= far + 1e-9)).all(axis=1)
        return np.asarray(found[inside])


#: Rows of numbers in mm: left, bottom, right and top of boxes, or x and y of places.
Boxes = npt.NDArray[np.float64]

#: How far right a part ends, then how low it lies (mm): the least comes first.
Rank = tuple[float, float]


class _Ground:
    """What lies on a sheet, to be asked often: its boxes, and which of it fills its box."""

    def __init__(self, fixed: Sequence[Polygon], spots: Sequence[Spot]) -> None:
        self.fixed, self.spots = len(fixed), list(spots)
        self._lying = [*fixed, *(spot.polygon() for spot in spots)]
        prepare(self._lying)
        self.boxes = np.array([shape.bounds for shape in self._lying]).reshape(-1, 4)
        self.square = np.array([_is_square(shape) for shape in self._lying], dtype=bool)
        #: Parts that found no place any more, and the rank that each came to in a turn.
        self.full: set[str] = set()
        self.reached: dict[tuple[str, float], Rank] = {}

    def add(self, shape: Polygon, spot: Spot) -> None:
        self.spots.append(spot)
        prepare(shape)
        self._lying.append(shape)
        self.boxes = np.vstack([self.boxes, shape.bounds])
        self.square = np.append(self.square, _is_square(shape))

    def met(self, places: Boxes, size: Boxes, gap: float) -> npt.NDArray[np.bool_]:
        """For each place, shape (n, 2), the things whose box comes nearer than the gap to one of that size there."""
        left, bottom, right, top = self.boxes.T
        x, y = places[:, :1], places[:, 1:]
        across = np.maximum(np.maximum(left - x - size[0], x - right), 0)
        up = np.maximum(np.maximum(bottom - y - size[1], y - top), 0)
        met: npt.NDArray[np.bool_] = across**2 + up**2 < max(0.0, gap - _SAME) ** 2
        overlaps = (np.maximum(left, x) < np.minimum(right, x + size[0]) - _SAME) & (
            np.maximum(bottom, y) < np.minimum(top, y + size[1]) - _SAME
        )
        return np.asarray(met | overlaps)

    def is_near(self, shape: Polygon, shift: tuple[float, float], met: npt.NDArray[np.bool_], gap: float) -> bool:
        """Whether a shape, moved, comes nearer than the gap to anything whose box it ``met``."""
        near = np.flatnonzero(met).tolist()
        moved = transform(shape, lambda places: places + shift) if near else shape
        if gap <= _SAME:
            # What touches is near enough; only what shares material is in the way.
            return any(relate_pattern(self._lying[i], moved, "T********") for i in near)
        return any(dwithin(self._lying[i], moved, gap - _SAME) for i in near)


def _is_square(shape: Polygon) -> bool:
    """Whether a shape fills its box, so that what meets the box meets it."""
    left, bottom, right, top = shape.bounds
    return not shape.interiors and shape.area > (1 - 1e-9) * (right - left) * (top - bottom)


def _not_less(ranks: Boxes, least: Rank) -> npt.NDArray[np.bool_]:
    later = ranks[:, 0] > least[0]
    same: npt.NDArray[np.bool_] = later | ((ranks[:, 0] == least[0]) & (ranks[:, 1] >= least[1]))
    return same


def fits(item: Item, width: float, height: float, margin: float) -> bool:
    """Whether the item fits an empty sheet in one of its turns."""
    for turn in item.turns:
        left, bottom, right, top = affinity.rotate(item.shape, turn, origin=(0, 0)).bounds
        if right - left <= width - 2 * margin + 1e-9 and top - bottom <= height - 2 * margin + 1e-9:
            return True
    return False


def fill(items: Sequence[Item], sheets: list[Sheetful], fresh: Sequence[tuple[float, float]]) -> list[Item]:
    """Places items on ``sheets``, largest first, adding ``fresh`` ones as needed.

    Returns the items that fit no sheet. Margin and gap of new sheets are those of ``sheets[0]``.
    """
    model = sheets[0]
    left_over = []
    for item in sorted(items, key=lambda item: (-item.shape.area, item.part, item.copy_number)):
        if any(sheet.place(item) for sheet in sheets):
            continue
        size = next((size for size in fresh if fits(item, *size, model.margin)), None)
        if size is None:
            left_over.append(item)
            continue
        sheets.append(Sheetful(*size, model.margin, model.gap))
        sheets[-1].place(item)
    return left_over
