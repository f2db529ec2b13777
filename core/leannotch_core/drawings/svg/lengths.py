"""Lengths, view boxes and transforms of an SVG, in its user units."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

from fontTools.misc.transform import Transform

#: CSS Values and Units 3, section 6.2: 1in = 96px = 25.4mm.
PIXEL = 25.4 / 96

#: Millimetres in a physical unit (CSS Values and Units 3, section 6.2).
_PHYSICAL = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6, "q": 0.25}

_NUMBER = r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?"
_LENGTH = re.compile(rf"\s*({_NUMBER})\s*(mm|cm|in|pt|pc|q|px|%|em|ex|)\s*", re.IGNORECASE)
_NUMBERS = re.compile(_NUMBER)
_TRANSFORM = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")


def millimetres(text: str | None) -> float | None:
    """A length with a physical unit in mm; None for every other text."""
    match = _LENGTH.fullmatch(text or "")
    unit = match[2].lower() if match else ""
    return float(match[1]) * _PHYSICAL[unit] if match and unit in _PHYSICAL else None


def pixels(text: str | None, whole: float = 0.0) -> float | None:
    """A length in px, of which ``whole`` is 100 %; None where it is none, as ``auto`` is."""
    match = _LENGTH.fullmatch(text or "")
    if not match:
        return None
    value, unit = float(match[1]), match[2].lower()
    if unit in _PHYSICAL:
        return value * _PHYSICAL[unit] / PIXEL
    # An em is the font's size, which has nothing to do with what is cut: 16 px, as browsers begin with.
    return value * {"%": whole / 100, "em": 16, "ex": 8}.get(unit, 1.0)


def view_box(text: str | None) -> tuple[float, float, float, float] | None:
    """Left, top, width and height of a view box that has an area."""
    numbers = [float(number) for number in _NUMBERS.findall(text or "")]
    if len(numbers) != 4 or not all(map(math.isfinite, numbers)) or min(numbers[2:]) <= 0:
        return None
    return numbers[0], numbers[1], numbers[2], numbers[3]


def fitted(box: tuple[float, float, float, float], width: float, height: float, ratio: str) -> Transform:
    """What takes a view box to a viewport at the origin (SVG 2, 8.2); ``ratio`` is its preserveAspectRatio."""
    left, top, wide, high = box
    x, y = width / wide, height / high
    words = ratio.split()
    align = words[0] if words and words[0] != "defer" else "xMidYMid"
    if align != "none":
        x = y = max(x, y) if "slice" in words else min(x, y)
    shift = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}
    over_x = (width - wide * x) * (shift.get(align[1:4], 0.5) if align != "none" else 0)
    over_y = (height - high * y) * (shift.get(align[5:8], 0.5) if align != "none" else 0)
    return Transform(x, 0, 0, y, over_x - left * x, over_y - top * y)


def viewport(attributes: Mapping[str, str], whole: complex) -> tuple[complex, Transform]:
    """The size of a nested drawing in its parent's units, and what takes its own units there."""
    width, height = (
        size if (size := pixels(attributes.get(name), full)) is not None else full
        for name, full in (("width", whole.real), ("height", whole.imag))
    )
    x, y = (pixels(attributes.get(name), full) or 0.0 for name, full in (("x", whole.real), ("y", whole.imag)))
    box = view_box(attributes.get("viewBox"))
    inner = fitted(box, width, height, attributes.get("preserveAspectRatio", "")) if box else Transform()
    return complex(box[2], box[3]) if box else complex(width, height), Transform(dx=x, dy=y).transform(inner)


def transform(text: str | None) -> Transform:
    """A list of transforms as one."""
    whole = Transform()
    for name, inside in _TRANSFORM.findall(text or ""):
        numbers = [float(number) for number in _NUMBERS.findall(inside)]
        whole = whole.transform(_one(name, numbers))
    return whole


def _one(name: str, given: list[float]) -> Transform:
    if name == "matrix" and len(given) == 6:
        return Transform(*given)
    if name == "translate" and given:
        return Transform(dx=given[0], dy=given[1] if len(given) > 1 else 0)
    if name == "scale" and given:
        return Transform(given[0], 0, 0, given[1] if len(given) > 1 else given[0])
    if name == "rotate" and given:
        x, y = given[1:3] if len(given) > 2 else (0, 0)
        return Transform().translate(x, y).rotate(math.radians(given[0])).translate(-x, -y)
    if name in ("skewX", "skewY") and given:
        slant = math.tan(math.radians(given[0]))
        return Transform(1, 0, slant, 1, 0, 0) if name == "skewX" else Transform(1, slant, 0, 1, 0, 0)
    return Transform()
