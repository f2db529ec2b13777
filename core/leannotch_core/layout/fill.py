"""A first layout at once: each part goes to the first free place from the left, round whatever lies already."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from shapely import Polygon, STRtree, affinity


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


@dataclass
class Sheetful:
    """A sheet being filled; sizes in mm. ``fixed`` is what already lies there and must not be moved."""

    width: float
    height: float
    margin: float
    gap: float
    fixed: list[Polygon] = field(default_factory=list)
    spots: list[Spot] = field(default_factory=list)

    def place(self, item: Item) -> bool:
        """Finds the leftmost, lowest free place for ``item`` and puts it there."""
        lying = [*self.fixed, *(spot.polygon() for spot in self.spots)]
        tree = STRtree(lying) if lying else None
        best: tuple[float, float, Spot] | None = None
        for turn in item.turns:
            turned = affinity.rotate(item.shape, turn, origin=(0, 0))
            left, bottom, right, top = turned.bounds
            for x, y in self._corners(lying, right - left, top - bottom):
                rank = (round(x + right - left, 3), y)
                if best and rank >= best[:2]:
                    continue
                moved = affinity.translate(turned, x - left, y - bottom)
                if tree is None or not len(tree.query(moved, predicate="dwithin", distance=self.gap - 1e-6)):
                    best = (*rank, Spot(item, x - left, y - bottom, turn))
        if best is None:
            return False
        self.spots.append(best[2])
        return True

    def _corners(self, lying: Sequence[Polygon], width: float, height: float) -> list[tuple[float, float]]:
        """Where a box could nestle: the corners beside and above what lies there, from the left."""
        low, far_x, far_y = self.margin, self.width - self.margin - width, self.height - self.margin - height
        found = {(low, low)}
        for polygon in lying:
            left, bottom, right, top = polygon.bounds
            beside, above = right + self.gap, top + self.gap
            found |= {(beside, bottom), (beside, low), (left, above), (low, above), (beside, top - height)}
            found |= {(beside, other.bounds[3] + self.gap) for other in lying}
        return sorted((x, y) for x, y in found if low - 1e-9 <= x <= far_x + 1e-9 and low - 1e-9 <= y <= far_y + 1e-9)


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
