"""Typed sizes: sums, units, fractions and names, as a maker writes them.

``240 - 2*thickness``, ``3/16 in``, ``1 1/2"``, ``(length - 2*birch.thickness)/3``, ``max(40, tray/3)``,
``if(tray > 200, 12, 8)``. A bare number is taken in the unit that was in use when it was typed. Lengths and plain
numbers are told apart, so that an area or a ratio is never read as a size.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping

from pydantic import BaseModel, ConfigDict, Field, model_validator

from .sums import UNITS, SizeError, Unit, Value, read

#: No size of a flat part is larger than this, in mm.
LARGEST = 100_000.0

#: A number of this size is no length; it is refused in words, and not written out.
_MOST_DIGITS = 1e15

#: A number alone: what most sizes are.
_BARE = re.compile(r"\d{1,9}(?:\.\d{1,9})?")


class Size(BaseModel):
    """What was typed, kept as it was typed, and the unit of its bare numbers."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    text: str = Field(max_length=120)
    unit: Unit = "mm"

    @model_validator(mode="before")
    @classmethod
    def _from_plain(cls, value: object) -> object:
        if isinstance(value, bool):
            return value
        if isinstance(value, int | float):
            return {"text": in_digits(value)}
        return {"text": value} if isinstance(value, str) else value


def in_digits(number: float, decimals: int = 6) -> str:
    """A number as it is typed in a size: ``33.333333``, never with an exponent, which no size is read with."""
    if not abs(number) < _MOST_DIGITS:
        return f"{number:g}"
    text = f"{number:.{decimals}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


class Angle(Size):
    """A typed number of degrees: it stays when what it belongs to is made larger."""


def length(size: Size, names: Mapping[str, float]) -> float:
    """The size in mm; ``names`` gives lengths in mm.

    Raises `SizeError` when it cannot be read, is not a length, or is beyond 100 m.

    >>> round(length(Size(text="3/16", unit="in"), {}), 4)
    4.7625
    >>> length(Size(text="240 - 2*thickness"), {"thickness": 3.07})
    233.86
    """
    value = Value(float(size.text), 0) if _BARE.fullmatch(size.text) else read(size.text, size.unit, names)
    if value.power == 0:
        value = Value(value.number * UNITS[size.unit], 1)
    if value.power != 1:
        raise SizeError(f"“{size.text}” is not a length: it multiplies lengths with each other")
    if not math.isfinite(value.number) or abs(value.number) > LARGEST:
        raise SizeError(f"“{size.text}” is beyond 100 m; type a size of at most 100000 mm")
    return value.number


def positive(size: Size, names: Mapping[str, float]) -> float:
    """As `length`, and more than zero."""
    number = length(size, names)
    if number <= 0:
        raise SizeError(f"“{size.text}” comes to {number:g} mm; it must be more than 0")
    return number


def number(size: Size) -> float:
    """A plain number, such as an angle in degrees or a share. Raises `SizeError`."""
    value = Value(float(size.text), 0) if _BARE.fullmatch(size.text) else read(size.text, size.unit, {})
    if value.power != 0 or not math.isfinite(value.number) or abs(value.number) > 1e6:
        raise SizeError(f"“{size.text}” is not a plain number")
    return value.number


def is_bare(size: Size) -> bool:
    """Whether a size is a number alone, with or without a sign."""
    return re.fullmatch(r"\s*-?\d+(?:\.\d+)?\s*", size.text) is not None


_WORD = re.compile(r"(?<![\w.])([A-Za-z_][\w.]*)(?!\s*\()")


def names_in(size: Size) -> list[str]:
    """The names that a size uses, units left out."""
    return [word for word in _WORD.findall(size.text) if word.lower() not in UNITS]


def renamed(size: Size, old: str, new: str) -> Size:
    """The size with one name for another."""
    if old not in size.text:
        return size
    text = _WORD.sub(lambda match: new if match[1] == old else match[0], size.text)
    return size.model_copy(update={"text": text})


def typed_in(unit: Unit, mm: float) -> Size:
    """A size as a maker who works in ``unit`` would type it: to a tenth of a mm, or to a sixty-fourth of an inch."""
    text = f"{round(mm / UNITS[unit] * 64) / 64:.6f}" if unit == "in" else f"{mm:.1f}"
    return Size(text=text.rstrip("0").rstrip("."), unit=unit)


def shown(mm: float, unit: Unit = "mm") -> str:
    """A length for a sentence: ``3.07 mm`` or ``0.121 in``, without needless zeros; from ten metres on ``59.0 m``.

    >>> shown(3.070), shown(3.07, "in"), shown(59_000)
    ('3.07 mm', '0.121 in', '59.0 m')
    """
    if unit != "in" and abs(mm) >= 10_000:
        return f"{mm / 1000:.1f} m"
    digits = 3 if unit == "in" else 2
    text = f"{mm / UNITS[unit]:.{digits}f}".rstrip("0").rstrip(".")
    return f"{'0' if text == '-0' else text} {unit}"
