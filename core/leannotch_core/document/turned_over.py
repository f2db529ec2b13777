"""Typed sizes as they read once a part is turned over or scaled: new text from old, names kept."""

from __future__ import annotations

from typing import Any, TypeVar

from .model import Model
from .sizes import Size, SizeError, length

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


def scaled(model: M, factor: float) -> M:
    """Every size in a model that is a number multiplied by ``factor``; turns and counts stay."""
    update = {name: _scaled(getattr(model, name), factor) for name in type(model).model_fields if name != "turn"}
    return model.model_copy(update=update)


def _scaled(value: Any, factor: float) -> Any:
    if isinstance(value, Size):
        return _times(value, factor)
    if isinstance(value, Model):
        return scaled(value, factor)
    return [_scaled(item, factor) for item in value] if isinstance(value, list) else value


def _times(size: Size, factor: float) -> Size:
    try:
        return Size(text=f"{length(size, {}) * factor:.6g}")
    except SizeError:
        return size
