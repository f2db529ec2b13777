"""Items and sheets as rows of numbers for the compiled search, and back."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely
from shapely import Polygon, affinity

from .grown import one_pole, poles
from .innermost.contact import Lying, Shapes, lay, turn_of
from .innermost.separation import Search
from .turns import Frame, turns_that_fit


@dataclass(frozen=True, eq=False)
class Item:
    """One copy of a part to be placed.

    ``shape`` is its grown shape in its own frame. ``turns`` are those that it may take, in degrees; with none it may
    take any. One that is good on ``both_faces`` may be turned over. ``riders`` lie in its cut-outs and go with it.
    """

    part: str
    copy_number: int
    shape: Polygon
    turns: tuple[float, ...]
    group: str = ""
    both_faces: bool = False
    riders: tuple[Spot, ...] = ()


@dataclass(frozen=True, slots=True)
class Spot:
    """Where an item lies: if ``mirrored`` turned over about x, turned by ``turn`` degrees, moved by ``x``, ``y`` mm."""

    item: Item
    x: float
    y: float
    turn: float
    mirrored: bool = False

    def polygon(self) -> Polygon:
        """The item as it lies."""
        (c, s), over = turn_of(self.turn), -1 if self.mirrored else 1
        return affinity.affine_transform(self.item.shape, [c, -s * over, s, c * over, self.x, self.y])


@dataclass(eq=False)
class SheetToFill:
    """A sheet to be filled: the ``frame`` (left, bottom, right, top in mm) for grown shapes, and what bars parts of it.

    ``worth`` is what using it costs.
    """

    width: float
    height: float
    worth: float
    frame: Frame
    bars: tuple[Polygon, ...] = ()
    #: Which of the sizes at hand it is, or -1 for one that holds parts placed by hand.
    kind: int = -1
    spots: list[Spot] = field(default_factory=list)

    def of_frame(self, frame: Frame, spots: Sequence[Spot] | None = None) -> SheetToFill:
        """The same sheet with another frame, or with other things lying there."""
        return replace(self, frame=frame, spots=list(self.spots if spots is None else spots))

    @property
    def room(self) -> float:
        """Area in mm² that is not barred."""
        left, bottom, right, top = self.frame
        whole = shapely.box(left, bottom, right, top)
        barred = shapely.union_all([whole.intersection(bar) for bar in self.bars]).area if self.bars else 0.0
        return (right - left) * (top - bottom) - float(barred)


class Forms:
    """Shapes as rows of numbers, each of them once; ``rough`` ones have one pole only, which is enough to fill."""

    def __init__(self, rough: bool) -> None:
        self._rough = rough
        self._known: dict[Polygon, int] = {}
        self._over: dict[int, int] = {}
        self.middles: list[complex] = []
        self._points: list[np.ndarray] = []
        self._following: list[np.ndarray] = []
        self._poles: list[np.ndarray] = []
        self._sizes: list[float] = []

    def of(self, shape: Polygon) -> int:
        found = self._known.get(shape)
        if found is None:
            found = self._known[shape] = self._add(shape)
        return found

    def _add(self, shape: Polygon) -> int:
        circles = one_pole(shape) if self._rough else poles(shape)
        middle = circles[0, :2]
        self.middles.append(complex(*middle))
        points, following, start = [], [], 0
        for ring in [shape.exterior, *shape.interiors]:
            places = shapely.get_coordinates(ring)[:-1] - middle
            points.append(places)
            following.append(start + np.roll(np.arange(len(places)), -1))
            start += len(places)
        self._points.append(np.vstack(points))
        self._following.append(np.concatenate(following))
        self._poles.append(circles - (*middle, 0))
        self._sizes.append(math.sqrt(shape.area))
        return len(self.middles) - 1

    def over(self, form: int) -> int:
        """The shape seen from its other face: rings run the other way, so that the material stays on their left."""
        found = self._over.get(form)
        if found is None:
            found = self._over[form] = len(self.middles)
            following = self._following[form]
            ends = np.flatnonzero(following <= np.arange(len(following))) + 1
            rings = np.split(self._points[form] * (1, -1), ends[:-1])
            self.middles.append(self.middles[form].conjugate())
            self._points.append(np.vstack([ring[::-1] for ring in rings]))
            self._following.append(following)
            self._poles.append(self._poles[form] * (1, -1, 1))
            self._sizes.append(self._sizes[form])
        return found

    def shapes(self) -> Shapes:
        """All forms as the compiled loops want them: one array of a kind, and where each begins."""
        first = np.cumsum([0, *(len(points) for points in self._points)])
        following = np.concatenate([f + at for f, at in zip(self._following, first, strict=False)])
        return Shapes(
            np.vstack(self._points),
            following.astype(np.int64),
            first.astype(np.int64),
            np.ascontiguousarray(np.vstack(self._poles).T),
            np.cumsum([0, *(len(rows) for rows in self._poles)]).astype(np.int64),
            np.array(self._sizes),
        )


class Table:
    """Items and the grounds that they may lie on, laid out as numbers. What bars the grounds comes after the items."""

    def __init__(self, items: Sequence[Item], grounds: Sequence[SheetToFill], seed: int | None = None) -> None:
        """With a ``seed`` it can be searched, without it can only be filled."""
        self.items, self.grounds = list(items), list(grounds)
        forms = Forms(rough=seed is None)
        shape = [forms.of(item.shape) for item in items]
        faces = [(form, forms.over(form) if item.both_faces else -1) for form, item in zip(shape, items, strict=True)]
        barred = [(forms.of(bar), sheet) for sheet, ground in enumerate(grounds) for bar in ground.bars]
        shape += [form for form, _ in barred]
        self.shapes = shapes = forms.shapes()
        self._middles = forms.middles
        count = len(shape)
        points = np.diff(shapes.first)[shape]
        circles = np.diff(shapes.first_pole)[shape]
        self.bed = Lying(
            np.array(shape, dtype=np.int64),
            np.full(count, -1, dtype=np.int64),
            np.zeros((count, 3)),
            np.array([ground.frame for ground in grounds], dtype=float).reshape(-1, 4),
            np.cumsum([0, *points]).astype(np.int64),
            np.cumsum([0, *circles]).astype(np.int64),
            np.zeros((points.sum(), 2)),
            np.zeros((2, circles.sum())),
            np.zeros((count, 4)),
            np.zeros(2 * int(np.diff(shapes.first).max()), dtype=np.int64),
        )
        turns = [item.turns for item in items]
        self.search = Search(
            len(items),
            np.array([turn for some in turns for turn in some], dtype=float),
            np.cumsum([0, *(len(some) for some in turns)]).astype(np.int64),
            np.ones((len(items), len(grounds)), dtype=np.bool_),
            np.ones((count, count)),
            np.array([0x9E3779B97F4A7C15 ^ ((seed or 0) * 0x2545F4914F6CDD1D % 2**64)], dtype=np.uint64),
            np.array(faces, dtype=np.int64).reshape(-1, 2),
        )
        self._at = {id(item): thing for thing, item in enumerate(items)}
        for thing, (_, sheet) in enumerate(barred, len(items)):
            self._put(thing, sheet, 0.0, 0.0, 0.0)

    def _put(self, thing: int, sheet: int, x: float, y: float, turn: float) -> None:
        middle = complex(*turn_of(turn)) * self._middles[self.bed.shape[thing]]
        self.bed.sheet[thing] = sheet
        lay(self.shapes, self.bed, thing, x + middle.real, y + middle.imag, turn)

    def put(self, spot: Spot, sheet: int) -> None:
        """Lays an item where a spot has it, on a sheet by its number."""
        thing = self._at[id(spot.item)]
        self.bed.shape[thing] = self.search.faces[thing, int(spot.mirrored)]
        self._put(thing, sheet, spot.x, spot.y, spot.turn)

    def spot(self, thing: int) -> Spot:
        """Where a thing lies, by the point about which its part is drawn and its turn (degrees)."""
        x, y, turn = self.bed.pose[thing].tolist()
        shape = self.bed.shape[thing]
        middle = complex(*turn_of(turn)) * self._middles[shape]
        mirrored = bool(shape == self.search.faces[thing, 1])
        return Spot(self.items[thing], x - middle.real, y - middle.imag, turn % 360, mirrored)

    def sheets_for(self, item: Item) -> list[int]:
        """The sheets that an item fits, as far as their frames go."""
        return [at for at, ground in enumerate(self.grounds) if turns_that_fit(item.shape, item.turns, ground.frame)]

    def turns_on(self, thing: int, sheet: int) -> tuple[float, ...]:
        """The turns (degrees) of a thing with which it fits the frame of a sheet."""
        item = self.items[thing]
        return turns_that_fit(item.shape, item.turns, self.grounds[sheet].frame)

    def spots(self) -> list[list[Spot]]:
        """What lies on each ground."""
        found: list[list[Spot]] = [[] for _ in self.grounds]
        for thing in range(len(self.items)):
            if self.bed.sheet[thing] >= 0:
                found[self.bed.sheet[thing]].append(self.spot(thing))
        return found
