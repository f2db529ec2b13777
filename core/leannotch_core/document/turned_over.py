"""Typed sizes as they read once a part is turned over or scaled: new text from old, names kept."""

from __future__ import annotations

import re
from typing import Any, TypeVar

from .model import Model
from .sizes import Angle, Size, in_digits, is_bare, length
from .sums import UNITS, SizeError

M = TypeVar("M", bound=Model)


def negative(size: Size) -> Size:
    """The size with its sign turned round."""
    text = size.text.strip()
    if text in ("", "0"):
        return size
    if text[1:].replace(".", "", 1).isdigit() and text[0] == "-":
        return Size(text=text[1:], unit=size.unit)
    bare = text.replace(".", "", 1).isdigit()
    return Size(text=f"-{text}", unit=size.unit) if bare else taken_from("", size)


def from_right(size: Size) -> Size:
    """A distance from the left as one from the right."""
    return taken_from("width", size)


_ADDED = re.compile(r"(?P<rest>.*[\w)\"]) (?P<sign>[+-]) (?P<number>\d+(?:\.\d+)?)", re.DOTALL)


def moved_by(size: Size, mm: float) -> Size:
    """The size and so many mm more; what was typed stays, with a number behind it that takes up every further move."""
    return _more(size, mm / UNITS[size.unit], 5 if size.unit == "in" else 4)


def turned_by(size: Size, degrees: float) -> Size:
    """An angle and so many degrees more, as `moved_by`; a plain number stays within a full turn."""
    more = _more(size, degrees, 4)
    return Size(text=_plain(float(more.text) % 360), unit=size.unit) if is_bare(more) else more


def _more(size: Size, by: float, decimals: int) -> Size:
    rest, number = size.text.strip(), 0.0
    if is_bare(size):
        rest, number = "", float(rest)
    elif added := _ADDED.fullmatch(rest):
        rest, number = added["rest"], float(f"{added['sign']}{added['number']}")
    number = round(number + by, decimals)
    if not rest:
        return Size(text=_plain(number), unit=size.unit)
    text = f"{rest} {'-' if number < 0 else '+'} {_plain(abs(number))}" if number else rest
    return Size(text=text, unit=size.unit)


def _plain(number: float) -> str:
    text = f"{number:.5f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def half_turn(turn: Size) -> Size:
    """A direction (degrees) as it is seen from the other face."""
    text = turn.text.strip()
    if text in ("", "0", "180"):
        return Size(text="0" if text == "180" else "180")
    return taken_from("180", turn)


def taken_from(whole: str, size: Size) -> Size:
    """``whole - (size)``. Of a size that is already so, what was taken: mirrored twice, it is as it was typed."""
    text = size.text.strip()
    begins = f"{whole} - (" if whole else "-("
    if text.startswith(begins) and _closes_at_end(text[len(begins) - 1 :]):
        return Size(text=text[len(begins) : -1], unit=size.unit)
    return Size(text=f"{begins}{text})", unit=size.unit)


def _closes_at_end(text: str) -> bool:
    """Whether the bracket that a text begins with is closed by its last character."""
    depth = 0
    for place, character in enumerate(text):
        depth += (character == "(") - (character == ")")
        if depth == 0:
            return place == len(text) - 1
    return False


_OTHER_HAND = {"left": "right", "right": "left"}


def other_hand(corner: str) -> str:
    """A corner or side as it is called once left and right are exchanged."""
    return " ".join(_OTHER_HAND.get(word, word) for word in corner.split(" "))


def scaled(model: M, factor: float, whole: bool = False) -> M:
    """Every size in a model that is a number multiplied by ``factor``; angles, turns and counts stay.

    With ``whole``, sizes given by names are multiplied as well.
    """
    update = {name: _scaled(getattr(model, name), factor, whole) for name in type(model).model_fields if name != "turn"}
    return model.model_copy(update=update)


def _scaled(value: Any, factor: float, whole: bool) -> Any:
    if isinstance(value, Angle):
        return value
    if isinstance(value, Size):
        return times(value, factor) if whole else _times(value, factor)
    if isinstance(value, Model):
        return scaled(value, factor, whole)
    return [_scaled(item, factor, whole) for item in value] if isinstance(value, list) else value


def times(size: Size, factor: float) -> Size:
    """The size so many times; a factor that was put there before is taken up."""
    text = size.text.strip()
    if is_bare(size):
        return Size(text=in_digits(float(text) * factor), unit=size.unit)
    before = re.fullmatch(r"\((?P<rest>.*)\)\*(?P<factor>\d+(?:\.\d+)?)", text)
    if before and _closes_at_end(f"({before['rest']})"):
        return Size(text=f"({before['rest']})*{in_digits(float(before['factor']) * factor, 9)}", unit=size.unit)
    return Size(text=f"({text})*{in_digits(factor, 9)}", unit=size.unit)


def _times(size: Size, factor: float) -> Size:
    try:
        return Size(text=f"{length(size, {}) * factor:.6g}")
    except SizeError:
        return size
