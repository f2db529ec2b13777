"""Whole parts mirrored or drawn anew through points: new intent from old."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..document.sizes import Size, SizeError, length
from ..document.turned_over import from_right, negative, other_hand
from ..geometry.biarc import bezier_bounds, smooth_through
from .cut_out import CutOut
from .marks import Mark
from .part import Part
from .shapes.curve import Curve, Knot, KnotAt


def through_knots(part: Part, knots: Sequence[KnotAt]) -> Part:
    """The part as the curve through ``knots``, which are in mm from its lower left corner; its size follows them.

    Sizes that stay as they were keep what was typed. Raises `ValueError` where all knots lie on one line.
    """
    pieces = smooth_through([(complex(knot.x, knot.y), knot.corner) for knot in knots])
    left, bottom, right, top = bezier_bounds(pieces)
    width, height = right - left, top - bottom
    if min(width, height) < 0.01:
        raise ValueError("all its points lie on one line")
    shares = [
        Knot(x=round((knot.x - left) / width, 6), y=round((knot.y - bottom) / height, 6), corner=knot.corner)
        for knot in knots
    ]
    shape = Curve(
        width=_unless_same(part.shape.width, width), height=_unless_same(part.shape.height, height), knots=shares
    )
    return part.model_copy(update={"shape": shape})


def _unless_same(size: Size, value: float) -> Size:
    try:
        same = abs(length(size, {}) - value) < 0.005
    except SizeError:
        same = False
    return size if same else Size(text=f"{value:.2f}")


def mirrored(part: Part) -> Part:
    """The part turned over, left to right: the drawing shows its other face.

    Scored texts stay readable; letters that are cut out are turned over.
    """
    update = {
        "shape": part.shape.mirrored(),
        "face": "inside" if part.face == "outside" else "outside",
        "cutouts": [_mirrored_cut(cut) for cut in part.cutouts],
        "marks": [_mirrored_mark(mark) for mark in part.marks],
    }
    return part.model_copy(update=update)


def _mirrored_cut(cut: CutOut) -> CutOut:
    update: dict[str, Any] = {
        "origin": other_hand(cut.origin),
        "turn": negative(cut.turn),
        "mirrored": not cut.mirrored,
    }
    if cut.origin == "middle":
        update["x"] = negative(cut.x)
        update["repeat"] = cut.repeat.model_copy(update={"step_x": negative(cut.repeat.step_x)})
    return cut.model_copy(update=update)


def _mirrored_mark(mark: Mark) -> Mark:
    return mark.model_copy(update={"x": from_right(mark.x), "turn": negative(mark.turn)})
