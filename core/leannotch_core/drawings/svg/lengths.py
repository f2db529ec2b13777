"""Lengths, view boxes and transforms of an SVG, in its user units."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from typing import NamedTuple

from fontTools.misc.transform import Transform

from ...document.units import MM
from ...geometry.loop import Bounds
from ..drawing import BrokenFile

#: Millimetres in a pixel (CSS Values and Units 3, 6.2).
PIXEL = MM["px"]

#: Millimetres in a physical unit (as above).
_PHYSICAL = {unit: MM[unit] for unit in ("mm", "cm", "in", "pt", "pc", "q")}

_NUMBER = r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?"
_LENGTH = re.compile(rf"\s*({_NUMBER})\s*(mm|cm|in|pt|pc|q|px|%|em|ex|)\s*", re.IGNORECASE)
_NUMBERS = re.compile(_NUMBER)
_TRANSFORM = re.compile(r"(matrix|(?:translate|scale|skew)[XY]?|rotate)\s*\(([^)]*)\)", re.IGNORECASE)


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


class Viewport(NamedTuple):
    """A nested drawing: its box in its parent's units, its size in its own, and what takes its own there."""

    box: Bounds
    whole: complex
    inner: Transform


def viewport(given: Mapping[str, str], whole: complex) -> Viewport:
    """Where a nested drawing stands in its parent."""
    width, height = (
        size if (size := pixels(given.get(name), full)) is not None else full
        for name, full in (("width", whole.real), ("height", whole.imag))
    )
    x, y = (pixels(given.get(name), full) or 0.0 for name, full in (("x", whole.real), ("y", whole.imag)))
    box = view_box(given.get("viewBox"))
    inner = fitted(box, width, height, given.get("preserveAspectRatio", "")) if box else Transform()
    own = complex(box[2], box[3]) if box else complex(width, height)
    return Viewport((x, y, x + width, y + height), own, Transform(dx=x, dy=y).transform(inner))


def transform(given: Mapping[str, str], whole: complex, box: Callable[[], Bounds]) -> Transform:
    """The transforms of an element as one, about its origin (CSS Transforms 1, 8 and 9).

    Percents are of ``whole``, or of its own ``box``, where its transforms are about that.
    """
    text = given.get("transform")
    if not text or text.strip() == "none":
        return Transform()
    own = given.get("transform-box", "").strip() in ("fill-box", "content-box", "stroke-box", "border-box")
    left, top, right, bottom = box() if own else (0.0, 0.0, whole.real, whole.imag)
    size = complex(right - left, bottom - top)
    moved = Transform()
    for name, inside in _TRANSFORM.findall(text):
        numbers = _lengths(inside, size)
        if not all(map(math.isfinite, numbers)):
            raise BrokenFile(f"The SVG has a {name} by more than any number: “{inside.strip()[:40]}”. Save it again.")
        moved = moved.transform(_one(name.lower(), numbers))
    origin = given.get("transform-origin", "50% 50%" if own else "")
    if not origin.strip():
        return moved
    x, y = _origin(origin.lower().split(), size)
    return Transform().translate(left + x, top + y).transform(moved).translate(-left - x, -top - y)


_ORIGINS = {"left": "0%", "top": "0%", "center": "50%", "right": "100%", "bottom": "100%"}


def _origin(words: list[str], size: complex) -> tuple[float, float]:
    if words[0] in ("top", "bottom") or (len(words) > 1 and words[1] in ("left", "right")):
        words = [words[1] if len(words) > 1 else "center", words[0]]
    across, up = words[0], words[1] if len(words) > 1 else "center"
    x, y = (pixels(_ORIGINS.get(word, word), whole) or 0.0 for word, whole in ((across, size.real), (up, size.imag)))
    return x, y


def _lengths(inside: str, size: complex) -> list[float]:
    """The numbers of a transform: lengths in px, angles in degrees."""
    found = []
    for at, (number, unit) in enumerate(_MEASURES.findall(inside)):
        if unit in _TURNS:
            found.append(float(number) * _TURNS[unit])
        else:
            found.append(pixels(number + unit, size.imag if at % 2 else size.real) or 0.0)
    return found


#: Degrees in other units of angles (CSS Values and Units 3, 7.1).
_TURNS = {"deg": 1.0, "rad": 180 / math.pi, "grad": 0.9, "turn": 360.0}

_MEASURES = re.compile(rf"({_NUMBER})\s*(deg|grad|rad|turn|mm|cm|in|pt|pc|q|px|%|em|ex|)", re.IGNORECASE)


def _one(name: str, given: list[float]) -> Transform:
    if name == "matrix" and len(given) == 6:
        return Transform(*given)
    if name == "rotate" and given:
        x, y = given[1:3] if len(given) > 2 else (0, 0)
        return Transform().translate(x, y).rotate(math.radians(given[0])).translate(-x, -y)
    if name in ("translate", "scale", "skew") and given:
        return _both_ways(name, given[0], given[1] if len(given) > 1 else None)
    if name[:-1] in ("translate", "scale", "skew") and given:
        alone = 1.0 if name.startswith("scale") else 0.0
        return _both_ways(name[:-1], *((given[0], alone) if name.endswith("x") else (alone, given[0])))
    return Transform()


def _both_ways(name: str, x: float, y: float | None) -> Transform:
    if name == "translate":
        return Transform(dx=x, dy=y or 0)
    if name == "scale":
        return Transform(x, 0, 0, x if y is None else y)
    return Transform(1, math.tan(math.radians(y or 0)), math.tan(math.radians(x)), 1, 0, 0)
