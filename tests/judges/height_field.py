"""What a router's program leaves of a sheet, as heights on a grid: read and carved here, by nothing of the application.

Programs are those of RS274/NGC in mm with G0 to G3, I and J (NISTIR 6556); cutters are flat discs.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

import numpy as np

_WORD = re.compile(r"([A-Z])(-?\d+\.?\d*)")


@dataclass
class Carved:
    """``heights`` (mm, the face at 0) of cells ``cell`` mm wide from ``corner`` on; the most that was taken at once."""

    heights: np.ndarray
    cell: float
    corner: tuple[float, float]
    deepest_bite: float

    def area_below(self, z: float, within: tuple[float, float, float, float]) -> float:
        """How much (mm²) of a box lies lower than a height."""
        left, bottom, right, top = (np.array(within) - self.corner * 2) / self.cell
        some = self.heights[int(bottom) : int(top) + 1, int(left) : int(right) + 1]
        return float((some < z).sum()) * self.cell**2

    def at(self, x: float, y: float) -> float:
        column, row = (int((value - low) / self.cell) for value, low in zip((x, y), self.corner, strict=True))
        return float(self.heights[row, column])


def ways(program: str) -> list[tuple[str, np.ndarray]]:
    """Each move of a program as places (x, y, z) so near that none is 0.2 mm from the next, with its word."""
    here, code, found = np.zeros(3), "0", []
    for line in program.splitlines():
        words = dict(_WORD.findall(line)) if not line.startswith("(") else {}
        code = words["G"] if words.get("G") in ("0", "1", "2", "3") else code
        if not words.keys() & {"X", "Y", "Z"} or words.get("G") in ("21", "90"):
            continue
        there = np.array([float(words.get(letter, value)) for letter, value in zip("XYZ", here, strict=True)])
        found.append((code, _along(here, there, code, words)))
        here = there
    return found


def _along(here: np.ndarray, there: np.ndarray, code: str, words: dict[str, str]) -> np.ndarray:
    if code in ("0", "1"):
        count = max(2, math.ceil(np.abs(there - here)[:2].max() / 0.15) + 1)
        return here + (there - here) * np.linspace(0, 1, count)[:, None]
    middle = here[:2] + np.array([float(words.get("I", 0)), float(words.get("J", 0))])
    a, b = (math.atan2(*(point[:2] - middle)[::-1]) for point in (here, there))
    turn = (b - a) % math.tau if code == "3" else -((a - b) % math.tau)
    turn = turn or (math.tau if code == "3" else -math.tau)
    radius = float(np.hypot(*(here[:2] - middle)))
    share = np.linspace(0, 1, max(2, math.ceil(abs(turn) * radius / 0.15) + 1))
    angles = a + turn * share
    heights = here[2] + (there[2] - here[2]) * share
    return np.column_stack([middle[0] + radius * np.cos(angles), middle[1] + radius * np.sin(angles), heights])


def carved(program: str, width: float, height: float, diameter: float, cell: float = 0.2) -> Carved:
    """Carves a sheet that lies with a corner at the origin, by one cutter of a diameter (mm)."""
    edge = diameter + 1
    field = np.zeros((math.ceil((height + 2 * edge) / cell), math.ceil((width + 2 * edge) / cell)))
    radius, bite = diameter / 2, 0.0
    reach = math.ceil(radius / cell) + 1
    offsets = np.arange(-reach, reach + 1)
    before, last = field.copy(), 0.0
    for code, places in ways(program):
        if code == "0":
            assert places[:, 2].min() >= -1e-9 or np.ptp(places[:, :2], axis=0).max() < 1e-6, "at speed below the face"
        if code == "0" or abs(places[-1, 2] - last) > 1e-6:
            # What is taken at once is what stood there before this height was gone to.
            before, last = field.copy(), places[-1, 2]
        for x, y, z in places[places[:, 2] < -1e-6]:
            column, row = int((x + edge) / cell), int((y + edge) / cell)
            across = (column + offsets + 0.5) * cell - edge - x
            up = (row + offsets + 0.5) * cell - edge - y
            disc = across[None, :] ** 2 + up[:, None] ** 2 <= radius * radius
            window = field[row - reach : row + reach + 1, column - reach : column + reach + 1]
            if window.shape == disc.shape:
                bite = max(bite, float(before[row, column] - z))
                window[disc & (window > z)] = z
    return Carved(field, cell, (-edge, -edge), bite)
