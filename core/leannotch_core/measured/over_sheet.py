"""A sheet that is not of one thickness: what parts measure where they lie on it, by readings at places of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely

from ..document.stock import Stock
from ..evaluate import Result
from ..facts.unknown import field_mm
from ..layout.sheets import placed
from ..project.project import Project

#: A part is looked at in so many places along its box, either way.
_PLACES = 5

Shares = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class WherePartLies:
    """What a part measures (mm) over all places of its copies: the mean, and from where to where."""

    part: str
    mean: float
    least: float
    most: float


def thickness_at(stock: Stock, places: Shares) -> Shares:
    """The thickness (mm) at places of a sheet: rows of shares of its width and height. Raises `UnknownFact`.

    Between readings by inverse squared distance (Shepard, ACM National Conference 1968, from memory): at a reading it
    is that, and nowhere beyond the thinnest and the thickest.
    """
    read = np.array([field_mm("reading over the sheet", one.reading) for one in stock.over])
    spots = np.array([(one.x, one.y) for one in stock.over])
    apart = np.maximum(((places[:, None, :] - spots[None, :, :]) ** 2).sum(axis=2), 1e-12)
    weights: Shares = 1 / apart
    found: Shares = weights @ read / weights.sum(axis=1)
    return found


def where_parts_lie(project: Project, result: Result, stock: Stock) -> list[WherePartLies]:
    """What each part of a stock that is laid out measures where its copies lie; nothing without readings."""
    if not stock.over:
        return []
    found: dict[str, list[Shares]] = {}
    for one in project.layout.placements:
        part = result.parts.get(one.part)
        if part is None or part.part.stock != stock.id or one.sheet >= len(project.layout.sheets):
            continue
        sheet, shape = project.layout.sheets[one.sheet], placed(part.outline, one)
        left, bottom, right, top = shape.bounds
        across, up = np.meshgrid(np.linspace(left, right, _PLACES), np.linspace(bottom, top, _PLACES))
        spots = np.column_stack([across.ravel(), up.ravel()])
        on_it = shapely.intersects_xy(shape.buffer(1e-6), spots)
        found.setdefault(one.part, []).append(thickness_at(stock, spots[on_it] / (sheet.width, sheet.height)))
    parts = {part: np.concatenate(values) for part, values in found.items()}
    return [WherePartLies(part, float(t.mean()), float(t.min()), float(t.max())) for part, t in parts.items() if len(t)]
