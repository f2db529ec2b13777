"""Sums as they are typed: numbers, units, fractions, names, and what can be worked out of them.

Lengths and plain numbers are told apart, so that an area or a ratio is never read as a size.
"""

from __future__ import annotations

import math
import operator
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..said import Said
from .units import ALSO, MM

Unit = Literal["mm", "in"]

#: The units that a maker types, in mm.
UNITS: Mapping[str, float] = {word: MM[ALSO.get(word, word)] for word in ("mm", "cm", "m", "in", "inch", '"')}

_TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d*|,\d+)?|[.,]\d+)|([A-Za-z_][\w.]*)|(<=|>=|!=|[-+*/()×·÷−\"<>=;,]))")

_SIGNS = {"×": "*", "·": "*", "÷": "/", "−": "-"}


class SizeError(Said):
    """A size that cannot be read; its message is a sentence to show."""


@dataclass(frozen=True, slots=True)
class Value:
    """A number with its power of length: 0 a plain number, 1 a length in mm."""

    number: float
    power: int


def read(text: str, unit: Unit, names: Mapping[str, float]) -> Value:
    """What a sum comes to; numbers beside lengths are in ``unit``, ``names`` are lengths in mm. Raises `SizeError`."""
    return _Reader(text, unit, names).whole()


class _Reader:
    """Reads sums of products of signed terms, by recursive descent."""

    def __init__(self, text: str, unit: Unit, names: Mapping[str, float]) -> None:
        self._text, self._unit, self._names = text, unit, names
        self._tokens = self._split(text)
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
            # A comma with a digit on either side is a decimal one; any other parts what stands in a bracket.
            tokens.append(";" if token == "," else _SIGNS.get(token, token).replace(",", "."))
            place = match.end()
        if not tokens:
            raise SizeError("a size is missing here; type a number such as 45 or 3/16 in")
        return tokens

    def whole(self) -> Value:
        value = self._sum()
        if self._place < len(self._tokens):
            raise self._error(f"did not expect “{self._tokens[self._place]}”")
        return value

    def _error(self, what: str) -> SizeError:
        return SizeError(f"“{self._text}” cannot be read: {what}")

    @property
    def _next(self) -> str:
        return self._tokens[self._place] if self._place < len(self._tokens) else ""

    def _take(self) -> str:
        token = self._next
        self._place += 1
        return token

    def _sum(self) -> Value:
        value = self._product()
        while self._next in ("+", "-"):
            sign = 1 if self._take() == "+" else -1
            other = self._product()
            value, other = self._alike(value, other)
            value = Value(value.number + sign * other.number, value.power)
        return value

    def _alike(self, a: Value, b: Value) -> tuple[Value, Value]:
        """Gives a bare number beside a length the unit it was typed in."""
        if a.power == b.power:
            return a, b
        if {a.power, b.power} != {0, 1}:
            raise self._error("a length is added to something that is not one")
        unit = UNITS[self._unit]
        a = Value(a.number * unit, 1) if a.power == 0 else a
        b = Value(b.number * unit, 1) if b.power == 0 else b
        return a, b

    def _product(self) -> Value:
        value = self._term()
        while True:
            if self._next in ("*", "/"):
                value = self._times(value, self._take(), self._term())
            elif self._next.lower() in UNITS:
                value = self._times(value, "*", Value(UNITS[self._take().lower()], 1))
            else:
                return value

    def _times(self, a: Value, sign: str, b: Value) -> Value:
        if sign == "*":
            return Value(a.number * b.number, a.power + b.power)
        if b.number == 0:
            raise self._error("it divides by 0")
        return Value(a.number / b.number, a.power - b.power)

    def _term(self) -> Value:
        token = self._take()
        if token in ("+", "-"):
            value = self._term()
            return Value(-value.number if token == "-" else value.number, value.power)
        if token == "(":
            return self._bracket()
        if token and (token[0].isdigit() or token[0] == "."):
            return Value(self._mixed(float(token)), 0)
        if not token:
            raise self._error("something is missing at the end")
        return self._name(token)

    def _bracket(self) -> Value:
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

    def _name(self, name: str) -> Value:
        if self._next == "(" and name.lower() in FUNCTIONS:
            return self._function(name.lower())
        if name in self._names:
            return Value(self._names[name], 1)
        if not (name[0].isalpha() or name[0] == "_"):
            raise self._error(f"did not expect “{name}”")
        if self._next == "(":
            raise self._error(f"“{name}” is nothing to work out; there are {', '.join(FUNCTIONS)}")
        known = ", ".join(sorted(self._names)) or "none here"
        raise SizeError(f"“{self._text}” uses the name “{name}”, which is not known; names: {known}")

    def _function(self, name: str) -> Value:
        self._take()
        self._depth += 1
        if self._depth > 20:
            raise self._error("too many brackets")
        whether = self._whether() if name == "if" else None
        given = [] if whether is None else [whether]
        given.append(self._sum())
        while self._next == ";":
            self._take()
            given.append(self._sum())
        if self._take() != ")":
            raise self._error("a bracket is not closed")
        low, high = FUNCTIONS[name]
        if not low <= len(given) <= high:
            takes = f"{low}" if low == high else f"{low} to {high}" if high < 20 else f"{low} or more"
            raise self._error(f"{name} takes {takes} values, parted by “;” or by a comma and a space")
        return self._worked(name, given)

    def _whether(self) -> Value:
        """A comparison: 1 where it holds, else 0."""
        one, sign = self._sum(), self._take()
        holds = _COMPARED.get(sign)
        if holds is None:
            raise self._error("if takes a comparison first, such as if(tray > 200; 12; 8)")
        one, other = self._alike(one, self._sum())
        if self._take() != ";":
            raise self._error("if takes what holds and what else, parted by “;” or by a comma and a space")
        return Value(float(holds(one.number, other.number)), 0)

    def _worked(self, name: str, given: list[Value]) -> Value:
        first = given[0]
        if name == "if":
            yes, no = self._alike(given[1], given[2])
            return yes if first.number else no
        if name in ("min", "max"):
            pick = min if name == "min" else max
            chosen = first
            for other in given[1:]:
                one, two = self._alike(chosen, other)
                chosen = pick(one, two, key=lambda value: value.number)
            return chosen
        if name in ("round", "floor", "ceil"):
            return self._rounded(name, given)
        if name == "sqrt":
            if first.number < 0 or first.power % 2:
                raise self._error("sqrt takes a plain number or an area, of 0 or more")
            return Value(math.sqrt(first.number), first.power // 2)
        if first.power != 0:
            raise self._error(f"{name} takes an angle in degrees, a plain number")
        return Value(_TURNED[name](math.radians(first.number)), 0)

    def _rounded(self, name: str, given: list[Value]) -> Value:
        """To whole units, or to whole steps where one is given."""
        value = given[0]
        unit = UNITS[self._unit]
        step = given[1] if len(given) > 1 else Value(unit if value.power else 1.0, value.power)
        value, step = self._alike(value, step)
        if step.number <= 0:
            raise self._error(f"{name} takes steps of more than 0")
        # What is a hair off a whole step by reckoning is on it.
        steps = round(value.number / step.number, 9)
        whole = {"round": math.floor(steps + 0.5), "floor": math.floor(steps), "ceil": math.ceil(steps)}[name]
        return Value(whole * step.number, value.power)


#: What can be worked out of values, with how many of them at the least and at the most.
FUNCTIONS: Mapping[str, tuple[int, int]] = {
    "min": (2, 20), "max": (2, 20), "round": (1, 2), "floor": (1, 2), "ceil": (1, 2), "sqrt": (1, 1),
    "sin": (1, 1), "cos": (1, 1), "tan": (1, 1), "if": (3, 3),
}  # fmt: skip

_TURNED: Mapping[str, Callable[[float], float]] = {"sin": math.sin, "cos": math.cos, "tan": math.tan}

_COMPARED: Mapping[str, Callable[[float, float], bool]] = {
    "<": operator.lt, ">": operator.gt, "<=": operator.le, ">=": operator.ge, "=": operator.eq, "!=": operator.ne,
}  # fmt: skip
