"""How wide a cutter is engaged on each of its ways: what it takes from a sheet that is cut away as it goes.

The sheet is a field of heights. It is coarser than a proof, and tells a load, never a size.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from ..compiled import light

Numbers = npt.NDArray[np.float64]
Field = npt.NDArray[np.float32]

#: A field has so many cells at the most, and none is larger than this share of the cutter.
MOST, SHARE = 4_000_000, 0.12


def engaged(ways: Sequence[Sequence[tuple[complex, float]]], diameters: Sequence[float]) -> list[float]:
    """The engaged width (mm) of each way, given as places on it with their heights, the sheet's face at 0."""
    sunk = [place for way in ways for place, z in way if z < 0]
    if not sunk:
        return [0.0] * len(ways)
    points = np.array(sunk)
    low, high = complex(points.real.min(), points.imag.min()), complex(points.real.max(), points.imag.max())
    widest = max(diameters)
    room = (high.real - low.real + 2 * widest) * (high.imag - low.imag + 2 * widest)
    cell = max(SHARE * min(diameters), (room / MOST) ** 0.5)
    corner = low - complex(widest, widest)
    columns, rows = (int(span / cell) + 2 for span in ((high - corner).real + widest, (high - corner).imag + widest))
    field = np.zeros((rows, columns), dtype=np.float32)
    found = []
    for way, diameter in zip(ways, diameters, strict=True):
        stops = np.array([((p - corner).real / cell, (p - corner).imag / cell, z) for p, z in way])
        long = float(np.hypot(np.diff(stops[:, 0]), np.diff(stops[:, 1])).sum())
        taken = cut_away(field, stops, diameter / 2 / cell)
        found.append(min(diameter, taken * cell / long) if long > 0.5 else (diameter if taken else 0.0))
    return found


@light
def cut_away(field: Field, stops: Numbers, radius: float) -> float:
    """Lowers the field along a way of stops (in cells, and mm of height) and tells of how many cells it took some."""
    taken = 0.0
    for at in range(len(stops) - 1):
        x, y, z = stops[at, 0], stops[at, 1], stops[at, 2]
        dx, dy, dz = stops[at + 1, 0] - x, stops[at + 1, 1] - y, stops[at + 1, 2] - z
        steps = max(1, int(np.ceil(np.sqrt(dx * dx + dy * dy))))
        for step in range(1, steps + 1):
            share = step / steps
            height = z + dz * share
            if height < 0:
                taken += _stamped(field, x + dx * share, y + dy * share, height, radius)
    return taken


@light
def _stamped(field: Field, x: float, y: float, height: float, radius: float) -> float:
    rows, columns = field.shape
    taken = 0.0
    for row in range(max(0, int(y - radius)), min(rows, int(y + radius) + 2)):
        for column in range(max(0, int(x - radius)), min(columns, int(x + radius) + 2)):
            across, up = column - x, row - y
            if across * across + up * up <= radius * radius and field[row, column] > height + 1e-3:
                field[row, column] = height
                taken += 1.0
    return taken
