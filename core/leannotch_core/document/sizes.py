"""Typed sizes: sums, units, fractions and names, as a maker writes them.

``240 - 2*thickness``, ``3/16 in``, ``1 1/2"``, ``(length - 2*birch.thickness)/3``. A bare number is taken in
the unit that was in use when it was typed. Lengths and plain numbers are told apart, so that an area or a
ratio is never read as a size.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

Unit = Literal["mm", "in"]

#: Millimetres in one unit. The inch is exactly 25.4 mm (international yard and pound agreement, 1959).
UNITS: Mapping[str, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "inch": 25.4, '"': 25.4}

#: No size of a flat part is larger than this, in mm.
LARGEST = 100_000.0

_TOKEN = re.compile(r"\s*(?:(\d+(?:[.,]\d*)?|[.,]\d+)|([A-Za-z_][\w.]*)|([-+*/()×·÷−\"]))")

#: A number alone: what most sizes are.
_BARE = re.compile(r"\d{1,9}(?:\.\d{1,9})?")

_SIGNS = {"×": "*", "·": "*", "÷": "/", "−": "-"}


class SizeError(ValueError):
    """A size that cannot be read; its message is a sentence to show."""


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
            return {"text": f"{value:g}"}
        return {"text": value} if isinstance(value, str) else value


@dataclass(frozen=True, slots=True)
class _Value:
    """A number with its power of length: 0 a plain number, 1 a length in mm."""

    number: float
    power: int


def length(size: Size, names: Mapping[str, float]) -> float:
    """The size in mm; ``names`` gives lengths in mm.

    Raises `SizeError` when it cannot be read, is not a length, or is beyond 100 m.
    """
    value = _Value(float(size.text), 0) if _BARE.fullmatch(size.text) else _Reader(size, names).read()
    if value.power == 0:
        value = _Value(value.number * UNITS[size.unit], 1)
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
    value = _Value(float(size.text), 0) if _BARE.fullmatch(size.text) else _Reader(size, {}).read()
    if value.power != 0 or not math.isfinite(value.number) or abs(value.number) > 1e6:
        raise SizeError(f"“{size.text}” is not a plain number")
    return value.number


class _Reader:
    """Reads sums of products of signed terms, by recursive descent."""

    def __init__(self, size: Size, names: Mapping[str, float]) -> None:
        self._size, self._names = size, names
        self._tokens = self._split(size.text)
        self._place = 0
        self._depth = 0

    def _split(self, text: str) -> list[str]:
        tokens, place = [], 0
        text = text.rstrip()
        while place < len(text):
            match = _TOKEN.match(text, place)
            if not match:
                raise SizeError(f"“{text}” cannot be read at “{text[place:].strip()}”")
            token = match.group(1) or match.group(2) or match.group(3)
            tokens.append(_SIGNS.get(token, token).replace(",", "."))
            place = match.end()
        if not tokens:
            raise SizeError("a size is missing here; type a number such as 45 or 3/16 in")
        return tokens

    def read(self) -> _Value:
        value = self._sum()
        if self._place < len(self._tokens):
            raise self._error(f"did not expect “{self._tokens[self._place]}”")
        return value

    def _error(self, what: str) -> SizeError:
        return SizeError(f"“{self._size.text}” cannot be read: {what}")

    @property
    def _next(self) -> str:
        return self._tokens[self._place] if self._place < len(self._tokens) else ""

    def _take(self) -> str:
        token = self._next
        self._place += 1
        return token

    def _sum(self) -> _Value:
        value = self._product()
        while self._next in ("+", "-"):
            sign = 1 if self._take() == "+" else -1
            other = self._product()
            value, other = self._alike(value, other)
            value = _Value(value.number + sign * other.number, value.power)
        return value

    def _alike(self, a: _Value, b: _Value) -> tuple[_Value, _Value]:
        """Gives a bare number beside a length the unit it was typed in."""
        if a.power == b.power:
            return a, b
        if {a.power, b.power} != {0, 1}:
            raise self._error("a length is added to something that is not one")
        unit = UNITS[self._size.unit]
        a = _Value(a.number * unit, 1) if a.power == 0 else a
        b = _Value(b.number * unit, 1) if b.power == 0 else b
        return a, b

    def _product(self) -> _Value:
        value = self._term()
        while True:
            if self._next in ("*", "/"):
                value = self._times(value, self._take(), self._term())
            elif self._next.lower() in UNITS:
                value = self._times(value, "*", _Value(UNITS[self._take().lower()], 1))
            else:
                return value

    def _times(self, a: _Value, sign: str, b: _Value) -> _Value:
        if sign == "*":
            return _Value(a.number * b.number, a.power + b.power)
        if b.number == 0:
            raise self._error("it divides by 0")
        return _Value(a.number / b.number, a.power - b.power)

    def _term(self) -> _Value:
        token = self._take()
        if token in ("+", "-"):
            value = self._term()
            return _Value(-value.number if token == "-" else value.number, value.power)
        if token == "(":
            return self._bracket()
        if token and (token[0].isdigit() or token[0] == "."):
            return _Value(self._mixed(float(token)), 0)
        if not token:
            raise self._error("something is missing at the end")
        return self._name(token)

    def _bracket(self) -> _Value:
        self._depth += 1
        if self._depth > 20:
            raise self._error("too many brackets")
        value = self._sum()
        if self._take() != ")":
            raise self._error("a bracket is not closed")
        return value

    def _mixed(self, whole: float) -> float:
        """A whole number followed by a fraction: ``1 1/2``."""
        ahead = self._tokens[self._place : self._place + 3]
        if len(ahead) == 3 and ahead[1] == "/" and ahead[0].isdigit() and ahead[2].isdigit():
            if float(ahead[2]) == 0:
                raise self._error("it divides by 0")
            self._place += 3
            return whole + float(ahead[0]) / float(ahead[2])
        return whole

    def _name(self, name: str) -> _Value:
        if name in self._names:
            return _Value(self._names[name], 1)
        if not (name[0].isalpha() or name[0] == "_"):
            raise self._error(f"did not expect “{name}”")
        known = ", ".join(sorted(self._names)) or "none here"
        raise SizeError(f"“{self._size.text}” uses the name “{name}”, which is not known; names: {known}")


def typed_in(unit: Unit, mm: float) -> Size:
    """A size as a maker who works in ``unit`` would type it: to a tenth of a mm, or to a sixty-fourth of an inch."""
    text = f"{round(mm / 25.4 * 64) / 64:.6f}" if unit == "in" else f"{mm:.1f}"
    return Size(text=text.rstrip("0").rstrip("."), unit=unit)


def shown(mm: float, unit: Unit = "mm") -> str:
    """A length for a sentence: ``3.07 mm`` or ``0.121 in``, without needless zeros."""
    digits = 3 if unit == "in" else 2
    text = f"{mm / UNITS[unit]:.{digits}f}".rstrip("0").rstrip(".")
    return f"{'0' if text == '-0' else text} {unit}"
